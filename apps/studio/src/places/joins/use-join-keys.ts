import { useMemo } from 'react';
import { useKeys } from '@/controls/use-keys';
import { useOfferCommands, type Command } from '@/shell/commands';
import type { Joinery } from './use-joinery';

/** The keys of the place, and what its command finder offers. */
export function useJoinKeys({ acts, places, setSnaps, doc }: Joinery, bake: () => void): void {
  useKeys('x', acts.split);
  useKeys('n', () => places.create());
  useKeys('p', acts.mark);
  useKeys('u', acts.raise);
  useKeys('mod+c', acts.copy);
  useKeys('mod+v', acts.paste);
  useKeys('mod+d', acts.duplicate);
  useKeys('delete,backspace', acts.remove);
  useKeys('alt+left', () => acts.moveBy(-1));
  useKeys('alt+right', () => acts.moveBy(1));
  useKeys('[', () => acts.along(-1));
  useKeys(']', () => acts.along(1));
  const commands = useMemo<Command[]>(
    () =>
      doc
        ? [
            { id: 'split', label: 'Cut the piece at the playhead', keys: 'X', run: acts.split },
            { id: 'mark', label: 'A mark at the playhead', keys: 'P', run: acts.mark },
            { id: 'raise', label: 'Raise all from the playhead on', keys: 'U', run: acts.raise },
            { id: 'duplicate', label: 'Repeat the chosen piece as one of its own', keys: 'Ctrl D', run: acts.duplicate },
            { id: 'remove', label: 'Take the chosen piece out', keys: 'Del', run: acts.remove },
            { id: 'snap', label: 'Snap to footfalls, or no longer', run: () => setSnaps((is) => !is) },
            { id: 'bake', label: 'Bake the join into a take', run: bake },
          ]
        : [],
    [acts, bake, doc, setSnaps],
  );
  useOfferCommands('joins', commands);
  const everywhere = useMemo<Command[]>(() => [{ id: 'new-join', label: 'A new join', keys: 'N', run: () => places.create() }], [places]);
  useOfferCommands('joins place', everywhere);
}
