import { thinnedKeys } from '../character/thinned-keys';
import { readAccessor } from '../formats/gltf-accessor';
import { restOf } from '../formats/gltf-affine';
import { openGltf, type Gltf, type GltfJson } from '../formats/gltf-container';
import { nodeParents } from '../formats/gltf-joints';
import { readTracks, sampleTrack, type Track, type Tracks } from '../formats/gltf-track';
import { angleBetween } from '../math/quat';
import type { Clip } from '../model/clip';
import type { FileFacts, GuaranteeId } from './guarantees';
import type { ShipOptions } from './options';
import type { WrittenClip } from './written-clip';
import { worstPose, type JointsInFile } from './written-poses';

/** A clip that was written: as it ships, and as its keys went into the file. */
export interface FiledClip {
  /** Of the animation. */
  readonly name: string;
  /** All of it, its travel as far as it is on the root. */
  readonly clip: Clip;
  readonly written: WrittenClip;
}

export interface FactsAsked {
  readonly path: string;
  readonly owner: string;
  readonly clips: readonly FiledClip[];
  readonly joints: JointsInFile;
  /** The node that carries the travel; null where the hips do. */
  readonly root: number | null;
  readonly options: Pick<ShipOptions, 'body'>;
  /** Errors and warnings of a validator, in words; none where it has nothing to say. */
  readonly validate?: (bytes: Uint8Array) => Promise<readonly string[]>;
  /** Waited for between clips: whoever checks many of them can do something else there. */
  readonly breathe?: () => void | Promise<void>;
}

/** Rotations and places that are the same but for what single floats leave. */
const SAME_RADIANS = 2e-3;
const SAME_METRES = 2e-5;
/** How far a key may be from a whole frame, frames. */
const ON_FRAME = 1e-3;

/**
 * What a written file shows of what is promised. It is read as anybody's file is, by what the format says and not by how it was written.
 *
 * @param bytes of a GLB
 */
export async function fileFacts(
  bytes: Uint8Array,
  { path, owner, clips, joints, root, options, validate, breathe }: FactsAsked,
): Promise<FileFacts> {
  const gltf = openGltf(bytes);
  const { json } = gltf;
  const parentOf = nodeParents(json);
  const breaks: { id: GuaranteeId; says: string }[] = [];
  const notes: { id: GuaranteeId; says: string }[] = [];
  const broken = (id: GuaranteeId, says: string) => breaks.push({ id, says });
  checkNames(json, joints.nodes, broken);
  checkTree(json, parentOf, joints.nodes, root, broken);
  const hasBody = json.skins.length > 0 && json.nodes.some(({ mesh, skin }) => mesh !== undefined && skin !== undefined);
  if (hasBody === (options.body === 'without'))
    broken('skin', hasBody ? 'There is a body, though none was to be.' : 'There is no skinned mesh.');
  else if (!hasBody) notes.push({ id: 'skin', says: 'joints alone, by choice.' });
  const worsts: NonNullable<FileFacts['poses']>[] = [];
  for (const own of clips) {
    await breathe?.();
    const animation = json.animations.find(({ name }) => name === own.name);
    if (!animation) {
      broken('names', `The animation “${own.name}” is not in the file.`);
      continue;
    }
    const tracks = readTracks(gltf, animation, own.name);
    if (animation.channels.some(({ target }) => target.path === 'scale')) broken('scale', `“${own.name}” has scale keys.`);
    checkKeys(own, tracks, broken);
    const start = root === null ? null : startOf(json, tracks, root);
    if (start && own.written.travel && !start.isAtOrigin)
      notes.push({ id: 'root', says: `“${own.name}” begins ${start.says}, by choice of its recipe.` });
    else if (start && !start.isAtOrigin) broken('root', `The root of “${own.name}” is ${start.says} at the first key.`);
    if (own.clip.loop) checkLoop(json, own, tracks, root, broken, (says) => notes.push({ id: 'loops', says }));
    const bound = (own.clip.thin?.boundM ?? DENSE_M) * 1000;
    const isSmooth = thinnedKeys(own.written)?.joining === 'smooth';
    const worst = worstPose(json, parentOf, tracks, own.clip, joints, own.written.motion.frames, isSmooth);
    const joint = own.clip.motion.skeleton.joints[worst.joint].name;
    const most = Math.max(worst.mm, worst.betweenMm);
    if (most > bound * ROUNDED)
      broken('poses', `“${own.name}” is ${most.toFixed(3)} mm off at frame ${worst.frame}, ${joint}; ${bound} mm are the most.`);
    worsts.push({ ...worst, clip: own.name, joint });
  }
  const [worst] = [...worsts].sort((a, b) => b.mm - a.mm);
  const poses = worst ? { ...worst, betweenMm: Math.max(...worsts.map(({ betweenMm }) => betweenMm)) } : null;
  for (const says of (await validate?.(bytes)) ?? []) broken('valid', says);
  return { path, owner, breaks, notes, joints: jointsText(gltf, parentOf), poses, isValidated: validate !== undefined };
}

/** Without thinning poses are within this of where they were, metres. */
const DENSE_M = 1e-4;
/** What numbers of single precision add to a bound. */
const ROUNDED = 1.02;

function checkNames(json: GltfJson, joints: readonly number[], broken: (id: GuaranteeId, says: string) => void): void {
  const unique = (names: readonly string[], what: string): void => {
    const seen = new Set<string>();
    for (const name of names) {
      if (name.trim() === '') broken('names', `${what} has no name.`);
      else if (/[\u0000-\u001f]/.test(name)) broken('names', `“${printable(name)}” has signs that no name may have.`);
      else if (seen.has(name)) broken('names', `${what} is called “${name}”, as another is.`);
      seen.add(name);
    }
  };
  unique(
    json.animations.map(({ name = '' }) => name),
    'An animation',
  );
  unique(
    joints.map((n) => json.nodes[n]?.name ?? ''),
    'A joint',
  );
}

const printable = (name: string) => name.replace(/[\u0000-\u001f\u007f]/g, '?');

/** One joint stands over all others, and all that moves hangs on it. */
function checkTree(
  json: GltfJson,
  parentOf: Int32Array,
  joints: readonly number[],
  root: number | null,
  broken: (id: GuaranteeId, says: string) => void,
): void {
  const all = new Set([...json.skins.flatMap((skin) => skin.joints), ...joints, ...(root === null ? [] : [root])]);
  const isUnder = (n: number, top: number): boolean => {
    for (let up = n; up >= 0; up = parentOf[up]) if (up === top) return true;
    return false;
  };
  const tops = [...all].filter((n) => ![...all].some((other) => other !== n && isUnder(n, other)));
  if (tops.length !== 1)
    broken('root', `${tops.length} joints have none above them: ${tops.map((n) => json.nodes[n]?.name ?? n).join(', ')}.`);
}

/** Keys on whole frames, and rotations that do not change sign. */
function checkKeys({ name, clip, written }: FiledClip, tracks: Tracks, broken: (id: GuaranteeId, says: string) => void): void {
  const { fps } = clip.motion;
  const last = written.motion.frames - 1;
  let [offFrame, ends, flips] = [0, 0, 0];
  for (const own of tracks.values())
    for (const track of Object.values(own)) {
      const { times } = track;
      for (const t of times) if (Math.abs(t * fps - Math.round(t * fps)) > ON_FRAME) offFrame++;
      if (Math.abs(times[times.length - 1] * fps - last) > ON_FRAME || times[0] !== 0) ends++;
      if (track.width === 4) flips += flipsOf(track);
    }
  if (offFrame > 0) broken('frames', `${offFrame} keys of “${name}” are between frames.`);
  if (ends > 0) broken('frames', `${ends} tracks of “${name}” do not go from its first frame to its last.`);
  if (flips > 0) broken('signs', `${flips} keys of “${name}” have the other sign than the key before.`);
}

function flipsOf({ values, kind }: Track): number {
  const [stride, own] = kind === 'CUBICSPLINE' ? [12, 4] : [4, 0];
  let flips = 0;
  for (let i = stride; i < values.length; i += stride) {
    let d = 0;
    for (let k = 0; k < 4; k++) d += values[i + own + k] * values[i - stride + own + k];
    if (d < 0) flips++;
  }
  return flips;
}

function checkLoop(
  json: GltfJson,
  { name, written, clip }: FiledClip,
  tracks: Tracks,
  root: number | null,
  broken: (id: GuaranteeId, says: string) => void,
  note: (says: string) => void,
): void {
  if (written.cycle) return note(`the last key of “${name}” is left out, by choice.`);
  // A clip that carries its way on its hips comes round somewhere else, and perhaps turned.
  const hipsMove = clip.travel === null || root === null;
  const [hips] = clip.motion.skeleton.joints;
  for (const [n, own] of tracks) {
    const isWay = n === root || (hipsMove && json.nodes[n].name === hips.name);
    if (isWay) continue;
    if (own.rotation && turnAcross(own.rotation) > SAME_RADIANS)
      broken('loops', `“${name}”: ${json.nodes[n].name ?? n} ends otherwise turned than it begins.`);
    if (own.translation && wayAcross(own.translation) > SAME_METRES)
      broken('loops', `“${name}”: ${json.nodes[n].name ?? n} ends elsewhere than it begins.`);
  }
}

function turnAcross(track: Track): number {
  const [a, b] = [
    [0, 0, 0, 1],
    [0, 0, 0, 1],
  ];
  sampleTrack(a, 0, track, track.times[0]);
  sampleTrack(b, 0, track, track.times[track.times.length - 1]);
  return angleBetween(a, 0, b, 0);
}

function wayAcross(track: Track): number {
  const [a, b] = [
    [0, 0, 0],
    [0, 0, 0],
  ];
  sampleTrack(a, 0, track, track.times[0]);
  sampleTrack(b, 0, track, track.times[track.times.length - 1]);
  return Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
}

/** Where the root is at the first key against its rest. */
function startOf(json: GltfJson, tracks: Tracks, root: number): { isAtOrigin: boolean; says: string } {
  const rest = restOf(json, root);
  const own = tracks.get(root);
  const [place, turn] = [[...rest.translation], [...rest.rotation]];
  if (own?.translation) sampleTrack(place, 0, own.translation, 0);
  if (own?.rotation) sampleTrack(turn, 0, own.rotation, 0);
  const metres = Math.hypot(...place.map((v, k) => v - rest.translation[k]));
  const radians = angleBetween(turn, 0, rest.rotation, 0);
  return {
    isAtOrigin: metres < SAME_METRES && radians < SAME_RADIANS,
    says: `${metres.toFixed(2)} from the origin, turned by ${((radians * 180) / Math.PI).toFixed(0)}°`,
  };
}

/** The joints of a file as a text: the same for files whose skeletons and bind poses are the same. */
function jointsText(gltf: Gltf, parentOf: Int32Array): string {
  const { nodes, skins } = gltf.json;
  const all = new Set(skins.flatMap(({ joints }) => joints));
  const listed = all.size > 0 ? [...all] : nodes.map((_, n) => n);
  const rests = listed.map((n) => {
    const { translation, rotation, scale } = restOf(gltf.json, n);
    return [nodes[n].name ?? '', nodes[parentOf[n]]?.name ?? '', translation, rotation, scale];
  });
  const binds = skins.map(({ inverseBindMatrices }) =>
    inverseBindMatrices === undefined ? null : Array.from(readAccessor(gltf, inverseBindMatrices).values, (v) => Number(v.toFixed(6))),
  );
  return JSON.stringify([rests, binds]);
}
