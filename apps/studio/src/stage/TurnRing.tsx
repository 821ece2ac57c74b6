'use client';
import { useFrame, useThree, type ThreeEvent } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';
import { canvasLabel, LABEL_COLOURS } from './canvas-label';

/** A joint of the first figure (0) or of the other (1) that is turned by hand. */
export interface Turning {
  readonly figure: number;
  readonly joint: number;
  /** @param degrees since it was taken hold of, about one of the world's axes: 0 to the left, 1 up, 2 to the front */
  readonly onTurn: (axis: 0 | 1 | 2, degrees: number, isDone: boolean) => void;
}

const SNAP = 5;
/** Of the ring, as a share of the distance from the viewer. */
const RADIUS = 0.068;
/** Width to take hold of, as a share of the radius. */
const GRIP = 0.22;
const AXIS_NAMES = ['left', 'up', 'front'] as const;

/**
 * A compass card about a joint, in the plane that faces the viewer most: dragging its rim turns the joint about the world's axis through it, 5° at a time, any
 * angle with Alt.
 */
export function TurnRing({
  bone,
  onTurn,
  onHover,
}: {
  bone: THREE.Object3D;
  onTurn: Turning['onTurn'];
  /** Whether the pointer is on the rim. */
  onHover: (isOn: boolean) => void;
}) {
  const invalidate = useThree((state) => state.invalidate);
  const canvas = useThree((state) => state.gl.domElement);
  const controls = useThree((state) => state.controls) as { enabled: boolean } | null;
  const group = useRef<THREE.Group>(null);
  const axis = useRef<0 | 1 | 2>(2);
  const drag = useRef<{ from: number; degrees: number } | null>(null);
  const label = useRef<HTMLDivElement | null>(null);
  const card = useMemo(cardLines, []);
  useEffect(() => () => card.dispose(), [card]);
  useEffect(() => {
    const made = canvasLabel(canvas, LABEL_COLOURS.measured);
    label.current = made;
    invalidate();
    return () => made.remove();
  }, [canvas, invalidate]);
  useEffect(() => () => onHover(false), [onHover]);

  const toViewer = useMemo(() => new THREE.Vector3(), []);
  useFrame(({ camera }) => {
    if (!group.current) return;
    bone.getWorldPosition(group.current.position);
    toViewer.copy(camera.position).sub(group.current.position);
    group.current.scale.setScalar(RADIUS * toViewer.length());
    if (drag.current) return;
    const most = [toViewer.x, toViewer.y, toViewer.z].map(Math.abs);
    axis.current = most[1] > Math.max(most[0], most[2]) ? 1 : most[0] > most[2] ? 0 : 2;
    // The ring lies in the plane of its own X and Y; its Z becomes the axis.
    group.current.rotation.set(axis.current === 1 ? -Math.PI / 2 : 0, axis.current === 0 ? Math.PI / 2 : 0, 0);
  });

  /** Where the pointer is round the axis, degrees, right-handed. */
  const angleOf = ({ ray }: ThreeEvent<PointerEvent>): number | null => {
    if (!group.current) return null;
    const normal = new THREE.Vector3().setComponent(axis.current, 1);
    const hit = ray.intersectPlane(new THREE.Plane().setFromNormalAndCoplanarPoint(normal, group.current.position), new THREE.Vector3());
    if (!hit) return null;
    hit.sub(group.current.position);
    const [u, v] = [(axis.current + 1) % 3, (axis.current + 2) % 3];
    return THREE.MathUtils.radToDeg(Math.atan2(hit.getComponent(v), hit.getComponent(u)));
  };
  const down = (event: ThreeEvent<PointerEvent>) => {
    const from = event.button === 0 ? angleOf(event) : null;
    if (from === null) return;
    event.stopPropagation();
    (event.target as Element).setPointerCapture(event.pointerId);
    if (controls) controls.enabled = false;
    drag.current = { from, degrees: 0 };
  };
  const move = (event: ThreeEvent<PointerEvent>) => {
    const now = drag.current && angleOf(event);
    if (!drag.current || now === null) return;
    event.stopPropagation();
    const raw = now - drag.current.from;
    const round = raw - 360 * Math.round(raw / 360);
    const degrees = event.altKey ? Math.round(round * 10) / 10 : Math.round(round / SNAP) * SNAP;
    if (label.current) {
      const box = canvas.getBoundingClientRect();
      label.current.style.display = 'block';
      label.current.style.transform = `translate(${event.clientX - box.left + 14}px, ${event.clientY - box.top - 30}px)`;
      label.current.textContent = `${AXIS_NAMES[axis.current]} ${String(degrees).replace('-', '−')}°`;
    }
    if (degrees === drag.current.degrees) return;
    drag.current.degrees = degrees;
    onTurn(axis.current, degrees, false);
  };
  const end = () => {
    const done = drag.current;
    drag.current = null;
    if (controls) controls.enabled = true;
    if (label.current) label.current.style.display = 'none';
    if (done && done.degrees !== 0) onTurn(axis.current, done.degrees, true);
    invalidate();
  };
  return (
    <group ref={group} renderOrder={7}>
      <lineSegments geometry={card} renderOrder={7}>
        <lineBasicMaterial color={DUSK.warm} depthTest={false} transparent />
      </lineSegments>
      <mesh
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={end}
        onPointerCancel={end}
        onPointerOver={() => onHover(true)}
        onPointerOut={() => onHover(false)}
      >
        <ringGeometry args={[1 - GRIP, 1 + GRIP, 48]} />
        <meshBasicMaterial transparent opacity={0.1} color={DUSK.warm} side={THREE.DoubleSide} depthTest={false} />
      </mesh>
    </group>
  );
}

/** A circle of radius 1 with a tick every 5°, longer every 15° and 45°. */
function cardLines(): THREE.BufferGeometry {
  const points: number[] = [];
  const at = (degrees: number, radius: number) => {
    const a = THREE.MathUtils.degToRad(degrees);
    points.push(Math.cos(a) * radius, Math.sin(a) * radius, 0);
  };
  for (let d = 0; d < 360; d += SNAP) {
    at(d, 1);
    at(d + SNAP, 1);
    at(d, 1);
    at(d, d % 45 === 0 ? 0.8 : d % 15 === 0 ? 0.88 : 0.94);
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.Float32BufferAttribute(points, 3));
  return geometry;
}
