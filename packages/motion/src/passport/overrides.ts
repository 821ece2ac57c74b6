import { z } from 'zod';
import { answered } from '../anatomy/body';
import { bodyOf, withBody } from '../anatomy/body-of';
import { leading, moveFrames } from '../model/floor-transform';
import type { Body } from '../model/body';
import { foldAbove } from '../anatomy/fold-root';
import type { Motion } from '../model/motion';
import { resample } from '../model/resample';
import { toMetres } from './to-metres';
import type { UpAxis } from '../model/take';

/** What the owner of a take knows better than its file. Everything is optional; the take itself stays as it came. */
export const takeOverridesSchema = z.object({
  /** Metres to a unit of the file. */
  metresPerUnit: z.number().positive().max(1e4).optional(),
  /** The rate the frames were recorded at. */
  fps: z.number().min(1).max(1000).optional(),
  /** Resample to this rate, so that all takes of a day have one. */
  conform: z.number().min(1).max(1000).optional(),
  up: z.enum(['+x', '-x', '+y', '-y', '+z', '-z']).optional(),
  /** Turn the whole take so that it starts facing +Z. */
  faceForward: z.boolean().optional(),
  /** Move the whole take so that it starts over the origin. */
  startAtOrigin: z.boolean().optional(),
  /** Move the whole take so that the feet stand at height 0. */
  floorToZero: z.boolean().optional(),
  /** Answers to what is doubtful about the body: as it was found, or the other reading. */
  body: z.partialRecord(z.enum(['arms', 'legs', 'sides']), z.enum(['found', 'other'])).optional(),
});

export type TakeOverrides = z.infer<typeof takeOverridesSchema>;

/** How a take is to be read: what was worked out, and what was overruled. */
export interface TakeReading {
  readonly metresPerUnit: number;
  readonly up: UpAxis;
  /** Facing, place of the hips and floor at the start, as measured once scale and axes are right. */
  readonly facing: number;
  readonly origin: readonly [number, number];
  readonly floorM: number;
  /** The joint from which the body hangs, counted in the file; what stands above it is folded into it. Left out: the first. */
  readonly top?: number;
}

/**
 * The motion of a take as everything downstream sees it: metres, Y up, at its true rate, and moved or resampled as its owner wants.
 *
 * @param motion in file units, as it came in
 * @param body whose it is, where that is known, as from another part of the take; else it is found
 *
 * @example
 * const { passport } = describeTake(take);
 * applyOverrides(take.motion, passport.reading, { conform: 30 }).fps; // 30
 */
export function applyOverrides(motion: Motion, reading: TakeReading, overrides: TakeOverrides, body?: Body | null): Motion {
  const { metresPerUnit = reading.metresPerUnit, up = reading.up, fps } = overrides;
  const folded = foldAbove(toMetres(motion, { metresPerUnit, up, fps }), reading.top ?? 0);
  const result = body === undefined ? settleBody(folded, overrides) : withBody(folded, body);
  const { faceForward, startAtOrigin, floorToZero, conform } = overrides;
  const [x, z] = reading.origin;
  const turn = faceForward ? -reading.facing : 0;
  // About the place where the take starts.
  moveFrames(result, { ...leading({ x, z }, startAtOrigin ? { x: 0, z: 0 } : { x, z }, turn), y: floorToZero ? -reading.floorM : 0 });
  if (conform === undefined || Math.abs(conform / result.fps - 1) < 1e-6) return result;
  return resample(result, conformedFrames(result.frames, result.fps, conform), conform, { step: result.fps / conform });
}

/** The motion with its body settled: as it is found in the whole take, with what a person has answered. */
export function settleBody(motion: Motion, { body: answers = {} }: TakeOverrides): Motion {
  const found = bodyOf(motion);
  return withBody(motion, found && answered(found, answers));
}

/** How many frames a take has at another rate: those instants that lie within it. */
export const conformedFrames = (frames: number, fps: number, conform: number): number =>
  Math.floor(((frames - 1) * conform) / fps + 1e-6) + 1;
