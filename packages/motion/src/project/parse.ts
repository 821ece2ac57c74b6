import { InputError } from '../error';
import { characterIn } from '../recipe/with-fits';
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
  return parsed.data;
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
