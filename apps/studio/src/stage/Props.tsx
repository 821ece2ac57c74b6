'use client';
import { useThree, type ThreeEvent } from '@react-three/fiber';
import { useEffect, useMemo, useRef, useState } from 'react';
import * as THREE from 'three';
import { mergeGeometries } from 'three/examples/jsm/utils/BufferGeometryUtils.js';
import type { StageProp } from '@lantern/motion';
import { DUSK } from '@/controls/theme';
import { BOTH_SIDES } from './both-sides';
import { planks } from './planks';

const FLOOR = new THREE.Plane(new THREE.Vector3(0, 1, 0), 0);

/** Props on the stage, fixed where nobody is told of a change; else dragged over the floor, turned by the ring; Alt frees them from the 5 cm and 5° they snap to. */
export function Props({ props, onChange }: { props: readonly StageProp[]; onChange?: (props: readonly StageProp[]) => void }) {
  // While one is dragged it is drawn from here; it is saved when it is let go.
  const [held, setHeld] = useState<StageProp | null>(null);
  return (
    <>
      {props.map((prop) => (
        <Prop
          key={prop.id}
          prop={held?.id === prop.id ? held : prop}
          onMove={setHeld}
          isFixed={!onChange}
          onDone={(done) => {
            setHeld(null);
            onChange?.(props.map((p) => (p.id === done.id ? done : p)));
          }}
        />
      ))}
    </>
  );
}

function Prop({
  prop,
  isFixed,
  onMove,
  onDone,
}: {
  prop: StageProp;
  isFixed: boolean;
  onMove: (prop: StageProp) => void;
  onDone: (prop: StageProp) => void;
}) {
  const invalidate = useThree((state) => state.invalidate);
  const controls = useThree((state) => state.controls) as { enabled: boolean } | null;
  const drag = useRef<{ kind: 'move' | 'turn'; dx: number; dz: number; last: StageProp } | null>(null);
  const { kind, width, height, depth } = prop;
  const box = useMemo(() => geometryOf(kind, width, height, depth), [kind, width, height, depth]);
  const edges = useMemo(() => new THREE.EdgesGeometry(box, 30), [box]);
  useEffect(
    () => () => {
      box.dispose();
      edges.dispose();
    },
    [box, edges],
  );
  const look = useMemo(() => lookOf(kind, width, height), [kind, width, height]);
  useEffect(() => () => look.map?.dispose(), [look]);
  const at = new THREE.Vector3();
  const start = (part: 'move' | 'turn') => (event: ThreeEvent<PointerEvent>) => {
    if (event.button !== 0 || !event.ray.intersectPlane(FLOOR, at)) return;
    event.stopPropagation();
    (event.target as Element).setPointerCapture(event.pointerId);
    if (controls) controls.enabled = false;
    drag.current = { kind: part, dx: prop.x - at.x, dz: prop.z - at.z, last: prop };
  };
  const move = (event: ThreeEvent<PointerEvent>) => {
    if (!drag.current || !event.ray.intersectPlane(FLOOR, at)) return;
    event.stopPropagation();
    const snap = (value: number, step: number) => (event.altKey ? value : Math.round(value / step) * step);
    const next =
      drag.current.kind === 'move'
        ? { ...prop, x: snap(at.x + drag.current.dx, 0.05), z: snap(at.z + drag.current.dz, 0.05) }
        : { ...prop, turn: snap(Math.atan2(at.x - prop.x, at.z - prop.z), Math.PI / 36) };
    drag.current.last = next;
    onMove(next);
    invalidate();
  };
  const end = () => {
    const done = drag.current?.last;
    drag.current = null;
    if (controls) controls.enabled = true;
    if (done) onDone(done);
  };
  const handlers = (part: 'move' | 'turn') => ({ onPointerDown: start(part), onPointerMove: move, onPointerUp: end, onPointerCancel: end });
  const radius = Math.max(width, depth) / 2 + 0.22;
  return (
    <group position={[prop.x, 0, prop.z]} rotation-y={prop.turn}>
      <mesh geometry={box} {...(isFixed ? {} : handlers('move'))}>
        <meshLambertMaterial {...look} />
      </mesh>
      <lineSegments geometry={edges}>
        <lineBasicMaterial color={DUSK.text} transparent opacity={0.5} />
      </lineSegments>
      {!isFixed && (
        <mesh rotation-x={-Math.PI / 2} position-y={0.012} {...handlers('turn')}>
          <ringGeometry args={[radius - 0.035, radius + 0.035, 40, 1, -Math.PI / 2 - 0.5, 1]} />
          <meshBasicMaterial color={DUSK.warm} transparent opacity={0.8} {...BOTH_SIDES} />
        </mesh>
      )}
    </group>
  );
}

/** Metres between a rail's posts, at the most. */
const POSTS = 1.5;

const IRON = '#566468';
const HEMP = '#b79a63';

/** Of wood, but for rails of iron, ropes of hemp, and walls of stone that one sees through. */
function lookOf(kind: StageProp['kind'], width: number, height: number) {
  if (kind === 'rail') return { color: IRON, transparent: false, opacity: 1, map: null };
  if (kind === 'rope') return { color: HEMP, transparent: false, opacity: 1, map: null };
  if (kind === 'wall') return { color: '#8d958c', transparent: true, opacity: 0.6, map: null };
  return { color: '#ffffff', transparent: false, opacity: 1, map: planks(width, height) };
}

/** The body of a prop, its foot on the floor. */
function geometryOf(kind: StageProp['kind'], width: number, height: number, depth: number): THREE.BufferGeometry {
  if (kind === 'pole') return poleGeometry(Math.min(width, depth) / 2, height);
  if (kind !== 'rope' && kind !== 'rail') return new THREE.BoxGeometry(width, height, depth).translate(0, height / 2, 0);
  const line = new THREE.CylinderGeometry(depth / 2, depth / 2, width, 10).rotateZ(Math.PI / 2).translate(0, height, 0);
  if (kind === 'rope') return line;
  const fields = Math.max(1, Math.ceil(width / POSTS));
  const posts = Array.from({ length: fields + 1 }, (_, i) =>
    new THREE.CylinderGeometry(depth / 3, depth / 3, height, 8).translate((i / fields - 0.5) * (width - depth), height / 2, 0),
  );
  return mergeGeometries([line, ...posts]);
}

/** A lamplighter's: a staff with a hook at its top. */
function poleGeometry(radius: number, height: number): THREE.BufferGeometry {
  const staff = new THREE.CylinderGeometry(0.8 * radius, radius, height, 10).translate(0, height / 2, 0);
  const hook = new THREE.TorusGeometry(2.4 * radius, 0.35 * radius, 6, 14, 1.5 * Math.PI).translate(2.4 * radius, height - 2 * radius, 0);
  return mergeGeometries([staff, hook]);
}
