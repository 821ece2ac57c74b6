import type { Warning } from '../error';
import { fromAxisAngle, fromHeading, multiply, type Quat } from '../math/quat';
import { firstStandsLeft } from '../model/body-sides';
import { findBody } from '../model/find-body';
import { restMotion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';
import { posedSkeleton, turnedPose, type WorldPose } from './world-pose';

/** How a character's file is to be read. */
export interface UprightReading {
  /** Makes it Y up and facing +Z. */
  readonly turn: Quat;
  readonly metresPerUnit: number;
}

const UPS: readonly (readonly [name: string, turn: Quat])[] = [
  ['+Y', [0, 0, 0, 1]],
  ['+Z', fromAxisAngle([1, 0, 0], -Math.PI / 2)],
  ['−Y', fromAxisAngle([1, 0, 0], Math.PI)],
  ['−Z', fromAxisAngle([1, 0, 0], Math.PI / 2)],
];
const UNITS: readonly (readonly [name: string, metres: number])[] = [
  ['metres', 1],
  ['centimetres', 0.01],
  ['millimetres', 0.001],
  ['inches', 0.0254],
  ['feet', 0.3048],
  ['decimetres', 0.1],
];
/** From head joint to feet, metres: smaller and larger characters are not believed before another unit is tried. */
const BELIEVED = [0.5, 4] as const;

/** Which way is up and forward, and how long a unit is: what glTF says if that makes somebody who stands, else what does. */
export function uprightReading(skeleton: Skeleton, pose: WorldPose, warnings: Warning[]): UprightReading {
  const found = UPS.flatMap(([name, turn]) => {
    const turned = turnedPose(pose, turn);
    const body = findBody(restMotion(posedSkeleton(skeleton, turned)));
    if (!body) return [];
    const p = turned.positions;
    const over = (a: number, b: number) => p[a * 3 + 1] - p[b * 3 + 1];
    const { left, right } = body.legs;
    const tall = over(body.head, left.ankle);
    // Upright: hips over both feet, and the head over the hips, by what they are apart.
    const isUpright =
      over(body.hips, left.ankle) > 0.3 * tall && over(body.hips, right.ankle) > 0.3 * tall && over(body.head, body.hips) > 0.2 * tall;
    return isUpright ? [{ name, turn, body, tall, positions: p }] : [];
  });
  const best = found[0];
  if (!best) return { turn: UPS[0][1], metresPerUnit: 1 };
  if (best.name !== '+Y')
    warnings.push({
      code: 'up-axis',
      message: `It stands along ${best.name} where glTF says +Y; it is turned upright here and written back as it was.`,
    });
  const size = (metres: number) => best.tall * metres;
  const unit = UNITS.find(([, metres]) => size(metres) > BELIEVED[0] && size(metres) < BELIEVED[1]) ?? UNITS[0];
  if (unit[1] !== 1)
    warnings.push({
      code: 'units',
      message: `It would be ${size(1).toFixed(size(1) < 1 ? 3 : 0)} m tall; its unit is taken for ${unit[0]}.`,
    });
  const heading = facingOf(best.positions, best.body.legs);
  const quarter = (Math.round(heading / (Math.PI / 2)) * Math.PI) / 2;
  if (quarter === 0) return { turn: best.turn, metresPerUnit: unit[1] };
  warnings.push({
    code: 'facing',
    message: `It faces ${Math.round((quarter * 180) / Math.PI)}° off +Z; it is turned here and written back as it was.`,
  });
  const turn: [number, number, number, number] = [0, 0, 0, 1];
  multiply(turn, 0, fromHeading(-quarter), 0, best.turn, 0);
  return { turn, metresPerUnit: unit[1] };
}

type Legs = Parameters<typeof firstStandsLeft>[1];

/** Where somebody faces, radians: left legs stand to the left of forward, told by toes or knees. */
function facingOf(p: ArrayLike<number>, { left, right }: { readonly left: Legs; readonly right: Legs }): number {
  const isLeft = firstStandsLeft(p, left, right) >= 0;
  const [a, b] = isLeft ? [left, right] : [right, left];
  const [x, z] = [p[a.hip * 3] - p[b.hip * 3], p[a.hip * 3 + 2] - p[b.hip * 3 + 2]];
  // left = (cos θ, 0, −sin θ)
  return Math.atan2(-z, x);
}
