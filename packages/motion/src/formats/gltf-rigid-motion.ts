import { multiply, rotate, type Quat, type Vec3 } from '../math/quat';
import { createMotion, type Motion } from '../model/motion';
import type { Joint } from '../model/skeleton';
import { compose, restOf } from './gltf-affine';
import type { GltfJson } from './gltf-container';
import type { JointNodes } from './gltf-joints';
import { sampleFrames, type Span, type Track, type Tracks } from './gltf-track';

/** A node that turns, moves, and is scaled evenly and for good. */
interface RigidNode {
  readonly translation: Vec3;
  readonly rotation: Quat;
  /** At rest, and while the animation runs. */
  readonly restScale: number;
  readonly scale: number;
  readonly moves: Track | undefined;
  readonly turns: Track | undefined;
}

const EVEN = 1e-5;

/** The nodes above and between the joints when none of them is sheared, mirrored, or scaled unevenly or over time; else null. */
function rigidNodes(json: GltfJson, { nodes, parentOf }: JointNodes, tracks: Tracks): ReadonlyMap<number, RigidNode> | null {
  const out = new Map<number, RigidNode>();
  const composed = new Float64Array(12);
  for (const joint of nodes) {
    for (let n = joint; n >= 0 && !out.has(n); n = parentOf[n]) {
      const { translation, rotation, scale, matrix } = restOf(json, n);
      const moving = tracks.get(n);
      const restScale = evenScale(scale);
      const whole = moving?.scale ? evenScale(moving.scale.values) : restScale;
      if (restScale === null || whole === null || moving?.scale?.kind === 'CUBICSPLINE') return null;
      compose(composed, translation, rotation, scale);
      if (matrix?.some((v, i) => i < 9 && Math.abs(v - composed[i]) > EVEN * restScale)) return null;
      out.set(n, { translation, rotation, restScale, scale: whole, moves: moving?.translation, turns: moving?.rotation });
    }
  }
  return out;
}

/** The one positive number that all of some scales are; null when they differ. */
function evenScale(values: ArrayLike<number>): number | null {
  const first = values[0];
  for (let i = 0; i < values.length; i++) if (!(Math.abs(values[i] - first) <= EVEN * first)) return null;
  return first > 0 ? first : null;
}

/**
 * The motion of joints whose nodes only turn, move and are scaled evenly, as almost all are: rotations and translations go over as they are, track by
 * track, and nodes between two joints are folded into the lower one.
 *
 * @returns null when some node does more than that
 */
export function rigidMotion(json: GltfJson, joints: JointNodes, tracks: Tracks, { start, frames, fps }: Span): Motion | null {
  const known = rigidNodes(json, joints, tracks);
  if (!known) return null;
  const { nodes, parents, parentOf } = joints;
  const count = nodes.length;
  const nodeOf = (n: number): RigidNode => known.get(n) ?? NOTHING;
  const scaleAbove = (n: number, which: 'scale' | 'restScale') => {
    let scale = 1;
    for (let up = parentOf[n]; up >= 0; up = parentOf[up]) scale *= nodeOf(up)[which];
    return scale;
  };
  /** From below the parent's joint, or the top of the file, down to the joint's own node. */
  const pathOf = (j: number) => {
    const end = parents[j] < 0 ? -1 : nodes[parents[j]];
    const path: number[] = [];
    for (let n = nodes[j]; n !== end && n >= 0; n = parentOf[n]) path.unshift(n);
    return path;
  };
  const t = [0, 0, 0];
  const q = [0, 0, 0, 1];
  const step = [0, 0, 0];
  const begin = () => {
    t[0] = t[1] = t[2] = q[0] = q[1] = q[2] = 0;
    q[3] = 1;
  };
  const descend = (scale: number, places: ArrayLike<number>, p: number, rotations: ArrayLike<number>, r: number) => {
    for (let k = 0; k < 3; k++) step[k] = scale * places[p + k];
    rotate(step, 0, q, 0, step, 0);
    for (let k = 0; k < 3; k++) t[k] += step[k];
    multiply(q, 0, q, 0, rotations, r);
  };
  const rest = nodes.map((_, j): Joint => {
    begin();
    for (const n of pathOf(j)) {
      const { translation, rotation } = nodeOf(n);
      descend(scaleAbove(n, 'restScale'), translation, 0, rotation, 0);
    }
    return { name: '', parent: parents[j], offset: [t[0], t[1], t[2]], restRotation: [q[0], q[1], q[2], q[3]], endSites: [] };
  });
  const motion = createMotion({ joints: rest }, fps, frames);
  const { rotations } = motion;
  const translations = new Map<number, Float32Array>();
  nodes.forEach((node, j) => {
    const path = pathOf(j).map((n) => {
      const { translation, rotation, moves, turns } = nodeOf(n);
      return {
        scale: scaleAbove(n, 'scale'),
        places: moves ? sampleFrames(moves, start, fps, frames) : translation,
        turned: turns ? sampleFrames(turns, start, fps, frames) : rotation,
        stepP: moves ? 3 : 0,
        stepR: turns ? 4 : 0,
      };
    });
    const own = path[path.length - 1];
    const isStill = path.every(({ stepP, stepR }, i) => stepP === 0 && (stepR === 0 || i === path.length - 1));
    const isAsRest = isStill && Math.abs(scaleAbove(node, 'scale') - scaleAbove(node, 'restScale')) < EVEN * scaleAbove(node, 'restScale');
    const to = j === 0 ? motion.rootPositions : isAsRest ? null : new Float32Array(frames * 3);
    if (j > 0 && to) translations.set(j, to);
    if (path.length === 1) {
      const { scale, places, turned, stepP, stepR } = own;
      for (let f = 0; f < frames; f++) {
        const o = (f * count + j) * 4;
        const [r, p] = [f * stepR, f * stepP];
        rotations[o] = turned[r];
        rotations[o + 1] = turned[r + 1];
        rotations[o + 2] = turned[r + 2];
        rotations[o + 3] = turned[r + 3];
        if (to) for (let k = 0; k < 3; k++) to[f * 3 + k] = scale * places[p + k];
      }
      return;
    }
    for (let f = 0; f < frames; f++) {
      begin();
      for (const { scale, places, turned, stepP, stepR } of path) descend(scale, places, f * stepP, turned, f * stepR);
      for (let k = 0; k < 4; k++) rotations[(f * count + j) * 4 + k] = q[k];
      if (to) for (let k = 0; k < 3; k++) to[f * 3 + k] = t[k];
    }
  });
  return { ...motion, translations };
}

const NOTHING: RigidNode = { translation: [0, 0, 0], rotation: [0, 0, 0, 1], restScale: 1, scale: 1, moves: undefined, turns: undefined };
