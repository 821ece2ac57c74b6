import { InputError } from '../error';
import type { GltfJson } from './gltf-container';

/** Which nodes of a file are the joints of an animation. */
export interface JointNodes {
  /** Node indices, parents before children; the first is the only one without a parent among them. */
  readonly nodes: readonly number[];
  /** For each of `nodes`, the position in it of its nearest ancestor that is a joint too; −1 for the first. */
  readonly parents: readonly number[];
  /** The parent of every node of the file, −1 at the top. */
  readonly parentOf: Int32Array;
  /** Joints that belong to another tree and are left out. */
  readonly left: number;
}

const MOST_JOINTS = 2000;

/** The parent of every node. @throws InputError when nodes form a ring or have two parents */
export function nodeParents(json: GltfJson): Int32Array {
  const fail = (message: string): never => {
    throw new InputError('gltf', message, { line: 1 });
  };
  const parentOf = new Int32Array(json.nodes.length).fill(-1);
  json.nodes.forEach((node, n) => {
    for (const child of node.children) {
      if (child >= json.nodes.length) fail(`Node ${n} has the child ${child}, which is missing.`);
      if (parentOf[child] >= 0) fail(`Node ${child} has two parents, ${parentOf[child]} and ${n}.`);
      parentOf[child] = n;
    }
  });
  // From every node up: 1 while being walked, 2 when known to end at a top.
  const state = new Uint8Array(json.nodes.length);
  for (let start = 0; start < state.length; start++) {
    let n = start;
    for (; n >= 0 && state[n] === 0; n = parentOf[n]) state[n] = 1;
    if (n >= 0 && state[n] === 1) fail(`Node ${n} is its own ancestor.`);
    for (n = start; n >= 0 && state[n] === 1; n = parentOf[n]) state[n] = 2;
  }
  return parentOf;
}

/**
 * The joints that an animation moves: those of the skins it touches or, without skins, what hangs below the nodes it moves. Where they
 * have no common top among themselves, the node above them all is taken in; joints of further trees are left out.
 */
export function jointNodes(json: GltfJson, parentOf: Int32Array, moved: ReadonlySet<number>): JointNodes {
  const skins = json.skins.map(({ joints }) => joints.filter((joint) => joint < json.nodes.length));
  const touched = skins.filter((joints) => joints.some((joint) => moved.has(joint)));
  const wanted = new Set(touched.flat());
  if (wanted.size === 0) {
    const below = (start: number) => {
      for (const stack = [start]; stack.length > 0;) {
        const n = stack.pop() ?? 0;
        const node = json.nodes[n];
        // What only carries a mesh or camera and never moves is scenery.
        if (moved.has(n) || (node.mesh === undefined && node.camera === undefined)) wanted.add(n);
        stack.push(...node.children);
      }
    };
    for (const n of moved) if (!wanted.has(n)) below(n);
  }
  // Animated ancestors carry the body too: an engine's root above the hips need not be in the skin.
  for (const n of [...wanted]) {
    for (let up = parentOf[n]; up >= 0 && !wanted.has(up); up = parentOf[up]) if (moved.has(up)) wanted.add(up);
  }
  const nearest = (n: number) => {
    let up = parentOf[n];
    while (up >= 0 && !wanted.has(up)) up = parentOf[up];
    return up;
  };
  const tops = [...wanted].filter((n) => nearest(n) < 0);
  let left = 0;
  if (tops.length > 1) {
    const common = commonAncestor(tops, parentOf);
    if (common >= 0) wanted.add(common);
    else {
      const size = new Map(tops.map((top) => [top, 0]));
      for (const n of wanted) size.set(topOf(n, nearest), (size.get(topOf(n, nearest)) ?? 0) + 1);
      const largest = tops.reduce((a, b) => ((size.get(b) ?? 0) > (size.get(a) ?? 0) ? b : a));
      for (const n of [...wanted]) {
        if (topOf(n, nearest) === largest) continue;
        wanted.delete(n);
        left++;
      }
    }
  }
  if (wanted.size > MOST_JOINTS)
    throw new InputError('gltf', `The animation has ${wanted.size} joints; ${MOST_JOINTS} are the most.`, { line: 1 });
  const top = [...wanted].find((n) => nearest(n) < 0);
  const nodes: number[] = [];
  for (const stack = top === undefined ? [] : [top]; stack.length > 0;) {
    const n = stack.pop() ?? 0;
    if (wanted.has(n)) nodes.push(n);
    stack.push(...[...json.nodes[n].children].reverse());
  }
  const position = new Map(nodes.map((n, i) => [n, i]));
  return { nodes, parents: nodes.map((n, i) => (i === 0 ? -1 : (position.get(nearest(n)) ?? 0))), parentOf, left };
}

function topOf(node: number, nearest: (n: number) => number): number {
  let n = node;
  for (let up = nearest(n); up >= 0; up = nearest(n)) n = up;
  return n;
}

/** The lowest node above all of some nodes, −1 when they are in different trees. */
function commonAncestor(nodes: readonly number[], parentOf: Int32Array): number {
  const chain = (n: number) => {
    const up: number[] = [];
    for (let at = parentOf[n]; at >= 0; at = parentOf[at]) up.push(at);
    return up;
  };
  const others = nodes.slice(1).map((n) => new Set(chain(n)));
  return chain(nodes[0]).find((n) => others.every((set) => set.has(n))) ?? -1;
}
