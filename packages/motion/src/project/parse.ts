import { InputError } from '../error';
import { characterIn } from '../recipe/with-fits';
import { slotId } from '../set/slot';
import { projectSchema, type Project } from './schema';

/**
 * Reads a project file.
 *
 * @throws InputError `project` with the line of broken JSON, or the field that is wrong and what was expected
 *
 * @example
 * parseProject(projectText).clips[0].name; // 'stroll'
 */
export function parseProject(text: string): Project {
  let json: unknown;
  try {
    json = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch (error) {
    const message = error instanceof Error ? error.message : 'not JSON';
    const position = Number(/position (\d+)/.exec(message)?.[1] ?? text.length);
    throw new InputError('project', `The project file is not valid JSON: ${message}.`, {
      line: text.slice(0, position).split('\n').length,
    });
  }
  const parsed = projectSchema.safeParse(json);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    const field = issue.path
      .map((part) => (typeof part === 'number' ? `[${part}]` : `.${String(part)}`))
      .join('')
      .replace(/^\./, '');
    throw new InputError('project', `${field ? `"${field}": ` : ''}${issue.message}`, { field, line: lineOf(text, issue.path) });
  }
  const names = new Set<string>();
  const joins = new Set(parsed.data.joins.map(({ name }) => name));
  for (const { name } of parsed.data.joins) {
    if (names.has(name.toLowerCase())) throw new InputError('project', `Two clips or joins are called "${name}".`, { field: 'joins' });
    if (parsed.data.takes.some(({ id }) => id === name))
      throw new InputError('project', `A take and a join are both called "${name}": clips could be cut from either.`, { field: 'joins' });
    names.add(name.toLowerCase());
  }
  for (const clip of parsed.data.clips) {
    if (names.has(clip.name.toLowerCase())) throw new InputError('project', `Two clips are called "${clip.name}".`, { field: 'clips' });
    names.add(clip.name.toLowerCase());
    const character = characterIn(clip.steps);
    if (character !== null && !parsed.data.characters.some(({ id }) => id === character)) {
      throw new InputError('project', `Clip "${clip.name}" is fitted to "${character}", which is not among the characters.`, {
        field: 'clips',
      });
    }
    if (!joins.has(clip.source.take) && !parsed.data.takes.some((take) => take.id === clip.source.take)) {
      throw new InputError('project', `Clip "${clip.name}" is cut from take "${clip.source.take}", which is not among the takes.`, {
        field: 'clips',
      });
    }
  }
  checkSets(parsed.data);
  return parsed.data;
}

/** Names in sets and fields that mean something which is not there. */
function checkSets({ sets, fields, clips, characters }: Project): void {
  const isClip = (name: string) => clips.some((clip) => clip.name === name);
  const names = new Set<string>();
  for (const { name, character, home, pins, slots } of sets) {
    const fail = (message: string) => {
      throw new InputError('project', `Set "${name}": ${message}`, { field: 'sets' });
    };
    if (names.has(name)) throw new InputError('project', `Two sets are called "${name}".`, { field: 'sets' });
    names.add(name);
    if (character !== null && !characters.some(({ id }) => id === character)) fail(`"${character}" is not among the characters.`);
    if (home && !isClip(home.clip)) fail(`its home pose is of "${home.clip}", which is not among the clips.`);
    const ids = new Set<string>();
    for (const id of slots.map(slotId)) {
      if (ids.has(id)) fail(`it has the slot "${id}" twice.`);
      ids.add(id);
    }
    for (const [slot, clip] of Object.entries(pins)) {
      if (!ids.has(slot)) fail(`"${clip}" is pinned to "${slot}", which is none of its slots.`);
      if (!isClip(clip)) fail(`"${clip}" is pinned to "${slot}", but is not among the clips.`);
    }
  }
  names.clear();
  for (const { name, clips: own } of fields) {
    if (names.has(name)) throw new InputError('project', `Two fields are called "${name}".`, { field: 'fields' });
    names.add(name);
    const missing = own.find((clip) => !isClip(clip));
    if (missing)
      throw new InputError('project', `Field "${name}" has the clip "${missing}", which is not among the clips.`, { field: 'fields' });
  }
}

/** About where a field stands in the text: the lines of its keys are followed one after the other. */
function lineOf(text: string, path: readonly PropertyKey[]): number {
  let at = 0;
  for (const part of path) {
    if (typeof part !== 'string') continue;
    const found = text.indexOf(`"${part}"`, at);
    if (found < 0) break;
    at = found;
  }
  return text.slice(0, at).split('\n').length;
}
