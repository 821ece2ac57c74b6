'use client';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';

const MOST_POINTS = 2000;

/** The way of the hips drawn on the floor. @param rootPositions three numbers a frame, metres */
export function WayLine({ rootPositions }: { rootPositions: Float32Array }) {
  const line = useMemo(() => {
    const frames = rootPositions.length / 3;
    const step = Math.max(1, Math.floor(frames / MOST_POINTS));
    const points: number[] = [];
    for (let f = 0; f < frames; f += step) points.push(rootPositions[f * 3], 0.02, rootPositions[f * 3 + 2]);
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.Float32BufferAttribute(points, 3));
    return new THREE.Line(geometry, new THREE.LineBasicMaterial({ color: DUSK.warm, fog: false }));
  }, [rootPositions]);
  useEffect(
    () => () => {
      line.geometry.dispose();
      line.material.dispose();
    },
    [line],
  );
  return <primitive object={line} />;
}
