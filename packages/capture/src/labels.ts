import { movements, runsOf, turnsOf, UP_TO_SPEED, type Contacts, type SegmentKind } from '@lantern/motion';
import { gaitAt } from './gait-table';
import type { FloorPath } from './path';
import type { Plan } from './plan-data';
import { HUSH } from './style';

/** What is done when, frames: known from the script, the path and the footsteps, not from the motion. */
export interface Label {
  readonly kind: SegmentKind;
  readonly from: number;
  readonly to: number;
}

/** @param instants of the frames, in fine samples */
export function labelsOf(
  plan: Plan,
  path: FloorPath,
  contacts: Pick<Contacts, 'left' | 'right' | 'fps'>,
  instants: readonly number[],
): Label[] {
  const { fps } = contacts;
  const kinds = new Array<SegmentKind>(instants.length).fill('idle');
  const at = instants.map((t) => Math.min(plan.samples - 1, Math.max(0, Math.round(t))));
  const speed = at.map((i) => plan.speed[i]);
  // Of the path alone; a turn on the spot is a leg of its own.
  const rate = at.map((i) => ((path.at(plan.distance[i]).curvature * plan.speed[i]) / Math.PI) * 180);
  for (const { from, to } of movements(contacts, instants.length)) {
    const middle = at[(from + to) >> 1];
    const leg = plan.spans.find(({ start, end }) => middle >= start && middle < end)?.leg;
    if (!leg || 'stand' in leg) continue;
    const fill = (kind: SegmentKind, a = from, b = to) => kinds.fill(kind, Math.max(from, a), Math.min(to, b));
    if ('spin' in leg) fill('turn');
    else if ('hops' in leg) fill('flight');
    else {
      fill(plan.style === HUSH ? 'sneak' : gaitAt(leg.speed).duty < 0.5 ? 'run' : 'walk');
      for (const turn of turnsOf(rate, { from, to }, fps)) fill('turn', turn.from, turn.to);
      const isUp = (f: number) => speed[f] >= UP_TO_SPEED * leg.speed;
      const frames = Array.from({ length: to - from }, (_, i) => from + i);
      if (leg.fromStanding && from > 0) fill('start', from, frames.find(isUp) ?? to);
      if (leg.toStanding && to < instants.length) fill('stop', (frames.findLast(isUp) ?? from) + 1, to);
    }
  }
  return runsOf(kinds);
}
