import { InputError } from '../error';
import { comingRound, played } from '../measure/played';
import { median } from '../math/statistics';
import { groundwork, type Groundwork } from '../measure/groundwork';
import { wayOf } from '../measure/way';
import { wayRound, type Travel } from '../model/travel';
import type { Clip } from '../model/clip';
import type { Contacts, Interval } from '../model/contacts';
import { alignSigns, cutMotion } from '../model/motion';
import { cycleTransform } from '../model/repeat';
import { replant, type Lean } from '../edit/replant';
import { repeatFirst } from './repeat-first';
import { settleSeam } from './settle';
import { series } from '../math/series';
import { trackOf } from '../model/track';

/**
 * A clip on another way, its feet replanted: what bending its path and lengthening its strides have in common. A loop is worked on as it
 * plays, so that contacts across its seam are whole, and stays one if the new way comes round.
 *
 * @param step named in the error when travel has been taken out already
 * @param bend the new way from the old one, and the lean that goes with it
 */
export function onOtherWay(
  clip: Clip,
  step: string,
  staysLoop: boolean,
  bend: (
    way: Travel,
    contacts: Contacts,
  ) => { readonly way: Travel; readonly lean: Lean | null; readonly placedAt?: (contact: Interval) => number },
): Clip {
  if (clip.travel) throw new InputError('order', `The ${step} step comes before the travel step.`);
  const { motion, loop } = clip;
  const way = clip.way ?? wayOf(motion, loop);
  const last = motion.frames - 1;
  const isPlayed = loop && staysLoop;
  const shown = isPlayed ? played(clip) : { motion, start: 0 };
  const found = groundwork(shown.motion);
  if (!found) return clip;
  const contacts = clip.contacts && isPlayed ? comingRound(clip.contacts, last, shown) : (clip.contacts ?? found.contacts);
  const bent = bend(way, contacts);
  const planted = bent.lean ? outwards(bent.way, bent.lean, hipsHeight(found)) : bent.way;
  if (!isPlayed) {
    const placed = replant(found, contacts, way, planted, bent.lean, bent.placedAt).motion;
    alignSigns(placed);
    return { ...clip, motion: placed, way: bent.way, belt: clip.belt && shiftOf(bent.way), loop: false, lead: null, tail: null };
  }
  const { start } = shown;
  const round = (values: ArrayLike<number>) => series(last + 2 * start + 1, (i) => values[(i - start + last) % last]);
  const lean = bent.lean && { angle: round(bent.lean.angle), course: courseRound(bent.lean.course, bent.way, start) };
  const placed = replant(found, contacts, wayRound(way, start), wayRound(planted, start), lean).motion;
  const cycle = cycleTransform({ motion, travel: planted });
  const middle = cutMotion(placed, start, start + last);
  repeatFirst(middle, last, cycle.turn, cycle.y);
  const settled = settleSeam(middle);
  alignSigns(settled);
  return { ...clip, motion: settled, way: bent.way, lead: null, tail: null };
}

/** How far a way has gone, frame by frame. */
const shiftOf = ({ x, z }: Travel) => ({ x: x.map((v) => v - x[0]), z: z.map((v) => v - z[0]) });

const hipsHeight = ({ globals, body, soles }: Groundwork) => median(trackOf(globals, body.hips, 1)) - soles.floor;

/** The feet of one who leans stand outside of the way that his hips go: by how far the lean brings the hips in. */
function outwards(way: Travel, lean: Lean, height: number): Travel {
  const by = (f: number) => height * Math.sin(lean.angle[f]);
  return {
    ...way,
    x: way.x.map((x, f) => x - Math.cos(lean.course[f]) * by(f)),
    z: way.z.map((z, f) => z + Math.sin(lean.course[f]) * by(f)),
  };
}

/** Directions of a cycle with what is played before and after it. */
function courseRound(course: ArrayLike<number>, way: Travel, start: number): Float64Array {
  const last = way.x.length - 1;
  const turn = way.heading[last] - way.heading[0];
  return series(last + 2 * start + 1, (i) => {
    const f = i - start;
    return course[(f + last) % last] + turn * Math.floor(f / last);
  });
}
