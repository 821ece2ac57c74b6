/** Figures of a clip that are compared; what is not known is left out. */
export interface ComparedFigures {
  readonly seconds?: number | null;
  readonly speedMps?: number | null;
  readonly tick?: number | null;
  readonly slideCm?: number | null;
  readonly sinkCm?: number | null;
  readonly homeCm?: number | null;
}

/** A figure that is another one than it was. */
export interface FigureChange {
  readonly figure: keyof ComparedFigures;
  readonly before: number;
  readonly after: number;
}

/**
 * By how much figures of one clip may differ between two solves of the same capture that are both good: seconds, m/s, parts of a tick, cm. A little more than the
 * most that was found in the 124 clips of four captured days that were solved again with other noise, two of them at twice the rate.
 */
const NOISE: Readonly<Record<keyof ComparedFigures, number>> = {
  seconds: 0.02,
  speedMps: 0.035,
  tick: 0.8,
  slideCm: 0.25,
  sinkCm: 0.3,
  homeCm: 0.1,
};

/** What figures are called in sentences, each with its unit. */
export const FIGURE_NAMES: Readonly<Record<keyof ComparedFigures, string>> = {
  seconds: 'length, s',
  speedMps: 'speed, m/s',
  tick: 'tick',
  slideCm: 'slide, cm',
  sinkCm: 'sink, cm',
  homeCm: 'off home, cm',
};

/**
 * What has changed of a clip's figures by more than two solves of the same capture differ by anyway.
 *
 * @example
 * figureChanges({ slideCm: 0.1, tick: 1 }, { slideCm: 0.5, tick: 1.1 }).map(({ figure }) => figure); // ['slideCm']
 */
export function figureChanges(before: ComparedFigures, after: ComparedFigures): FigureChange[] {
  return (Object.keys(NOISE) as (keyof ComparedFigures)[]).flatMap((figure) => {
    const [was, is] = [before[figure], after[figure]];
    if (typeof was !== 'number' || typeof is !== 'number' || Math.abs(is - was) <= NOISE[figure]) return [];
    return [{ figure, before: was, after: is }];
  });
}
