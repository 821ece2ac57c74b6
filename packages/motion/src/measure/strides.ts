import type { Contacts } from '../model/contacts';

/** First contacts of one foot in order, frames. A contact that is already under way at frame 0 has no known start. */
export function footfalls(contacts: Contacts, side: 'left' | 'right'): number[] {
  return contacts[side].map((interval) => interval.from).filter((f) => f > 0);
}

/**
 * The usual length of a stride (same foot to same foot) around a frame range, in frames; null when nobody walks there.
 * Strides of 0.35 to 2.5 s count.
 */
export function strideFrames(contacts: Contacts, from = 0, to = Infinity): number | null {
  const lengths: number[] = [];
  for (const side of ['left', 'right'] as const) {
    const falls = footfalls(contacts, side).filter((f) => f >= from && f <= to);
    for (let i = 1; i < falls.length; i++) {
      const frames = falls[i] - falls[i - 1];
      if (frames >= 0.35 * contacts.fps && frames <= 2.5 * contacts.fps) lengths.push(frames);
    }
  }
  if (lengths.length === 0) return null;
  lengths.sort((a, b) => a - b);
  return lengths[lengths.length >> 1];
}

/**
 * Phase per frame: 0 at a left first contact, ½ at the right one between (or half-way where there is none), linear in between;
 * before the first and after the last footfall it runs on at the neighbouring pace. Null when there are not two left footfalls.
 */
export function phases(contacts: Contacts, frames: number): Float64Array | null {
  const left = footfalls(contacts, 'left');
  if (left.length < 2) return null;
  const right = footfalls(contacts, 'right');
  const knots: [number, number][] = [];
  left.forEach((f, i) => {
    knots.push([f, i]);
    const next = left[i + 1];
    const between = next === undefined ? undefined : right.find((r) => r > f && r < next);
    if (between !== undefined) knots.push([between, i + 0.5]);
  });
  const out = new Float64Array(frames);
  for (let f = 0, k = 0; f < frames; f++) {
    while (k < knots.length - 2 && f >= knots[k + 1][0]) k++;
    const [a, p] = knots[k];
    const [b, q] = knots[k + 1];
    const phase = p + ((f - a) / (b - a)) * (q - p);
    out[f] = phase - Math.floor(phase);
  }
  return out;
}
