import type { PlayField } from './field-source';
import type { PlayGraph, PlaySet } from './play-graph';
import { SIDES, type PlayClip, type PlayContact, type Side } from './play-set';
import { multiply, normalize, rotate } from './quat';

/** What the runtime needs of a manifest, version 1; what else it holds is left alone. */
export interface ShippedManifest {
  readonly oldLantern: number;
  readonly fps: number;
  readonly joints: { readonly root: string; readonly hips: string } & Readonly<Record<Side, ShippedFoot>>;
  readonly clips: readonly {
    readonly name: string;
    readonly animation: string;
    readonly frames: number;
    readonly loop: boolean;
    /** Height of the floor in the clip, metres. */
    readonly floorM?: number;
    readonly contacts: Readonly<Record<Side, readonly PlayContact[]>>;
    /** Of a loop without its last key: where its root would be at it over the first, metres and radians. */
    readonly cycle?: { readonly x: number; readonly z: number; readonly heading: number };
  }[];
  readonly fields: readonly {
    readonly name: string;
    readonly points: readonly { readonly clip: string; readonly place: readonly [number, number] }[];
    readonly triangles: readonly number[];
    readonly scale: readonly [number, number];
    readonly holdFeet: boolean;
    readonly pace: number;
    readonly polar: boolean;
  }[];
  readonly graph: PlayGraph | null;
}

export interface ShippedFoot {
  readonly hip: string;
  readonly knee: string;
  readonly foot: string;
  readonly toe: string | null;
  /** Heel, ball and tip: the joint that each is fixed to, and its place in that joint's axes, metres. */
  readonly sole: readonly { readonly joint: string; readonly at: readonly [number, number, number] }[];
}

/** A node of the file, each after its parent. */
export interface ShippedNode {
  readonly name: string;
  /** By its place in the list; −1: none. */
  readonly parent: number;
  readonly translation: ArrayLike<number>;
  readonly rotation: ArrayLike<number>;
}

/** An animation as arrays of keys, dense or thinned. */
export interface ShippedAnimation {
  readonly name: string;
  readonly tracks: readonly {
    readonly node: string;
    readonly of: 'translation' | 'rotation';
    /** Seconds. */
    readonly times: ArrayLike<number>;
    /** Three or four numbers a key; of cubic keys an in-tangent, the value and an out-tangent each. */
    readonly values: ArrayLike<number>;
    readonly cubic?: boolean;
  }[];
}

/** A shipped set ready to be played, and the nodes of its file that it moves. */
export interface ShippedSet extends PlaySet {
  /** Of each joint, by its place in the list of nodes. */
  readonly nodes: readonly number[];
  readonly rootNode: number;
}

/**
 * A shipped set made ready to be played.
 *
 * @throws Error with a sentence when the manifest names something that the file does not have, or is of a later version
 *
 * @example
 * const player = setPlayer(readShipped(manifest, nodes, animations));
 */
export function readShipped(manifest: ShippedManifest, nodes: readonly ShippedNode[], animations: readonly ShippedAnimation[]): ShippedSet {
  if (manifest.oldLantern !== 1) throw new Error(`The manifest is of version ${manifest.oldLantern}; this reads version 1.`);
  if (!manifest.graph) throw new Error('The set has no graph, so there is nothing to play it by.');
  const at = (name: string): number => {
    const found = nodes.findIndex((own) => own.name === name);
    if (found < 0) throw new Error(`The manifest names “${name}”, which the file does not have.`);
    return found;
  };
  const [root, hips] = [at(manifest.joints.root), at(manifest.joints.hips)];
  // The hips and all that hangs on them, in the file's order; what is between them and the root is played as the hips.
  const joints = nodes.map((_, i) => i).filter((i) => isUnder(nodes, i, hips));
  const place = new Map(joints.map((node, j) => [node, j]));
  const jointOf = (name: string): number => {
    const found = place.get(at(name));
    if (found === undefined) throw new Error(`“${name}” does not hang on “${manifest.joints.hips}”.`);
    return found;
  };
  const leg = ({ hip, knee, foot, toe }: ShippedFoot) => ({
    hip: jointOf(hip),
    knee: jointOf(knee),
    ankle: jointOf(foot),
    toe: toe === null ? -1 : jointOf(toe),
  });
  const sole = ({ sole: points }: ShippedFoot) => points.map(({ joint, at: [x, y, z] }) => ({ joint: jointOf(joint), x, y, z }));
  const { left, right } = manifest.joints;
  const chain: number[] = [];
  for (let node = hips; node >= 0 && node !== root; node = nodes[node].parent) chain.unshift(node);
  const clips = manifest.clips.map((own): PlayClip => {
    const animation = animations.find(({ name }) => name === own.animation);
    if (!animation) throw new Error(`The manifest names the animation “${own.animation}”, which the file does not have.`);
    return dense(manifest.fps, own, nodes, joints, chain, root, animation);
  });
  const clipOf = (name: string): PlayClip => {
    const found = clips.find((own) => own.name === name);
    if (!found) throw new Error(`A field names “${name}”, which is no clip of the manifest.`);
    return found;
  };
  return {
    nodes: joints,
    rootNode: root,
    skeleton: {
      names: joints.map((i) => nodes[i].name),
      parents: Int32Array.from(joints, (i) => (i === hips ? -1 : (place.get(nodes[i].parent) ?? -1))),
      offsets: Float32Array.from(joints.flatMap((i) => (i === hips ? [0, 0, 0] : Array.from(nodes[i].translation)))),
      legs: { left: leg(left), right: leg(right) },
      soles: { left: sole(left), right: sole(right) },
    },
    clips,
    fields: manifest.fields.map(({ name, points, triangles, scale, holdFeet, pace, polar }): PlayField => ({
      name,
      clips: points.map(({ clip }) => clipOf(clip)),
      points: Float64Array.from(points.flatMap(({ place: own }) => [...own])),
      triangles,
      scale,
      holdFeet,
      pace,
      isPolar: polar,
    })),
    graph: manifest.graph,
  };
}

function isUnder(nodes: readonly ShippedNode[], node: number, top: number): boolean {
  for (let i = node; i >= 0; i = nodes[i].parent) if (i === top) return true;
  return false;
}

/** Keys of an animation read at every frame. */
function dense(
  fps: number,
  { name, frames, loop, contacts, floorM = 0, cycle }: ShippedManifest['clips'][number],
  nodes: readonly ShippedNode[],
  joints: readonly number[],
  chain: readonly number[],
  root: number,
  { tracks }: ShippedAnimation,
): PlayClip {
  const J = joints.length;
  const out = { rotations: new Float32Array(frames * J * 4), hips: new Float32Array(frames * 3), root: new Float32Array(frames * 3) };
  const readers = new Map<string, Reader>();
  for (const { node, of, times, values, cubic } of tracks)
    readers.set(`${of} ${node}`, reader(times, values, of === 'rotation' ? 4 : 3, cubic ?? false));
  const read = (into: Float64Array, node: number, of: 'translation' | 'rotation', t: number): void => {
    const own = readers.get(`${of} ${nodes[node].name}`);
    if (own) own(into, t);
    else into.set(Array.from(nodes[node][of]));
  };
  const [q, p, turn, off] = [new Float64Array(4), new Float64Array(3), new Float64Array(4), new Float64Array(3)];
  let before = 0;
  const keys = cycle ? frames - 1 : frames;
  for (let f = 0; f < keys; f++) {
    const t = f / fps;
    read(p, root, 'translation', t);
    read(q, root, 'rotation', t);
    const facing = 2 * Math.atan2(q[1], q[3]);
    // The heading goes on where it goes round.
    const heading = facing - 2 * Math.PI * Math.round((facing - before) / (2 * Math.PI));
    before = heading;
    out.root.set([p[0], p[2], heading], f * 3);
    const height = p[1] - floorM;
    turn.set([0, 0, 0, 1]);
    off.set([0, height, 0]);
    for (const node of chain) {
      read(p, node, 'translation', t);
      rotate(p, 0, turn, 0, p[0], p[1], p[2]);
      for (let k = 0; k < 3; k++) off[k] += p[k];
      read(q, node, 'rotation', t);
      multiply(turn, 0, turn, 0, q, 0);
    }
    out.hips.set(off, f * 3);
    out.rotations.set(turn, f * J * 4);
    for (let j = 1; j < J; j++) {
      read(q, joints[j], 'rotation', t);
      out.rotations.set(q, (f * J + j) * 4);
    }
  }
  if (cycle) {
    // The last key was left out: it is the first, one cycle on.
    out.rotations.set(out.rotations.subarray(0, J * 4), keys * J * 4);
    out.hips.set(out.hips.subarray(0, 3), keys * 3);
    out.root.set([out.root[0] + cycle.x, out.root[1] + cycle.z, out.root[2] + cycle.heading], keys * 3);
  }
  const side = (own: Side): PlayContact[] => contacts[own].map(([from, to]) => [from, to] as const);
  return { name, fps, frames, loop, ...out, contacts: { left: side(SIDES[0]), right: side(SIDES[1]) } };
}

type Reader = (out: Float64Array, t: number) => void;

/** Reads keys at an instant: straight (rotations the shorter way round), or by glTF's cubic spline. */
function reader(times: ArrayLike<number>, values: ArrayLike<number>, size: number, isCubic: boolean): Reader {
  const last = times.length - 1;
  let k = 0;
  return (out, t) => {
    while (k > 0 && t < times[k]) k--;
    while (k < last - 1 && t >= times[k + 1]) k++;
    const span = last > 0 ? times[k + 1] - times[k] : 0;
    const u = span > 0 ? Math.max(0, Math.min(1, (t - times[k]) / span)) : 0;
    const next = last > 0 ? k + 1 : k;
    if (isCubic) {
      const [a, b] = [k * 3 * size, next * 3 * size];
      const [uu, uuu] = [u * u, u * u * u];
      for (let i = 0; i < size; i++)
        out[i] =
          (2 * uuu - 3 * uu + 1) * values[a + size + i] +
          span * (uuu - 2 * uu + u) * values[a + 2 * size + i] +
          (3 * uu - 2 * uuu) * values[b + size + i] +
          span * (uuu - uu) * values[b + i];
    } else {
      const [a, b] = [k * size, next * size];
      let like = 0;
      for (let i = 0; i < size; i++) like += values[a + i] * values[b + i];
      if (size === 4) slerp(out, values, a, b, u, like);
      else for (let i = 0; i < size; i++) out[i] = values[a + i] + (values[b + i] - values[a + i]) * u;
    }
    if (size === 4) normalize(out, 0);
  };
}

function slerp(out: Float64Array, values: ArrayLike<number>, a: number, b: number, u: number, like: number): void {
  const sign = like < 0 ? -1 : 1;
  const angle = Math.acos(Math.min(1, Math.abs(like)));
  const s = Math.sin(angle);
  const [from, to] = s < 1e-6 ? [1 - u, u * sign] : [Math.sin((1 - u) * angle) / s, (Math.sin(u * angle) / s) * sign];
  for (let i = 0; i < 4; i++) out[i] = values[a + i] * from + values[b + i] * to;
}
