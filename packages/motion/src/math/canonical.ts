/**
 * JSON with the keys of every object in order: equal for equal values, however they were put together or kept.
 *
 * @example
 * canonical({ b: 1, a: 2 }); // '{"a":2,"b":1}'
 */
export function canonical(value: unknown): string {
  return JSON.stringify(value, (_, own: unknown) =>
    own && typeof own === 'object' && !Array.isArray(own)
      ? Object.fromEntries(Object.entries(own).sort(([a], [b]) => (a < b ? -1 : 1)))
      : own,
  );
}
