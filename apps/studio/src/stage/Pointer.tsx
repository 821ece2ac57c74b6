'use client';
import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import * as THREE from 'three';
import { numeral } from '@/controls/Figure';
import { DUSK } from '@/controls/theme';
import { canvasLabel, LABEL_COLOURS } from './canvas-label';
import { listen, nearestTo, onFloor, type PointerPlace } from './canvas-pick';

/** An end of what is measured: on a joint, which it follows, or on the floor. */
type Anchor = { readonly bone: THREE.Bone; readonly name: string } | { readonly point: THREE.Vector3 };

interface Props {
  readonly bones: readonly THREE.Bone[];
  readonly names: readonly string[];
  readonly measuring: boolean;
}

/**
 * What the pointer is on: names the joint under it and, while measuring, holds two points, on joints (which they then follow) or on the
 * floor, and tells how far they are apart.
 */
export function Pointer({ bones, names, measuring }: Props) {
  const canvas = useThree((state) => state.gl.domElement);
  const camera = useThree((state) => state.camera);
  const invalidate = useThree((state) => state.invalidate);
  const anchors = useRef<Anchor[]>([]);
  const line = useMeasuredLine();
  const labels = useLabels(canvas);
  useEffect(() => {
    if (!measuring) anchors.current = [];
    invalidate();
    const nearest = (pointer: PointerPlace): Anchor | null => {
      const places = bones.map((bone) => bone.getWorldPosition(new THREE.Vector3()));
      const j = nearestTo(pointer, places, camera, canvas);
      return j < 0 ? null : { bone: bones[j], name: names[j] };
    };
    return listen(canvas, {
      pointermove: (event) => {
        const found = event.buttons === 0 ? nearest(event) : null;
        if (labels.current) sayName(labels.current.hover, found && 'name' in found ? found.name : null, event, canvas);
      },
      pointerleave: () => {
        if (labels.current) labels.current.hover.style.display = 'none';
      },
      pointerdown: (event) => {
        if (!measuring || event.button !== 0) return;
        const point = onFloor(event, camera, canvas);
        const anchor = nearest(event) ?? (point && { point });
        if (!anchor) return;
        anchors.current = anchors.current.length === 2 ? [anchor] : [...anchors.current, anchor];
        invalidate();
      },
    });
  }, [bones, camera, canvas, invalidate, labels, measuring, names]);
  useFrame(() => {
    const label = labels.current?.length;
    const [a, b] = anchors.current;
    line.visible = Boolean(a && b);
    if (!label) return;
    if (a && b) sayLength(label, placeOf(a), placeOf(b), { line, camera, canvas });
    else {
      label.style.display = measuring ? 'block' : 'none';
      label.textContent = a ? 'now the other end' : 'click a joint or the floor';
      label.style.transform = 'translate(12px, 44px)';
    }
  });
  return <primitive object={line} />;
}

const placeOf = (anchor: Anchor) => ('bone' in anchor ? anchor.bone.getWorldPosition(new THREE.Vector3()) : anchor.point);

function useMeasuredLine() {
  return useMemo(() => {
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(6), 3));
    const made = new THREE.Line(geometry, new THREE.LineBasicMaterial({ color: DUSK.warm, depthTest: false }));
    made.frustumCulled = false;
    made.renderOrder = 5;
    return made;
  }, []);
}

/** The name of the joint under the pointer, and the length that is measured. */
function useLabels(canvas: HTMLCanvasElement) {
  const labels = useRef<{ hover: HTMLDivElement; length: HTMLDivElement } | null>(null);
  useEffect(() => {
    const made = { hover: canvasLabel(canvas, LABEL_COLOURS.plain), length: canvasLabel(canvas, LABEL_COLOURS.measured) };
    made.length.setAttribute('role', 'status');
    labels.current = made;
    return () => {
      made.hover.remove();
      made.length.remove();
    };
  }, [canvas]);
  return labels;
}

function sayName(label: HTMLDivElement, name: string | null, { clientX, clientY }: PointerPlace, canvas: HTMLElement): void {
  label.style.display = name === null ? 'none' : 'block';
  const box = canvas.getBoundingClientRect();
  label.textContent = name;
  label.style.transform = `translate(${clientX - box.left + 12}px, ${clientY - box.top - 26}px)`;
}

interface Seen {
  readonly line: THREE.Line;
  readonly camera: THREE.Camera;
  readonly canvas: HTMLElement;
}

/** Draws the line between two places, and says at its middle how long it is. */
function sayLength(label: HTMLDivElement, p: THREE.Vector3, q: THREE.Vector3, { line, camera, canvas }: Seen): void {
  const position = line.geometry.getAttribute('position');
  [p, q].forEach((end, i) => position.setXYZ(i, end.x, end.y, end.z));
  position.needsUpdate = true;
  const [whole, over, up] = [p.distanceTo(q), Math.hypot(p.x - q.x, p.z - q.z), q.y - p.y].map((metres) => numeral(metres * 100, 1));
  label.style.display = 'block';
  label.textContent = `${whole} cm  ·  ${over} over the floor, ${up} up`;
  const middle = p.clone().add(q).multiplyScalar(0.5).project(camera);
  const box = canvas.getBoundingClientRect();
  label.style.transform = `translate(${((middle.x + 1) / 2) * box.width + 10}px, ${((1 - middle.y) / 2) * box.height - 26}px)`;
}
