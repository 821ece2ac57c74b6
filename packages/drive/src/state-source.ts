import { clipSource } from './clip-source';
import { fieldSource, type FieldSource } from './field-source';
import type { Memory } from './memory';
import type { PlaySet, PlayState } from './play-graph';
import type { Source } from './source';

/** What a state plays: a clip, or a field that is asked. */
interface Played {
  readonly source: Source;
  readonly field: FieldSource | null;
}

/** @throws Error with a sentence when the set has no clip or field of the name */
export function sourceOf(set: PlaySet, { name, plays }: PlayState, memory: Memory): Played {
  if ('clip' in plays) {
    const clip = set.clips.find((own) => own.name === plays.clip);
    if (!clip) throw new Error(`“${name}” plays “${plays.clip}”, which is no clip of the set.`);
    return { source: clipSource(set.skeleton, clip, plays.loop, memory), field: null };
  }
  const field = set.fields.find((own) => own.name === plays.field);
  if (!field) throw new Error(`“${name}” plays “${plays.field}”, which is no field of the set.`);
  const source = fieldSource(set.skeleton, field, memory);
  return { source, field: source };
}
