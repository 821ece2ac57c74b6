import { RADIANS, type Random, type Side } from '@lantern/motion';
import { holding, type Hold } from './arms';
import { smooth } from './gait-table';
import type { Pelvis } from './pelvis';
import { FINE, type Plan } from './plan-data';
import { wander } from './wander';

/** What someone who waits does besides standing, by fine sample; all is 0 while he goes. */
export interface Waiting {
  /** 1 of one who stands, 0 of one who goes. */
  readonly still: Float64Array;
  /** On which leg he stands: 1 on the left one, −1 on the right one, 0 on both. */
  readonly weight: Float64Array;
  /** How far he is in rolling his shoulders, and in raising a hand to his brow, 0 to 1. */
  readonly roll: Float64Array;
  readonly brow: Readonly<Record<Side, Float64Array>>;
}

/** A stand has to last this long before the weight goes over to one leg, and this long before he fidgets, seconds. */
const LONG = 5;
const VERY_LONG = 17;
/** A hand goes to the brow only in a stand so long: shorter ones are what idles are cut from, and left at any time. */
const BROW_FROM = 35;
/** He stands on both legs again so long before he goes, seconds. */
const READY = 1.2;

/** Plans what is done in the waits of a script. */
export function waiting(plan: Plan, random: Random, holds: readonly Hold[], restless: number): Waiting {
  const make = () => new Float64Array(plan.samples);
  const out = { still: make(), weight: make(), roll: make(), brow: { left: make(), right: make() } };
  for (let i = 0; i < plan.samples; i++) out.still[i] = 1 - smooth(plan.speed[i] / 0.7);
  for (const { leg, start, end } of plan.spans) {
    if (!('stand' in leg) || leg.stand < LONG) continue;
    shiftWeight(out.weight, start, end, random);
    const isFree = (from: number, to: number) => holds.every((hold) => to < hold.from - 1 || from > hold.to + 1);
    if (leg.stand >= VERY_LONG) fidget(out, { start, end, raisesHand: leg.stand >= BROW_FROM }, random, isFree, restless);
  }
  return out;
}

/** From leg to leg every few seconds, further on the one he likes better. */
function shiftWeight(weight: Float64Array, start: number, end: number, random: Random): void {
  const last = end - READY * FINE;
  let at = start + (0.8 + 1.5 * random.next()) * FINE;
  let side = random.next() < 0.5 ? 1 : -1;
  let value = 0;
  const go = (to: number) => {
    const takes = (1.1 + 0.6 * random.next()) * FINE;
    for (let i = Math.ceil(at); i < weight.length && i < end; i++) weight[i] = value + (to - value) * smooth((i - at) / takes);
    value = to;
    at += takes;
  };
  while (at + 2 * FINE < last) {
    go(side * (0.65 + 0.35 * random.next()));
    at += (3.5 + 5 * random.next()) * FINE;
    side = -side;
  }
  at = Math.min(at, last - 1.7 * FINE);
  go(0);
}

function fidget(
  { roll, brow }: Waiting,
  { start, end, raisesHand }: { readonly start: number; readonly end: number; readonly raisesHand: boolean },
  random: Random,
  isFree: (from: number, to: number) => boolean,
  restless: number,
): void {
  let at = start + (13 + 2 * random.next()) * FINE;
  while (at + 4 * FINE < end) {
    const raises = random.next() < 0.45;
    const takes = (raises ? 3.4 : 1.9) * FINE;
    const values = raises ? brow[random.next() < 0.7 ? 'right' : 'left'] : roll;
    if ((raisesHand || !raises) && isFree(at / FINE, (at + takes) / FINE)) {
      const rises = raises ? 0.33 : 0.5;
      for (let i = Math.ceil(at); i < Math.min(end, at + takes); i++) {
        const u = (i - at) / takes;
        values[i] = Math.min(smooth(u / rises), smooth((1 - u) / rises));
      }
    }
    at += takes + ((6 + 6 * random.next()) / (1 + restless)) * FINE;
  }
}

/** The hips of one who waits: over the leg he stands on, the other side let down; they are never quite at rest. In place. */
export function settleHips(hips: Pelvis, { still, weight }: Waiting, random: Random, holds: readonly Hold[]): void {
  const aside = wander(random, 8);
  const along = wander(random, 11);
  const trembles = wander(random, 2.3);
  for (let i = 0; i < still.length; i++) {
    const t = i / FINE;
    const shift = 0.04 * weight[i] + (0.007 * aside(t) + 0.0012 * trembles(t)) * still[i];
    // With a hand on something he leans on it and back.
    const rests = Math.max(0, ...holds.map((hold) => holding(hold, t)));
    const fore = (0.006 * along(t) + 0.03 * rests * Math.sin(2 * Math.PI * 0.45 * t)) * still[i];
    const c = Math.cos(hips.heading[i]),
      s = Math.sin(hips.heading[i]);
    hips.x[i] += c * shift + s * fore;
    hips.z[i] += c * fore - s * shift;
    hips.y[i] -= 0.003 * still[i] + 0.006 * weight[i] ** 2;
    hips.list[i] -= 4.2 * RADIANS * weight[i] + 0.008 * aside(t) * still[i];
    hips.axial[i] += (1.2 * along(t) * still[i] - 3 * weight[i]) * RADIANS;
  }
}
