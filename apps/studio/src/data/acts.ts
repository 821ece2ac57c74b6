import { create } from 'zustand';
import { useClips } from './clips-store';
import { useSets } from './sets-store';

/** In a set clips and the set itself are changed by turns: which of the two histories the next undo, and the next redo, is of. */
type Kind = 'clips' | 'sets';

interface Acts {
  readonly past: readonly Kind[];
  readonly future: readonly Kind[];
}

/** As many as either history keeps. */
const MOST = 200;

export const useActs = create<Acts>()(() => ({ past: [], future: [] }));

const HISTORIES = { clips: useClips.temporal, sets: useSets.temporal } as const;
let isTravelling = false;

/** Follows both histories from now on; returns what ends it. */
export function followActs(): () => void {
  const follow = (kind: Kind) =>
    HISTORIES[kind].subscribe((now, before) => {
      if (isTravelling || now.pastStates.length <= before.pastStates.length || now.futureStates.length > 0) return;
      useActs.setState(({ past }) => ({ past: [...past, kind].slice(-MOST), future: [] }));
    });
  const ends = [follow('clips'), follow('sets')];
  return () => ends.forEach((end) => end());
}

/** The history whose last change is the newest; what was done before the page was opened is taken back set first. */
function newest(): Kind | null {
  const has = (kind: Kind) => HISTORIES[kind].getState().pastStates.length > 0;
  const known = useActs.getState().past.findLast(has);
  return known ?? (has('sets') ? 'sets' : has('clips') ? 'clips' : null);
}

function travel(kind: Kind, way: 'undo' | 'redo'): void {
  isTravelling = true;
  HISTORIES[kind].getState()[way]();
  isTravelling = false;
}

export function undoAct(): void {
  const kind = newest();
  if (!kind) return;
  travel(kind, 'undo');
  useActs.setState(({ past, future }) => {
    const at = past.lastIndexOf(kind);
    return { past: past.filter((_, i) => i !== at), future: [kind, ...future] };
  });
}

export function redoAct(): void {
  const has = (kind: Kind) => HISTORIES[kind].getState().futureStates.length > 0;
  const kind = useActs.getState().future.find(has) ?? (['sets', 'clips'] as const).find(has);
  if (!kind) return;
  travel(kind, 'redo');
  useActs.setState(({ past, future }) => {
    const at = future.indexOf(kind);
    return { past: [...past, kind], future: future.filter((_, i) => i !== at) };
  });
}
