import { multiply, multiplyInverse, rotate } from '../math/quat';
import { shortestTurn } from '../math/vec';
import type { Body } from '../model/body';
import { pathTo } from './body-look';
import { swapSides } from './side-names';
import { childrenOf, restPose, type Skeleton } from '../model/skeleton';

/** Which joint takes whose movement when a motion is mirrored. */
export interface MirrorPair {
  readonly joint: number;
  /** The joint itself where it lies in the middle, or where it has nobody on the other side. */
  readonly partner: number;
  /** 0 to 1. */
  readonly confidence: number;
  /** What it rests on, in words. */
  readonly reason: string;
}

/** How a skeleton is mirrored: `rotation′ = before · M(partner's rotation) · after`, joint by joint, local to the parents. */
export interface MirrorMap {
  readonly pairs: readonly MirrorPair[];
  readonly before: Float64Array;
  readonly after: Float64Array;
  /** World rotations of the rest pose, its left to +X, with the bones of partners made each other's mirror image. */
  readonly reference: Float64Array;
}

const OF_LIMB = 'the limb that it is of';
/** Rest places that mirror onto each other within this share of the skeleton's size are the same place. */
const NEAR = 0.06;
/** As near to its own image as this is a joint in the middle: collars are near the middle too. */
const IN_THE_MIDDLE = 0.7;

/**
 * Pairs the joints of a skeleton by name and by where they are in the rest pose, and works out the constant turns by which rotations are
 * carried from one to the other whatever their rest orientations: with M the reflection at x = 0, p the partner and R₀ a symmetric
 * reference, world rotations become `M·Rₚ·R₀ₚ⁻¹·M·R₀ⱼ`. Applied twice this is the identity for any R₀.
 *
 * The reference is the rest pose, its left to +X, each bone turned the shortest way to where it is symmetric with its partner's.
 *
 * @param body whose limbs are each other's partners, where it is known
 *
 * @example
 * const { pairs } = mirrorMap(motion.skeleton, bodyOf(motion));
 * const foot = motion.skeleton.joints.findIndex(({ name }) => name === 'LeftFoot');
 * motion.skeleton.joints[pairs[foot].partner].name; // 'RightFoot'
 */
export function mirrorMap(skeleton: Skeleton, body: Body | null = skeleton.body ?? null): MirrorMap {
  const known = KNOWN.get(skeleton);
  if (known?.body === body) return known;
  const rest = restFacing(skeleton, body);
  const pairs = pairJoints(skeleton, rest.positions, limbMarks(skeleton, body));
  const reference = symmetric(skeleton, rest, pairs);
  const n = skeleton.joints.length;
  const before = new Float64Array(n * 4);
  const after = new Float64Array(n * 4);
  const carry = (out: Float64Array, o: number, joint: number, partner: number) => {
    const mirrored = [0, 0, 0, 1];
    reflect(mirrored, 0, reference, partner * 4);
    multiplyInverse(out, o, mirrored, 0, reference, joint * 4);
  };
  for (let j = 0; j < n; j++) {
    const { parent } = skeleton.joints[j];
    const { partner } = pairs[j];
    carry(after, j * 4, j, partner);
    before[j * 4 + 3] = 1;
    if (parent < 0) continue;
    // The parent as it is mirrored, unless the joint has nobody on the other side and is mirrored where it is.
    const other = skeleton.joints[partner].parent;
    carry(before, j * 4, parent, other === pairs[parent].partner ? other : parent);
    for (let k = 0; k < 3; k++) before[j * 4 + k] *= -1;
  }
  const map = { pairs, before, after, reference, body };
  KNOWN.set(skeleton, map);
  return map;
}

const KNOWN = new WeakMap<Skeleton, MirrorMap & { readonly body: Body | null }>();

/** A rotation seen in the mirror x = 0. */
export function reflect(out: Float64Array | Float32Array | number[], o: number, q: ArrayLike<number>, i: number): void {
  out[o] = q[i];
  out[o + 1] = -q[i + 1];
  out[o + 2] = -q[i + 2];
  out[o + 3] = q[i + 3];
}

/** The rest pose turned so that the line of the hip sockets lies along X. */
function restFacing(skeleton: Skeleton, body: Body | null): { positions: Float64Array; rotations: Float64Array } {
  const rest = restPose(skeleton);
  if (!body) return rest;
  const [l, r] = [body.legs.left.hip * 3, body.legs.right.hip * 3];
  const left = [0, 1, 2].map((k) => rest.positions[l + k] - rest.positions[r + k]);
  const width = Math.hypot(...left);
  if (width < 1e-9 || left[0] > width * (1 - 1e-9)) return rest;
  const turn = shortestTurn([left[0], left[1], left[2]], [1, 0, 0]);
  const [positions, rotations] = [rest.positions.slice(), rest.rotations.slice()];
  skeleton.joints.forEach((_, j) => {
    rotate(positions, j * 3, turn, 0, rest.positions, j * 3);
    multiply(rotations, j * 4, turn, 0, rest.rotations, j * 4);
  });
  return { positions, rotations };
}

/** For each joint of a limb which limb and side it is of, 0 for all others: partners have opposite numbers. */
function limbMarks(skeleton: Skeleton, body: Body | null): Int8Array {
  const out = new Int8Array(skeleton.joints.length);
  if (!body) return out;
  const mark = (left: number, right: number, number: number) => {
    if (left < 0 || right < 0) return;
    const [a, b] = [pathTo(skeleton, left), pathTo(skeleton, right)];
    a.forEach((j) => !b.includes(j) && (out[j] = number));
    b.forEach((j) => !a.includes(j) && (out[j] = -number));
  };
  mark(body.legs.left.ankle, body.legs.right.ankle, 1);
  mark(body.arms.left.wrist, body.arms.right.wrist, 2);
  return out;
}

/** From the hips outwards: children of partners are paired with each other, each with whom it fits best. */
function pairJoints(skeleton: Skeleton, positions: Float64Array, marks: Int8Array): MirrorPair[] {
  const { joints } = skeleton;
  const children = childrenOf(skeleton);
  const size = Math.max(1e-9, ...joints.map((_, j) => Math.hypot(...[0, 1, 2].map((k) => positions[j * 3 + k] - positions[k]))));
  const tails = joints.map((_, j) => below(children, j));
  const middles = joints.map((_, j) => middleBelow(children, positions, j));
  const out: MirrorPair[] = joints.map((_, joint) => ({ joint, partner: joint, confidence: 0.2, reason: 'nobody on the other side' }));
  out[0] = { joint: 0, partner: 0, confidence: 1, reason: 'the middle' };
  const fit = (a: number, b: number) => {
    const apart = (p: ArrayLike<number>, q: ArrayLike<number>) => Math.hypot(p[0] + q[0] - 2 * positions[0], p[1] - q[1], p[2] - q[2]);
    const own = apart(positions.subarray(a * 3, a * 3 + 3), positions.subarray(b * 3, b * 3 + 3));
    // Where a joint's bones have no length, what hangs from it tells.
    const here = Math.exp(-((own / size / NEAR) ** 2));
    const place = here * Math.exp(-((apart(middles[a], middles[b]) / size / NEAR) ** 2));
    // Whoever is called neither left nor right is in the middle only if he stands there.
    const name = swapSides(joints[a].name) === joints[b].name && (a !== b || here > IN_THE_MIDDLE) ? 1 : 0;
    const shape = tails[a] === tails[b] ? 1 : Math.min(tails[a], tails[b]) / Math.max(tails[a], tails[b]);
    const limb = marks[a] !== 0 && marks[a] === -marks[b];
    return { name, place, shape, limb, score: (a === b ? 0.5 : 1) * name + place + 0.5 * shape + (limb ? 4 : 0) };
  };
  const visit = (a: number, b: number) => {
    const options = children[a].flatMap((c) => children[b].map((d) => ({ c, d, ...fit(c, d) })));
    const done = new Set<number>();
    const fits = ({ c, d, name, place, limb }: (typeof options)[number]) =>
      limb || (marks[c] === 0 && marks[d] === 0 && (name === 1 || (c !== d && place > 0.3)));
    for (const { c, d, name, place, shape } of options.filter(fits).sort((p, q) => q.score - p.score)) {
      if (done.has(c) || done.has(d)) continue;
      done.add(c).add(d);
      const both = name === 1 && place > 0.3;
      const reason = both
        ? c === d
          ? 'the middle'
          : 'name and place'
        : name === 1
          ? 'name; it stands elsewhere'
          : place > 0.3
            ? 'place'
            : OF_LIMB;
      const confidence = (both ? 0.9 : name === 1 ? 0.6 : 0.5) + 0.1 * place * shape;
      out[c] = { joint: c, partner: d, confidence, reason };
      out[d] = { joint: d, partner: c, confidence, reason };
      visit(c, d);
    }
  };
  visit(0, 0);
  return out;
}

/** The mean place of a joint and all that hangs from it. */
function middleBelow(children: readonly (readonly number[])[], positions: Float64Array, joint: number): [number, number, number] {
  const sum: [number, number, number] = [0, 0, 0];
  let count = 0;
  for (const stack = [joint]; stack.length > 0; count++) {
    const j = stack.pop() ?? 0;
    for (let k = 0; k < 3; k++) sum[k] += positions[j * 3 + k];
    stack.push(...children[j]);
  }
  return [sum[0] / count, sum[1] / count, sum[2] / count];
}

function below(children: readonly (readonly number[])[], j: number): number {
  return 1 + children[j].reduce((sum, c) => sum + below(children, c), 0);
}

/** World rotations of the rest pose with the bones of partners made each other's mirror image. */
function symmetric(skeleton: Skeleton, { rotations }: { readonly rotations: Float64Array }, pairs: readonly MirrorPair[]): Float64Array {
  const children = childrenOf(skeleton);
  const out = rotations.slice();
  const bone = (j: number): readonly number[] | null => {
    const child = children[j].find((c) => pairs[c].partner !== c) ?? children[j][0];
    const local = child === undefined ? skeleton.joints[j].endSites[0] : skeleton.joints[child].offset;
    if (!local) return null;
    // Joints in one place are turned as the one whose bone has a length.
    if (Math.hypot(...local) < 1e-9) return child === undefined ? null : bone(child);
    const world = [0, 0, 0];
    rotate(world, 0, rotations, j * 4, local, 0);
    return unit(world);
  };
  for (const { joint, partner } of pairs) {
    // A joint in the middle with pairs of children (hips, chest) has no bone of its own.
    if (joint === partner && children[joint].some((c) => pairs[c].partner !== c)) continue;
    const own = bone(joint);
    const other = bone(partner);
    if (!own || !other) continue;
    const wanted = unit([own[0] - other[0], own[1] + other[1], own[2] + other[2]]);
    if (wanted.some(Number.isNaN)) continue;
    const cosine = own[0] * wanted[0] + own[1] * wanted[1] + own[2] * wanted[2];
    // Closer than this the difference is that of the numbers in the file.
    if (cosine > 1 - 1e-9) continue;
    const turn = [
      own[1] * wanted[2] - own[2] * wanted[1],
      own[2] * wanted[0] - own[0] * wanted[2],
      own[0] * wanted[1] - own[1] * wanted[0],
      1 + cosine,
    ];
    const n = Math.hypot(...turn);
    if (n < 1e-6) continue;
    multiply(
      out,
      joint * 4,
      turn.map((v) => v / n),
      0,
      rotations,
      joint * 4,
    );
  }
  return out;
}

function unit(v: readonly number[]): number[] {
  const n = Math.hypot(...v);
  return v.map((x) => x / n);
}
