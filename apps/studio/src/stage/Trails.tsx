'use client';
import { useFrame } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { usePlayer } from '@/data/player';
import { trailParts, type Trail } from './trail-parts';

/** Seconds shown before and after the playhead. */
const SPAN = 1.5;

/** Trails of chosen joints round the playhead, the brighter the quicker, with a dot a frame. */
export function Trails({ trails, fps, floor }: { trails: readonly Trail[]; fps: number; floor: number }) {
  const parts = useMemo(() => trails.flatMap((trail) => trailParts(trail, fps)), [trails, fps]);
  useEffect(
    () => () => {
      for (const { drawn } of parts) {
        drawn.geometry.dispose();
        drawn.material.dispose();
      }
    },
    [parts],
  );
  useFrame(() => {
    const { frame } = usePlayer.getState();
    const from = Math.max(0, Math.round(frame - SPAN * fps));
    for (const { drawn, range } of parts) drawn.geometry.setDrawRange(...range(from, Math.round(frame + SPAN * fps)));
  });
  return (
    <group position-y={-floor}>
      {parts.map(({ drawn }) => (
        <primitive key={drawn.uuid} object={drawn} />
      ))}
    </group>
  );
}
