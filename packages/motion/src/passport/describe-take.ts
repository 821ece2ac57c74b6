import { DEGREES, wrapAngle } from '../math/angles';
import { findFlights } from '../measure/flights';
import { freeFall, type FreeFall } from '../measure/free-fall';
import { groundwork, type Groundwork } from '../measure/groundwork';
import { statureOf } from '../measure/stature';
import { findUnits, type Units } from '../measure/units';
import { NOT_A_PERSON } from '../anatomy/body';
import { bodyOf } from '../anatomy/body-of';
import { foldAbove, topOfBody } from '../anatomy/fold-root';
import { missingParts } from '../anatomy/missing';
import { restMotion, type Motion } from '../model/motion';
import { applyOverrides, settleBody, type TakeOverrides, type TakeReading } from './overrides';
import { skeletonSignature } from '../model/signature';
import type { Take, UpAxis } from '../model/take';
import { findUp, toMetres } from './to-metres';
import { findWarnings, reasonsOf, type Findings, type Reasons, type TakeWarning } from './words';

/** What a take is, worked out from the take itself and what its owner overruled. */
export interface Passport {
  readonly name: string;
  readonly format: Take['format'];
  /** The animation's name, of a file that has several. */
  readonly part?: string;
  /** Tells one suit's skeletons from another's. */
  readonly signature: string;
  readonly joints: number;
  readonly jointNames: readonly string[];
  readonly frames: number;
  readonly fps: number;
  readonly seconds: number;
  readonly units: Units;
  readonly up: UpAxis;
  readonly facingDeg: number;
  readonly statureM: number;
  /** One standard deviation to either side; left out of passports from before it was told. */
  readonly staturePlusMinusM?: number;
  readonly freeFall: FreeFall;
  /** What is measured before the take is moved, turned or put on the floor. */
  readonly reading: TakeReading;
  /** Parts of a person that the skeleton lacks. */
  readonly missing: readonly string[];
  /** Why each line says what it says. */
  readonly reasons: Reasons;
  readonly warnings: readonly TakeWarning[];
}

/** Units that a format prescribes, or that its files usually have. */
const HINTS: Partial<Record<Take['format'], Units['unit']>> = { 'asf-amc': 'in/0.45' };

const USUAL_STATURE = 1.75;
const NO_FALL: FreeFall = {
  flights: 0,
  medianMps2: null,
  errorMps2: null,
  verdict: 'no-flights',
  suggestion: null,
  sentence: `${NOT_A_PERSON} So there are no flights.`,
};

/** A take, described: its passport, the take as everything downstream sees it (metres, Y up), and what its gait is. */
export interface DescribedTake {
  readonly passport: Passport;
  readonly motion: Motion;
  /** Null when it is not a person. Worked out when it is first asked for. */
  readonly ground: Groundwork | null;
}

/**
 * The passport of a take, the take as everything downstream sees it (metres, Y up), and what its gait is (null when it is not a
 * person).
 *
 * @example
 * describeTake(take).passport.units.unit; // 'cm'
 */
export const describeTake = (take: Take, overrides: TakeOverrides = {}): DescribedTake => takeDescriber(take)(overrides);

/**
 * Describes a take with one thing overruled after another. What only says where it stands (the floor at zero, the start at the origin), which way it
 * faces and at which rate it goes on is described from what was measured the time before.
 *
 * @example
 * const describe = takeDescriber(take);
 * describe({}).passport.reading.floorM === describe({ floorToZero: true }).passport.reading.floorM; // true
 */
export function takeDescriber(take: Take): (overrides: TakeOverrides) => DescribedTake {
  let last: { readonly key: string; readonly measured: Measured } | null = null;
  return (overrides) => {
    const { up, metresPerUnit, fps, body } = overrides;
    const key = JSON.stringify([up, metresPerUnit, fps, body]);
    last = last?.key === key ? last : { key, measured: measureTake(take, overrides) };
    return describeMeasured(take, overrides, last.measured);
  };
}

/** What is measured of a take as it stands, before it is moved or resampled. */
interface Measured extends Findings {
  readonly asRead: Motion;
  readonly walked: Groundwork | null;
}

function measureTake(take: Take, overrides: TakeOverrides): Measured {
  // glTF is Y up and in metres by its specification, whatever its figures do.
  const foundUp = take.format === 'gltf' ? '+y' : findUp(take.motion);
  const up = overrides.up ?? foundUp;
  const upright = up === '+y' ? take.motion : toMetres(take.motion, { metresPerUnit: 1, up });
  const found = take.format === 'gltf' ? unitsOfGltf(upright) : findUnits(upright, HINTS[take.format]);
  const units: Units =
    overrides.metresPerUnit === undefined
      ? found
      : { metresPerUnit: overrides.metresPerUnit, unit: 'custom', confidence: 1, reason: 'Set by hand.' };
  // Measured as it stands, before it is moved or resampled: thresholds and flights want the frames that were recorded.
  const whole = toMetres(take.motion, { metresPerUnit: units.metresPerUnit, up, fps: overrides.fps });
  const top = topOfBody(whole.skeleton, bodyOf(whole));
  const asRead = settleBody(foldAbove(whole, top), overrides);
  const walked = groundwork(asRead);
  const stature = statureOf(upright);
  const statureUnits = stature.units;
  const reading: TakeReading = {
    metresPerUnit: found.metresPerUnit,
    up: foundUp,
    facing: walked ? wrapAngle(walked.headings[0]) : 0,
    origin: [asRead.rootPositions[0], asRead.rootPositions[2]],
    floorM: walked?.soles.floor ?? 0,
    ...(top > 0 && { top }),
  };
  // Soles and floors are found by centimetres: at a scale that makes nobody of usual size, flights are looked for at one that does.
  const usual = USUAL_STATURE / statureUnits;
  const isFar = Math.abs(Math.log(units.metresPerUnit / usual)) > 0.4;
  const sized = isFar ? groundwork(foldAbove(toMetres(take.motion, { metresPerUnit: usual, up, fps: overrides.fps }), top)) : walked;
  const fall: FreeFall = sized
    ? freeFall(findFlights(sized.globals, sized.body, sized.soles), {
        fps: asRead.fps,
        units,
        flightsPerUnit: isFar ? usual : units.metresPerUnit,
        statureUnits,
      })
    : NO_FALL;
  return { units, up, stature, fall, reading, body: walked?.body ?? null, asRead, walked };
}

function describeMeasured(take: Take, overrides: TakeOverrides, measured: Measured): DescribedTake {
  const { units, up, stature, fall, reading, body, asRead, walked } = measured;
  const motion = isMoved(overrides, asRead.fps)
    ? applyOverrides(take.motion, reading, { ...overrides, metresPerUnit: units.metresPerUnit, up })
    : asRead;
  let ground: { readonly is: Groundwork | null } | undefined;
  const facing = overrides.faceForward ? 0 : reading.facing;
  return {
    passport: {
      name: take.name,
      format: take.format,
      part: take.part,
      signature: skeletonSignature(motion.skeleton),
      joints: take.motion.skeleton.joints.length,
      jointNames: take.motion.skeleton.joints.map((joint) => joint.name),
      frames: motion.frames,
      fps: motion.fps,
      seconds: motion.frames / motion.fps,
      units,
      up,
      facingDeg: facing * DEGREES,
      statureM: stature.units * units.metresPerUnit,
      staturePlusMinusM: stature.plusMinus * units.metresPerUnit,
      freeFall: fall,
      reading,
      missing: missingParts(motion.skeleton, body),
      reasons: reasonsOf(take, overrides, measured),
      warnings: [...take.warnings, ...findWarnings(take, overrides, measured)],
    },
    motion,
    get ground() {
      return (ground ??= { is: motion === asRead ? walked : groundwork(motion) }).is;
    },
  };
}

/** Somebody at rest is no smaller and no larger than this, metres, in a file whose unit is the metre. */
const BELIEVED = [0.3, 4] as const;

/** The unit of a glTF file: metres, as it must be, unless nobody could be as small or as large. Its rest pose tells, which all its animations share. */
function unitsOfGltf(motion: Motion): Units {
  const { units: stature } = statureOf(restMotion(motion.skeleton));
  const isPerson = bodyOf(motion) !== null;
  if (!isPerson || !(stature > 0) || (stature > BELIEVED[0] && stature < BELIEVED[1])) {
    return { metresPerUnit: 1, unit: 'm', confidence: 1, reason: 'glTF is in metres by its specification.' };
  }
  const found = findUnits(restMotion(motion.skeleton));
  return { ...found, reason: `${found.reason} In metres, as glTF has it, it would be ${stature.toPrecision(2)} m tall.` };
}

const isMoved = ({ faceForward, startAtOrigin, floorToZero, conform }: TakeOverrides, fps: number): boolean =>
  Boolean(faceForward || startAtOrigin || floorToZero || (conform !== undefined && Math.abs(conform / fps - 1) > 1e-6));
