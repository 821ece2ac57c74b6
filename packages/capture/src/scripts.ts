import { JOG_SPEED, WALK_SPEED } from './gait-table';
import type { Piece } from './path';
import type { Leg } from './plan';

/** What the performer is asked to do. `margin` seconds are played before and after and cut off, for scripts that begin in mid-gait. */
export interface Script {
  readonly legs: readonly Leg[];
  readonly path: readonly Piece[];
  readonly margin: number;
}

export const SCRIPTS = ['walk', 'jog', 'hush', 'turn', 'start-stop', 'idle', 'rounds'] as const;
export type ScriptName = (typeof SCRIPTS)[number];

const STROLL = 1.25;
const MARGIN = 2;

/** @param seconds asked for; the scripts with a course of their own (turn, start-stop, rounds) take as long as they take */
export function scriptFor(name: ScriptName, seconds: number): Script {
  const steady = (speed: number): Script => {
    const metres = speed * (seconds + 2 * MARGIN) * 1.02;
    return { legs: [{ go: metres, speed, fromStanding: false, toStanding: false }], path: [{ metres: metres + 4 }], margin: MARGIN };
  };
  const there = (metres: number, speed: number): Leg => ({ go: metres, speed, fromStanding: true, toStanding: true });
  switch (name) {
    case 'walk':
      return steady(WALK_SPEED);
    case 'jog':
      return steady(JOG_SPEED);
    case 'hush':
      return steady(0.8);
    case 'idle':
      return { legs: [{ stand: seconds }], path: [{ metres: 1 }], margin: 0 };
    case 'start-stop':
      return {
        legs: [{ stand: 1.5 }, there(6, WALK_SPEED), { stand: 2 }, there(6, WALK_SPEED), { stand: 1.5 }],
        path: [{ metres: 20 }],
        margin: 0,
      };
    case 'turn':
      return {
        legs: [{ stand: 1 }, there(10, STROLL), { stand: 1 }],
        path: [{ metres: 4 }, { metres: 1.6, turn: 90 }, { metres: 10 }],
        margin: 0,
      };
    case 'rounds':
      // Down the quay, left at the post, left again and back; a wait; then he sees how late it is.
      return {
        legs: [{ stand: 1.5 }, there(20, STROLL), { stand: 7 }, there(22, JOG_SPEED), { stand: 2 }],
        path: [{ metres: 9 }, { metres: 1.7, turn: 90 }, { metres: 1.4 }, { metres: 1.7, turn: 90 }, { metres: 40 }],
        margin: 0,
      };
  }
}
