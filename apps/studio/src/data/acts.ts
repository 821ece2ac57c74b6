import { create } from 'zustand';
import { useClips } from './clips-store';
import { useSets } from './sets-store';
import { useTakeHistory, type TakeActs } from './take-edits';

/** Some places change things of several kinds by turns: which history the next undo, and the next redo, is of. */
type Kind = 'clips' | 'sets' | 'markers';
type Way = 'undo' | 'redo';

/** What is changed where: clips and the set itself in Set and Ship, clips and the markers of their takes on the Bench. */
export const KINDS_OF_SET: readonly Kind[] = ['sets', 'clips'];
export const KINDS_OF_BENCH: readonly Kind[] = ['clips', 'markers'];

interface Acts {
  readonly past: readonly Kind[];
  readonly future: readonly Kind[];
}

/** As many as either history keeps. */
const MOST = 200;

export const useActs = create<Acts>()(() => ({ past: [], future: [] }));

/** How an edit of a take's markers is called in the history of takes. */
export const MARKERS = 'markers';

let takes: TakeActs | null = null;
let isTravelling = false;

const isOfMarkers = (way: Way): boolean => {
  const { project, past, future } = useTakeHistory.getState();
  return project === useClips.getState().project && (way === 'undo' ? past.at(-1) : future[0])?.label === MARKERS;
};

const temporal = { clips: useClips.temporal, sets: useSets.temporal } as const;

/** Whether there is something of a kind to undo, or to redo. */
export function hasAct(kind: Kind, way: Way): boolean {
  if (kind === 'markers') return takes !== null && isOfMarkers(way);
  const { pastStates, futureStates } = temporal[kind].getState();
  return (way === 'undo' ? pastStates : futureStates).length > 0;
}

/** Follows all histories from now on; returns what ends it. @param edits those of takes */
export function followActs(edits: TakeActs): () => void {
  takes = edits;
  const note = (kind: Kind) => useActs.setState(({ past }) => ({ past: [...past, kind].slice(-MOST), future: [] }));
  const ends = (['clips', 'sets'] as const).map((kind) =>
    temporal[kind].subscribe((now, before) => {
      if (!isTravelling && now.pastStates.length > before.pastStates.length && now.futureStates.length === 0) note(kind);
    }),
  );
  const end = useTakeHistory.subscribe((now, before) => {
    if (!isTravelling && now.past.length > before.past.length && now.future.length === 0 && isOfMarkers('undo')) note('markers');
  });
  return () => {
    [...ends, end].forEach((own) => own());
    takes = null;
  };
}

function travel(kind: Kind, way: Way): void {
  isTravelling = true;
  if (kind === 'markers') void takes?.[way]();
  else temporal[kind].getState()[way]();
  isTravelling = false;
}

/** Undoes the newest change of these kinds; what was done before the page was opened is undone in their order. */
export function undoAct(kinds: readonly Kind[]): void {
  const has = (kind: Kind) => kinds.includes(kind) && hasAct(kind, 'undo');
  const kind = useActs.getState().past.findLast(has) ?? kinds.find(has);
  if (!kind) return;
  travel(kind, 'undo');
  useActs.setState(({ past, future }) => {
    const at = past.lastIndexOf(kind);
    return { past: past.filter((_, i) => i !== at), future: [kind, ...future] };
  });
}

/** Does again what was undone last. */
export function redoAct(kinds: readonly Kind[]): void {
  const has = (kind: Kind) => kinds.includes(kind) && hasAct(kind, 'redo');
  const kind = useActs.getState().future.find(has) ?? kinds.find(has);
  if (!kind) return;
  travel(kind, 'redo');
  useActs.setState(({ past, future }) => {
    const at = future.indexOf(kind);
    return { past: [...past, kind], future: future.filter((_, i) => i !== at) };
  });
}
