import type { Memory } from './memory';
import { wrapAngle } from './quat';

/** How a capsule moves, and how it pulls the character. */
export interface CapsuleRules {
  /** Metres a second squared. */
  readonly acceleration: number;
  readonly deceleration: number;
  /** What is between it and the root is pulled in to a third in about this many seconds. */
  readonly springSeconds: number;
  /** Farther than so many metres the root is never from it. */
  readonly mostMetres: number;
}

/** What leads a character in a game: it obeys at once, and the body comes after it. */
export interface Capsule {
  /** x, z, heading, and speed. */
  readonly now: Float64Array;
  put(root: ArrayLike<number>): void;
  /**
   * Goes on as it is asked, and pulls the root, in place.
   *
   * @param speed metres a second that a field which is steered would come to, and `turnDegS` degrees a second to the left
   * @param steers the body goes as it is steered; where it plays a clip, the clip leads, and the capsule comes after it
   */
  lead(root: Float64Array, speed: number, turnDegS: number, steers: boolean, seconds: number): void;
}

export function playCapsule({ acceleration, deceleration, springSeconds, mostMetres }: CapsuleRules, memory: Memory): Capsule {
  const now = memory.take(4);
  return {
    now,
    put(root) {
      for (let k = 0; k < 3; k++) now[k] = root[k];
      now[3] = 0;
    },
    lead(root, speed, turnDegS, steers, seconds) {
      const pull = 1 - Math.exp(-seconds / springSeconds);
      if (!steers) {
        const [x, z] = [now[0], now[1]];
        for (let k = 0; k < 2; k++) now[k] += (root[k] - now[k]) * pull;
        now[2] += wrapAngle(root[2] - now[2]) * pull;
        now[3] = seconds > 0 ? Math.sqrt((now[0] - x) ** 2 + (now[1] - z) ** 2) / seconds : now[3];
      } else {
        const most = seconds * (speed > now[3] ? acceleration : deceleration);
        now[3] += Math.max(-most, Math.min(most, speed - now[3]));
        const turn = ((turnDegS * Math.PI) / 180) * seconds;
        const facing = now[2] + turn / 2;
        now[0] += Math.sin(facing) * now[3] * seconds;
        now[1] += Math.cos(facing) * now[3] * seconds;
        now[2] += turn;
        root[2] += wrapAngle(now[2] - root[2]) * pull;
        for (let k = 0; k < 2; k++) root[k] += (now[k] - root[k]) * pull;
      }
      const dx = root[0] - now[0],
        dz = root[1] - now[1];
      const gap = Math.sqrt(dx * dx + dz * dz);
      if (gap > mostMetres) {
        root[0] = now[0] + (dx * mostMetres) / gap;
        root[1] = now[1] + (dz * mostMetres) / gap;
      }
    },
  };
}
