'use client';
import { floorCurve } from '@lantern/motion';
import { useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef, useState } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';
import { listen, nearestTo, onFloor } from './canvas-pick';

type Point = readonly [number, number];

export interface Pen {
  /** Places from where the clip begins, metres: x to its left, z ahead of it. */
  readonly points: readonly Point[];
  /** Where the clip begins and which way it faces there. */
  readonly origin: { readonly x: number; readonly z: number; readonly heading: number };
  /** Whether clicks on the floor put points; else the path is only shown. */
  readonly isDrawing: boolean;
  readonly onChange: (points: readonly Point[]) => void;
}

/** Between two places of the drawn curve, metres. */
const STEP = 0.05;
/** A click farther off than this looks past the floor, metres. */
const FARTHEST = 200;

/** A path drawn on the floor: a click puts a point, a point is dragged, and the curve through them follows. */
export function PathPen({ points, origin, isDrawing, onChange }: Pen) {
  const invalidate = useThree((state) => state.invalidate);
  const [draft, setDraft] = useState<readonly Point[] | null>(null);
  const shown = draft ?? points;
  useEffect(() => invalidate(), [shown, invalidate]);
  const { x, z, heading } = origin;
  const ground = useMemo(() => groundFrom({ x, z, heading }), [x, z, heading]);
  useDrawing(shown, ground, isDrawing, (next, isDone) => {
    setDraft(isDone ? null : next);
    if (isDone) onChange(next);
  });
  const line = useMemo(() => {
    const curve = floorCurve(shown);
    const places = shown.length === 0 ? [] : Array.from({ length: Math.ceil(curve.length / STEP) + 1 }, (_, i) => curve.at(i * STEP));
    const geometry = new THREE.BufferGeometry().setFromPoints(places.map((place) => ground.toWorld([place.x, place.z], 0.02)));
    const made = new THREE.Line(geometry, new THREE.LineBasicMaterial({ color: DUSK.warm, fog: false }));
    made.frustumCulled = false;
    return made;
  }, [shown, ground]);
  useEffect(
    () => () => {
      line.geometry.dispose();
      line.material.dispose();
    },
    [line],
  );
  return (
    <>
      <primitive object={line} />
      {shown.map((point, i) => (
        <mesh key={i} position={ground.toWorld(point, 0.03)}>
          <cylinderGeometry args={[0.09, 0.09, 0.03, 20]} />
          <meshBasicMaterial color={DUSK.warm} fog={false} />
        </mesh>
      ))}
    </>
  );
}

/** The floor as the clip has it: from where it begins, ahead along z. */
function groundFrom({ x: x0, z: z0, heading }: Pen['origin']) {
  const [c, s] = [Math.cos(heading), Math.sin(heading)];
  return {
    toWorld: ([x, z]: Point, y = 0) => new THREE.Vector3(x0 + c * x + s * z, y, z0 + c * z - s * x),
    fromWorld: (place: THREE.Vector3): Point => {
      const [dx, dz] = [place.x - x0, place.z - z0];
      return [Number((c * dx - s * dz).toFixed(2)), Number((s * dx + c * dz).toFixed(2))];
    },
  };
}

/** The pen in hand: clicks put points at the end, points are dragged. */
function useDrawing(
  points: readonly Point[],
  ground: ReturnType<typeof groundFrom>,
  isDrawing: boolean,
  onDrawn: (points: readonly Point[], isDone: boolean) => void,
): void {
  const canvas = useThree((state) => state.gl.domElement);
  const camera = useThree((state) => state.camera);
  const latest = useRef({ points, onDrawn });
  useEffect(() => {
    latest.current = { points, onDrawn };
  });
  useEffect(() => {
    if (!isDrawing) return;
    const placeAt = (event: PointerEvent): Point | null => {
      const hit = onFloor(event, camera, canvas);
      return hit && hit.distanceTo(camera.position) <= FARTHEST ? ground.fromWorld(hit) : null;
    };
    let held = -1;
    canvas.style.cursor = 'crosshair';
    const end = listen(canvas, {
      pointerdown: (event) => {
        if (event.button !== 0) return;
        const { points: now, onDrawn: drawn } = latest.current;
        held = nearestTo(
          event,
          now.map((point) => ground.toWorld(point)),
          camera,
          canvas,
        );
        const at = placeAt(event);
        if (held >= 0) canvas.setPointerCapture(event.pointerId);
        else if (at) drawn([...now, at], true);
      },
      pointermove: (event) => {
        const at = held >= 0 ? placeAt(event) : null;
        if (at)
          latest.current.onDrawn(
            latest.current.points.map((point, i) => (i === held ? at : point)),
            false,
          );
      },
      pointerup: () => {
        if (held < 0) return;
        held = -1;
        latest.current.onDrawn(latest.current.points, true);
      },
    });
    return () => {
      end();
      canvas.style.cursor = '';
    };
  }, [isDrawing, canvas, camera, ground]);
}
