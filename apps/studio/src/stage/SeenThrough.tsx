'use client';
import type { BodyMesh, Skeleton } from '@lantern/motion';
import { useFrame } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { usePlayer } from '@/data/player';
import type { WireMotion } from '@/worker/wire';
import { figureMesh } from './figure-mesh';
import { useSame } from './use-same';

/** Motions that are seen through the figure, each for some of its frames. */
export interface Through {
  /** What all of them are coloured like. */
  readonly hue: string;
  /** From which frame of the figure's motion on each is seen: its first frame there, and so on as long as it is. */
  readonly parts: readonly { readonly from: number; readonly motion: WireMotion }[];
}

/** One thin figure for motions of which at most one is seen at a time. */
export function SeenThrough({ through, skeleton, mesh, floor }: { through: Through; skeleton: Skeleton; mesh: BodyMesh; floor: number }) {
  const rest = useSame(skeleton);
  const figure = useMemo(() => figureMesh(rest, mesh, null, through.hue, 0.28), [rest, mesh, through.hue]);
  useEffect(() => () => figure.dispose(), [figure]);
  useFrame(() => {
    const { frame } = usePlayer.getState();
    const part = through.parts.find(({ from, motion }) => frame >= from && frame < from + motion.frames);
    figure.object.visible = part !== undefined;
    if (!part) return;
    figure.pose(part.motion, frame - part.from);
    figure.object.position.y = -floor;
  }, -1);
  return <primitive object={figure.object} />;
}
