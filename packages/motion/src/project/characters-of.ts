import { characterIn } from '../recipe/with-fits';
import type { Project } from './schema';

/** Whom clips and joins are on; null: nobody. */
export interface CharactersOf {
  /** By a clip's own recipe, or because what it is cut from is. */
  clip(clip: Project['clips'][number]): string | null;
  /** Of a join: whom its first clip is on. All are on the same, or it cannot be made. */
  join(name: string): string | null;
}

/**
 * Whom the clips and joins of a project are on.
 *
 * @param ofTake whom a take is fitted to already
 */
export function charactersOf(
  { clips, joins = [] }: Pick<Project, 'clips'> & Partial<Pick<Project, 'joins'>>,
  ofTake: (id: string) => string | null = () => null,
): CharactersOf {
  const through = ({ source: { take }, steps }: Project['clips'][number], seen: readonly string[]): string | null => {
    const own = characterIn(steps);
    if (own !== null) return own;
    return joins.some(({ name }) => name === take) ? ofJoin(take, seen) : ofTake(take);
  };
  const ofJoin = (name: string, seen: readonly string[]): string | null => {
    const pieces = joins.find((own) => own.name === name)?.pieces ?? [];
    const first = pieces.find((piece) => 'clip' in piece);
    const clip = clips.find((own) => own.name === first?.clip);
    // Where joins go round, making them says so.
    return clip && !seen.includes(name) ? through(clip, [...seen, name]) : null;
  };
  return { clip: (clip) => through(clip, []), join: (name) => ofJoin(name, []) };
}
