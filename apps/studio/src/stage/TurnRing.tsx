'use client';
import { useFrame } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';
import { numeral } from '@/controls/Figure';
import { BOTH_SIDES } from './both-sides';
import { Glass } from './Glass';
import { angleOnRing, nearestAxis, ringNormal } from './ring-turn';
import { useHold } from './use-hold';

/** A joint of the first figure (0) or of the other (1) that is turned by hand. */
export interface Turning {
  readonly figure: number;
  readonly joint: number;
  /** What it turns about: the line to the viewer, the world's axis nearest to that, or the line from one joint to another. */
  readonly about: 'viewer' | 'world' | { readonly from: number; readonly to: number };
  /** @param axis of the world, a unit vector @param degrees about it since it was taken hold of */
  readonly onTurn: (axis: readonly [number, number, number], degrees: number, isDone: boolean) => void;
}

/** The world's axes, by what lies along them. */
const AXIS_NAMES = ['left', 'up', 'front'] as const;
const SNAP = 5;
/** Of the ring, as a share of the distance from the viewer. */
const RADIUS = 0.068;
/** Width to take hold of, as a share of the radius. */
const GRIP = 0.22;

interface Held {
  readonly axis: THREE.Vector3;
  readonly from: number;
  readonly degrees: number;
}

/** A compass card about a joint: dragging its rim turns the joint, 5° at a time, any angle with Alt. */
export function TurnRing({
  bone,
  line,
  isToWorld,
  onTurn,
  onHover,
}: {
  bone: THREE.Object3D;
  /** The ends of the line that it turns about; without it, it faces the viewer. */
  line: readonly [THREE.Object3D, THREE.Object3D] | null;
  /** It keeps to the world's axes. */
  isToWorld: boolean;
  onTurn: Turning['onTurn'];
  /** Whether the pointer is on the rim. */
  onHover: (isOn: boolean) => void;
}) {
  const group = useRef<THREE.Group>(null);
  const axis = useRef(new THREE.Vector3(0, 0, 1));
  const card = useMemo(cardLines, []);
  useEffect(() => () => card.dispose(), [card]);
  const { handlers, isHeld } = useHold<Held>({
    begin: (event) => {
      const from = group.current && angleOnRing(event.ray, group.current);
      return from === null ? null : { axis: axis.current.clone(), from, degrees: 0 };
    },
    move: (held, event) => {
      const now = group.current && angleOnRing(event.ray, group.current);
      if (now === null) return null;
      const degrees = snapped(now - held.from, event.altKey);
      if (degrees !== held.degrees) onTurn(held.axis.toArray(), degrees, false);
      const about = isToWorld ? `${AXIS_NAMES[held.axis.toArray().indexOf(1)]} ` : '';
      return { state: { ...held, degrees }, says: `${about}${numeral(degrees, event.altKey ? 1 : 0)}°` };
    },
    end: ({ axis: about, degrees }) => {
      if (degrees !== 0) onTurn(about.toArray(), degrees, true);
    },
    onHover,
  });
  useFrame(({ camera }) => {
    const ring = group.current;
    if (!ring) return;
    bone.getWorldPosition(ring.position);
    const toViewer = camera.position.clone().sub(ring.position);
    ring.scale.setScalar(RADIUS * toViewer.length());
    // While it is dragged it stays in its plane.
    if (isHeld()) return;
    toViewer.normalize();
    axis.current = line ? lineBetween(line) : isToWorld ? nearestAxis(toViewer) : toViewer;
    ring.quaternion.setFromUnitVectors(new THREE.Vector3(0, 0, 1), ringNormal(axis.current, toViewer));
  });
  return (
    <>
      <group ref={group} renderOrder={7}>
        <lineSegments geometry={card} renderOrder={7}>
          <lineBasicMaterial color={DUSK.warm} depthTest={false} transparent />
        </lineSegments>
        <mesh {...handlers}>
          <ringGeometry args={[1 - GRIP, 1 + GRIP, 48]} />
          <meshBasicMaterial transparent opacity={0.1} color={DUSK.warm} {...BOTH_SIDES} depthTest={false} />
        </mesh>
      </group>
      <Glass bone={bone} isShown={isHeld} />
    </>
  );
}

function lineBetween([from, to]: readonly [THREE.Object3D, THREE.Object3D]): THREE.Vector3 {
  return to.getWorldPosition(new THREE.Vector3()).sub(from.getWorldPosition(new THREE.Vector3())).normalize();
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
