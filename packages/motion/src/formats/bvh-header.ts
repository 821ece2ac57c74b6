import { InputError, type Warning } from '../error';
import { IDENTITY, type Vec3 } from '../math/quat';
import type { Joint, Skeleton } from '../model/skeleton';

/** What a column of a row means: position x y z are 0 1 2, rotation x y z are 3 4 5, −1 is read and ignored. */
export type Channel = -1 | 0 | 1 | 2 | 3 | 4 | 5;

export interface BvhHeader {
  readonly skeleton: Skeleton;
  /** Channels of each joint in their written order. */
  readonly channels: readonly (readonly Channel[])[];
  readonly frames: number;
  readonly framesLine: number;
  readonly frameTime: number;
  readonly warnings: Warning[];
}

const CHANNELS: Record<string, Channel> = {
  xposition: 0,
  yposition: 1,
  zposition: 2,
  xrotation: 3,
  yrotation: 4,
  zrotation: 5,
  xscale: -1,
  yscale: -1,
  zscale: -1,
};
const MOST_JOINTS = 2000;

interface Draft {
  name: string;
  parent: number;
  offset: Vec3 | null;
  endSites: Vec3[];
  channels: Channel[] | null;
  line: number;
}

/** What has been read so far. */
interface State {
  readonly warnings: Warning[];
  readonly drafts: Draft[];
  /** Joints and end sites whose brace is open. */
  readonly open: (number | 'end')[];
  /** What a brace must open next. */
  pending: number | 'end' | null;
  stage: 'start' | 'hierarchy' | 'motion';
  frames: number;
  framesLine: number;
  frameTime: number;
}

/** A statement of the file: its words, its line, and how it is refused. */
interface Statement {
  readonly words: readonly string[];
  readonly line: number;
  readonly fail: (message: string) => never;
}

/**
 * Reads everything before the rows of numbers.
 *
 * @param lines the text before the rows, one statement group a line
 * @throws InputError with the line, counted from 1
 */
export function readBvhHeader(lines: readonly string[]): BvhHeader {
  const state: State = {
    warnings: [],
    drafts: [],
    open: [],
    pending: null,
    stage: 'start',
    frames: -1,
    framesLine: 0,
    frameTime: -1,
  };
  lines.forEach((text, index) => {
    const line = index + 1;
    const fail = (message: string): never => {
      throw new InputError('bvh-header', message, { line });
    };
    // Braces may share a line with other words: each becomes a statement of its own.
    for (const statement of text.split(/([{}])/)) {
      const words = statement.trim().split(/\s+/).filter(Boolean);
      if (words.length > 0) readStatement(state, { words, line, fail });
    }
  });
  return finished(state, lines.length);
}

function finished({ stage, frames, framesLine, frameTime, drafts, warnings }: State, lines: number): BvhHeader {
  const missing = (message: string) => new InputError('bvh-header', message, { line: Math.max(1, lines) });
  if (stage === 'start') throw missing('The file is empty: expected "HIERARCHY".');
  if (stage === 'hierarchy') throw missing('The file ends before "MOTION".');
  if (frames < 0) throw missing('"Frames:" is missing.');
  if (frameTime < 0) throw missing('"Frame Time:" is missing.');
  return {
    skeleton: { joints: uniqueNames(drafts, warnings) },
    channels: drafts.map((draft) => draft.channels ?? []),
    frames,
    framesLine,
    frameTime,
    warnings,
  };
}

function readStatement(state: State, statement: Statement): void {
  const { words, fail } = statement;
  const keyword = words[0].toLowerCase();
  if (state.stage === 'start') {
    if (keyword !== 'hierarchy') fail(`Expected "HIERARCHY" at the start of a BVH file, found "${clip(words[0])}".`);
    if (words.length > 1) fail(`Expected nothing after "HIERARCHY", found "${clip(words[1])}".`);
    state.stage = 'hierarchy';
    return;
  }
  if (state.stage === 'motion') return readCount(state, statement);
  const { pending } = state;
  if (keyword === '{') {
    if (pending === null) return fail('This "{" does not follow a joint or an end site.');
    state.open.push(pending);
    state.pending = null;
    return;
  }
  if (pending !== null) {
    fail(`Expected "{" after ${pending === 'end' ? '"End Site"' : `joint "${state.drafts[pending].name}"`}, found "${clip(words[0])}".`);
  }
  const read = STATEMENTS[keyword];
  if (!read) return fail(`Expected ROOT, JOINT, End Site, OFFSET, CHANNELS or MOTION, found "${clip(words[0])}".`);
  read(state, statement);
}

/** The number of frames, or the time of one. */
function readCount(state: State, { words, line, fail }: Statement): void {
  const match = /^(frames|frame\s*time)\s*:\s*(\S+)$/i.exec(words.join(' '));
  if (!match) return fail(`Expected "Frames: N" and "Frame Time: S", found "${clip(words.join(' '))}".`);
  const [, name, said] = match;
  const value = Number(said);
  if (/^frames$/i.test(name)) {
    if (!Number.isInteger(value) || value < 0) fail(`Expected a whole number of frames, found "${clip(said)}".`);
    state.frames = value;
    state.framesLine = line;
  } else {
    if (!(value > 0) || !Number.isFinite(value)) fail(`Expected a frame time above zero in seconds, found "${clip(said)}".`);
    state.frameTime = value;
  }
}

/** What each word of the hierarchy begins. */
const STATEMENTS: Readonly<Record<string, (state: State, statement: Statement) => void>> = {
  '}': ({ open, drafts }, { fail }) => {
    const current = open.at(-1);
    if (current === undefined) fail('This "}" closes nothing.');
    if (typeof current === 'number' && drafts[current].offset === null) fail(`Joint "${drafts[current].name}" has no OFFSET.`);
    open.pop();
  },
  root: readJoint,
  joint: readJoint,
  end: (state, { fail }) => {
    if (typeof state.open.at(-1) !== 'number') fail('An "End Site" must stand inside a joint.');
    state.pending = 'end';
  },
  offset: readOffset,
  channels: readChannels,
  motion: (state, { fail }) => {
    if (state.open.length > 0) fail(`MOTION begins before the hierarchy is closed: ${state.open.length} "}" missing.`);
    if (state.drafts.length === 0) fail('The hierarchy has no joint.');
    state.stage = 'motion';
  },
};

function readJoint(state: State, { words, line, fail }: Statement): void {
  const { drafts, open } = state;
  const isRoot = words[0].toLowerCase() === 'root';
  const current = open.at(-1);
  if (isRoot && drafts.length > 0) fail('A second ROOT: files with several skeletons are not supported.');
  if (!isRoot && typeof current !== 'number') fail('A JOINT must stand inside another joint.');
  if (isRoot && current !== undefined) fail('A ROOT cannot stand inside a joint.');
  if (drafts.length >= MOST_JOINTS) fail(`More than ${MOST_JOINTS} joints.`);
  const parent = typeof current === 'number' ? current : -1;
  const name = words.slice(1).join(' ') || `joint ${drafts.length}`;
  drafts.push({ name, parent, offset: null, endSites: [], channels: null, line });
  state.pending = drafts.length - 1;
}

function readOffset({ open, drafts }: State, { words, fail }: Statement): void {
  if (words.length !== 4) fail(`Expected three numbers after OFFSET, found ${words.length - 1}.`);
  const [x, y, z] = words.slice(1).map((word) => {
    const value = Number(word);
    if (!Number.isFinite(value)) fail(`Expected a number in OFFSET, found "${clip(word)}".`);
    return value;
  });
  const current = open.at(-1);
  if (current === undefined) fail('OFFSET stands outside every joint.');
  else if (current === 'end') endSiteOwner(open, drafts).endSites.push([x, y, z]);
  else drafts[current].offset = [x, y, z];
}

function readChannels({ open, drafts, warnings }: State, { words, line, fail }: Statement): void {
  const current = open.at(-1);
  if (typeof current !== 'number') return fail('CHANNELS stands outside every joint.');
  const names = words.slice(2);
  if (names.length !== Number(words[1])) fail(`CHANNELS says ${clip(words[1] ?? 'nothing')} but ${names.length} channel names follow.`);
  drafts[current].channels = names.map((name) => {
    const channel = CHANNELS[name.toLowerCase()];
    if (channel === undefined) return fail(`Unknown channel "${clip(name)}".`);
    if (channel === -1 && !warnings.some((w) => w.code === 'scale-channel')) {
      warnings.push({ code: 'scale-channel', line, message: 'The file has scale channels; they are left out.' });
    }
    return channel;
  });
}

function endSiteOwner(open: readonly (number | 'end')[], drafts: readonly Draft[]): Draft {
  const owner = open.at(-2);
  return drafts[typeof owner === 'number' ? owner : 0];
}

function uniqueNames(drafts: readonly Draft[], warnings: Warning[]): Joint[] {
  const seen = new Set<string>();
  return drafts.map((draft) => {
    let name = draft.name;
    for (let n = 2; seen.has(name); n++) name = `${draft.name} ${n}`;
    if (name !== draft.name) {
      warnings.push({ code: 'joint-name', line: draft.line, message: `A second joint is called "${draft.name}"; it is "${name}" here.` });
    }
    seen.add(name);
    return {
      name,
      parent: draft.parent,
      offset: draft.offset ?? [0, 0, 0],
      restRotation: IDENTITY,
      endSites: draft.endSites,
    };
  });
}

const clip = (text: string) => (text.length > 40 ? `${text.slice(0, 40)}…` : text).replace(/[^\x20-\uffff]/g, '?');
