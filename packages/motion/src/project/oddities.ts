import type { Warning } from '../error';
import { clipInputSchema } from '../recipe/clip-document';
import { projectSchema } from './schema';

type Fields = Readonly<Record<string, unknown>>;

const isFields = (value: unknown): value is Fields => typeof value === 'object' && value !== null && !Array.isArray(value);
const listOf = (value: unknown): Fields[] => (Array.isArray(value) ? value.filter(isFields) : []);

/**
 * What in a project file is probably not meant, though it can be made: fields that nothing reads, and takes or characters of one id, of which
 * the last one counts.
 *
 * @param json a project file that has been parsed
 * @example
 * oddities({ oldLantern: 1, tekes: [] })[0].message; // 'The field "tekes" is not known; it is left out.'
 */
export function oddities(json: unknown): Warning[] {
  if (!isFields(json)) return [];
  const { takes, characters, joins, sets, fields, ship } = projectSchema.shape;
  const shapes: readonly [string, unknown, Fields][] = [
    ['', [json], projectSchema.shape],
    ['takes', json.takes, takes.element.shape],
    ['characters', json.characters, characters.unwrap().element.shape],
    ['clips', json.clips, clipInputSchema.in.shape],
    ['joins', json.joins, joins.unwrap().element.shape],
    ['sets', json.sets, sets.unwrap().element.shape],
    ['fields', json.fields, fields.unwrap().element.shape],
    ['ship', [json.ship], ship.unwrap().shape],
  ];
  const unknown = shapes.flatMap(([where, list, shape]) => {
    const names = new Set(listOf(list).flatMap((fields) => Object.keys(fields).filter((key) => !(key in shape))));
    return [...names].map((name) => ({
      code: 'unknown-field',
      message: `The field "${where ? `${where}.` : ''}${name}" is not known; it is left out.`,
    }));
  });
  const twice = ['takes', 'characters'].flatMap((where) => {
    const ids = listOf(json[where]).map(({ id }) => id);
    return [...new Set(ids.filter((id, i) => ids.indexOf(id) !== i))].map((id) => ({
      code: 'duplicate-id',
      message: `Several ${where} have the id "${String(id)}"; the last one counts.`,
    }));
  });
  return [...unknown, ...twice];
}
