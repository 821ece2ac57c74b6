import { canonical } from '../math/canonical';
import { whyChanged, type ClipInputs } from './inputs';
import type { Report } from './report';

type Made = Pick<Report, 'clips' | 'joins' | 'ship'>;

/**
 * Why a file of a shipment is not what it was: which of its clips came, went, or are made from something else, in words.
 *
 * @param before the report of the shipment before; null where there was none
 * @returns at least one reason
 *
 * @example
 * whyWritten('set.glb', { clips: [], failed: [], files: [], fps: 60, warnings: [] }, null); // ['it was not there']
 */
export function whyWritten(path: string, now: Made, before: Made | null): string[] {
  if (!before) return ['it was not there'];
  const [own, other] = [clipsOf(path, now), clipsOf(path, before)];
  const why: string[] = [];
  for (const [name, inputs] of own) {
    if (!other.has(name)) why.push(`${name} is new`);
    else {
      const then = other.get(name);
      const changed = inputs && then ? whyChanged(inputs, then) : [];
      if (changed.length > 0) why.push(`${name}: ${changed.join(', ')}`);
    }
  }
  for (const name of other.keys()) if (!own.has(name)) why.push(`${name} is gone`);
  if (why.length > 0) return why;
  if (canonical(now.ship) !== canonical(before.ship)) return ['how it is shipped'];
  return [path.endsWith('.lantern.json') ? 'the set, its fields or its graph' : 'the program writes it otherwise'];
}

/** The clips and joins that a file is made of, and what they are made from. */
function clipsOf(path: string, { clips, joins = [], ship }: Made): Map<string, ClipInputs | undefined> {
  const folder = (file: string) => file.replace(/[^/]*$/, '');
  const all = [...clips, ...joins];
  const beside = /^(.*)clips\/([^/]*?)(\.travel\.csv|\.bvh)$/.exec(path);
  const isOf = ({ name, file }: (typeof all)[number]): boolean => {
    if (beside) return folder(file) === beside[1] && beside[2] === `${ship?.prefix ?? ''}${name}`;
    return path.endsWith('.json') ? folder(file) === folder(path) : file === path;
  };
  return new Map(all.filter(isOf).map(({ name, inputs }) => [name, inputs]));
}
