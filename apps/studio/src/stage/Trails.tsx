'use client';
import { useFrame } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { quantile, WAY_WIDTH } from '@lantern/motion';
import * as THREE from 'three';
import { usePlayer } from '@/data/player';

/** The way of a joint: x, y, z in metres and its turn, four numbers a frame. */
export interface Trail {
  readonly joint: string;
  readonly points: Float32Array;
}

/** Seconds shown before and after the playhead. */
const SPAN = 1.5;
const SLOW = new THREE.Color('#3f7f80');
const QUICK = new THREE.Color('#f4c872');

/** Trails of chosen joints round the playhead, the brighter the quicker. */
export function Trails({ trails, fps, floor }: { trails: readonly Trail[]; fps: number; floor: number }) {
  const lines = useMemo(() => trails.map(({ points }) => lineOf(points, fps)), [trails, fps]);
  useEffect(
    () => () => {
      for (const line of lines) {
        line.geometry.dispose();
        line.material.dispose();
      }
    },
    [lines],
  );
  useFrame(() => {
    const { frame } = usePlayer.getState();
    lines.forEach((line, i) => {
      const frames = trails[i].points.length / WAY_WIDTH;
      const from = Math.max(0, Math.round(frame - SPAN * fps));
      line.geometry.setDrawRange(from, Math.max(0, Math.min(frames, Math.round(frame + SPAN * fps)) - from));
    });
  });
  return (
    <group position-y={-floor}>
      {lines.map((line) => (
        <primitive key={line.uuid} object={line} />
      ))}
    </group>
  );
}

function lineOf(points: Float32Array, fps: number) {
  const n = points.length / WAY_WIDTH;
  const speeds = new Float32Array(n);
  for (let f = 1; f < n; f++) {
    const at = f * WAY_WIDTH;
    const step = (k: number) => points[at + k] - points[at + k - WAY_WIDTH];
    speeds[f] = Math.hypot(step(0), step(1), step(2)) * fps;
  }
  const quick = quantile(speeds, 0.95) || 1;
  const colours = new Float32Array(n * 3);
  const tint = new THREE.Color();
  for (let f = 0; f < n; f++)
    tint
      .copy(SLOW)
      .lerp(QUICK, Math.min(1, speeds[f] / quick))
      .toArray(colours, f * 3);
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.InterleavedBufferAttribute(new THREE.InterleavedBuffer(points, WAY_WIDTH), 3, 0));
  geometry.setAttribute('color', new THREE.BufferAttribute(colours, 3));
  const line = new THREE.Line(geometry, new THREE.LineBasicMaterial({ vertexColors: true, transparent: true, opacity: 0.95 }));
  line.frustumCulled = false;
  return line;
}
