'use client';
import { WAY_WIDTH } from '@lantern/motion';
import { useQueries } from '@tanstack/react-query';
import { core } from '@/worker/core';
import type { OpenTake } from '@/worker/core.worker';
import type { TakeInfo } from './project';
import { isInParts } from './use-viewed-take';

/** The ways of some joints of the viewed take, as far as they are known: of a long take the server works them out. */
export function useJointWays(take: TakeInfo | null, opened: OpenTake | undefined, joints: readonly string[]): (Float32Array | undefined)[] {
  return useQueries({
    queries: joints.map((joint) => ({
      queryKey: ['way', opened?.id, joint],
      enabled: take !== null && opened !== undefined && opened.motion.skeleton.joints.some(({ name }) => name === joint),
      staleTime: Infinity,
      queryFn: async () => {
        if (!take || !opened) throw new Error('no take');
        return isInParts(take) ? readWay(take.id, joint) : core().way(opened.id, joint);
      },
    })),
    combine: (results) => results.map(({ data }) => data),
  });
}

async function readWay(take: string, joint: string): Promise<Float32Array> {
  const response = await fetch(`/api/takes/${take}/way?joint=${encodeURIComponent(joint)}`);
  if (!response.ok) throw new Error('The way of the joint could not be loaded.');
  return new Float32Array(await response.arrayBuffer());
}

/** One of a way's numbers for every frame: 0 to 2 places, 3 the turn. */
export function columnOf(way: Float32Array, column: number, factor = 1, less = 0): Float32Array {
  const values = new Float32Array(way.length / WAY_WIDTH);
  for (let f = 0; f < values.length; f++) values[f] = (way[f * WAY_WIDTH + column] - less) * factor;
  return values;
}
