import type { Place, Warning } from '../error';
import type { JoinFigures } from '../join/figures';
import type { PoseFigures } from '../measure/clip-figures';
import type { Kink } from '../measure/kink';
import type { Likeness } from '../measure/likeness';
import type { Clip } from '../model/clip';
import type { Guarantee } from './guarantees';
import type { ClipInputs } from './inputs';
import type { KeysFigures } from './keys';
import type { ShipOptions } from './options';
import type { Mark } from './ship-clip';

export interface MadeFile {
  readonly path: string;
  readonly bytes: Uint8Array;
}

export interface ClipReport extends Partial<PoseFigures> {
  readonly name: string;
  readonly take: string;
  readonly file: string;
  /** Whom it is fitted to. */
  readonly character?: string;
  readonly gait?: string;
  readonly direction?: string;
  /** By how much the retime to whole frames changes the speed; 1 is not at all. */
  readonly rateChange: number;
  /** How far those of its ends that should be in the home pose of its set are from it; left out where there is none. */
  readonly homeCm?: number;
  /** How like the clip is to what was captured, and the kink of knees and elbows; null where frames cannot be compared. */
  readonly likeness?: Likeness | null;
  readonly kink?: Kink | null;
  /** How a loop was closed: as asked, or, where a blend would have been worse, around its seam. */
  readonly closing?: Clip['closing'];
  /** How many keys are left of how many, what they take, and where a point within 10 cm of a joint is furthest off. */
  readonly keys?: KeysFigures;
  /** Named instants, seconds. */
  readonly marks?: readonly Mark[];
  /** What it is made from. */
  readonly inputs?: ClipInputs;
  readonly warnings: readonly Warning[];
}

/** A join as it was made, with the figures of every place at which two pieces meet. */
export interface JoinReport {
  readonly name: string;
  readonly file: string;
  readonly frames: number;
  readonly seconds: number;
  readonly meets: readonly JoinFigures[];
  readonly inputs?: ClipInputs;
}

/** A clip or a join that could not be made, and why. */
export interface FailedClip {
  readonly name: string;
  readonly take: string;
  readonly code: string;
  readonly message: string;
  readonly place: Place;
}

/** A file of a shipment beside the one that was there before. */
export interface WrittenFile {
  readonly path: string;
  readonly bytes: number;
  /** `same`: it was not touched; `gone`: it is none of the shipment any more, and was left where it is. */
  readonly state: 'new' | 'changed' | 'same' | 'gone';
  /** Which of its clips changed, and what of them; empty for what is the same. */
  readonly why: readonly string[];
}

export interface Report {
  readonly fps: number;
  /** How it ships. */
  readonly ship?: ShipOptions;
  readonly files: readonly string[];
  readonly clips: readonly ClipReport[];
  readonly joins?: readonly JoinReport[];
  /** Clips that could not be made; all others were. */
  readonly failed: readonly FailedClip[];
  /** What is promised of a shipment, held against the written bytes. */
  readonly guarantees?: readonly Guarantee[];
  /** What was written, and what stayed; told where files are kept. */
  readonly written?: readonly WrittenFile[];
  readonly warnings: readonly Warning[];
}
