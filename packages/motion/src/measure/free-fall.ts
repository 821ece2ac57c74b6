import { median } from '../math/statistics';
import type { Flight, Flights } from './flights';
import { statureLikelihood, USUAL_UNITS, type Units } from './units';

export interface FreeFall {
  readonly flights: number;
  /** The pooled acceleration of the hips over the flights, as the take is read; null without flights. */
  readonly medianMps2: number | null;
  /** Standard error of it, from how the flights scatter; null without flights. */
  readonly errorMps2: number | null;
  readonly verdict: 'consistent' | 'rate' | 'scale' | 'unclear' | 'no-flights';
  readonly suggestion: { readonly fps?: number; readonly metresPerUnit?: number } | null;
  /** What explains the data, for people. */
  readonly sentence: string;
}

/** What the take is read as, against which the flights are held. */
export interface Reading {
  readonly fps: number;
  readonly units: Units;
  /** Metres a unit in which the flights were found: their own scale, for finding them must not lean on the one in doubt. */
  readonly flightsPerUnit: number;
  /** Stature in the take's own units. */
  readonly statureUnits: number;
}

const GRAVITY = 9.81;
/** How far honest flights are off, in the logarithm: hips are not the centre of mass, landings are soft; and a frame at an edge is on the ground. */
const SYSTEMATIC = 0.05;
const EDGE_FRAMES = 0.2;
/** Rates nearer to one another than this (0.09 in the fall) are never told apart by flights. */
const NEAR = 0.045;
/** A reading within this of gravity, in the logarithm, agrees with it. */
const AGREES = 0.17;

/** Usual rates and how usual. */
const RATES: readonly (readonly [number, number])[] = [
  [24, 0.5],
  [25, 0.5],
  [30, 1],
  [50, 0.5],
  [60, 1],
  [90, 0.3],
  [100, 0.6],
  [120, 1],
  [150, 0.15],
  [180, 0.15],
  [200, 0.3],
  [240, 0.6],
];
/** What the file itself says is right this many times more often than a usual rate that it does not say. */
const AS_READ = 4;
const SURE = 0.85;
const NOTHING = [null, null] as const;

interface Hypothesis {
  readonly fps: number;
  readonly metresPerUnit: number;
  readonly unit: string;
  readonly weight: number;
}

/**
 * The free-fall check: whatever flies falls at 9.81 m/s². A take read at *s* metres a unit and *f* frames a second measures
 * 9.81 · (s / s true) · (f / f true)²; every usual unit and rate is tried, weighed by how well it explains the fall and the stature.
 * The verdict is about scale and rate as read; where two readings explain the data about equally, it is `unclear` and says both.
 */
export function freeFall({ falling, other }: Flights, { fps, units, flightsPerUnit, statureUnits }: Reading): FreeFall {
  // In the take's own units, which is what every hypothesis starts from.
  const pooled = pool(falling.map((flight) => ({ ...flight, fall: flight.fall / flightsPerUnit })));
  const measured = pooled.fall * units.metresPerUnit * fps ** 2;
  const figure = [measured, Math.abs(measured) * pooled.error] as const;
  const n = falling.length;
  if (n === 0) {
    return other > 0
      ? verdict(
          0,
          NOTHING,
          'unclear',
          null,
          'There is movement off the ground, but it does not fall as bodies do: a suit that infers height from the feet, a lift or a hang.',
        )
      : verdict(0, NOTHING, 'no-flights', null, 'Nobody leaves the ground: there is nothing to check scale and rate against.');
  }
  const says = `${n} ${n === 1 ? 'flight falls' : 'flights fall'} at ${metresPerSecond2(measured)}`;
  // A stray parabola among much that does not fall, or too few of them, or a scatter that settles nothing.
  if (n < 3 || other > 2 * n || !(pooled.error < 0.2) || pooled.fall <= 0) {
    const alone = Math.abs(Math.log(measured / GRAVITY)) < AGREES;
    return verdict(
      n,
      figure,
      'unclear',
      null,
      `${says}, ${alone ? 'as they should, but' : 'but'} ${n < 3 ? 'that is too few to be sure' : 'they do not agree with one another'}.`,
    );
  }
  const frames = median(falling.map(({ from, to }) => to - from));
  const sigma = Math.hypot(SYSTEMATIC + EDGE_FRAMES / frames, pooled.error);
  const weigh = (s: number, f: number) =>
    Math.exp(-((Math.log((pooled.fall * s * f * f) / GRAVITY) / sigma) ** 2) / 2) * statureLikelihood(statureUnits * s);
  const rates = new Map<number, number>(RATES.map(([rate, prior]) => [rate, prior]));
  const near = [...rates].filter(([rate]) => Math.abs(Math.log(rate / fps)) < NEAR);
  near.forEach(([rate]) => rates.delete(rate));
  rates.set(fps, AS_READ * Math.max(0.5, ...near.map(([, prior]) => prior)));
  const scales = new Map<number, { unit: string; prior: number }>(
    USUAL_UNITS.map(({ unit, metresPerUnit, prior }) => [metresPerUnit, { unit, prior: 0.25 * prior }]),
  );
  scales.set(units.metresPerUnit, { unit: units.unit, prior: 1 });
  const hypotheses: Hypothesis[] = [];
  for (const [rate, rateWeight] of rates)
    for (const [metresPerUnit, { unit, prior }] of scales)
      hypotheses.push({ fps: rate, metresPerUnit, unit, weight: rateWeight * prior * weigh(metresPerUnit, rate) });
  // A scale that is no usual unit: what the fall itself asks for at the rate as read, if somebody of that stature exists.
  const free = GRAVITY / (pooled.fall * fps * fps);
  if (units.confidence < 0.5) hypotheses.push({ fps, metresPerUnit: free, unit: 'custom', weight: 0.1 * weigh(free, fps) });

  const total = hypotheses.reduce((sum, { weight }) => sum + weight, 0);
  const isNear = (a: Hypothesis, b: Hypothesis) =>
    Math.abs(Math.log(a.fps / b.fps)) < 2 * NEAR && Math.abs(Math.log(a.metresPerUnit / b.metresPerUnit)) < 0.1;
  const share = (h: Hypothesis) => hypotheses.reduce((sum, other) => sum + (isNear(h, other) ? other.weight : 0), 0) / total;
  const sorted = [...hypotheses].sort((a, b) => b.weight - a.weight);
  const best = sorted[0];
  const second = sorted.find((h) => !isNear(h, best));
  const fits = (h: Hypothesis) => Math.abs(Math.log((pooled.fall * h.metresPerUnit * h.fps ** 2) / GRAVITY)) < Math.max(AGREES, 2 * sigma);
  const isAsRead = best.metresPerUnit === units.metresPerUnit && best.fps === fps;
  if (total < 1e-12 || !fits(best)) {
    return verdict(n, figure, 'unclear', null, `${says}, which no usual rate or scale explains.`);
  }
  if (isAsRead && share(best) > 0.5 && Math.abs(Math.log(measured / GRAVITY)) < AGREES) {
    return verdict(n, figure, 'consistent', null, `${says}: scale and rate agree with gravity.`);
  }
  if (isAsRead || share(best) < SURE) {
    const words = [best, second].flatMap((h) => (h ? [explain(h, fps, units)] : []));
    return verdict(n, figure, 'unclear', null, `${says}: ${words.join(', or ')}.`);
  }
  const rateOff = best.fps !== fps;
  const scaleOff = best.metresPerUnit !== units.metresPerUnit;
  const suggestion = { ...(rateOff ? { fps: best.fps } : {}), ...(scaleOff ? { metresPerUnit: best.metresPerUnit } : {}) };
  const isRate =
    rateOff && (!scaleOff || 2 * Math.abs(Math.log(best.fps / fps)) > Math.abs(Math.log(best.metresPerUnit / units.metresPerUnit)));
  return verdict(n, figure, isRate ? 'rate' : 'scale', suggestion, `${says}: ${explain(best, fps, units)}.`);
}

const verdict = (
  flights: number,
  [medianMps2, errorMps2]: readonly [number, number] | readonly [null, null],
  kind: FreeFall['verdict'],
  suggestion: FreeFall['suggestion'],
  sentence: string,
): FreeFall => ({ flights, medianMps2, errorMps2, verdict: kind, suggestion, sentence });

function explain(h: Hypothesis, fps: number, units: Units): string {
  const parts: string[] = [];
  if (h.fps !== fps) {
    const rivals = RATES.map(([rate]) => rate).filter((rate) => rate !== h.fps && Math.abs(Math.log(rate / h.fps)) < NEAR);
    parts.push(`${[h.fps, ...rivals].sort((a, b) => a - b).join(' or ')} frames a second were probably read as ${Number(fps.toFixed(2))}`);
  }
  if (h.metresPerUnit !== units.metresPerUnit) parts.push(`a unit is probably ${Number((h.metresPerUnit * 100).toPrecision(4))} cm`);
  return parts.length > 0 ? parts.join(' and ') : 'they are right as read';
}

const metresPerSecond2 = (value: number) => `${Math.abs(value) < 1 ? value.toFixed(2) : value.toPrecision(3)} m/s²`;

/** The weighted mean fall without outliers, and its relative error from the scatter of the flights. */
function pool(flights: readonly Flight[]): { fall: number; error: number } {
  let kept = [...flights];
  let fall = 0;
  for (let round = 0; round < 3 && kept.length > 0; round++) {
    const total = kept.reduce((sum, { weight }) => sum + weight, 0);
    fall =
      round === 0 ? median(kept.map((flight) => flight.fall)) : kept.reduce((sum, flight) => sum + flight.fall * flight.weight, 0) / total;
    const scatter = 1.4826 * median(kept.map((flight) => Math.abs(flight.fall - fall) * Math.sqrt(flight.weight)));
    kept = kept.filter((flight) => Math.abs(flight.fall - fall) * Math.sqrt(flight.weight) <= 3.5 * scatter + 1e-9);
  }
  const total = kept.reduce((sum, { weight }) => sum + weight, 0);
  fall = kept.reduce((sum, flight) => sum + flight.fall * flight.weight, 0) / (total || 1);
  const square = kept.reduce((sum, flight) => sum + flight.weight * (flight.fall - fall) ** 2, 0) / (total || 1);
  return { fall, error: Math.sqrt(square / Math.max(1, kept.length - 1)) / Math.abs(fall || 1) };
}
