import type { Project } from '@lantern/motion';

/** The takes that have to be open so that a clip or a join can be made: those that it comes from, and those that home poses come from. */
export function sourcesNeeded({ clips, joins, sets }: Pick<Project, 'clips' | 'joins' | 'sets'>, name: string): ReadonlySet<string> {
  const found = new Set<string>();
  const seen = new Set<string>();
  const ofSource = (id: string): void => {
    const join = joins.find((own) => own.name === id);
    if (!join) found.add(id);
    else if (!seen.has(id)) {
      seen.add(id);
      for (const piece of join.pieces)
        if ('clip' in piece) ofClip(piece.clip);
        else ofSource(piece.take);
    }
  };
  const ofClip = (wanted: string): void => {
    const clip = clips.find((own) => own.name === wanted);
    if (clip) ofSource(clip.source.take);
  };
  if (clips.some((own) => own.name === name)) ofClip(name);
  else ofSource(name);
  for (const { home } of sets) if (home) ofClip(home.clip);
  return found;
}
