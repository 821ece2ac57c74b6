import { createMotion, slerp, type Contacts, type Motion } from '@lantern/motion';
import { addFaults } from './faults';
import { figure } from './figure';
import { floorPath } from './path';
import { perform } from './performer';
import { FINE, plan, type Stance } from './plan';
import { random } from './random';
import { scriptFor, type ScriptName } from './scripts';

export interface CaptureOptions {
  readonly seconds?: number;
  readonly fps?: number;
  readonly seed?: number;
  /** 0 none, 1 the usual faults of a suit. */
  readonly faults?: number;
  /** Metres. */
  readonly stature?: number;
}

const DEFAULTS: Required<CaptureOptions> = { seconds: 20, fps: 60, seed: 1, faults: 1, stature: 1.78 };

/** What is known because it was made: contacts in frames, speed, strides, and the motion without faults. */
export interface Truth extends Contacts {
  readonly metresPerUnit: number;
  /** Mean speed along the path while on the way. */
  readonly speedMps: number;
  readonly strides: number;
  readonly script: ScriptName;
  readonly seed: number;
  readonly faults: number;
  readonly motion: Motion;
}

/** Plays a script in the simulated suit. */
export function capture(name: ScriptName, options: CaptureOptions = {}): { motion: Motion; truth: Truth } {
  const { seconds, fps, seed, faults, stature } = { ...DEFAULTS, ...options };
  const script = scriptFor(name, seconds);
  const body = figure(stature);
  const source = random(seed);
  const path = floorPath(script.path);
  const steps = plan(script.legs, path, source);
  const start = script.margin * FINE;
  const end = script.margin > 0 ? start + seconds * FINE : steps.samples - 1;
  const frames = Math.floor(((end - start) / FINE) * fps) + 1;
  const instants = Array.from({ length: frames }, (_, f) => start + (f * FINE) / fps);
  const wanted = [...new Set(instants.flatMap((t) => [Math.floor(t + 1e-9), Math.min(steps.samples - 1, Math.ceil(t - 1e-9))]))];
  const clean = readOff(perform(body, steps, path, source, wanted), wanted, instants, fps);
  const inFrames = (sample: number) => Math.min(frames, Math.max(0, Math.ceil(((sample - start) / FINE) * fps - 1e-9)));
  const intervals = (side: Stance['side']) =>
    steps.stances
      .filter((stance) => stance.side === side)
      .map((stance) => ({ from: inFrames(stance.strike), to: inFrames(stance.off) }))
      .filter(({ from, to }) => to > from)
      .sort((a, b) => a.from - b.from);
  const last = Math.min(steps.samples - 1, end);
  const moving = steps.speed.subarray(start, last + 1).filter((v) => v > 0.05).length / FINE;
  return {
    motion: faults > 0 ? addFaults(clean, seed, faults) : clean,
    truth: {
      fps,
      floorM: 0,
      left: intervals('left'),
      right: intervals('right'),
      metresPerUnit: 0.01,
      speedMps: moving > 0 ? (steps.distance[last] - steps.distance[start]) / moving : 0,
      strides: Math.floor(steps.phase[last] - steps.phase[start]),
      script: name,
      seed,
      faults,
      motion: clean,
    },
  };
}

/** Frames at some instants: exact where those are fine samples, else a slerp over less than a five-hundredth of a second. */
function readOff(fine: Motion, samples: readonly number[], instants: readonly number[], fps: number): Motion {
  const joints = fine.skeleton.joints.length;
  const out = createMotion(fine.skeleton, fps, instants.length);
  const frameOf = new Map(samples.map((sample, f) => [sample, f]));
  instants.forEach((t, f) => {
    const low = Math.floor(t + 1e-9);
    const a = frameOf.get(low) ?? 0;
    const b = frameOf.get(low + 1) ?? a;
    const u = Math.max(0, t - low);
    for (let k = 0; k < 3; k++) {
      out.rootPositions[f * 3 + k] = fine.rootPositions[a * 3 + k] * (1 - u) + fine.rootPositions[b * 3 + k] * u;
    }
    for (let j = 0; j < joints; j++) {
      slerp(out.rotations, (f * joints + j) * 4, fine.rotations, (a * joints + j) * 4, fine.rotations, (b * joints + j) * 4, u);
    }
  });
  return out;
}
