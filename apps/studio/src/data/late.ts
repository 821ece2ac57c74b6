import type * as Parts from './late-parts';

let loaded: typeof Parts | null = null;

/** What the frame of the page needs of the core once there is data. It rests on the steps of recipes, which is most of the core: it comes with the first data. */
export const loadLate = async (): Promise<typeof Parts> => (loaded ??= await import('./late-parts'));

/**
 * The same, for whoever has data of a project already, which did not come without it.
 *
 * @example
 * const doc = late().clipInputSchema.parse(kept);
 */
export function late(): typeof Parts {
  if (!loaded) throw new Error('asked for before there was any data');
  return loaded;
}
