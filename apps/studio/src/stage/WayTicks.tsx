'use client';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';

/** Above the floor, metres: over its rulings. */
const HEIGHT = 0.012;
const MOST_TICKS = 4000;

/** The root's way drawn on the floor, with a tick for every frame and a longer one for every tenth. @param way x and z a frame, metres */
export function WayTicks({ way }: { way: Float32Array }) {
  const lines = useMemo(() => {
    const frames = way.length / 2;
    const step = Math.max(1, Math.ceil(frames / MOST_TICKS));
    const points: number[] = [];
    for (let f = 0; f < frames; f += step) {
      const [a, b] = [Math.max(0, f - 1), Math.min(frames - 1, f + 1)];
      const [dx, dz] = [way[b * 2] - way[a * 2], way[b * 2 + 1] - way[a * 2 + 1]];
      const n = Math.hypot(dx, dz);
      const [x, z] = [way[f * 2], way[f * 2 + 1]];
      const next = Math.min(frames - 1, f + step);
      points.push(x, HEIGHT, z, way[next * 2], HEIGHT, way[next * 2 + 1]);
      if (n < 1e-5) continue;
      const half = f % 10 === 0 ? 0.07 : 0.03;
      const [px, pz] = [(-dz / n) * half, (dx / n) * half];
      points.push(x - px, HEIGHT, z - pz, x + px, HEIGHT, z + pz);
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.Float32BufferAttribute(points, 3));
    const made = new THREE.LineSegments(geometry, new THREE.LineBasicMaterial({ color: DUSK.warm, transparent: true, opacity: 0.75 }));
    made.frustumCulled = false;
    return made;
  }, [way]);
  useEffect(
    () => () => {
      lines.geometry.dispose();
      lines.material.dispose();
    },
    [lines],
  );
  return <primitive object={lines} />;
}
