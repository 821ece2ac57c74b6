import type { PlayClip } from '@lantern/drive';
import { DEGREES } from '../math/angles';

/** A figure of a clip frame by frame: its first value is that of the first key, and `every` so many seconds comes another. */
export interface Curve {
  readonly every: number;
  readonly values: number[];
}

/**
 * What games ask of a clip at every instant: the root's speed (m/s) and turn (degrees a second to the left), each of the stretch up to the next key, and
 * the seconds until a foot comes down next; in a clip that plays once, −1 where none does any more.
 *
 * @param landings of feet, seconds
 */
export function clipCurves(
  { root, frames, fps, loop }: PlayClip,
  landings: readonly number[],
): Record<'speed' | 'turn' | 'toPlant', Curve> {
  const seconds = (frames - 1) / fps;
  const [speed, turn, toPlant]: number[][] = [[], [], []];
  for (let f = 0; f < frames; f++) {
    const a = Math.min(f, frames - 2) * 3;
    speed.push(Math.hypot(root[a + 3] - root[a], root[a + 4] - root[a + 1]) * fps);
    turn.push((root[a + 5] - root[a + 2]) * fps * DEGREES);
    const t = f / fps;
    const until = landings.map((at) => (loop ? round(at - t, seconds) : at - t)).filter((left) => left >= -ROUNDED);
    toPlant.push(until.length > 0 ? Math.max(0, Math.min(...until)) : -1);
  }
  const curve = (values: number[]): Curve => ({ every: Number((1 / fps).toFixed(8)), values: values.map((v) => Number(v.toFixed(3)) + 0) });
  return { speed: curve(speed), turn: curve(turn), toPlant: curve(toPlant) };
}

/** What landings are rounded by, seconds. */
const ROUNDED = 1e-5;

/** An instant that comes round, 0 to `cycle`; what is a rounding before 0 is 0. */
const round = (seconds: number, cycle: number): number => {
  const t = ((seconds % cycle) + cycle) % cycle;
  return t > cycle - ROUNDED ? 0 : t;
};
