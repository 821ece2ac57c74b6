import type { PlayClip } from '@lantern/drive';
import type { Mark } from './ship-clip';
import { tidy } from './tidy';

/** Something that happens in a clip, seconds from its start. */
export type ClipEvent =
  | { readonly at: number; readonly kind: 'footfall'; readonly foot: 'left' | 'right' }
  | { readonly at: number; readonly kind: 'mark'; readonly name: string };

/** Footfalls by when feet bear, and marks by their names, in order of time. */
export function clipEvents({ contacts, loop, frames, fps }: PlayClip, marks: readonly Mark[]): ClipEvent[] {
  const seconds = (frames - 1) / fps;
  const falls = (['left', 'right'] as const).flatMap((foot) =>
    contacts[foot]
      // What is on the floor at the first key, and stays, has not come down.
      .filter(([from, to]) => (loop ? to - from < seconds - 1e-6 : from > 1e-6))
      .map(([from]): ClipEvent => ({ at: tidy(loop ? from % seconds : from), kind: 'footfall', foot })),
  );
  const named = marks.map(({ at, name }): ClipEvent => ({ at: tidy(Math.min(seconds, Math.max(0, at))), kind: 'mark', name }));
  return [...falls, ...named].sort((a, b) => a.at - b.at);
}
