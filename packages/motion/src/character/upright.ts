import type { Warning } from '../error';
import { fromHeading, type Quat } from '../math/quat';
import { firstStandsLeft } from '../anatomy/body-sides';
import { findBody } from '../anatomy/find-body';
import { restMotion } from '../model/motion';
import type { Skeleton } from '../model/skeleton';
import { posedSkeleton, type WorldPose } from './world-pose';

/** How a character's file is to be read. */
export interface UprightReading {
  /** Makes it face +Z. */
  readonly turn: Quat;
  readonly metresPerUnit: number;
}

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

/** How long a unit is and which way is forward: up is +Y, as glTF has it, and metres, unless nobody could be as small or as large. */
export function uprightReading(skeleton: Skeleton, pose: WorldPose, warnings: Warning[]): UprightReading {
  const body = findBody(restMotion(posedSkeleton(skeleton, pose)));
  if (!body) return { turn: [0, 0, 0, 1], metresPerUnit: 1 };
  const { positions } = pose;
  const tall = positions[body.head * 3 + 1] - positions[body.legs.left.ankle * 3 + 1];
  const size = (metres: number) => tall * metres;
  const unit = UNITS.find(([, metres]) => size(metres) > BELIEVED[0] && size(metres) < BELIEVED[1]) ?? UNITS[0];
  if (unit[1] !== 1)
    warnings.push({
      code: 'units',
      message: `It would be ${size(1).toFixed(size(1) < 1 ? 3 : 0)} m tall; its unit is taken for ${unit[0]}.`,
    });
  const heading = facingOf(positions, body.legs);
  const quarter = (Math.round(heading / (Math.PI / 2)) * Math.PI) / 2;
  if (quarter === 0) return { turn: [0, 0, 0, 1], metresPerUnit: unit[1] };
  warnings.push({
    code: 'facing',
    message: `It faces ${Math.round((quarter * 180) / Math.PI)}° off +Z; it is turned here and written back as it was.`,
  });
  return { turn: fromHeading(-quarter), metresPerUnit: unit[1] };
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
