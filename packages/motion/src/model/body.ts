export type Side = 'left' | 'right';

/** Joint indices of a leg; `toe` is −1 when the foot has no joint at the ball. */
export interface Leg {
  readonly hip: number;
  readonly knee: number;
  readonly ankle: number;
  readonly toe: number;
}

/** Joint indices of an arm; any may be −1. */
export interface Arm {
  readonly shoulder: number;
  readonly elbow: number;
  readonly wrist: number;
}

/** Something about a body that could be otherwise: a person should look at it. */
export interface BodyDoubt {
  readonly part: 'arms' | 'legs' | 'sides';
  /** 0.5 is a toss-up. */
  readonly sure: number;
  readonly sentence: string;
  /** The other reading, and what it is called on a button. */
  readonly other: { readonly label: string; readonly body: Partial<Pick<Body, 'legs' | 'arms'>> };
}

/** What the joints of a person-like skeleton are. */
export interface Body {
  readonly hips: number;
  readonly chest: number;
  readonly head: number;
  readonly legs: Readonly<Record<Side, Leg>>;
  readonly arms: Readonly<Record<Side, Arm>>;
  readonly doubts: readonly BodyDoubt[];
}
