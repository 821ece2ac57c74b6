'use client';
import { useEffect, useMemo } from 'react';
import { DUSK } from '@/controls/theme';
import { figureMesh } from './figure-mesh';
import type { StageProps } from './stage-props';
import { useSame } from './use-same';

type Figure = ReturnType<typeof figureMesh>;

/** The figures of a scene: the first, the one beside it, and the other end of a pair of frames; thrown away with what they were made from. */
export interface Figures {
  readonly first: Figure;
  readonly second: Figure | null;
  readonly end: Figure | null;
}

export function useFigures({
  motion,
  mesh,
  markers,
  bones = false,
  tint,
  other,
  pair,
}: Pick<StageProps, 'motion' | 'mesh' | 'markers' | 'bones' | 'tint' | 'other' | 'pair'>): Figures {
  // Whatever comes from the worker is another object each time, the same or not; a figure is costly to build.
  const skeleton = useSame(motion.skeleton);
  const sides = useSame(markers && { left: markers.left, right: markers.right });
  const first = useMemo(() => figureMesh(skeleton, mesh, sides, undefined, undefined, tint), [skeleton, mesh, sides, tint]);
  const rest = useSame(other?.motion.skeleton);
  const [skin, solid, hues] = [other?.mesh, other?.solid ?? false, other?.tint];
  const second = useMemo(
    () => (rest && skin ? figureMesh(rest, skin, null, solid ? undefined : '#8fd0cb', undefined, hues) : null),
    [rest, skin, solid, hues],
  );
  const ends = pair?.skeleton;
  const end = useMemo(() => (ends ? figureMesh(ends, mesh, null, DUSK.warm, 0.5) : null), [ends, mesh]);
  useEffect(() => () => first.dispose(), [first]);
  useEffect(() => () => second?.dispose(), [second]);
  useEffect(() => () => end?.dispose(), [end]);
  useEffect(() => first.showBones(bones), [first, bones]);
  return useMemo(() => ({ first, second, end }), [first, second, end]);
}
