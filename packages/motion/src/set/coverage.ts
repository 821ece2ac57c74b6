import type { Clip } from '../model/clip';
import type { HomePose } from '../model/home-pose';
import type { ClipTraits } from './clip-traits';
import { slotSpeed } from './contract';
import { fills } from './fills';
import { homeEndsOf, type HomeEnd } from './home';
import { meetsLoop, type LoopMeeting } from './meets-loop';
import type { LocomotionSet } from './schema';
import { slotId, slotOnOtherSide, type Slot } from './slot';

/** A clip of a set as it is measured. */
export interface SetClip {
  /** What pins and reports call it. */
  readonly id: string;
  readonly name: string;
  readonly clip: Clip;
  readonly traits: ClipTraits;
}

/** Filled; two clips contend for it; a clip for its other side is there; nothing is. */
export type SlotState = 'filled' | 'doubted' | 'mirror' | 'missing';

export interface SlotReport {
  readonly id: string;
  readonly slot: Slot;
  readonly state: SlotState;
  /** The clip that fills it, or the one to be mirrored. */
  readonly clip: string | null;
  readonly isPinned: boolean;
  /** The other clips that could, best first, and why they are not the one. */
  readonly others: readonly { readonly clip: string; readonly why: string }[];
  readonly ends: readonly HomeEnd[];
  /** The worst of its ends, cm; null without a home pose, or where none meets it. */
  readonly homeCm: number | null;
  readonly loop: LoopMeeting | null;
  readonly speedMps: number | null;
  readonly askedMps: number | null;
  readonly turnDegS: number | null;
  /** Its one figure: of what has an end the distance from home, of a loop its seam. */
  readonly figure: { readonly cm: number; readonly isOut: boolean } | null;
}

export interface Coverage {
  readonly slots: readonly SlotReport[];
  /** `filled` counts those in doubt too; the three of them add up to the slots. */
  readonly counts: { readonly filled: number; readonly mirror: number; readonly missing: number; readonly doubted: number };
  /** Clips of the set that fill nothing. */
  readonly spare: readonly string[];
}

/**
 * What a set holds of what it should, by what is measured of its clips.
 *
 * @param home the home pose, where there is one
 */
export function coverage(set: LocomotionSet, clips: readonly SetClip[], home: HomePose | null): Coverage {
  const ids = set.slots.map(slotId);
  const members = clips.filter(({ id }) => !set.without.includes(id));
  const pinned = new Map(Object.entries(set.pins).filter(([slot, clip]) => ids.includes(slot) && members.some(({ id }) => id === clip)));
  const ends = new Map(members.map(({ id, clip, traits }) => [id, home ? homeEndsOf(clip, traits, home) : []]));
  const free = members.filter(({ id }) => ![...pinned.values()].includes(id));
  // A clip is in the running for the one slot that it is nearest to.
  const running = new Map<string, { own: SetClip; off: number }[]>();
  for (const own of free) {
    const nearest = nearestSlot(set, own.traits);
    if (nearest) running.set(nearest.id, [...(running.get(nearest.id) ?? []), { own, off: nearest.off }]);
  }
  const chosen = new Map<string, SetClip>();
  const ranked = new Map<string, readonly { own: SetClip; faults: Faults }[]>();
  for (const [i, id] of ids.entries()) {
    const asked = slotSpeed(set.slots[i], set.contract);
    const all = (running.get(id) ?? [])
      .map(({ own, off }) => ({ own, faults: faultsOf(own, ends.get(own.id) ?? [], off, asked, set) }))
      .sort((a, b) => totalOf(a.faults) - totalOf(b.faults) || a.own.name.localeCompare(b.own.name));
    const pin = members.find((own) => own.id === pinned.get(id));
    ranked.set(id, all);
    const first = pin ?? all[0]?.own;
    if (first) chosen.set(id, first);
  }
  const slots = set.slots.map((slot, i): SlotReport => {
    const id = ids[i];
    const own = chosen.get(id);
    const isPinned = pinned.has(id);
    const other = slotOnOtherSide(slot);
    // The other side need not be a slot of the set: whatever clip is it can be mirrored.
    const mirrored = own || !other ? undefined : (chosen.get(slotId(other)) ?? members.find(({ traits }) => isFor(other, traits, set)));
    const contenders = ranked.get(id) ?? [];
    const rest = contenders.filter((own_) => own_.own !== own);
    const state = own ? (!isPinned && rest.length > 0 ? 'doubted' : 'filled') : mirrored ? 'mirror' : 'missing';
    const best = contenders.find((c) => c.own === own);
    const shown = own ?? mirrored;
    const own_ends = (shown && ends.get(shown.id)) ?? [];
    const homeCm = own_ends.length > 0 ? Math.max(...own_ends.map(({ cm }) => cm)) : null;
    return {
      id,
      slot,
      state,
      clip: shown?.id ?? null,
      isPinned,
      others: rest.map(({ own: { id: clip }, faults }) => ({ clip, why: best ? whyNot(faults, best.faults) : 'another clip is pinned' })),
      ends: own_ends,
      homeCm,
      loop: own ? loopOf(own, set, chosen, ids) : null,
      speedMps: shown?.traits.speedMps ?? null,
      askedMps: slotSpeed(slot, set.contract),
      turnDegS: shown?.traits.turnDegS ?? null,
      figure: shown ? figureOf(shown, homeCm, set) : null,
    };
  });
  const count = (...states: SlotState[]) => slots.filter(({ state }) => states.includes(state)).length;
  const used = new Set(slots.flatMap(({ clip, others }) => [clip, ...others.map((own) => own.clip)]));
  return {
    slots,
    counts: { filled: count('filled', 'doubted'), mirror: count('mirror'), missing: count('missing'), doubted: count('doubted') },
    spare: members.filter(({ id }) => !used.has(id)).map(({ id }) => id),
  };
}

/** The slot that a clip is nearest to, of equally near ones the one that asks for more. */
export function nearestSlot(set: Pick<LocomotionSet, 'slots' | 'contract'>, traits: ClipTraits): { id: string; off: number } | null {
  let best: { id: string; off: number } | null = null;
  for (const slot of set.slots) {
    const off = fills(slot, traits, set.contract);
    // A given foot before either.
    if (off !== null && (!best || off < best.off - 1e-9)) best = { id: slotId(slot), off };
  }
  return best;
}

const isFor = (slot: Slot, traits: ClipTraits, set: LocomotionSet): boolean => fills(slot, traits, set.contract) !== null;

/** What speaks against a clip, each as a share of its bound. */
export type Faults = Readonly<Record<'tick' | 'slide' | 'sink' | 'home' | 'asked', { readonly share: number; readonly words: string }>>;

/**
 * @param off how far it is from what its slot asks for (see `fills`)
 * @param asked metres a second
 */
export function faultsOf(
  { traits }: Pick<SetClip, 'traits'>,
  ends: readonly HomeEnd[],
  off: number,
  asked: number | null,
  { bounds }: Pick<LocomotionSet, 'bounds'>,
): Faults {
  const { tick, slideCm, sinkCm } = traits.figures;
  const homeCm = Math.max(0, ...ends.map(({ cm }) => cm));
  const speed = asked === null ? 0 : Math.abs(traits.speedMps / asked - 1);
  return {
    tick: { share: traits.figures.loop ? tick / bounds.tick : 0, words: `a tick of ${tick.toFixed(1)}` },
    slide: { share: slideCm / bounds.slideCm, words: `a slide of ${slideCm.toFixed(2)} cm` },
    sink: { share: sinkCm / bounds.sinkCm, words: `a sink of ${sinkCm.toFixed(1)} cm` },
    home: { share: homeCm / bounds.homeCm, words: `ends ${homeCm.toFixed(1)} cm from home` },
    asked: {
      share: speed / bounds.speed + off,
      words: asked === null ? 'farther from what the slot asks' : `${traits.speedMps.toFixed(2)} m/s of ${asked.toFixed(2)}`,
    },
  };
}

export const totalOf = (faults: Faults): number => Object.values(faults).reduce((sum, { share }) => sum + share, 0);

/** The figure that speaks most against the one beside the other. */
function whyNot(faults: Faults, best: Faults): string {
  const keys = Object.keys(faults) as (keyof Faults)[];
  const worst = keys.reduce((a, b) => (faults[b].share - best[b].share > faults[a].share - best[a].share ? b : a));
  return faults[worst].share - best[worst].share > 1e-3
    ? `${faults[worst].words}, the other has ${best[worst].words}`
    : 'as good as the other';
}

function figureOf({ traits: { figures } }: SetClip, homeCm: number | null, { bounds }: LocomotionSet): SlotReport['figure'] {
  if (homeCm !== null) return { cm: homeCm, isOut: homeCm > bounds.homeCm };
  return figures.loop ? { cm: figures.seam.poseCm, isOut: figures.tick > bounds.tick } : null;
}

/** The loop that a start leads into, or a stop comes from: the one of its gait and direction. */
function loopOf(own: SetClip, set: LocomotionSet, chosen: ReadonlyMap<string, SetClip>, ids: readonly string[]): LoopMeeting | null {
  const { kind, gait, direction, speedMps } = own.traits;
  if (kind !== 'start' && kind !== 'stop') return null;
  const loops = set.slots.flatMap((slot, i) => {
    const found = slot.kind === 'loop' ? chosen.get(ids[i]) : undefined;
    return found && found.traits.gait === gait && (found.traits.direction === direction || found.traits.direction === 'forward')
      ? [found]
      : [];
  });
  // Of several the one whose speed is nearest.
  const off = (loop: SetClip) => Math.abs(Math.log(loop.traits.speedMps / Math.max(0.01, speedMps)));
  const nearest = loops.sort((a, b) => off(a) - off(b))[0];
  return nearest
    ? meetsLoop(own.clip, kind === 'start' ? 'last' : 'first', nearest.clip, nearest.id, nearest.traits.speedMps, speedMps)
    : null;
}
