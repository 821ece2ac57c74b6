/** Frames; `from` is the first in contact, `to` the first after. */
export interface Interval {
  readonly from: number;
  readonly to: number;
}

export interface Contacts {
  readonly fps: number;
  readonly floorM: number;
  readonly left: readonly Interval[];
  readonly right: readonly Interval[];
  /** When a hand rests on something; left out where none ever does. */
  readonly leftHand?: readonly Interval[];
  readonly rightHand?: readonly Interval[];
}
