import { z } from 'zod';
import { DEGREES } from '../math/angles';
import { cleanMotion, flawsOf, isFilled } from '../edit/clean-motion';
import { driftOf, straighten } from '../edit/straighten';
import { floorDrift } from '../find/floor-drift';
import { proposeAnchors, type AnchorProposal } from '../find/anchors';
import { worldMotion, type Clip } from '../model/clip';
import { mapFrame } from '../model/frame-map';
import { joinMotions } from '../model/join';
import { alignSigns, cutMotion, type Motion } from '../model/motion';
import { shakeMm } from '../measure/shake';
import { swapSides } from '../anatomy/side-names';
import { defineStep, stepObject } from './definition';

const frame = z.int().min(0).max(1e7);
/** What a place of the root is called among the joints. */
const ROOT = 'the way';

const schema = stepObject('clean', {
  /** Single and few frames that are off are put where both sides lead. */
  spikes: z.boolean().default(true),
  /** Spikes that are movement after all, by joint and first frame of the clip; the hips' way is called “the way”. */
  keep: z
    .array(z.object({ joint: z.string().min(1).max(200), frame }))
    .max(2000)
    .default([]),
  /** Rotations of a sensor that was not heard for half a second at the most are filled in. */
  gaps: z.boolean().default(true),
  /** How much noise is believed in, as a factor of what was found in the stillest moments; 0 leaves it. */
  jitter: z.number().min(0).max(3).default(1),
  /** A floor that rises or sinks slowly and steadily under the performer is made level; steps and stairs are left. */
  floor: z.boolean().default(false),
  /** Frames of the clip in which the performer faced the same way, or stood on the same mark: the suit's north is turned back between them. */
  drift: z.object({ by: z.enum(['facing', 'mark']).default('facing'), frames: z.array(frame).max(200).default([]) }).prefault({}),
});
export type CleanParams = z.infer<typeof schema>;

/**
 * Takes out what the suit got wrong and nobody did: spikes, gaps, noise, a heading that drifts; in this order. The movement keeps its instant and its
 * edges.
 */
export const clean = defineStep(schema, {
  title: 'Clean',
  about: 'Spikes, gaps and jitter of the suit taken out; a heading that drifts turned back.',
  stages: ['body', 'ground'],
  corrects: true,
  create: () => ({}),
  mapTime: (step, time) => ({
    ...step,
    keep: step.keep.map((own) => ({ ...own, frame: mapFrame(time, own.frame) })),
    drift: { ...step.drift, frames: step.drift.frames.map((own) => mapFrame(time, own)) },
  }),
  otherSide: (step) => ({ ...step, keep: step.keep.map((own) => ({ ...own, joint: swapSides(own.joint) })) }),
  report: (before, after) => ({ label: 'jitter', unit: 'mm', digits: 2, before: shakeMm(before.motion), after: shakeMm(after.motion) }),
  apply(clip, params) {
    if (clip.loop || clip.travel) return clip;
    const { whole, start } = wholeOf(clip);
    const isKept = keeps(whole, params, start);
    const cleaned = cleanMotion(whole, {
      spike: (joint, spike) => params.spikes && !isKept(joint, spike.from),
      gaps: params.gaps,
      jitter: params.jitter,
    });
    const drift = driftOf(cleaned, { by: params.drift.by, frames: params.drift.frames.map((own) => own + start) });
    const straight = drift ? straighten(cleaned, drift, start) : cleaned;
    if (params.floor) levelFloor(straight, floorDrift(whole), start);
    alignSigns(straight);
    const cut = (from: number, to: number) => (to >= from ? cutMotion(straight, from, to) : null);
    return {
      ...clip,
      motion: cutMotion(straight, start, start + clip.motion.frames - 1),
      lead: clip.lead && cut(0, start - 1),
      tail: clip.tail && cut(start + clip.motion.frames, whole.frames - 1),
      contacts: undefined,
    };
  },
});

/** In place. @param rate metres a second by which the floor rises @param still the frame whose height stays what it is */
function levelFloor({ rootPositions, frames, fps }: Motion, rate: number, still: number): void {
  for (let f = 0; f < frames; f++) rootPositions[f * 3 + 1] -= (rate * (f - still)) / fps;
}

/**
 * How fast the floor rises in a clip as it comes into a `clean` step, metres a second.
 *
 * @example
 * Math.abs(cleanFloorRate(cutClip(motion, 0, motion.frames - 1))) < 0.002; // true
 */
export const cleanFloorRate = (clip: Clip): number => floorDrift(wholeOf(clip).whole);

/**
 * Instants of a clip that may have been alike, for turning a heading's drift back.
 *
 * @example
 * cleanAnchors(cutClip(motion, 0, motion.frames - 1)).every(({ frames }) => frames.length > 1); // true
 */
export const cleanAnchors = (clip: Clip): AnchorProposal[] => proposeAnchors(worldMotion(clip));

const wholes = new WeakMap<Clip, { whole: Motion; start: number }>();

/** The clip with what is known before and after it, in one piece: what is wrong at its ends shows only beside what lies beyond them. */
function wholeOf(clip: Clip): { whole: Motion; start: number } {
  const held = wholes.get(clip);
  if (held) return held;
  const { lead, motion, tail } = clip;
  const made = {
    whole: lead || tail ? joinMotions([...(lead ? [lead] : []), motion, ...(tail ? [tail] : [])]) : motion,
    start: lead?.frames ?? 0,
  };
  wholes.set(clip, made);
  return made;
}

function keeps({ skeleton }: Motion, { keep }: CleanParams, start: number): (joint: number, frame: number) => boolean {
  const kept = new Set(keep.map((own) => `${own.joint} ${own.frame + start}`));
  return (joint, at) => kept.has(`${joint < 0 ? ROOT : skeleton.joints[joint].name} ${at}`);
}

/** A spike or a gap of a clip, as its card lists it; frames of the clip. */
export interface CleanFinding {
  readonly kind: 'spike' | 'gap';
  readonly joint: string;
  readonly from: number;
  /** The first frame after it. */
  readonly to: number;
  /** How far a spike stands off: degrees, or centimetres of the way. */
  readonly off: number;
  readonly unit: '°' | 'cm';
  /** Set right, or kept as it is. */
  readonly isMended: boolean;
}

/**
 * What a `clean` step finds in a clip, the worst first.
 *
 * @param clip as it comes into the step
 */
export function cleanFindings(clip: Clip, params: CleanParams): CleanFinding[] {
  const { whole, start } = wholeOf(clip);
  const { joints, root } = flawsOf(whole);
  const isKept = keeps(whole, params, start);
  const isIn = ({ from, to }: { readonly from: number; readonly to: number }) => to > start && from < start + clip.motion.frames;
  const found = joints.flatMap(({ spikes, gaps }, j): CleanFinding[] => {
    const joint = whole.skeleton.joints[j].name;
    const own = { joint, unit: '°' as const };
    return [
      ...spikes.filter(isIn).map((spike) => ({
        ...own,
        kind: 'spike' as const,
        from: spike.from - start,
        to: spike.to - start,
        off: spike.off * DEGREES,
        isMended: params.spikes && !isKept(j, spike.from),
      })),
      ...gaps.filter(isIn).map((gap) => ({
        ...own,
        kind: 'gap' as const,
        from: gap.from - start,
        to: gap.to - start,
        off: 0,
        isMended: params.gaps && isFilled(gap, whole.fps),
      })),
    ];
  });
  const ways = root.spikes.filter(isIn).map((spike): CleanFinding => ({
    kind: 'spike',
    joint: ROOT,
    from: spike.from - start,
    to: spike.to - start,
    off: spike.off * 100,
    unit: 'cm',
    isMended: params.spikes && !isKept(-1, spike.from),
  }));
  const badness = ({ kind, off, from, to, isMended }: CleanFinding) => (kind === 'gap' ? (isMended ? 0 : 1e3) + (to - from) : off);
  return [...found, ...ways].sort((a, b) => badness(b) - badness(a));
}
