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

/**
 * Reads everything before the rows of numbers.
 *
 * @param lines the text before the rows, one statement group a line
 * @throws InputError with the line, counted from 1
 */
export function readBvhHeader(lines: readonly string[]): BvhHeader {
  const warnings: Warning[] = [];
  const drafts: Draft[] = [];
  const open: (number | 'end')[] = [];
  let pending: number | 'end' | null = null;
  let stage: 'start' | 'hierarchy' | 'motion' = 'start';
  let frames = -1;
  let framesLine = 0;
  let frameTime = -1;

  lines.forEach((text, index) => {
    const line = index + 1;
    const fail = (message: string): never => {
      throw new InputError('bvh-header', message, { line });
    };
    // Braces may share a line with other words: each becomes a statement of its own.
    for (const statement of text.split(/([{}])/)) {
      const words = statement.trim().split(/\s+/).filter(Boolean);
      if (words.length === 0) continue;
      const keyword = words[0].toLowerCase();
      const current = open.at(-1);

      if (stage === 'start') {
        if (keyword !== 'hierarchy') fail(`Expected "HIERARCHY" at the start of a BVH file, found "${clip(words[0])}".`);
        stage = 'hierarchy';
        if (words.length > 1) fail(`Expected nothing after "HIERARCHY", found "${clip(words[1])}".`);
      } else if (stage === 'motion') {
        const match = /^(frames|frame\s*time)\s*:\s*(\S+)$/i.exec(words.join(' '));
        if (!match) fail(`Expected "Frames: N" and "Frame Time: S", found "${clip(words.join(' '))}".`);
        const value = Number(match?.[2]);
        if (/^frames$/i.test(match?.[1] ?? '')) {
          if (!Number.isInteger(value) || value < 0) fail(`Expected a whole number of frames, found "${clip(match?.[2] ?? '')}".`);
          frames = value;
          framesLine = line;
        } else {
          if (!(value > 0) || !Number.isFinite(value))
            fail(`Expected a frame time above zero in seconds, found "${clip(match?.[2] ?? '')}".`);
          frameTime = value;
        }
      } else if (keyword === '{') {
        if (pending === null) fail('This "{" does not follow a joint or an end site.');
        else open.push(pending);
        pending = null;
      } else if (pending !== null) {
        fail(`Expected "{" after ${pending === 'end' ? '"End Site"' : `joint "${drafts[pending].name}"`}, found "${clip(words[0])}".`);
      } else if (keyword === '}') {
        if (current === undefined) fail('This "}" closes nothing.');
        if (typeof current === 'number' && drafts[current].offset === null) {
          fail(`Joint "${drafts[current].name}" has no OFFSET.`);
        }
        open.pop();
      } else if (keyword === 'root' || keyword === 'joint') {
        if (keyword === 'root' && drafts.length > 0) fail('A second ROOT: files with several skeletons are not supported.');
        if (keyword === 'joint' && typeof current !== 'number') fail('A JOINT must stand inside another joint.');
        if (keyword === 'root' && current !== undefined) fail('A ROOT cannot stand inside a joint.');
        if (drafts.length >= MOST_JOINTS) fail(`More than ${MOST_JOINTS} joints.`);
        const parent = typeof current === 'number' ? current : -1;
        const name = words.slice(1).join(' ') || `joint ${drafts.length}`;
        drafts.push({ name, parent, offset: null, endSites: [], channels: null, line });
        pending = drafts.length - 1;
      } else if (keyword === 'end') {
        if (typeof current !== 'number') fail('An "End Site" must stand inside a joint.');
        pending = 'end';
      } else if (keyword === 'offset') {
        if (words.length !== 4) fail(`Expected three numbers after OFFSET, found ${words.length - 1}.`);
        const [x, y, z] = words.slice(1).map((word) => {
          const value = Number(word);
          if (!Number.isFinite(value)) fail(`Expected a number in OFFSET, found "${clip(word)}".`);
          return value;
        });
        if (current === undefined) fail('OFFSET stands outside every joint.');
        else if (current === 'end') endSiteOwner(open, drafts).endSites.push([x, y, z]);
        else drafts[current].offset = [x, y, z];
      } else if (keyword === 'channels') {
        if (typeof current !== 'number') return fail('CHANNELS stands outside every joint.');
        const names = words.slice(2);
        if (names.length !== Number(words[1])) {
          fail(`CHANNELS says ${clip(words[1] ?? 'nothing')} but ${names.length} channel names follow.`);
        }
        drafts[current].channels = names.map((name) => {
          const channel = CHANNELS[name.toLowerCase()];
          if (channel === undefined) return fail(`Unknown channel "${clip(name)}".`);
          if (channel === -1 && !warnings.some((w) => w.code === 'scale-channel')) {
            warnings.push({ code: 'scale-channel', line, message: 'The file has scale channels; they are left out.' });
          }
          return channel;
        });
      } else if (keyword === 'motion') {
        if (open.length > 0) fail(`MOTION begins before the hierarchy is closed: ${open.length} "}" missing.`);
        if (drafts.length === 0) fail('The hierarchy has no joint.');
        stage = 'motion';
      } else {
        fail(`Expected ROOT, JOINT, End Site, OFFSET, CHANNELS or MOTION, found "${clip(words[0])}".`);
      }
    }
  });

  const end = lines.length;
  const missing = (message: string) => new InputError('bvh-header', message, { line: Math.max(1, end) });
  const found = stage as string; // changed in the closure above, which the checker does not see
  if (found === 'start') throw missing('The file is empty: expected "HIERARCHY".');
  if (found === 'hierarchy') throw missing('The file ends before "MOTION".');
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
