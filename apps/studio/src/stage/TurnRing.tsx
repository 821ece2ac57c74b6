'use client';
import { useFrame, useThree, type ThreeEvent } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';
import { numeral } from '@/controls/Figure';
import { useCanvasLabel } from './use-canvas-label';

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
  const axis = useRef<Axis>(2);
  const drag = useRef<{ from: number; degrees: number } | null>(null);
  const label = useCanvasLabel(canvas);
  const card = useMemo(cardLines, []);
  useEffect(() => () => card.dispose(), [card]);
  useEffect(() => () => onHover(false), [onHover]);

  useEffect(() => invalidate(), [invalidate]);
  useFrame(({ camera }) => {
    if (group.current) axis.current = faceViewer(group.current, bone, camera, drag.current ? axis.current : null);
  });
  const angleOf = (event: ThreeEvent<PointerEvent>) => (group.current ? angleRound(event.ray, group.current.position, axis.current) : null);
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
    const degrees = snapped(now - drag.current.from, event.altKey);
    label.say(`${AXIS_NAMES[axis.current]} ${numeral(degrees, event.altKey ? 1 : 0)}°`, event);
    if (degrees === drag.current.degrees) return;
    drag.current.degrees = degrees;
    onTurn(axis.current, degrees, false);
  };
  const end = () => {
    const done = drag.current;
    drag.current = null;
    if (controls) controls.enabled = true;
    label.hide();
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

type Axis = 0 | 1 | 2;

/** Puts the ring about a joint, in the plane that faces the viewer most, or in the one in which it is being dragged. */
function faceViewer(ring: THREE.Group, bone: THREE.Object3D, camera: THREE.Camera, held: Axis | null): Axis {
  bone.getWorldPosition(ring.position);
  const toViewer = camera.position.clone().sub(ring.position);
  ring.scale.setScalar(RADIUS * toViewer.length());
  if (held !== null) return held;
  const most = [toViewer.x, toViewer.y, toViewer.z].map(Math.abs);
  const axis = most[1] > Math.max(most[0], most[2]) ? 1 : most[0] > most[2] ? 0 : 2;
  // The ring lies in the plane of its own X and Y; its Z becomes the axis.
  ring.rotation.set(axis === 1 ? -Math.PI / 2 : 0, axis === 0 ? Math.PI / 2 : 0, 0);
  return axis;
}

/** Where a ray is round an axis through a place, degrees, right-handed; null when it misses the plane. */
function angleRound(ray: THREE.Ray, about: THREE.Vector3, axis: Axis): number | null {
  const normal = new THREE.Vector3().setComponent(axis, 1);
  const hit = ray.intersectPlane(new THREE.Plane().setFromNormalAndCoplanarPoint(normal, about), new THREE.Vector3());
  if (!hit) return null;
  hit.sub(about);
  const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
  return THREE.MathUtils.radToDeg(Math.atan2(hit.getComponent(v), hit.getComponent(u)));
}

/** The turn the short way round, 5° at a time or, freely, a tenth of one. */
function snapped(degrees: number, isFree: boolean): number {
  const round = degrees - 360 * Math.round(degrees / 360);
  return isFree ? Math.round(round * 10) / 10 : Math.round(round / SNAP) * SNAP;
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
