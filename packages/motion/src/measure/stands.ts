import type { Groundwork } from './groundwork';

/** Slower than this, with both feet on the ground, somebody stands, metres a second. */
const STANDS = 0.3;

/**
 * Whether somebody stands in a frame: both feet bear, and the hips hardly move over a tenth of a second on each side.
 *
 * @example
 * standsAt(ground, 60); // false
 */
export function standsAt({ globals, body, contacts, motion }: Groundwork, frame: number): boolean {
  const reach = Math.max(1, Math.round(0.1 * motion.fps));
  const [a, b] = [Math.max(0, frame - reach), Math.min(motion.frames - 1, frame + reach)];
  const at = (f: number, k: number) => globals.positions[(f * globals.joints + body.hips) * 3 + k];
  const speed = (Math.hypot(at(b, 0) - at(a, 0), at(b, 2) - at(a, 2)) * motion.fps) / Math.max(1, b - a);
  return speed < STANDS && [contacts.left, contacts.right].every((all) => all.some(({ from, to }) => frame >= from && frame <= to));
}
