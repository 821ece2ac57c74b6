import { InputError, type Warning } from '../error';
import { glbChunks, openGltf, type Gltf } from '../formats/gltf-container';
import { nodesAtRest, rotationOf } from '../formats/gltf-affine';
import { jointNodes, nodeParents, type JointNodes } from '../formats/gltf-joints';
import { uniqueNames } from '../formats/gltf';
import { vecAt } from '../math/vec';
import { NOT_A_PERSON } from '../anatomy/body';
import { pathTo } from '../anatomy/body-look';
import type { Joint, Skeleton } from '../model/skeleton';
import type { Character } from './character';
import { readSkin } from './read-skin';
import { findParts } from './find-parts';
import { bodyOfParts, type Parts } from '../anatomy/parts';
import { solesOfSkin, withLeafTips, withTips } from './skin-tips';
import { skinned } from './skinned';
import { uprightReading } from './upright';
import { posedSkeleton, turnedPose, type WorldPose } from './world-pose';

const NO_LEGS = `${NOT_A_PERSON} A character to fit takes to is one.`;
/** Ankles are no higher over the lowest point of the skin than this share of the stature. */
const HIGHEST_ANKLE = 0.3;

/**
 * Reads a skinned GLB as a character: its joints, bind pose and skin, turned to Y up and +Z, in metres. Whatever lies between two joints is
 * folded into the lower one, and what stands above the hips is left to the file.
 *
 * @throws InputError `character` that says what is missing, or `gltf` when the file is damaged
 *
 * @example
 * readCharacter(glb, 'tallow.glb').skeleton.joints.length; // 42
 */
export function readCharacter(bytes: Uint8Array, name: string): Character {
  glbChunks(bytes);
  const gltf = openGltf(bytes);
  const { json } = gltf;
  const fail = (message: string): never => {
    throw new InputError('character', message, { line: 1 });
  };
  if (json.buffers[0]?.uri !== undefined) return fail('Its data lie in another file: save the character as one GLB.');
  if (json.skins.length === 0)
    return fail('The file has no skin: a character is a mesh that is skinned to joints. Export it with its skin.');
  const warnings: Warning[] = [];
  const parentOf = nodeParents(json);
  const joints = jointNodes(json, parentOf, new Set(json.skins.flatMap((skin) => skin.joints)));
  if (joints.left > 0)
    warnings.push({ code: 'second-skeleton', message: `${joints.left} joints belong to another skeleton and are left out.` });
  const world = nodesAtRest(gltf, parentOf);
  const whole = skeletonOf(gltf, joints, world, warnings);
  const reading = uprightReading(whole.skeleton, whole.pose, warnings);
  const pose = turnedPose(whole.pose, reading.turn, reading.metresPerUnit);
  const all = { kept: whole.skeleton.joints.map((_, j) => j), metresPerUnit: reading.metresPerUnit };
  const everything = readSkin(gltf, joints, world, all, []);
  const upright = withLeafTips(posedSkeleton(whole.skeleton, pose), everything, skinned(everything, pose), pose);
  const parts = findParts(upright, pose);
  if (!parts) return fail(NO_LEGS);

  const { kept, skeleton } = below(upright, parts.parts.hips?.joints[0] ?? 0, pose);
  const own = renumbered(parts, kept);
  const skin = readSkin(gltf, joints, world, { ...all, kept }, warnings);
  const body = bodyOfParts(own.parts);
  if (!body) return fail('The legs are not whole: a character needs thigh, shin and foot on both sides.');
  const restPose = cutPose(pose, kept);
  const vertices = skinned(skin, restPose);
  const statureM = heightOf(vertices, skin.indices);
  // What reaches lowest of somebody without legs are the hands.
  const low = lowestOf(vertices, skin.indices);
  const ankles = [body.legs.left.ankle, body.legs.right.ankle].map((j) => restPose.positions[j * 3 + 1] - low);
  if (ankles.some((height) => height > HIGHEST_ANKLE * statureM)) return fail(NO_LEGS);
  const soles = solesOfSkin(skin, vertices, restPose, body);
  return {
    name,
    skeleton: withTips(skeleton, skin, vertices, restPose, own, soles),
    parts: own,
    skin,
    soles,
    nodes: {
      of: kept.map((j) => joints.nodes[j]),
      turn: reading.turn,
      metresPerUnit: reading.metresPerUnit,
      root: rootOf(joints, kept[0]),
    },
    outside: whole.skeleton.joints.filter((_, j) => !kept.includes(j)).map((joint) => joint.name),
    statureM,
    warnings,
    file: bytes,
  };
}

function skeletonOf(
  { json }: Gltf,
  { nodes, parents }: JointNodes,
  world: Float64Array,
  warnings: Warning[],
): { skeleton: Skeleton; pose: WorldPose } {
  const pose = { positions: new Float64Array(nodes.length * 3), rotations: new Float64Array(nodes.length * 4) };
  nodes.forEach((n, j) => {
    pose.positions.set(world.subarray(n * 12 + 9, n * 12 + 12), j * 3);
    rotationOf(pose.rotations, j * 4, world, n * 12);
  });
  if (!pose.rotations.every(Number.isFinite))
    throw new InputError('character', 'A joint has no rotation: the scale above it is zero.', { line: 1 });
  const names = uniqueNames(
    nodes.map((n, j) => json.nodes[n].name?.trim() || `joint ${j}`),
    warnings,
  );
  const joints = names.map((name, j): Joint => ({ name, parent: parents[j], offset: [0, 0, 0], restRotation: [0, 0, 0, 1], endSites: [] }));
  return { skeleton: { joints }, pose };
}

/** A joint and what hangs from it, as a skeleton of its own that stands where it stood. */
function below(skeleton: Skeleton, top: number, pose: WorldPose): { kept: number[]; skeleton: Skeleton } {
  const kept = skeleton.joints.flatMap((_, j) => (pathTo(skeleton, j).includes(top) ? [j] : []));
  const number = new Map(kept.map((j, i) => [j, i]));
  const joints = kept.map((j) => ({ ...skeleton.joints[j], parent: number.get(skeleton.joints[j].parent) ?? -1 }));
  const q = pose.rotations.subarray(top * 4, top * 4 + 4);
  joints[0] = { ...joints[0], parent: -1, offset: vecAt(pose.positions, top), restRotation: [q[0], q[1], q[2], q[3]] };
  return { kept, skeleton: { joints } };
}

function cutPose(pose: WorldPose, kept: readonly number[]): WorldPose {
  return {
    positions: Float64Array.from(kept.flatMap((j) => [...pose.positions.subarray(j * 3, j * 3 + 3)])),
    rotations: Float64Array.from(kept.flatMap((j) => [...pose.rotations.subarray(j * 4, j * 4 + 4)])),
  };
}

function renumbered({ parts, leftOut, sidesSwapped }: Parts, kept: readonly number[]): Parts {
  const number = new Map(kept.map((j, i) => [j, i]));
  const move = (j: number) => number.get(j) ?? 0;
  return {
    parts: Object.fromEntries(Object.entries(parts).map(([part, found]) => [part, { ...found, joints: found.joints.map(move) }])),
    leftOut: leftOut.filter(({ joint }) => number.has(joint)).map(({ joint, reason }) => ({ joint: move(joint), reason })),
    sidesSwapped,
  };
}

/** The topmost joint, when it is above the hips. */
function rootOf({ nodes }: JointNodes, hips: number): number | null {
  return hips > 0 ? nodes[0] : null;
}

const lowestOf = (vertices: Float32Array, indices: Uint32Array): number =>
  indices.reduce((low, v) => Math.min(low, vertices[v * 3 + 1]), Infinity);

function heightOf(vertices: Float32Array, indices: Uint32Array): number {
  let [low, high] = [Infinity, -Infinity];
  for (const v of indices) {
    low = Math.min(low, vertices[v * 3 + 1]);
    high = Math.max(high, vertices[v * 3 + 1]);
  }
  return high - low;
}
