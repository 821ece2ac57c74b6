import type { Random } from '@lantern/motion';
import { footsteps, workFeet, type Stretch, type Work } from './footsteps';
import { footwork } from './footwork';
import { smooth } from './gait-table';
import type { FloorPath } from './path';
import type { Style } from './style';
import { FINE, type Leg, type Plan } from './plan-data';

/** Left phase at which a performer who stands begins (the right foot is about to rise) and ends. */
const START_PHASE = -0.13;
/** Strides to get up to a speed or to come to a stop. */
const rampStrides = (speed: number) => 1.1 + 2 * smooth((speed - 1.4) / 1.2);

/**
 * Plans speed, stride phase and footsteps along a path: each foot lands where the hips will be half a stance later.
 */
export function plan(legs: readonly Leg[], path: FloorPath, random: Random, style: Style): Plan {
  const phase: number[] = [];
  const distance: number[] = [];
  const speed: number[] = [];
  const spin: number[] = [];
  const height: number[] = [];
  const worked: Work[] = [];
  const stretches: Stretch[] = [];
  const spans: { leg: Leg; start: number; end: number }[] = [];
  const ends = (leg: Leg, start: number) => spans.push({ leg, start, end: phase.length });
  let p = START_PHASE;
  let s = 0;
  for (const leg of legs) {
    const start = phase.length;
    if ('stand' in leg) {
      for (let i = 0; i < leg.stand * FINE; i++) {
        phase.push(p);
        distance.push(s);
        speed.push(0);
      }
      ends(leg, start);
      continue;
    }
    if (!('go' in leg)) {
      const work = footwork(leg);
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
    if (leg.fromStanding) p = Math.ceil(p) + START_PHASE;
    const from = p;
    const ramp = rampStrides(leg.speed);
    const strides = stridesFor(leg.go, leg, style);
    const to = from + strides;
    while (p < to) {
      const up = leg.fromStanding ? smooth((p - from) / ramp) : 1;
      const down = leg.toStanding ? smooth((to - p) / ramp) : 1;
      const v = leg.speed * up * down;
      phase.push(p);
      distance.push(s);
      speed.push(v);
      p += style.strideRate(v) / FINE;
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
    style,
    spans,
  };
  return { ...result, stances: workFeet(footsteps(result, stretches, path, random), worked, result, path) };
}

/**
 * How many strides cover a distance: whole steps at the end of a leg that stops, so that the closing foot has just landed.
 */
function stridesFor(metres: number, leg: Extract<Leg, { go: number }>, style: Style): number {
  const ramp = rampStrides(leg.speed);
  let p = 0;
  let s = 0;
  // The ramps each cost about half their strides; run the same sums as the plan does, without the way down, then add it.
  while (s < metres) {
    const v = leg.speed * (leg.fromStanding ? smooth(p / ramp) : 1);
    p += style.strideRate(v) / FINE;
    s += v / FINE;
  }
  if (!leg.toStanding) return p;
  const steps = Math.round((p + ramp / 2 + (leg.fromStanding ? START_PHASE : 0)) * 2);
  return steps / 2 + 0.1 - (leg.fromStanding ? START_PHASE : 0);
}
