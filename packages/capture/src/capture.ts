import { createMotion, forwardKinematics, normalize, rotate, slerp, type Contacts, type Motion, random } from '@lantern/motion';
import { addFaults } from './faults';
import { figure } from './figure';
import { withFingers } from './gloves';
import { floorPath, type FloorPath, type Kerb } from './path';
import { labelsOf, type Label } from './labels';
import { perform } from './performer';
import { inMood, personOf, type Mood, type Person } from './person';
import { plan } from './plan';
import { FINE, type Plan, type Stance } from './plan-data';
import type { ScriptName } from './script-names';
import { scriptFor, type Script } from './scripts';

export interface CaptureOptions {
  readonly seconds?: number;
  readonly fps?: number;
  readonly seed?: number;
  /** 0 none, 1 the usual faults of a suit. */
  readonly faults?: number;
  /** Metres. */
  readonly stature?: number;
  /** Metres a second, of the scripts that go at one speed. */
  readonly speed?: number;
  /** The suit infers the height of the hips: the lowest foot is always on the floor, so that nothing ever falls. */
  readonly rootByFeet?: boolean;
  /** What the suit gets wrong, by a seed of its own: the same performance solved anew has another. */
  readonly solve?: number;
  /** How much one stride differs from another: 0 not at all, 1 as those of people do (2 %). */
  readonly uneven?: number;
  /** The suit has gloves: three joints a finger. What the body does is the same without. */
  readonly gloves?: boolean;
  /** How the performer feels; as usual unless it is said. */
  readonly mood?: Partial<Mood>;
}

const DEFAULTS: Required<Omit<CaptureOptions, 'speed' | 'solve' | 'mood'>> = {
  seconds: 20,
  fps: 60,
  seed: 1,
  faults: 1,
  stature: 1.78,
  rootByFeet: false,
  gloves: false,
  uneven: 0,
};

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
  /** What is done when. */
  readonly labels: readonly Label[];
}

/** Plays a script in the simulated suit. */
export function capture(name: ScriptName, options: CaptureOptions = {}): { motion: Motion; truth: Truth } {
  const settings = { ...DEFAULTS, ...options };
  const { motion, truth } = captureScript(scriptFor(name, settings.seconds, options.speed), options);
  return { motion, truth: { ...truth, script: name } };
}

/** Plays what somebody is asked to do, whatever it is. */
export function captureScript(script: Script, options: CaptureOptions = {}): { motion: Motion; truth: Omit<Truth, 'script'>; steps: Plan } {
  const { seconds, fps, seed, faults, stature, rootByFeet, gloves, uneven, solve = seed } = { ...DEFAULTS, ...options };
  const body = figure(stature);
  const person = personOf(seed, uneven, options.mood);
  const { path, steps } = planScript(script, seed, person);
  const start = script.margin * FINE;
  const end = script.margin > 0 ? start + seconds * FINE : steps.samples - 1;
  const frames = Math.floor(((end - start) / FINE) * fps) + 1;
  const instants = Array.from({ length: frames }, (_, f) => start + (f * FINE) / fps);
  if (script.backwards) instants.reverse();
  const fine = instants.flatMap((t) => [Math.floor(t + 1e-9), Math.min(steps.samples - 1, Math.ceil(t - 1e-9))]);
  const wanted = [...new Set(fine)].sort((a, b) => a - b);
  const clean = readOff(
    perform(body, steps, path, wanted, { person, random: random(seed ^ 0x1a4e), holds: script.holds }),
    wanted,
    instants,
    fps,
  );
  const faulty = faults > 0 ? addFaults(clean, solve, faults) : clean;
  const worn = { figure: body, seed, solve, mood: person.mood, holds: script.holds, at: instants.map((t) => t / FINE) };
  const gloved = (motion: Motion, factor: number) => (gloves ? withFingers(motion, { ...worn, faults: factor }) : motion);
  const inFrames = (sample: number) => Math.min(frames, Math.max(0, Math.ceil(((sample - start) / FINE) * fps - 1e-9)));
  const intervals = (side: Stance['side']) =>
    steps.stances
      .filter((stance) => stance.side === side)
      .map((stance) => ({ from: inFrames(stance.strike), to: inFrames(stance.off) }))
      .map(({ from, to }) => (script.backwards ? { from: frames - to, to: frames - from } : { from, to }))
      .filter(({ from, to }) => to > from)
      .sort((a, b) => a.from - b.from);
  const held = (side: Stance['side']) =>
    (script.holds ?? [])
      .filter((hold) => hold.side === side)
      .map(({ from, to }) => ({ from: inFrames(from * FINE), to: inFrames(to * FINE) }));
  const contacts = {
    fps,
    left: intervals('left'),
    right: intervals('right'),
    ...(script.holds && { leftHand: held('left'), rightHand: held('right') }),
  };
  const last = Math.min(steps.samples - 1, end);
  const moving = steps.speed.subarray(start, last + 1).filter((v) => v > 0.05).length / FINE;
  return {
    motion: gloved(rootByFeet ? dropToFloor(faulty) : faulty, faults),
    truth: {
      ...contacts,
      floorM: 0,
      metresPerUnit: 0.01,
      speedMps: moving > 0 ? (steps.distance[last] - steps.distance[start]) / moving : 0,
      strides: Math.floor(steps.phase[last] - steps.phase[start]),
      seed,
      faults,
      motion: gloved(clean, 0),
      labels: labelsOf(steps, path, contacts, instants),
    },
    steps,
  };
}

/** Plans a script; a kerb is put where its nearest gap between two footsteps is, for nobody stands on an edge. */
function planScript(script: Script, seed: number, person: Person): { path: FloorPath; steps: Plan } {
  const flat = floorPath(script.path);
  const style = inMood(script.style, person.mood);
  const steps = plan(script.legs, flat, random(seed), style, person);
  if (!script.kerbs) return { path: flat, steps };
  // The path of these scripts is straight along +Z until the last kerb.
  const feet = steps.stances.map((stance) => stance.z).sort((a, b) => a - b);
  const gaps = feet.slice(1).map((z, i) => ({ middle: (feet[i] + z) / 2 + 0.078, width: z - feet[i] }));
  // Two feet that stand side by side have no gap.
  const wide = gaps.filter(({ width }) => width > 0.35);
  const kerbs: Kerb[] = [];
  for (const { at, rise } of script.kerbs) {
    const next = wide.filter(({ middle }) => middle > (kerbs.at(-1)?.at ?? -Infinity) + 1e-6);
    kerbs.push({
      at: next.reduce((a, b) => (Math.abs(b.middle - at) < Math.abs(a.middle - at) ? b : a), next[0] ?? { middle: at }).middle,
      rise,
    });
  }
  const path = floorPath(script.path, kerbs);
  return { path, steps: plan(script.legs, path, random(seed), style, person) };
}

/** In every frame the lowest joint or end site of the feet on the floor, as suits without a sense of height have it. */
function dropToFloor(motion: Motion): Motion {
  const rootPositions = motion.rootPositions.slice();
  const { positions, rotations, joints } = forwardKinematics(motion);
  const feet = motion.skeleton.joints.map((joint, j) => ({ joint, j })).filter(({ joint }) => /Foot|Toes/.test(joint.name));
  const tip = [0, 0, 0];
  for (let f = 0; f < motion.frames; f++) {
    let low = Infinity;
    for (const { joint, j } of feet) {
      const at = f * joints + j;
      for (const site of [...joint.endSites, [0, -0.085, -0.055] as const]) {
        rotate(tip, 0, rotations, at * 4, site, 0);
        low = Math.min(low, positions[at * 3 + 1] + tip[1]);
      }
    }
    rootPositions[f * 3 + 1] -= low;
  }
  return { ...motion, rootPositions };
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
    if (u === 0) {
      const at = f * joints * 4;
      out.rotations.set(fine.rotations.subarray(a * joints * 4, (a + 1) * joints * 4), at);
      for (let j = 0; j < joints; j++) normalize(out.rotations, at + j * 4);
      return;
    }
    for (let j = 0; j < joints; j++) {
      slerp(out.rotations, (f * joints + j) * 4, fine.rotations, (a * joints + j) * 4, fine.rotations, (b * joints + j) * 4, u);
    }
  });
  return out;
}
