import { randomUUID } from 'node:crypto';
import {
  addFaults,
  capture,
  driftHeading,
  dropouts,
  freezeDropouts,
  MOODS,
  SCRIPTS,
  SENSORS,
  type Dropout,
  type SuitPhase,
  type SuitSettings,
  type SuitStatus,
} from '@lantern/capture';
import { createMotion, cutMotion, fromAxisAngle, InputError, slerp, writeBvh, type Motion, type Skeleton, RADIANS } from '@lantern/motion';
import { z } from 'zod';

/** What the capture desk sets: who wears the suit, what he does, and what the suit gets wrong. */
export const suitSettingsSchema = z.object({
  stature: z.number().min(1).max(2.3).default(1.78),
  gloves: z.boolean().default(false),
  script: z.enum(SCRIPTS).default('walk'),
  seconds: z.number().min(3).max(120).default(20),
  /** Of scripts that go at one speed; null leaves it to the script. */
  speed: z.number().min(0.2).max(4.5).nullable().default(null),
  mood: z.enum(MOODS).nullable().default(null),
  jitter: z.number().min(0).max(10).default(1),
  /** Degrees a minute. */
  drift: z.number().min(0).max(60).default(4),
  floorCm: z.number().min(-20).max(20).default(2),
  /** Sensors lost a minute. */
  dropped: z.number().min(0).max(30).default(0),
}) satisfies z.ZodType<SuitSettings>;

export const SUIT_FPS = 60;
const COUNTDOWN = 5;
/** A suit that nobody has looked at for this long is switched off, and there are never more than this many. */
const IDLE_MS = 10 * 60_000;
const MOST_SUITS = 8;

interface Suit {
  readonly id: string;
  settings: SuitSettings;
  phase: SuitPhase;
  /** When the phase began, ms. */
  since: number;
  calibrated: number | null;
  seed: number;
  idle: Motion;
  neutral: Motion;
  performance: Motion | null;
  drops: readonly Dropout[];
  recordedFrames: number;
  seen: number;
}

// One map for all route bundles of the server.
const shared = globalThis as typeof globalThis & { lanternSuits?: Map<string, Suit> };
const suits = (shared.lanternSuits ??= new Map<string, Suit>());

/** Switches a suit on: the performer stands and waits. */
export function connectSuit(settings: SuitSettings): { id: string; skeleton: Skeleton } {
  const now = Date.now();
  for (const [id, suit] of suits) if (now - suit.seen > IDLE_MS) suits.delete(id);
  if (suits.size >= MOST_SUITS)
    throw new InputError('suits', `There are ${MOST_SUITS} suits on already: close another capture desk first.`);
  const suit: Suit = {
    id: randomUUID(),
    settings,
    phase: 'waiting',
    since: now,
    calibrated: null,
    seed: seedOf(now),
    ...dressed(settings),
    performance: null,
    drops: [],
    recordedFrames: 0,
    seen: now,
  };
  suits.set(suit.id, suit);
  return { id: suit.id, skeleton: suit.idle.skeleton };
}

export const disconnectSuit = (id: string): boolean => suits.delete(id);

const seedOf = (now: number): number => (now % 4294967296) >>> 0;

/** By stature, with gloves and without: the same performer waits in the same way. */
const wardrobe = new Map<string, { readonly idle: Motion; readonly neutral: Motion }>();

/** Somebody of that stature, waiting and in the neutral pose: upright, arms straight down. */
function dressed({ stature, gloves }: SuitSettings): { idle: Motion; neutral: Motion } {
  const key = `${stature} ${gloves}`;
  const worn = wardrobe.get(key);
  if (worn) return worn;
  if (wardrobe.size >= MOST_SUITS) wardrobe.clear();
  const idle = capture('idle', { seconds: 30, stature, gloves, faults: 0, seed: 3 }).motion;
  const { skeleton } = idle;
  const neutral = createMotion(skeleton, SUIT_FPS, 1);
  neutral.rootPositions.set(skeleton.joints[0].offset);
  for (const [name, sign] of [
    ['LeftArm', -1],
    ['RightArm', 1],
  ] as const) {
    const j = skeleton.joints.findIndex((joint) => joint.name === name);
    neutral.rotations.set(fromAxisAngle([0, 0, 1], sign * 1.48), j * 4);
  }
  wardrobe.set(key, { idle, neutral });
  return { idle, neutral };
}

/** @throws InputError when there is no such suit, or it cannot do that now */
export function commandSuit(id: string, command: 'calibrate' | 'record' | 'stop' | 'discard'): void {
  const suit = suitOf(id);
  const now = Date.now();
  const go = (phase: SuitPhase) => {
    suit.phase = phase;
    suit.since = now;
  };
  if (command === 'calibrate') {
    if (suit.phase === 'recording') throw new InputError('suit', 'The suit is recording: stop it first.');
    go('countdown');
  } else if (command === 'record') {
    if (suit.calibrated === null) throw new InputError('suit', 'The suit is not calibrated yet.');
    if (suit.phase !== 'waiting') throw new InputError('suit', 'The last recording is neither kept nor discarded.');
    go('recording');
    perform(suit);
    // Working the performance out takes a moment, in which nobody has moved yet.
    suit.since = Date.now();
  } else if (command === 'stop') {
    if (suit.phase !== 'recording') return;
    suit.recordedFrames = Math.min(suit.performance?.frames ?? 0, Math.floor(((now - suit.since) / 1000) * SUIT_FPS) + 1);
    go('stopped');
  } else {
    suit.performance = null;
    go('waiting');
  }
}

/** New settings. Another stature is another performer, and who has put on gloves or taken them off has other sensors: both must be calibrated. */
export function setSuit(id: string, settings: SuitSettings): { skeleton: Skeleton } {
  const suit = suitOf(id);
  if (suit.phase === 'recording') throw new InputError('suit', 'The suit is recording: stop it first.');
  if (settings.stature !== suit.settings.stature || settings.gloves !== suit.settings.gloves) {
    Object.assign(suit, dressed(settings));
    suit.calibrated = null;
  }
  suit.settings = settings;
  return { skeleton: suit.idle.skeleton };
}

/** What is recorded and not yet kept, as a BVH. @throws InputError when there is nothing */
export function recordingOf(id: string): Uint8Array {
  const { performance, recordedFrames, phase } = suitOf(id);
  if (phase !== 'stopped' || !performance) throw new InputError('suit', 'There is nothing recorded.');
  return new TextEncoder().encode(writeBvh(cutMotion(performance, 0, Math.max(1, recordedFrames) - 1)));
}

function suitOf(id: string): Suit {
  const suit = suits.get(id);
  if (!suit) throw new InputError('suit', 'The suit is switched off: connect it again.');
  suit.seen = Date.now();
  return suit;
}

/** Plays the script anew and adds what the suit gets wrong by now. */
function perform(suit: Suit): void {
  const { script, seconds, speed, mood, stature, gloves, jitter, drift, floorCm, dropped } = suit.settings;
  suit.seed = (suit.seed + 1) >>> 0;
  const clean = capture(script, {
    seconds,
    speed: speed ?? undefined,
    mood: mood ? { [mood]: 1 } : undefined,
    stature,
    gloves,
    seed: suit.seed,
    uneven: 1,
    fps: SUIT_FPS,
    faults: 0,
  }).motion;
  const shaken = addFaults(clean, suit.seed, 1, {
    jitterDegrees: 0.12 * jitter,
    jitterMetres: 0.0008 * jitter,
    headingDrift: 0,
    floor: Math.abs(floorCm) / 100,
    floorDrift: 0,
    skate: 0,
  });
  // The north that the suit believes in has wandered since it was calibrated, and wanders on.
  const motion = driftHeading(shaken, driftOf(suit, suit.since) * RADIANS, (drift / 60) * RADIANS);
  suit.drops = dropouts(motion.frames, SUIT_FPS, dropped, suit.seed);
  freezeDropouts(motion, suit.drops);
  suit.performance = motion;
}

/** How far the suit's north has turned since it was calibrated, degrees. */
const driftOf = ({ calibrated, settings }: Suit, now: number): number =>
  calibrated === null ? 0 : ((now - calibrated) / 60_000) * settings.drift;

/** The suit at this moment: its state, and its pose as root place and rotations. */
export function readSuit(id: string): { status: SuitStatus; pose: Float32Array } {
  const suit = suitOf(id);
  const now = Date.now();
  const seconds = (now - suit.since) / 1000;
  if (suit.phase === 'countdown' && seconds >= COUNTDOWN) {
    suit.calibrated = now;
    suit.phase = 'waiting';
    suit.since = now;
  }
  const frame = Math.floor(seconds * SUIT_FPS);
  const length = suit.performance?.frames ?? 0;
  const lost =
    suit.phase === 'recording' ? suit.drops.filter(({ from, to }) => frame >= from && frame < to).map(({ sensor }) => sensor) : [];
  return {
    pose: poseOf(suit, seconds, now),
    status: {
      phase: suit.phase,
      calibratedSeconds: suit.calibrated === null ? null : (now - suit.calibrated) / 1000,
      countdown: suit.phase === 'countdown' ? Math.max(0, Math.ceil(COUNTDOWN - seconds)) : 0,
      recordedSeconds:
        suit.phase === 'recording' ? Math.min(seconds, length / SUIT_FPS) : suit.phase === 'stopped' ? suit.recordedFrames / SUIT_FPS : 0,
      driftDeg: driftOf(suit, now),
      sensors: SENSORS.map((name) => ({ name, isHeard: !lost.includes(name) })),
      isDone: suit.phase === 'recording' && frame >= length,
    },
  };
}

const BLEND = 0.5;

function poseOf(suit: Suit, seconds: number, now: number): Float32Array {
  const { performance, idle, neutral } = suit;
  const idleFrame = Math.floor((now / 1000) * SUIT_FPS) % idle.frames;
  if (suit.phase === 'countdown') return blend(rowOf(idle, idleFrame), rowOf(neutral, 0), Math.min(1, seconds / BLEND));
  if ((suit.phase === 'recording' || suit.phase === 'stopped') && performance) {
    const last = suit.phase === 'stopped' ? suit.recordedFrames - 1 : performance.frames - 1;
    return rowOf(performance, Math.max(0, Math.min(last, Math.floor(seconds * SUIT_FPS + (suit.phase === 'stopped' ? 1e6 : 0)))));
  }
  return suit.calibrated !== null && seconds < BLEND
    ? blend(rowOf(neutral, 0), rowOf(idle, idleFrame), seconds / BLEND)
    : rowOf(idle, idleFrame);
}

function rowOf(motion: Motion, frame: number): Float32Array {
  const joints = motion.skeleton.joints.length;
  const row = new Float32Array(3 + joints * 4);
  row.set(motion.rootPositions.subarray(frame * 3, frame * 3 + 3));
  row.set(motion.rotations.subarray(frame * joints * 4, (frame + 1) * joints * 4), 3);
  return row;
}

function blend(a: Float32Array, b: Float32Array, t: number): Float32Array {
  const out = new Float32Array(a.length);
  for (let k = 0; k < 3; k++) out[k] = a[k] + (b[k] - a[k]) * t;
  for (let i = 3; i < a.length; i += 4) slerp(out, i, a, i, b, i, t);
  return out;
}
