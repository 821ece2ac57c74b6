'use client';
import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';
import { canvasLabel, LABEL_COLOURS } from './canvas-label';

/** Pixels within which a joint is meant. */
const REACH = 16;

type Anchor = { readonly bone: THREE.Bone; readonly name: string } | { readonly point: THREE.Vector3 };

/**
 * What the pointer is on: names the joint under it and, while measuring, holds two points, on joints (which they then follow) or on the
 * floor, and tells how far they are apart.
 */
export function Pointer({ bones, names, measuring }: { bones: readonly THREE.Bone[]; names: readonly string[]; measuring: boolean }) {
  const canvas = useThree((state) => state.gl.domElement);
  const camera = useThree((state) => state.camera);
  const invalidate = useThree((state) => state.invalidate);
  const anchors = useRef<Anchor[]>([]);
  const line = useMemo(() => {
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(6), 3));
    const made = new THREE.Line(geometry, new THREE.LineBasicMaterial({ color: DUSK.warm, depthTest: false }));
    made.frustumCulled = false;
    made.renderOrder = 5;
    return made;
  }, []);
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

  useEffect(() => {
    if (!measuring) anchors.current = [];
    invalidate();
    const at = new THREE.Vector3();
    const nearest = (event: PointerEvent): { bone: THREE.Bone; name: string } | null => {
      const box = canvas.getBoundingClientRect();
      let best: { bone: THREE.Bone; name: string } | null = null;
      let least = REACH;
      bones.forEach((bone, j) => {
        bone.getWorldPosition(at).project(camera);
        const away = Math.hypot(
          ((at.x + 1) / 2) * box.width + box.left - event.clientX,
          ((1 - at.y) / 2) * box.height + box.top - event.clientY,
        );
        if (away < least && at.z < 1) {
          least = away;
          best = { bone, name: names[j] };
        }
      });
      return best;
    };
    const move = (event: PointerEvent) => {
      const hover = labels.current?.hover;
      if (!hover) return;
      const found = event.buttons === 0 ? nearest(event) : null;
      hover.style.display = found ? 'block' : 'none';
      if (!found) return;
      const box = canvas.getBoundingClientRect();
      hover.textContent = found.name;
      hover.style.transform = `translate(${event.clientX - box.left + 12}px, ${event.clientY - box.top - 26}px)`;
    };
    const leave = () => {
      if (labels.current) labels.current.hover.style.display = 'none';
    };
    const down = (event: PointerEvent) => {
      if (!measuring || event.button !== 0) return;
      const joint = nearest(event);
      const box = canvas.getBoundingClientRect();
      const ray = new THREE.Raycaster();
      ray.setFromCamera(
        new THREE.Vector2(((event.clientX - box.left) / box.width) * 2 - 1, 1 - ((event.clientY - box.top) / box.height) * 2),
        camera,
      );
      const onFloor = new THREE.Vector3();
      const anchor: Anchor | null =
        joint ?? (ray.ray.intersectPlane(new THREE.Plane(new THREE.Vector3(0, 1, 0), 0), onFloor) ? { point: onFloor } : null);
      if (!anchor) return;
      anchors.current = anchors.current.length === 2 ? [anchor] : [...anchors.current, anchor];
      invalidate();
    };
    canvas.addEventListener('pointermove', move);
    canvas.addEventListener('pointerleave', leave);
    canvas.addEventListener('pointerdown', down);
    return () => {
      canvas.removeEventListener('pointermove', move);
      canvas.removeEventListener('pointerleave', leave);
      canvas.removeEventListener('pointerdown', down);
    };
  }, [bones, camera, canvas, invalidate, measuring, names]);

  const ends = useMemo(() => [new THREE.Vector3(), new THREE.Vector3()], []);
  useFrame(() => {
    const label = labels.current?.length;
    const [a, b] = anchors.current;
    line.visible = Boolean(a && b);
    if (!label) return;
    if (!a || !b) {
      label.style.display = measuring ? 'block' : 'none';
      label.textContent = a ? 'now the other end' : 'click a joint or the floor';
      label.style.transform = 'translate(12px, 44px)';
      return;
    }
    [a, b].forEach((anchor, i) => ('bone' in anchor ? anchor.bone.getWorldPosition(ends[i]) : ends[i].copy(anchor.point)));
    const position = line.geometry.getAttribute('position');
    ends.forEach((end, i) => position.setXYZ(i, end.x, end.y, end.z));
    position.needsUpdate = true;
    const [p, q] = ends;
    const over = Math.hypot(p.x - q.x, p.z - q.z);
    label.style.display = 'block';
    label.textContent = `${(p.distanceTo(q) * 100).toFixed(1)} cm  ·  ${(over * 100).toFixed(1)} over the floor, ${((q.y - p.y) * 100).toFixed(1).replace('-', '−')} up`;
    const middle = p.clone().add(q).multiplyScalar(0.5).project(camera);
    const box = canvas.getBoundingClientRect();
    label.style.transform = `translate(${((middle.x + 1) / 2) * box.width + 10}px, ${((1 - middle.y) / 2) * box.height - 26}px)`;
  });
  return <primitive object={line} />;
}
