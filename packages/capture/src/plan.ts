import type { Random } from '@lantern/motion';
import { footsteps, workFeet, type Stretch, type Work } from './footsteps';
import { footwork } from './footwork';
import { smooth } from './gait-table';
import type { FloorPath } from './path';
import type { Person } from './person';
import type { Style } from './style';
import { FINE, type Dip, type Going, type Leg, type Plan } from './plan-data';

/** Left phase at which a performer who stands begins (the right foot is about to rise) and ends. */
const START_PHASE = -0.13;
/** Strides to get up to a speed or to come to a stop. */
const rampStrides = (speed: number) => 1.1 + 2 * smooth((speed - 1.4) / 1.2);

const NOBODY = { pace: () => 1, earlyFoot: { left: 0, right: 0 } };

/**
 * Plans speed, stride phase and footsteps along a path: each foot lands where the hips will be half a stance later.
 *
 * @param person whose cadence wanders, and one of whose feet leaves first in leaps; without one it is all even
 */
export function plan(
  legs: readonly Leg[],
  path: FloorPath,
  random: Random,
  style: Style,
  { pace, earlyFoot }: Pick<Person, 'pace' | 'earlyFoot'> = NOBODY,
): Plan {
  const phase: number[] = [];
  const distance: number[] = [];
  const speed: number[] = [];
  const spin: number[] = [];
  const height: number[] = [];
  const lurch: number[] = [];
  const worked: Work[] = [];
  const stretches: Stretch[] = [];
  const spans: { leg: Leg; start: number; end: number }[] = [];
  const ends = (leg: Leg, start: number) => spans.push({ leg, start, end: phase.length });
  let p = START_PHASE;
  let s = 0;
  for (const [k, leg] of legs.entries()) {
    const start = phase.length;
    if ('stand' in leg) {
      // The weight goes over to where the next leg begins.
      const next = legs[k + 1];
      const shift = next && 'go' in next && next.fromStanding ? Math.ceil(p) + startPhase(next) - p : 0;
      for (let i = 0; i < leg.stand * FINE; i++) {
        phase.push(p + shift * smooth(i / (leg.stand * FINE)));
        distance.push(s);
        speed.push(0);
      }
      ends(leg, start);
      continue;
    }
    if (!('go' in leg)) {
      const work = footwork(leg, earlyFoot);
      const turned = spin.at(-1) ?? 0;
      while (spin.length < start) spin.push(turned);
      while (height.length < start) height.push(Number.NaN);
      for (let i = 0; i < work.samples; i++) {
        phase.push(p);
        distance.push(s + work.ahead[i]);
        speed.push(0);
        spin.push(turned + work.turn[i]);
        height.push(work.height[i]);
      }
      worked.push({ start, distance: s, turned, rises: work.rises });
      s += work.ahead[work.samples - 1];
      ends(leg, start);
      continue;
    }
    if (leg.fromStanding) p = Math.ceil(p) + startPhase(leg);
    const from = p;
    const began = s;
    const ramp = rampStrides(leg.speed);
    const strides = stridesFor(leg.go, leg, style);
    const to = from + strides;
    while (p < to) {
      const up = leg.fromStanding ? smooth((p - from) / ramp) : 1;
      const down = leg.toStanding ? smooth((to - p) / ramp) : 1;
      const v = leg.speed * up * down * slowed(leg, s - began);
      phase.push(p);
      distance.push(s);
      speed.push(v);
      lurch[phase.length - 1] = lurchOf(leg, s - began);
      p += (style.strideRate(v) * pace(p)) / FINE;
      s += v / FINE;
    }
    ends(leg, start);
    stretches.push({ start, end: phase.length, from, to, standsBefore: leg.fromStanding, standsAfter: leg.toStanding });
  }
  const result = {
    samples: phase.length,
    phase: Float64Array.from(phase),
    distance: Float64Array.from(distance),
    speed: Float64Array.from(speed),
    spin: Float64Array.from(phase, (_, i) => spin[i] ?? spin.at(-1) ?? 0),
    height: Float64Array.from(phase, (_, i) => height[i] ?? Number.NaN),
    lurch: Float64Array.from(phase, (_, i) => lurch[i] ?? 0),
    style,
    spans,
  };
  return { ...result, stances: workFeet(footsteps(result, stretches, path, random), worked, result, path) };
}

/**
 * How many strides cover a distance: whole steps at the end of a leg that stops, so that the closing foot has just landed.
 */
function stridesFor(metres: number, leg: Going, style: Style): number {
  const ramp = rampStrides(leg.speed);
  let p = 0;
  let s = 0;
  // The ramps each cost about half their strides; run the same sums as the plan does, without the way down, then add it.
  while (s < metres) {
    const v = leg.speed * (leg.fromStanding ? smooth(p / ramp) : 1) * slowed(leg, s);
    p += style.strideRate(v) / FINE;
    s += v / FINE;
  }
  if (!leg.toStanding) return p;
  const begins = leg.fromStanding ? startPhase(leg) : 0;
  const steps = Math.round((p + ramp / 2 + begins) * 2);
  // A left foot lands where whole strides end, a right one half-way.
  const isOther = leg.last && (steps % 2 === 0) !== (leg.last === 'left');
  return (steps + (isOther ? 1 : 0)) / 2 + 0.1 - begins;
}

/** Half a stride on, the feet have changed parts. */
const startPhase = ({ first }: Going): number => START_PHASE + (first === 'left' ? 0.5 : 0);

/** How deep he is in a dip, 0 to 1. */
const depth = ({ at, metres }: Dip, along: number): number => smooth(1 - Math.abs(along - at) / metres);

const slowed = ({ dips = [] }: Going, along: number): number => dips.reduce((rest, dip) => rest * (1 - dip.by * depth(dip, along)), 1);

const lurchOf = ({ dips = [] }: Going, along: number): number => dips.reduce((sum, dip) => sum + (dip.lurch ?? 0) * depth(dip, along), 0);
