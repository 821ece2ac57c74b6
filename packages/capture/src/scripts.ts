import { JOG_SPEED, WALK_SPEED } from './gait-table';
import type { Hold } from './arms';
import type { Kerb, Piece } from './path';
import type { Leg } from './plan-data';
import { HUSH, PLAIN, SIDEWAYS, type Style } from './style';
import type { ScriptName } from './script-names';

/** What the performer is asked to do. `margin` seconds are played before and after and cut off, for scripts that begin in mid-gait. */
export interface Script {
  readonly legs: readonly Leg[];
  readonly path: readonly Piece[];
  readonly margin: number;
  readonly style: Style;
  readonly kerbs?: readonly Kerb[];
  /** Hands that rest on something for a while. */
  readonly holds?: readonly Hold[];
  /** Played from its end to its start: a walk becomes a walk backwards. */
  readonly backwards?: boolean;
}

const STROLL = 1.25;
const MARGIN = 2;

/**
 * @param seconds asked for; the scripts with a course of their own (turn, turns, start-stop, hop, kerb, stairs, rounds, lean) take as long as they take
 * @param wanted metres a second, of the scripts that go at one speed
 */
export function scriptFor(name: ScriptName, seconds: number, wanted?: number): Script {
  const steady = (speed: number, style = PLAIN): Script => {
    const metres = speed * (seconds + 2 * MARGIN) * 1.02;
    return { style, legs: [{ go: metres, speed, fromStanding: false, toStanding: false }], path: [{ metres: metres + 4 }], margin: MARGIN };
  };
  const there = (metres: number, speed: number): Leg => ({ go: metres, speed, fromStanding: true, toStanding: true });
  const course = (legs: readonly Leg[], path: readonly Piece[], more: Partial<Script> = {}): Script => ({
    legs,
    path,
    margin: 0,
    style: PLAIN,
    ...more,
  });
  switch (name) {
    case 'walk':
      return steady(wanted ?? WALK_SPEED);
    case 'jog':
      return steady(wanted ?? JOG_SPEED);
    case 'hush':
      return steady(wanted ?? 0.7, HUSH);
    case 'backwards':
      return { ...steady(wanted ?? 0.9), backwards: true };
    case 'sideways':
      return steady(wanted ?? 0.5, SIDEWAYS);
    case 'idle':
      return course([{ stand: seconds }], [{ metres: 1 }]);
    case 'start-stop': {
      const speed = wanted ?? WALK_SPEED;
      return course([{ stand: 1.5 }, there(6, speed), { stand: 2 }, there(6, speed), { stand: 1.5 }], [{ metres: 20 }]);
    }
    case 'turn':
      // Round the post on an arc; then on the spot, a quarter back and right about.
      return course(
        [{ stand: 1 }, there(10, wanted ?? STROLL), { stand: 1 }, { spin: -90 }, { stand: 0.8 }, { spin: 180 }, { stand: 1 }],
        [{ metres: 4 }, { metres: 1.6, turn: 90 }, { metres: 10 }],
      );
    case 'turns':
      // On the spot, as games ask for them: an eighth, a quarter and half of a turn, to either side.
      return course([45, -45, 90, -90, 180, -180].flatMap((spin): Leg[] => [{ stand: 1 }, { spin }]).concat({ stand: 1 }), [{ metres: 1 }]);
    case 'hop':
      // Over the mooring rope and on: both feet, then the left, then the right.
      return course(
        [
          { stand: 1 },
          { hops: 4, stride: 0.42, air: 0.4, on: 'both' },
          { stand: 0.8 },
          { hops: 3, stride: 0.3, air: 0.3, on: 'left' },
          { stand: 0.8 },
          { hops: 3, stride: 0.3, air: 0.3, on: 'right' },
          { stand: 1 },
        ],
        [{ metres: 12 }],
      );
    case 'kerb':
      // Up a kerb of 15 cm, on, and down again.
      return course([{ stand: 1 }, there(7, wanted ?? STROLL), { stand: 1 }], [{ metres: 12 }], {
        kerbs: [
          { at: 2.6, rise: 0.15 },
          { at: 5.4, rise: -0.15 },
        ],
      });
    case 'stairs':
      // Four stairs up to the quay, a step for each.
      return course([{ stand: 1 }, there(6, wanted ?? 0.85), { stand: 1 }], [{ metres: 12 }], {
        kerbs: [0, 1, 2, 3].map((i) => ({ at: 2 + 0.5 * i, rise: 0.14 })),
      });
    case 'lean':
      // Waiting at the quay's rail: the left hand on it, then both, then the right on a bollard.
      return course([{ stand: 15 }], [{ metres: 1 }], {
        holds: [
          { side: 'left', from: 1.5, to: 4.2, place: [0.32, 1.08, 0.3] },
          { side: 'left', from: 6, to: 9.5, place: [0.27, 1.08, 0.33] },
          { side: 'right', from: 6.4, to: 9, place: [-0.27, 1.08, 0.33] },
          { side: 'right', from: 11, to: 13.4, place: [-0.34, 1.02, 0.22] },
        ],
      });
    case 'rounds':
      // Down the quay, left at the post, left again and back; a wait; then he sees how late it is.
      return course(
        [{ stand: 1.5 }, there(20, STROLL), { stand: 7 }, there(22, JOG_SPEED), { stand: 2 }],
        [{ metres: 9 }, { metres: 1.7, turn: 90 }, { metres: 1.4 }, { metres: 1.7, turn: 90 }, { metres: 40 }],
      );
  }
}
