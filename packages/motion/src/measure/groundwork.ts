import type { Body } from '../model/body';
import { bodyOf } from '../anatomy/body-of';
import { forwardKinematics, type Globals } from '../model/kinematics';
import type { Motion } from '../model/motion';
import { addBelt, findBelt, type Belt } from './belt';
import { contacts } from './contacts';
import type { Contacts } from '../model/contacts';
import { headings } from './heading';
import { bearingPoint, lowPassedSoles } from './slide';
import { soles, type Soles } from './soles';
import { weightedJoints, type WeightedJoints } from './weights';
import { trackOf } from '../model/track';

/** What most figures start from, worked out once for a motion. */
export interface Groundwork {
  readonly motion: Motion;
  readonly globals: Globals;
  readonly body: Body;
  readonly soles: Soles;
  readonly contacts: Contacts;
  /** Of someone who walks on the spot: how fast he would go. Null for everyone else. */
  readonly belt: Belt | null;
  /** What counts how much when poses are compared. */
  readonly weighted: WeightedJoints;
  /** Radians, unwrapped. */
  readonly headings: Float64Array;
  /** It is not a person's: poses can be compared, and there are no feet (see `posesOnly`). */
  readonly isNobody?: true;
}

/**
 * Forward kinematics, body parts, sole points, contacts and headings of a motion.
 *
 * @param motion metres, Y up
 * @returns null when the skeleton is not a person's
 *
 * @example
 * groundwork(motion).contacts.left.length > 2; // true
 */
export function groundwork(motion: Motion): Groundwork | null {
  const known = KNOWN.get(motion);
  if (known !== undefined) return known;
  const found = workOut(motion);
  if (motion.frames * motion.skeleton.joints.length <= MOST_KEPT) KNOWN.set(motion, found);
  return found;
}

/** A motion's gait is asked for by step after step; motions never change once they are made. */
const KNOWN = new WeakMap<Motion, Groundwork | null>();
/** Larger ones take too much room, frames times joints. */
const MOST_KEPT = 100_000;

function workOut(motion: Motion): Groundwork | null {
  const body = bodyOf(motion);
  return body && new Worked(motion, body);
}

/** Each part is worked out when it is first asked for, and not before: so an object that is spread from one has not all of them. */
class Worked implements Groundwork {
  constructor(
    readonly motion: Motion,
    readonly body: Body,
  ) {}
  get globals(): Globals {
    return keep(this, 'globals', forwardKinematics(this.motion));
  }
  get headings(): Float64Array {
    return keep(this, 'headings', headings(this.globals, this.body));
  }
  get weighted(): WeightedJoints {
    return keep(this, 'weighted', weightedJoints(this.body));
  }
  get belt(): Belt | null {
    const guess = findBelt(this.globals, this.body, this.motion.fps);
    if (!guess) return keep(this, 'belt', null);
    // Feet that all slide back alike under hips that stay are planted on a floor that moves: everything about them is found as if they went.
    const going = onTheWay(this.motion, guess);
    const found = soles(going, forwardKinematics(going), this.body);
    return keep(this, 'belt', withRest(guess, { soles: found, contacts: this.contactsOn(found) }, this.motion.fps));
  }
  get soles(): Soles {
    const { belt, standing } = this;
    return keep(this, 'soles', belt ? withoutBelt(standing, belt, this.motion.fps) : standing);
  }
  get contacts(): Contacts {
    return keep(this, 'contacts', this.contactsOn(this.standing));
  }
  /** The soles of someone who goes, be it on the spot. */
  private get standing(): Soles {
    const { motion, belt, body } = this;
    const going = belt ? onTheWay(motion, belt) : motion;
    return keep(this, 'standing', soles(going, belt ? forwardKinematics(going) : this.globals, body));
  }
  private contactsOn(found: Soles): Contacts {
    const hips = trackOf(this.globals, this.body.hips, 1);
    return contacts(found, this.motion.fps, hips);
  }
}

/** From now on the part is what was worked out. */
function keep<Of>(of: object, part: string, value: Of): Of {
  Object.defineProperty(of, part, { value, enumerable: true });
  return value;
}

/** Someone who walked on the spot as if the floor stood and he went. */
export function onTheWay(motion: Motion, belt: Belt): Motion {
  const rootPositions = motion.rootPositions.slice();
  addBelt(rootPositions, belt, motion.fps);
  return { ...motion, rootPositions };
}

function withoutBelt(soles: Soles, belt: Belt, fps: number): Soles {
  const back = (track: Float32Array) => {
    const out = track.slice();
    addBelt(out, belt, fps, -1);
    return out;
  };
  const foot = ({ heel, ball, tip }: Soles['left']) => ({ heel: back(heel), ball: back(ball), tip: back(tip) });
  return { ...soles, left: foot(soles.left), right: foot(soles.right) };
}

/** A belt as planted feet tell it exactly: what they still move on it, added. */
function withRest({ x, z }: Belt, { soles: found, contacts: all }: Pick<Groundwork, 'soles' | 'contacts'>, fps: number): Belt {
  const tracks = lowPassedSoles(found, fps);
  const edge = Math.round(0.06 * fps);
  let [dx, dz, seconds] = [0, 0, 0];
  for (const side of ['left', 'right'] as const) {
    for (const { from, to } of all[side]) {
      for (let f = from + edge + 1; f < to - edge; f++) {
        const bearing = bearingPoint(tracks[side], f);
        dx += bearing.x[f] - bearing.x[f - 1];
        dz += bearing.z[f] - bearing.z[f - 1];
        seconds += 1 / fps;
      }
    }
  }
  return seconds > 0 ? { x: x - dx / seconds, z: z - dz / seconds } : { x, z };
}
