import {
  cadence,
  cleanAnchors,
  cleanFindings,
  cleanFloorRate,
  clipContacts,
  handSlides,
  legChangeDeg,
  reportOf,
  thinnedKeys,
  speedChange,
  troublesOf,
  withContacts,
  type AnchorProposal,
  type CleanFinding,
  type Clip,
  type HandSlide,
  type SpeedChange,
  type StepClips,
  type StepOfKind,
  type StepReport,
} from '@lantern/motion';

/** Where contacts are in a cut: the frame of it that the clip begins with, and the cut's length. */
export interface ContactsIn {
  readonly start: number;
  readonly cycle: number;
}

/** What is said beside a step. */
export interface StepMeasured {
  readonly report: StepReport | null;
  /** What a speed asks of strides and time, and what that does to the legs. */
  readonly speed?: SpeedChange & { readonly legDeg: number };
  /** What a cleaning finds, the worst first. */
  readonly findings?: readonly CleanFinding[];
  /** Of a cleaning: instants that may have been alike, and how fast the floor rises, metres a second. */
  readonly anchors?: readonly AnchorProposal[];
  readonly floorRate?: number;
  /** What hands rest on. */
  readonly hands?: HandsMeasured;
  /** What of it cannot be done, in sentences; the rest of it is. */
  readonly troubles?: readonly string[];
  /** For every frame of the clip the frame that came into the step; null where there is no single one. */
  readonly frames?: Float64Array | null;
  /** The keys that the clip is written with. */
  readonly keys?: ThinnedView;
  /** The clip as it comes into a change of time. */
  readonly untimed?: Untimed;
}

/** What is left of a clip's keys. */
export interface ThinnedView {
  readonly frames: number;
  /** How many tracks have a key at each frame, of how many. */
  readonly counts: Uint16Array;
  readonly tracks: number;
  /** Where a point within 10 cm of a joint is furthest off: millimetres, the joint and the frame. */
  readonly worstMm: number;
  readonly joint: string;
  readonly at: number;
}

/** The rests of the hands of a clip, and where their frames are in its cut. */
export interface HandsMeasured {
  readonly contacts: readonly HandContact[];
  readonly contactsIn: ContactsIn | null;
}

/** A rest of a hand, and how far it slides there before it is held and after, cm. */
export interface HandContact extends HandSlide {
  readonly heldCm: number;
}

/** A clip in its own time: its frames, less one, its landings, and its steps a minute. */
export interface Untimed {
  readonly frames: number;
  readonly landings: readonly Landing[];
  readonly cadence: number | null;
}

/** A foot's first contact, frames. */
export interface Landing {
  readonly side: 'left' | 'right';
  readonly at: number;
}

export function untimedOf(clip: Clip): Untimed {
  const contacts = clipContacts(clip);
  const landings = (['left', 'right'] as const).flatMap((side) => (contacts?.[side] ?? []).map(({ from }) => ({ side, at: from })));
  return {
    frames: clip.motion.frames - 1,
    landings: landings.filter(({ at }) => at > 0 || clip.loop).sort((a, b) => a.at - b.at),
    cadence: cadence(clip, contacts),
  };
}

/** What is worked out for the steps that need it. */
export interface Asked {
  readonly frames: () => Float64Array | null;
  readonly contactsIn: () => ContactsIn | null;
}

/** What the card of a step says. */
export function measuredStep(clips: StepClips, asked: Asked): StepMeasured {
  const { step, before, after } = clips;
  const troubles = troublesOf(step, clips);
  return {
    report: reportOf(step, before, after),
    ...(troubles.length > 0 && { troubles }),
    ...(step.off ? {} : besideStep(clips, asked)),
  };
}

/** What only some kinds of step say. */
function besideStep({ step, before, after }: StepClips, { frames, contactsIn: within }: Asked): Omit<StepMeasured, 'report'> {
  switch (step.kind) {
    case 'clean':
      return { findings: cleanFindings(before, step), anchors: cleanAnchors(before), floorRate: cleanFloorRate(before) };
    case 'hand-lock':
      return { hands: { contacts: handContactsOf(step, before, after), contactsIn: within() } };
    case 'corrections':
      return { frames: frames() };
    case 'thin':
      return { keys: thinnedView(after) };
    case 'retime':
      return { untimed: untimedOf(before) };
    case 'speed': {
      const change = speedChange(before, step);
      return change ? { speed: { ...change, legDeg: legChangeDeg(before, after) } } : {};
    }
    default:
      return {};
  }
}

function handContactsOf(step: StepOfKind<'hand-lock'>, before: Clip, after: Clip): HandContact[] {
  const held = handSlides(after, step, before);
  return handSlides(before, step).map((own, i) => ({ ...own, heldCm: held[i]?.slideCm ?? own.slideCm }));
}

function thinnedView(clip: Clip): ThinnedView | undefined {
  const thinned = thinnedKeys(withContacts(clip));
  if (!thinned) return undefined;
  const { keys, worst } = thinned;
  const counts = new Uint16Array(clip.motion.frames);
  for (const frames of keys.values()) for (const f of frames) counts[f]++;
  return {
    ...{ frames: clip.motion.frames, counts, tracks: keys.size, worstMm: worst.metres * 1000, at: worst.frame },
    joint: clip.motion.skeleton.joints[worst.joint].name,
  };
}
