'use client';
import type { BodyMesh } from '@lantern/motion';
import { useFrame } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { usePlayer } from '@/data/player';
import type { WireMotion } from '@/worker/wire';
import { figureMesh } from './figure-mesh';

const OFFSETS = [-2, -1, 1, 2] as const;

/** The same figure a few frames before and after, thin as breath. */
export function Ghosts({ motion, mesh, floor, spacing }: { motion: WireMotion; mesh: BodyMesh; floor: number; spacing: number }) {
  const { skeleton } = motion;
  const figures = useMemo(
    () => OFFSETS.map((offset) => ({ offset, figure: figureMesh(skeleton, mesh, null, offset < 0 ? '#7fb3b0' : '#e9c88b') })),
    [skeleton, mesh],
  );
  useEffect(
    () => () => {
      for (const { figure } of figures) figure.dispose();
    },
    [figures],
  );
  useFrame(() => {
    const frame = Math.round(usePlayer.getState().frame);
    for (const { offset, figure } of figures) {
      const at = frame + offset * spacing;
      figure.object.visible = at >= 0 && at < motion.frames;
      if (!figure.object.visible) continue;
      figure.pose(motion, at);
      figure.object.position.y = -floor;
    }
  }, -1);
  return figures.map(({ offset, figure }) => <primitive key={offset} object={figure.object} />);
}
