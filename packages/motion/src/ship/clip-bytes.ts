import { rememberThinned, thinnedKeys } from '../character/thinned-keys';
import { isRound, type TrackName } from '../character/key-tracks';
import type { Thinned } from '../character/thin-keys';
import type { Clip } from '../model/clip';
import type { Skeleton } from '../model/skeleton';
import type { ShipOptions } from './options';
import type { ShippedClip } from './ship-clip';
import { writtenClip } from './written-clip';

type Ways = Pick<ShipOptions, 'lastKey' | 'rootMotion'>;

/** What of a thinned clip is no list of numbers. */
interface ThinnedHead extends Pick<Thinned, 'joining' | 'worst' | 'betweenM' | 'kept' | 'dense'> {
  readonly names: readonly TrackName[];
  readonly weighed: readonly TrackName[];
  readonly quantised: readonly number[];
}

interface Head {
  readonly clip: Omit<Clip, 'motion' | 'travel' | 'lead' | 'tail' | 'way' | 'belt'> & {
    readonly fps: number;
    readonly frames: number;
    readonly skeleton: Skeleton;
    readonly moving: readonly number[] | null;
    readonly hasTravel: boolean;
  };
  readonly about: Omit<ShippedClip, 'clip'>;
  readonly thinned: ThinnedHead | null;
  /** Kind and length of each list behind the head. */
  readonly lists: readonly (readonly [kind: 'f4' | 'f8' | 'i4', length: number])[];
}

type List = Float32Array | Float64Array | Int32Array;
const ALIGNED = 8;
const aligned = (bytes: number): number => Math.ceil(bytes / ALIGNED) * ALIGNED;

/**
 * A clip as it ships, with its keys, as bytes: what is packed of it is the same to the bit.
 *
 * @param ways how it is to be written; its keys were chosen for that
 */
export function clipBytes(shipped: ShippedClip, ways: Ways): Uint8Array {
  const { clip, ...about } = shipped;
  const { motion, travel, loop, contacts, closing, thin } = clip;
  const thinned = thinnedKeys(writtenClip(clip, ways));
  const lists: List[] = [motion.rotations, motion.rootPositions, ...(motion.translations?.values() ?? [])];
  if (travel) lists.push(travel.x, travel.y, travel.z, travel.heading);
  if (thinned) lists.push(...thinned.keys.values(), ...thinned.weights.values());
  const kindOf = (list: List) => (list instanceof Float32Array ? 'f4' : list instanceof Float64Array ? 'f8' : 'i4');
  const { skeleton, fps, frames, translations } = motion;
  const head: Head = {
    clip: {
      loop,
      contacts,
      closing,
      thin,
      fps,
      frames,
      skeleton,
      moving: translations ? [...translations.keys()] : null,
      hasTravel: travel !== null,
    },
    about,
    thinned: thinned && {
      joining: thinned.joining,
      worst: thinned.worst,
      betweenM: thinned.betweenM,
      kept: thinned.kept,
      dense: thinned.dense,
      names: [...thinned.keys.keys()],
      weighed: [...thinned.weights.keys()],
      quantised: [...thinned.quantised],
    },
    lists: lists.map((list) => [kindOf(list), list.length] as const),
  };
  const text = new TextEncoder().encode(JSON.stringify(head));
  const begin = aligned(4 + text.length);
  const out = new Uint8Array(lists.reduce((at, list) => at + aligned(list.byteLength), begin));
  new DataView(out.buffer).setUint32(0, text.length, true);
  out.set(text, 4);
  let at = begin;
  for (const list of lists) {
    out.set(new Uint8Array(list.buffer, list.byteOffset, list.byteLength), at);
    at += aligned(list.byteLength);
  }
  return out;
}

/** What `clipBytes` made bytes of. @param ways the same as there */
export function clipFromBytes(bytes: Uint8Array, ways: Ways): ShippedClip {
  // Lists of eight bytes a number begin where they may.
  const whole = bytes.byteOffset % ALIGNED === 0 ? bytes : bytes.slice();
  const length = new DataView(whole.buffer, whole.byteOffset).getUint32(0, true);
  const head = JSON.parse(new TextDecoder().decode(whole.subarray(4, 4 + length))) as Head;
  let at = whole.byteOffset + aligned(4 + length);
  const lists = head.lists.map(([kind, count]): List => {
    const list =
      kind === 'f4'
        ? new Float32Array(whole.buffer, at, count)
        : kind === 'f8'
          ? new Float64Array(whole.buffer, at, count)
          : new Int32Array(whole.buffer, at, count);
    at += aligned(list.byteLength);
    return list;
  });
  let next = 0;
  const f4 = (): Float32Array => lists[next++] as Float32Array;
  const f8 = (): Float64Array => lists[next++] as Float64Array;
  const { fps, frames, skeleton, moving, hasTravel, ...rest } = head.clip;
  const [rotations, rootPositions] = [f4(), f4()];
  const translations = moving ? new Map(moving.map((joint) => [joint, f4()])) : undefined;
  const travel = hasTravel ? { x: f8(), y: f8(), z: f8(), heading: f8() } : null;
  const clip: Clip = { ...rest, motion: { skeleton, fps, frames, rotations, rootPositions, translations }, travel, lead: null, tail: null };
  if (head.thinned) {
    const { names, weighed, quantised, ...told } = head.thinned;
    const keys = new Map(names.map((name) => [name, lists[next++] as Int32Array]));
    const weights = new Map(weighed.map((name) => [name, f4()]));
    const written = writtenClip(clip, ways);
    rememberThinned(written, { ...told, keys, weights, quantised: new Set(quantised), isRound: (name) => isRound(written, name) });
  }
  return { clip, ...head.about };
}
