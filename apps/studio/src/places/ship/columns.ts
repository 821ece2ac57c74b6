import type { ReadyFigure, SetBounds } from '@lantern/motion';

/** A figure of the table: its head, its unit, how it is written, and which bound of a set it is held to. */
export interface ReadyColumn {
  readonly figure: ReadyFigure;
  readonly head: string;
  readonly means: string;
  readonly unit: string;
  readonly digits: number;
  readonly width: number;
  readonly bound: {
    readonly key: Exclude<keyof SetBounds, 'turnDeg'>;
    readonly unit: string;
    readonly digits: number;
    readonly most: number;
    readonly step: number;
    /** What is shown is so many times what is kept: a share as per cent. */
    readonly times: number;
  };
}

const bound = (
  key: ReadyColumn['bound']['key'],
  unit: string,
  digits: number,
  { most = 100, step = 0.1, times = 1 }: Partial<Pick<ReadyColumn['bound'], 'most' | 'step' | 'times'>> = {},
): ReadyColumn['bound'] => ({ key, unit, digits, most, step, times });

export const READY_COLUMNS: readonly ReadyColumn[] = [
  {
    figure: 'seconds',
    head: 'length',
    means: 'How long it lasts',
    unit: 's',
    digits: 2,
    width: 62,
    bound: bound('seconds', 's', 1, { most: 3600, step: 1 }),
  },
  {
    figure: 'speed',
    head: 'speed',
    means: 'Metres a second; the bound is how far it may be from what the game asks of a loop',
    unit: 'm/s',
    digits: 2,
    width: 60,
    bound: bound('speed', '%', 0, { step: 1, times: 100 }),
  },
  {
    figure: 'seamCm',
    head: 'seam',
    means: 'How far a loop’s end is from its start',
    unit: 'cm',
    digits: 2,
    width: 58,
    bound: bound('seamCm', 'cm', 2),
  },
  {
    figure: 'tick',
    head: 'tick',
    means: 'How much a loop jerks where it comes round, over what it does elsewhere',
    unit: '',
    digits: 2,
    width: 52,
    bound: bound('tick', '', 2),
  },
  {
    figure: 'slideCm',
    head: 'slide',
    means: 'How far a bearing foot moves',
    unit: 'cm',
    digits: 2,
    width: 58,
    bound: bound('slideCm', 'cm', 2),
  },
  {
    figure: 'sinkCm',
    head: 'sink',
    means: 'How deep a sole goes under the floor',
    unit: 'cm',
    digits: 1,
    width: 52,
    bound: bound('sinkCm', 'cm', 1),
  },
  {
    figure: 'keyMm',
    head: 'key error',
    means: 'How far thinned keys are from the motion at the most',
    unit: 'mm',
    digits: 2,
    width: 68,
    bound: bound('keyMm', 'mm', 2),
  },
  {
    figure: 'homeCm',
    head: 'off home',
    means: 'How far its ends are from the home pose',
    unit: 'cm',
    digits: 1,
    width: 66,
    bound: bound('homeCm', 'cm', 1),
  },
  {
    figure: 'sizeKb',
    head: 'size',
    means: 'What its keys take in a file',
    unit: 'KB',
    digits: 0,
    width: 54,
    bound: bound('sizeKb', 'KB', 0, { most: 1e6, step: 10 }),
  },
];
