import { groundwork } from '../measure/groundwork';
import { popIn } from '../measure/pop';
import { sinkIn, slides, type Slide } from '../measure/slide';
import type { Contacts } from '../model/contacts';
import type { Motion } from '../model/motion';
import type { Joined, Meet } from './joined';
import { lowerLevel } from './piece';

/** How good a join is. */
export interface JoinFigures {
  /** First and last frame of the overlap. */
  readonly from: number;
  readonly to: number;
  readonly by: Meet['by'];
  readonly isInStep: boolean;
  /** The worst jump, and where. */
  readonly popCm: number;
  readonly popFrame: number;
  readonly popJoint: string;
  /** The most that a foot slides in a contact that reaches into the overlap. */
  readonly slideCm: number;
  /** Deepest point of a sole below the floor, in the overlap. */
  readonly sinkCm: number;
  /** Of the hips over the floor, before, in and after the overlap, metres a second. */
  readonly speedMps: { readonly before: number; readonly through: number; readonly after: number };
}

/** What the motions do by themselves is looked at over so much on either side, seconds. */
const BESIDE = 1.5;

/**
 * The figures of every join.
 *
 * @example
 * const cut = layPiece(cutClip(motion, 20, 120), { times: 1 });
 * joinFigures(joinPieces([cut, cut].map((piece) => ({ piece, into: joinIntoSchema.parse({}) })), 'origin')).length; // 1
 */
export function joinFigures(joined: Joined): JoinFigures[] {
  return joined.meets.map((_, i) => meetFigures(joined, i));
}

/** The figures of one of the places at which two pieces meet. */
export function meetFigures({ motion, contacts, meets, levels }: Joined, index: number): JoinFigures {
  const { from, to, by, isInStep } = meets[index];
  const found = groundwork(motion);
  const beside = Math.round(BESIDE * motion.fps);
  const pop = popIn(
    motion,
    [from - 2, to + 3],
    [
      [from - beside, from - 2],
      [to + 3, to + beside],
    ],
    found?.globals,
  );
  const own = slidesOf(motion, contacts).filter((slide) => slide.from <= to && slide.to > from);
  return {
    ...{ from, to, by, isInStep },
    popCm: pop.cm,
    popFrame: pop.frame,
    popJoint: motion.skeleton.joints[pop.joint].name,
    slideCm: own.reduce((most, { excursionCm }) => Math.max(most, excursionCm), 0),
    sinkCm: found ? sinkIn(found.soles, from, to + 1, (f) => contacts.floorM + lowerLevel(levels, f)) : 0,
    speedMps: {
      before: speedIn(motion.rootPositions, from - beside, from, motion.fps),
      through: speedIn(motion.rootPositions, from, to, motion.fps),
      after: speedIn(motion.rootPositions, to, to + beside, motion.fps),
    },
  };
}

const SLIDES = new WeakMap<Motion, readonly Slide[]>();

/** The slides of a motion are those of all its meetings. */
function slidesOf(motion: Motion, contacts: Contacts): readonly Slide[] {
  const found = groundwork(motion);
  const known = SLIDES.get(motion) ?? (found ? slides(found.soles, contacts) : []);
  SLIDES.set(motion, known);
  return known;
}

/** From one frame to another as the crow flies, metres a second. */
function speedIn(p: Float32Array, from: number, to: number, fps: number): number {
  const [a, b] = [Math.max(0, from), Math.min(p.length / 3 - 1, to)];
  return b > a ? (Math.hypot(p[b * 3] - p[a * 3], p[b * 3 + 2] - p[a * 3 + 2]) * fps) / (b - a) : 0;
}
