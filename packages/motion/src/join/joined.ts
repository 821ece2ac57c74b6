import type { Contacts } from '../model/contacts';
import type { Motion } from '../model/motion';
import type { MetBy } from './line-up';
import type { LaidPiece, Level } from './piece';
import type { JoinInto } from './schema';

/** Where a piece lies in what was joined, frames, first and last; in an overlap two lie there. */
export interface PieceSpan {
  readonly from: number;
  readonly to: number;
  /** The frame of the join at which the piece's first frame would be: in step, it may begin later in itself, or earlier. */
  readonly start: number;
}

/** Where two pieces meet. */
export interface Meet {
  /** First and last frame of the overlap; of a cut the one frame that both share. */
  readonly from: number;
  readonly to: number;
  readonly by: MetBy;
  /** Time ran in step. */
  readonly isInStep: boolean;
  /** How far the coming piece was turned on the floor, radians. */
  readonly turn: number;
  /** Both pieces by themselves where they lie over each other, frame by frame from `from` on. */
  readonly leaving: Motion;
  readonly coming: Motion;
}

export interface Joined {
  /** In the world. */
  readonly motion: Motion;
  readonly contacts: Contacts;
  readonly spans: readonly PieceSpan[];
  readonly meets: readonly Meet[];
  /** Where the ground changes, in frames of the join. */
  readonly levels: readonly Level[];
}

/** A piece, and how it follows the one before it. */
export interface PlacedPiece {
  readonly piece: LaidPiece;
  readonly into: JoinInto;
}
