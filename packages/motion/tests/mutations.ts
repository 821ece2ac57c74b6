import { capture } from '@lantern/capture';
import { InputError, readAsf, readTakes, writeBvh, type Motion } from '@lantern/motion';
import { bytesOf } from './made';
import { asfAndAmc, oddGlb } from './odd-files';

export interface GoodFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

const { motion } = capture('walk', { seconds: 1, seed: 2 });
const short: Motion = {
  ...motion,
  frames: 6,
  rotations: motion.rotations.subarray(0, 6 * 84),
  rootPositions: motion.rootPositions.subarray(0, 18),
};
const asfFiles = asfAndAmc(short);
const skeletons = [readAsf(bytesOf(asfFiles.asf), 'wick')];

/** A small good file of every kind. */
export async function goodFiles(): Promise<GoodFile[]> {
  const glb = await oddGlb(short, { armature: true, between: true });
  const length = new DataView(glb.buffer, glb.byteOffset).getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length)));
  json.buffers[0].uri = `data:application/octet-stream;base64,${Buffer.from(glb.subarray(28 + length)).toString('base64')}`;
  return [
    { name: 'a.bvh', bytes: bytesOf(writeBvh(short)) },
    { name: 'a.glb', bytes: glb },
    { name: 'a.gltf', bytes: bytesOf(JSON.stringify(json)) },
    { name: 'a.asf', bytes: bytesOf(asfFiles.asf) },
    { name: 'a.amc', bytes: bytesOf(asfFiles.amc) },
  ];
}

const NASTY = ['NaN', '-1', '1e400', '999999999', '{', '}', '"', '\0', '[[[[', '-', '.', 'null', '\n\n', '0x10', '\uffff'];

/** Numbers between 0 and a bound, the same for the same seed. */
function dice(seed: number): (below: number) => number {
  let state = (seed * 2654435761 + 12345) >>> 0;
  return (below) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 4294967296) * below);
  };
}

/** What a number may become. */
const OTHERWISE: readonly ((value: number) => number)[] = [
  () => 0,
  (value) => -value,
  (value) => value * 1000,
  (value) => value / 1000,
  () => 1e30,
  () => -1e-30,
  (value) => value + 360,
  (value) => Math.round(value),
];

/** One to three numbers otherwise than they were, in the text, or among the floats of a GLB: mostly such a file is still one. */
export function tweak(bytes: Uint8Array, name: string, seed: number): Uint8Array {
  const next = dice(seed);
  const other = (value: number) => OTHERWISE[next(OTHERWISE.length)](value);
  if (name.endsWith('.glb')) {
    const out = bytes.slice();
    const view = new DataView(out.buffer);
    const floats = 28 + view.getUint32(12, true);
    for (let n = 1 + next(3); n > 0; n--) {
      const at = floats + 4 * next(Math.floor((out.length - floats) / 4));
      view.setFloat32(at, other(view.getFloat32(at, true)), true);
    }
    return out;
  }
  const parts = new TextDecoder().decode(bytes).split(/(-?\d+(?:\.\d+)?(?:e[-+]?\d+)?)/);
  for (let n = 1 + next(3); n > 0 && parts.length > 2; n--) {
    const at = 1 + 2 * next((parts.length - 1) / 2);
    parts[at] = String(other(Number(parts[at])));
  }
  return bytesOf(parts.join(''));
}

/** One to four things wrong: a byte changed, a piece cut out, doubled or swapped, the end missing, something nasty put in. */
export function mutate(bytes: Uint8Array, seed: number): Uint8Array {
  const next = dice(seed);
  let out = bytes.slice();
  for (let n = 1 + next(4); n > 0 && out.length > 8; n--) {
    const at = next(out.length);
    const length = 1 + next(Math.min(200, out.length - at));
    const piece = out.slice(at, at + length);
    const join = (...parts: Uint8Array[]) => Uint8Array.from(parts.flatMap((part) => [...part]));
    switch (next(6)) {
      case 0:
        out[at] = next(256);
        break;
      case 1:
        out = join(out.subarray(0, at), out.subarray(at + length));
        break;
      case 2:
        out = join(out.subarray(0, at), piece, piece, out.subarray(at + length));
        break;
      case 3:
        out = out.slice(0, at);
        break;
      case 4:
        out = join(out.subarray(0, at), bytesOf(NASTY[next(NASTY.length)]), out.subarray(at));
        break;
      default:
        out = join(out.subarray(0, at), bytesOf(NASTY[next(NASTY.length)]), out.subarray(at + length));
    }
  }
  return out;
}

/** What becomes of a file: read with finite numbers, refused with a sentence and a place, or something that must never happen. */
export function verdictOf({ name }: GoodFile, bytes: Uint8Array): string {
  try {
    const motions = name.endsWith('.asf') ? [] : readTakes(bytes, name, { skeletons }).map((take) => take.motion);
    if (name.endsWith('.asf')) readAsf(bytes, 'a');
    const isFinite = motions.every((m) => m.rotations.every(Number.isFinite) && m.rootPositions.every(Number.isFinite));
    return isFinite ? 'read' : 'not finite';
  } catch (error) {
    if (!(error instanceof InputError)) return `threw ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`;
    return error.place.line === undefined ? `no place: ${error.message}` : 'refused';
  }
}
