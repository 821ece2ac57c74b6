import { lockFeet } from '../edit/lock-feet';
import { groundwork } from '../measure/groundwork';
import type { Soles } from '../measure/soles';
import type { Contacts, Interval } from '../model/contacts';
import { followPoint } from '../model/fixed-point';
import { cutMotion, type Motion } from '../model/motion';
import type { Globals } from '../model/kinematics';

/** A foot that was held is led back over so much, and to where it is held, seconds. */
const BLEND = 0.18;

/**
 * A motion whose planted feet are held in the contacts that reach into an overlap; outside of those contacts and what leads to them nothing is changed, to
 * the bit.
 *
 * @param overlap first and last frame
 */
export function holdThrough(motion: Motion, contacts: Contacts, [first, last]: readonly [number, number]): Motion {
  const found = groundwork(motion);
  const points = found?.soles.points;
  if (!found || !points) return motion;
  const reaches = ({ from, to }: Interval) => from <= last && to > first;
  const held = { left: contacts.left.filter(reaches), right: contacts.right.filter(reaches) };
  const all = [...held.left, ...held.right];
  if (all.length === 0) return motion;
  const beside = Math.ceil(BLEND * motion.fps) + 2;
  const from = Math.max(0, Math.min(...all.map((own) => own.from)) - beside);
  const to = Math.min(motion.frames - 1, Math.max(...all.map((own) => own.to)) + beside);
  const stretch = cutMotion(motion, from, to);
  const moved = (own: Interval): Interval => ({ from: own.from - from, to: own.to - from });
  const solesIn = (_: Motion, globals: Globals): Soles => {
    const foot = (side: 'left' | 'right') => ({
      heel: followPoint(globals, points[side].heel),
      ball: followPoint(globals, points[side].ball),
      tip: followPoint(globals, points[side].tip),
    });
    return { floor: found.soles.floor, left: foot('left'), right: foot('right'), points };
  };
  const within = groundwork(stretch);
  if (!within) return motion;
  const walker = { motion: stretch, globals: within.globals, body: found.body, soles: solesIn(stretch, within.globals) };
  const own = { ...contacts, left: held.left.map(moved), right: held.right.map(moved) };
  const locked = lockFeet(walker, own, { blend: BLEND, hips: true, level: false }, 2, solesIn);
  const out = cutMotion(motion, 0, motion.frames - 1);
  out.rotations.set(locked.rotations, from * motion.skeleton.joints.length * 4);
  out.rootPositions.set(locked.rootPositions, from * 3);
  return out;
}
