import type { Cut } from '@lantern/motion';

/** What is needed to tell where a clip is in its take: its cut, how many frames it has, and which of the cut's frames each of them shows. */
export interface ClipTime {
  readonly cut: Cut;
  /** Frames of the clip, less one. */
  readonly cycle: number;
  /** For each frame of the clip that of its cut; null where there is no single one: then the clip's frames are counted from its cut's first. */
  readonly source: ArrayLike<number> | null;
}

/**
 * The frame of the take that a frame of the clip, as it is played round and round, shows.
 *
 * @example
 * // A cycle of 10 frames, cut at 100, that begins with a landing 4 frames in:
 * takeFrameOf({ cut: { from: 100, to: 110 }, cycle: 10, source: [4, 5, 6, 7, 8, 9, 0, 1, 2, 3, 4] }, 7); // 101
 */
export function takeFrameOf({ cut, cycle, source }: ClipTime, frame: number): number {
  const at = frame % Math.max(1, cycle);
  return cut.from + (source ? (source[Math.min(source.length - 1, Math.round(at))] ?? at) : at);
}

/** The frame of the clip that shows a frame of the take, or the nearest to it. */
export function clipFrameOf({ cut, cycle, source }: ClipTime, takeFrame: number): number {
  const frame = takeFrame - cut.from;
  if (!source) return Math.min(cycle, Math.max(0, frame));
  let best = 0;
  for (let f = 1; f < source.length; f++) if (Math.abs(source[f] - frame) < Math.abs(source[best] - frame)) best = f;
  return best;
}

/** Contacts of a cycle that begins `start` frames after its cut, where they are in the cut: each begins within it. */
export const contactsInCut = <Contact extends Cut>(contacts: readonly Contact[], start: number, cycle: number): Contact[] =>
  contacts.map((contact) => movedInto(contact, start, cycle));

/** The other way round: contacts of the cut where they are in the cycle. */
export const contactsInCycle = <Contact extends Cut>(contacts: readonly Contact[], start: number, cycle: number): Contact[] =>
  contacts.map((contact) => movedInto(contact, -start, cycle));

function movedInto<Contact extends Cut>(contact: Contact, by: number, cycle: number): Contact {
  if (by === 0) return contact;
  const from = (((contact.from + by) % cycle) + cycle) % cycle;
  return { ...contact, from, to: from + contact.to - contact.from };
}
