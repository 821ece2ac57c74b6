import type { Warning } from '../error';
import { DEGREES, wrapAngle } from '../math/angles';
import { freeFall, type FreeFall } from '../measure/free-fall';
import { gait, type Gait } from '../measure/gait';
import { statureOf } from '../measure/stature';
import { findUnits, type Units } from '../measure/units';
import type { Motion } from './motion';
import type { Take, UpAxis } from './take';
import { findUp, toMetres } from './to-metres';

/** What a take is, worked out from the take itself. */
export interface Passport {
  readonly name: string;
  readonly format: Take['format'];
  readonly joints: number;
  readonly jointNames: readonly string[];
  readonly frames: number;
  readonly fps: number;
  readonly seconds: number;
  readonly units: Units;
  readonly up: UpAxis;
  readonly facingDeg: number;
  readonly statureM: number;
  readonly freeFall: FreeFall;
  readonly warnings: readonly Warning[];
}

/** What the owner of a take knows better than its file. */
export interface TakeOverrides {
  readonly fps?: number;
  readonly metresPerUnit?: number;
}

/** The passport of a take, the take in metres with Y up, and what its gait is (null when it is not a person). */
export function describeTake(take: Take, overrides: TakeOverrides = {}): { passport: Passport; motion: Motion; gait: Gait | null } {
  const up = findUp(take.motion);
  const upright = up === '+y' ? take.motion : toMetres(take.motion, { metresPerUnit: 1, up });
  const found = findUnits(upright);
  const units: Units =
    overrides.metresPerUnit === undefined
      ? found
      : { metresPerUnit: overrides.metresPerUnit, unit: 'custom', confidence: 1, reason: 'Set by hand.' };
  const motion = toMetres(take.motion, { metresPerUnit: units.metresPerUnit, up, fps: overrides.fps });
  const walked = gait(motion);
  const warnings = [...take.warnings];
  if (units.confidence < 0.5) warnings.push({ code: 'units', message: units.reason });
  if (up !== '+y') warnings.push({ code: 'up-axis', message: `The file has ${up} up; it is turned to Y up.` });
  if (!walked)
    warnings.push({
      code: 'no-legs',
      message: 'No two legs were found: there are no contacts, and loops are matched on all joints alike.',
    });
  return {
    passport: {
      name: take.name,
      format: take.format,
      joints: motion.skeleton.joints.length,
      jointNames: motion.skeleton.joints.map((joint) => joint.name),
      frames: motion.frames,
      fps: motion.fps,
      seconds: motion.frames / motion.fps,
      units,
      up,
      facingDeg: walked ? wrapAngle(walked.headings[0]) * DEGREES : 0,
      statureM: statureOf(motion),
      freeFall: freeFall(walked),
      warnings,
    },
    motion,
    gait: walked,
  };
}
