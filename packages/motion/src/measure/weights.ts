import type { Body } from '../model/body';

/** Weights by body part: feet, hips and head count most. Sum of weights is 1. */
export interface WeightedJoints {
  readonly joints: readonly number[];
  readonly weights: readonly number[];
}

export function weightedJoints(body: Body): WeightedJoints {
  const list: [number, number][] = [];
  const add = (joint: number, weight: number) => {
    if (joint >= 0 && !list.some(([j]) => j === joint)) list.push([joint, weight]);
  };
  for (const side of ['left', 'right'] as const) {
    add(body.legs[side].ankle, 2);
    add(body.legs[side].toe, 1.5);
    add(body.legs[side].knee, 1.5);
    add(body.arms[side].wrist, 0.8);
    add(body.arms[side].elbow, 0.8);
    add(body.arms[side].shoulder, 0.6);
  }
  add(body.hips, 2);
  add(body.head, 1.5);
  add(body.chest, 1);
  const total = list.reduce((sum, [, w]) => sum + w, 0);
  return { joints: list.map(([j]) => j), weights: list.map(([, w]) => w / total) };
}
