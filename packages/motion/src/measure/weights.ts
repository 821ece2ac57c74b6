import type { Body } from '../model/body';

/** Weights by body part: feet, hips and head count most. Sum of weights is 1. */
export interface WeightedJoints {
  readonly joints: readonly number[];
  readonly weights: readonly number[];
  /** What each is in the body, the same word in every skeleton. */
  readonly parts: readonly string[];
}

export function weightedJoints(body: Body): WeightedJoints {
  const list: [number, number, string][] = [];
  const add = (joint: number, weight: number, part: string) => {
    if (joint >= 0 && !list.some(([j]) => j === joint)) list.push([joint, weight, part]);
  };
  for (const side of ['left', 'right'] as const) {
    add(body.legs[side].ankle, 2, `${side} ankle`);
    add(body.legs[side].toe, 1.5, `${side} toe`);
    add(body.legs[side].knee, 1.5, `${side} knee`);
    add(body.arms[side].wrist, 0.8, `${side} wrist`);
    add(body.arms[side].elbow, 0.8, `${side} elbow`);
    add(body.arms[side].shoulder, 0.6, `${side} shoulder`);
  }
  add(body.hips, 2, 'hips');
  add(body.head, 1.5, 'head');
  add(body.chest, 1, 'chest');
  const total = list.reduce((sum, [, w]) => sum + w, 0);
  return { joints: list.map(([j]) => j), weights: list.map(([, w]) => w / total), parts: list.map(([, , part]) => part) };
}
