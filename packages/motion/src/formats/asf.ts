import { RADIANS } from '../math/angles';
import { InputError, type Warning } from '../error';
import { fromAxisAngle, IDENTITY, multiply, type Quat, type Vec3 } from '../math/quat';
import type { Joint, Skeleton } from '../model/skeleton';

/** What a number on a bone's line of an AMC means: turns about x y z are 3 4 5, moves along x y z are 0 1 2, −1 is read and left out. */
export type Freedom = -1 | 0 | 1 | 2 | 3 | 4 | 5;

/** A skeleton file: the skeleton, and what an AMC has to say about each of its bones. */
export interface AsfSkeleton {
  readonly name: string;
  readonly skeleton: Skeleton;
  /** Per joint (joint 0 is the root): what its numbers mean, in their written order. */
  readonly freedoms: readonly (readonly Freedom[])[];
  /** Per joint: the axes about which its angles turn, against the world's, in the rest pose. */
  readonly axes: readonly Quat[];
  /** 1 when angles are in radians, else π / 180. */
  readonly toRadians: number;
  readonly warnings: readonly Warning[];
}

const MOST_JOINTS = 2000;
const FREEDOMS: Readonly<Record<string, Freedom>> = { tx: 0, ty: 1, tz: 2, rx: 3, ry: 4, rz: 5, l: -1 };
const AXES: Readonly<Record<string, Vec3>> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };

interface Draft {
  name: string;
  line: number;
  direction: Vec3;
  length: number;
  axis: Quat;
  freedoms: Freedom[];
}

/** What has been read so far; bone 0 is the root. */
interface State {
  readonly bones: Draft[];
  readonly byName: Map<string, number>;
  readonly parentOf: Map<number, number>;
  section: string;
  isDegrees: boolean;
  /** The bone that is being described. */
  bone: Draft | null;
  rootPlace: Vec3;
  rootAxis: string;
  rootTurn: Vec3;
  hierarchyLine: number;
}

/** A line of the file: its words, and how they are read and refused. */
interface Line {
  readonly keyword: string;
  readonly words: readonly string[];
  readonly line: number;
  readonly fail: (message: string) => never;
}

/**
 * Reads an ASF skeleton. Each bone becomes a joint at its start, named for the bone, whose rest rotation is the world's; bones without
 * children get an end site at their end.
 *
 * @throws InputError `asf` with the line
 *
 * @example
 * readAsf(new TextEncoder().encode(asf), 'pier').skeleton.joints.length > 15; // true
 */
export function readAsf(bytes: Uint8Array, name: string): AsfSkeleton {
  const lines = new TextDecoder('utf-8').decode(bytes).split(/\r\n?|\n/);
  const state: State = {
    bones: [draft('root', 1)],
    byName: new Map(),
    parentOf: new Map(),
    section: '',
    isDegrees: true,
    bone: null,
    rootPlace: [0, 0, 0],
    rootAxis: 'xyz',
    rootTurn: [0, 0, 0],
    hierarchyLine: 0,
  };
  lines.forEach((text, index) => {
    const line = index + 1;
    const fail = (message: string): never => {
      throw new InputError('asf', message, { line });
    };
    const words = text.replace(/#.*$/, '').trim().split(/\s+/).filter(Boolean);
    if (words.length > 0) readLine(state, { keyword: words[0].toLowerCase(), words, line, fail });
  });
  const missing = (message: string): never => {
    throw new InputError('asf', message, { line: Math.max(1, lines.length) });
  };
  const [root] = state.bones;
  if (state.bones.length === 1) missing('The skeleton has no bones: ":bonedata" is missing or empty.');
  if (state.hierarchyLine === 0) missing('":hierarchy" is missing.');
  if (root.freedoms.length === 0) root.freedoms = [0, 1, 2, 3, 4, 5];
  root.axis = turn(state.rootTurn, state.rootAxis, state.isDegrees, missing);
  return assembled(state, name);
}

const draft = (name: string, line: number): Draft => ({ name, line, direction: [0, 0, 0], length: 0, axis: IDENTITY, freedoms: [] });

function readLine(state: State, line: Line): void {
  const { keyword, words } = line;
  if (keyword.startsWith(':')) {
    state.section = keyword.slice(1);
    if (state.section === 'hierarchy') state.hierarchyLine = line.line;
  } else if (state.section === 'units') {
    if (keyword === 'angle') state.isDegrees = !words[1]?.toLowerCase().startsWith('rad');
  } else if (state.section === 'root') readRoot(state, line);
  else if (state.section === 'bonedata') readBone(state, line);
  else if (state.section === 'hierarchy' && keyword !== 'begin' && keyword !== 'end') readChildren(state, line);
}

function readRoot(state: State, line: Line): void {
  const { keyword, words } = line;
  if (keyword === 'order') state.bones[0].freedoms = freedomsOf(line);
  else if (keyword === 'axis') state.rootAxis = words[1] ?? 'xyz';
  else if (keyword === 'position') state.rootPlace = vector(line);
  else if (keyword === 'orientation') state.rootTurn = vector(line);
}

function readBone(state: State, line: Line): void {
  const { keyword, words, fail } = line;
  const { bone } = state;
  if (keyword === 'begin') state.bone = draft('', line.line);
  else if (!bone) fail(`Expected "begin" before a bone's "${cut(words[0])}".`);
  else if (keyword === 'end') {
    if (!bone.name) fail('A bone has no name.');
    if (state.byName.has(bone.name)) fail(`A second bone is called "${cut(bone.name)}".`);
    if (state.bones.length > MOST_JOINTS) fail(`More than ${MOST_JOINTS} bones.`);
    state.byName.set(bone.name, state.bones.length);
    state.bones.push(bone);
    state.bone = null;
  } else if (keyword === 'name') bone.name = words.slice(1).join(' ');
  else if (keyword === 'direction') bone.direction = vector(line);
  else if (keyword === 'length') [bone.length] = numbers(line, 1);
  else if (keyword === 'axis') bone.axis = turn(vector(line), words[4] ?? 'xyz', state.isDegrees, fail);
  else if (keyword === 'dof') bone.freedoms = freedomsOf(line);
}

/** A line of the hierarchy: a bone, and those that hang on it. */
function readChildren({ byName, parentOf }: State, { words, fail }: Line): void {
  const numberOf = (word: string) =>
    word.toLowerCase() === 'root' ? 0 : (byName.get(word) ?? fail(`The bone "${cut(word)}" was not described.`));
  const parent = numberOf(words[0]);
  for (const word of words.slice(1)) {
    const child = numberOf(word);
    if (child === 0 || parentOf.has(child)) fail(`The bone "${cut(word)}" has a parent already.`);
    parentOf.set(child, parent);
  }
}

function numbers({ words, fail }: Line, count: number): number[] {
  const found = words.slice(1, 1 + count).map(Number);
  if (found.length < count || !found.every(Number.isFinite)) fail(`Expected ${count} numbers after "${cut(words[0])}".`);
  return found;
}

function vector(line: Line): Vec3 {
  const [x, y, z] = numbers(line, 3);
  return [x, y, z];
}

const freedomsOf = ({ words, fail }: Line): Freedom[] =>
  words
    .slice(1)
    .map((word) => FREEDOMS[word.toLowerCase()] ?? fail(`"${cut(word)}" is no degree of freedom; tx ty tz rx ry rz and l are.`));

/** The bones as a skeleton, parents before children. */
function assembled({ bones, parentOf, rootPlace, isDegrees }: State, name: string): AsfSkeleton {
  const children: number[][] = bones.map(() => []);
  parentOf.forEach((parent, child) => children[parent].push(child));
  const order: number[] = [];
  for (const stack = [0]; stack.length > 0;) {
    const n = stack.pop() ?? 0;
    order.push(n);
    stack.push(...[...children[n]].reverse());
  }
  const loose = bones.filter((_, i) => !order.includes(i));
  const warnings: Warning[] = loose
    .slice(0, 1)
    .map((bone) => ({ code: 'loose-bone', line: bone.line, message: `"${bone.name}" hangs on nothing; it is left out.` }));
  const position = new Map(order.map((n, i) => [n, i]));
  const along = ({ direction, length }: Draft): Vec3 => {
    const n = Math.hypot(...direction) || 1;
    return [(direction[0] / n) * length, (direction[1] / n) * length, (direction[2] / n) * length];
  };
  const joints = order.map((n): Joint => {
    const parent = n === 0 ? -1 : (parentOf.get(n) ?? 0);
    const offset = n === 0 ? rootPlace : parent === 0 ? ([0, 0, 0] as const) : along(bones[parent]);
    const endSites = n !== 0 && children[n].length === 0 ? [along(bones[n])] : [];
    return { name: bones[n].name, parent: n === 0 ? -1 : (position.get(parent) ?? 0), offset, restRotation: IDENTITY, endSites };
  });
  return {
    name,
    skeleton: { joints },
    freedoms: order.map((n) => bones[n].freedoms),
    axes: order.map((n) => bones[n].axis),
    toRadians: isDegrees ? RADIANS : 1,
    warnings,
  };
}

/** Angles about fixed axes in a written order, the first applied first. */
function turn(angles: Vec3, order: string, isDegrees: boolean, fail: (message: string) => never): Quat {
  const letters = [...order.toLowerCase()];
  if ([...letters].sort().join('') !== 'xyz') fail(`"${cut(order)}" is no order of axes.`);
  const q = [0, 0, 0, 1];
  for (const letter of letters) {
    const angle = angles['xyz'.indexOf(letter)] * (isDegrees ? RADIANS : 1);
    multiply(q, 0, fromAxisAngle(AXES[letter], angle), 0, q, 0);
  }
  return [q[0], q[1], q[2], q[3]];
}

const cut = (text: string) => (text.length > 40 ? `${text.slice(0, 40)}…` : text);
