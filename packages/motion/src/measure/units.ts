import type { Motion } from '../model/motion';
import { statureOf } from './stature';

export interface Units {
  readonly metresPerUnit: number;
  readonly unit: 'm' | 'cm' | 'mm' | 'in' | 'ft' | 'in/0.45' | 'custom';
  /** 0 to 1: the share of this unit among all that could explain the stature. */
  readonly confidence: number;
  readonly reason: string;
}

/** The units that files are in, and how usual each is. */
export const USUAL_UNITS = [
  { unit: 'cm', metresPerUnit: 0.01, prior: 1 },
  { unit: 'm', metresPerUnit: 1, prior: 1 },
  { unit: 'in', metresPerUnit: 0.0254, prior: 0.5 },
  { unit: 'in/0.45', metresPerUnit: 0.0254 / 0.45, prior: 0.4 },
  { unit: 'mm', metresPerUnit: 0.001, prior: 0.3 },
  { unit: 'ft', metresPerUnit: 0.3048, prior: 0.1 },
] as const;

/**
 * Works out metres per unit: the usual unit under which the performer has a believable stature
 * (mean 1.72 m, standard deviation 0.12 m, with a broad tail for children and giants).
 *
 * @param motion in file units, Y up
 * @param hint the unit that the format prescribes, or that its files usually have
 * @returns the best hypothesis; where none is believable, a unit of its own that makes the stature 1.75 m, confidence 0
 */
export function findUnits(motion: Motion, hint?: Units['unit']): Units {
  const { units: stature } = statureOf(motion);
  const scored = USUAL_UNITS.map((h) => ({
    ...h,
    score: h.prior * (h.unit === hint ? 4 : 1) * statureLikelihood(stature * h.metresPerUnit),
  }));
  const total = scored.reduce((sum, h) => sum + h.score, 0);
  const best = scored.reduce((a, b) => (b.score > a.score ? b : a));
  const metres = stature * best.metresPerUnit;
  if (metres < 0.9 || metres > 2.6) {
    return {
      metresPerUnit: 1.75 / stature,
      unit: 'custom',
      confidence: 0,
      reason: `The figure is ${stature.toPrecision(3)} units tall, which no usual unit explains; taken as a person of 1.75 m.`,
    };
  }
  return {
    metresPerUnit: best.metresPerUnit,
    unit: best.unit,
    confidence: Math.round((best.score / total) * 100) / 100,
    reason: `The figure is ${stature.toPrecision(4)} units tall: ${metres.toFixed(2)} m when a unit is ${UNIT_WORDS[best.unit]}.`,
  };
}

/** How believable a stature is for a person. */
export const statureLikelihood = (metres: number): number =>
  Math.exp(-(((metres - 1.72) / 0.12) ** 2) / 2) + 0.02 * Math.exp(-Math.abs(Math.log(metres / 1.72)) / 0.25);

const UNIT_WORDS = {
  m: 'a metre',
  cm: 'a centimetre',
  mm: 'a millimetre',
  in: 'an inch',
  ft: 'a foot',
  'in/0.45': 'an inch divided by 0.45',
};
