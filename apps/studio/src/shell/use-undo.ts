'use client';
import { usePathname } from 'next/navigation';
import { useStore } from 'zustand';
import { KINDS_OF_BENCH, KINDS_OF_SET, MARKERS, redoAct, undoAct } from '@/data/acts';
import { useClips } from '@/data/clips-store';
import { useJoins } from '@/data/joins-store';
import { useProjectInfo } from '@/data/project';
import { useFitEdits } from '@/data/fits';
import { useSets } from '@/data/sets-store';
import { useTakeEdits, useTakeHistory } from '@/data/take-edits';

/** Undo and redo of the place one is in: takes have their history in Takes, fits in Fit, joins in Joins, sets and clips together in Set and Ship, clips and markers of their takes on the Bench, clips have theirs everywhere else. */
export function useUndo(): { undo: () => void; redo: () => void; canUndo: boolean; canRedo: boolean } {
  const { id } = useProjectInfo();
  const path = usePathname();
  const inTakes = path.startsWith(`/${id}/takes`);
  const inFit = path.startsWith(`/${id}/fit`);
  const fit = useFitEdits();
  const takes = useTakeEdits();
  const past = useTakeHistory((state) => (state.project === id ? state.past.length : 0));
  const future = useTakeHistory((state) => (state.project === id ? state.future.length : 0));
  const inJoins = path.startsWith(`/${id}/joins`);
  const history = inJoins ? useJoins.temporal : useClips.temporal;
  // Bounds of sets are changed in Ship, and clips are in both.
  const inSet = ['set', 'ship'].some((place) => path.startsWith(`/${id}/${place}`));
  const setUndos = useStore(useSets.temporal, (state) => state.pastStates.length);
  const setRedos = useStore(useSets.temporal, (state) => state.futureStates.length);
  const undos = useStore(history, (state: { pastStates: unknown[] }) => state.pastStates.length);
  const redos = useStore(history, (state: { futureStates: unknown[] }) => state.futureStates.length);
  const marked = useTakeHistory((state) => state.project === id && state.past.at(-1)?.label === MARKERS);
  const unmarked = useTakeHistory((state) => state.project === id && state.future[0]?.label === MARKERS);
  if (inTakes) return { undo: () => void takes.undo(), redo: () => void takes.redo(), canUndo: past > 0, canRedo: future > 0 };
  if (inFit) return fit;
  const kinds = inSet ? KINDS_OF_SET : path.startsWith(`/${id}/bench`) ? KINDS_OF_BENCH : null;
  if (kinds)
    return {
      undo: () => undoAct(kinds),
      redo: () => redoAct(kinds),
      canUndo: undos > 0 || (inSet ? setUndos > 0 : marked),
      canRedo: redos > 0 || (inSet ? setRedos > 0 : unmarked),
    };
  const { undo, redo } = history.getState();
  return { undo: () => undo(), redo: () => redo(), canUndo: undos > 0, canRedo: redos > 0 };
}
