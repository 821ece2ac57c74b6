'use client';
import { floorCurve } from '@lantern/motion';
import { useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef, useState } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';

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

/** Pixels within which a point is taken hold of. */
const REACH = 16;
const STEP = 0.05;

/** A path drawn on the floor: a click puts a point, a point is dragged, and the curve through them follows. */
export function PathPen({ points, origin, isDrawing, onChange }: Pen) {
  const canvas = useThree((state) => state.gl.domElement);
  const camera = useThree((state) => state.camera);
  const invalidate = useThree((state) => state.invalidate);
  const [draft, setDraft] = useState<readonly Point[] | null>(null);
  const shown = draft ?? points;
  const latest = useRef(shown);
  useEffect(() => {
    latest.current = shown;
    invalidate();
  }, [shown, invalidate]);
  const toWorld = useMemo(() => {
    const [c, s] = [Math.cos(origin.heading), Math.sin(origin.heading)];
    return ([x, z]: Point, y = 0) => new THREE.Vector3(origin.x + c * x + s * z, y, origin.z + c * z - s * x);
  }, [origin.x, origin.z, origin.heading]);

  useEffect(() => {
    if (!isDrawing) return;
    const [c, s] = [Math.cos(origin.heading), Math.sin(origin.heading)];
    const onFloor = (event: PointerEvent): Point | null => {
      const box = canvas.getBoundingClientRect();
      const ray = new THREE.Raycaster();
      ray.setFromCamera(
        new THREE.Vector2(((event.clientX - box.left) / box.width) * 2 - 1, 1 - ((event.clientY - box.top) / box.height) * 2),
        camera,
      );
      const hit = ray.ray.intersectPlane(new THREE.Plane(new THREE.Vector3(0, 1, 0), 0), new THREE.Vector3());
      if (!hit || hit.distanceTo(camera.position) > 200) return null;
      const [dx, dz] = [hit.x - origin.x, hit.z - origin.z];
      return [Number((c * dx - s * dz).toFixed(2)), Number((s * dx + c * dz).toFixed(2))];
    };
    const near = (event: PointerEvent) => {
      const box = canvas.getBoundingClientRect();
      return latest.current.findIndex((point) => {
        const at = toWorld(point).project(camera);
        return (
          Math.hypot(((at.x + 1) / 2) * box.width + box.left - event.clientX, ((1 - at.y) / 2) * box.height + box.top - event.clientY) <
          REACH
        );
      });
    };
    let held = -1;
    const down = (event: PointerEvent) => {
      if (event.button !== 0) return;
      held = near(event);
      const at = onFloor(event);
      if (held >= 0) canvas.setPointerCapture(event.pointerId);
      else if (at) onChange([...latest.current, at]);
    };
    const move = (event: PointerEvent) => {
      const at = held >= 0 ? onFloor(event) : null;
      if (at) setDraft(latest.current.map((point, i) => (i === held ? at : point)));
    };
    const up = () => {
      if (held < 0) return;
      held = -1;
      setDraft(null);
      onChange(latest.current);
    };
    canvas.addEventListener('pointerdown', down);
    canvas.addEventListener('pointermove', move);
    canvas.addEventListener('pointerup', up);
    canvas.style.cursor = 'crosshair';
    return () => {
      canvas.removeEventListener('pointerdown', down);
      canvas.removeEventListener('pointermove', move);
      canvas.removeEventListener('pointerup', up);
      canvas.style.cursor = '';
    };
  }, [isDrawing, canvas, camera, origin.x, origin.z, origin.heading, toWorld, onChange]);

  const line = useMemo(() => {
    const curve = floorCurve(shown);
    const places = shown.length === 0 ? [] : Array.from({ length: Math.ceil(curve.length / STEP) + 1 }, (_, i) => curve.at(i * STEP));
    const geometry = new THREE.BufferGeometry().setFromPoints(places.map(({ x, z }) => toWorld([x, z], 0.02)));
    const made = new THREE.Line(geometry, new THREE.LineBasicMaterial({ color: DUSK.warm, fog: false }));
    made.frustumCulled = false;
    return made;
  }, [shown, toWorld]);
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
        <mesh key={i} position={toWorld(point, 0.03)}>
          <cylinderGeometry args={[0.09, 0.09, 0.03, 20]} />
          <meshBasicMaterial color={DUSK.warm} fog={false} />
        </mesh>
      ))}
    </>
  );
}
