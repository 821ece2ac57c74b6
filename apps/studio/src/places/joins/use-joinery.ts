import { useSnackbar } from 'notistack';
import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { JoinPiece, Shift } from '@lantern/motion';
import { shiftSchema } from '@lantern/motion';
import { useClips } from '@/data/clips-store';
import { useJoins, type JoinDoc } from '@/data/joins-store';
import { freeName } from '@/data/new-clip';
import { usePlayer } from '@/data/player';
import { useProjectInfo, type TakeInfo } from '@/data/project';
import { useSources } from '@/data/sources';
import { faultOf } from './bounds';
import * as edits from './join-edits';
import { knownOf, layoutOf, NOTHING_KNOWN, pieceAt, type Known } from './layout';
import { useAsked, useJoinView, type Seen } from './use-join-view';

/** What is chosen: a piece, or the place at which one meets the piece before it. */
export interface Chosen {
  readonly kind: 'piece' | 'meet';
  /** Of the piece; of a meeting, that of the coming one. */
  readonly id: string;
}

/** A copied piece, for as long as the page is open. */
let copied: JoinPiece | null = null;

/** All that the place shows and does with the open join. */
export function useJoinery(doc: JoinDoc | null, takes: readonly TakeInfo[]) {
  const sources = useSources(takes);
  const project = useProjectInfo();
  const router = useRouter();
  const { enqueueSnackbar } = useSnackbar();
  const put = useJoins((state) => state.put);
  const [draft, setDraft] = useState<JoinDoc | null>(null);
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const [snaps, setSnaps] = useState(true);
  const now = draft && draft.id === doc?.id ? draft : doc;
  const what = useAsked(now, sources);
  const { seen, problem, isBusy } = useJoinView(what, now !== doc);
  const known = useMemo<Known>(() => (seen ? knownOf(seen.pieces, seen.view) : NOTHING_KNOWN), [seen]);
  const laid = useMemo(() => layoutOf(now?.pieces ?? [], known), [now, known]);
  const view = seen && seen.asked.id === now?.id ? seen.view : null;
  const base = useBase(doc, seen, known);
  const load = usePlayer((state) => state.load);
  const frames = view?.motion.frames;
  const fps = view?.motion.fps;
  useEffect(() => {
    if (frames && fps) load(frames, fps);
  }, [frames, fps, load]);

  // What is worst of a join that is opened is looked at first.
  const opened = useRef('');
  useEffect(() => {
    if (!seen || opened.current === seen.asked.id) return;
    opened.current = seen.asked.id;
    const { meets } = seen.view;
    const faults = meets.findIndex((meet, i) => faultOf(meet, seen.pieces[i + 1].into) !== null);
    const id = seen.pieces[Math.max(0, faults) + 1]?.id;
    if (id) setChosen({ kind: 'meet', id });
  }, [seen]);

  const edit = useCallback(
    (next: JoinDoc, isDone = true) => {
      if (!isDone) return setDraft(next);
      setDraft(null);
      put(next);
    },
    [put],
  );
  const acts = useMemo(() => {
    const frame = () => Math.round(usePlayer.getState().frame);
    const at = () => (now ? pieceAt(laid.placed, frame()) : -1);
    const under = () => {
      const index = at();
      const piece = now?.pieces[index];
      return piece?.id && laid.placed[index] ? { index, piece, id: piece.id, own: frame() - laid.placed[index].start } : null;
    };
    const chosenPiece = () => now?.pieces.find(({ id }) => id === chosen?.id) ?? null;
    const afterChosen = () => (now && chosen ? edits.indexOf(now, chosen.id) + 1 : (now?.pieces.length ?? 0));
    const add = (piece: JoinPiece, index = afterChosen()) => {
      if (!now) return;
      edit(edits.insertPiece(now, piece, index));
      setChosen({ kind: 'piece', id: piece.id ?? '' });
    };
    return {
      add,
      split() {
        const found = under();
        if (now && found) edit(edits.splitPiece(now, found.id, found.own, laid.rooms[found.index]));
      },
      copy() {
        copied = chosenPiece();
        if (copied) enqueueSnackbar('The piece is copied: Ctrl V puts it behind what is chosen.');
      },
      paste() {
        if (copied) add({ ...copied, id: crypto.randomUUID() });
      },
      duplicate() {
        if (now && chosen) edit(edits.duplicatePiece(now, chosen.id));
      },
      remove() {
        if (!now || !chosen) return;
        edit(edits.removePiece(now, chosen.id));
        setChosen(null);
      },
      moveBy(by: -1 | 1) {
        if (!now || !chosen) return;
        const index = edits.indexOf(now, chosen.id);
        if (index + by >= 0 && index + by < now.pieces.length) edit(edits.movePiece(now, chosen.id, by < 0 ? index - 1 : index + 2));
      },
      raise() {
        const found = under();
        if (!now || !found) return;
        const shift: Shift = shiftSchema.parse({ at: Math.max(0, found.own), raise: 0.2 });
        edit(edits.setShift(now, found.id, found.piece.shifts.length, shift));
        setChosen({ kind: 'piece', id: found.id });
      },
      mark() {
        const found = under();
        if (!now || !found) return;
        const mark = { at: Math.max(0, found.own), name: `mark ${found.piece.marks.length + 1}` };
        edit(
          edits.changePiece(now, found.id, (piece) => ({ ...piece, marks: [...piece.marks.filter((own) => own.at !== mark.at), mark] })),
        );
      },
      /** Goes from one meeting to the next, or back. */
      along(by: -1 | 1) {
        if (!now || now.pieces.length < 2) return;
        const index = chosen ? edits.indexOf(now, chosen.id) : by > 0 ? 0 : now.pieces.length;
        const next = Math.min(now.pieces.length - 1, Math.max(1, index + by));
        setChosen({ kind: 'meet', id: now.pieces[next].id ?? '' });
        const { placed } = laid;
        if (placed[next]) usePlayer.getState().seek(Math.round((placed[next].from + placed[next - 1].to) / 2));
      },
    };
  }, [now, laid, chosen, edit, enqueueSnackbar]);

  const places = useMemo(() => {
    const all = () => useJoins.getState().docs;
    const open = (id: string) => router.push(`/${project.id}/joins/${id}`);
    return {
      open,
      create(pieces: readonly JoinPiece[] = []) {
        const made: JoinDoc = { id: crypto.randomUUID(), name: freeName('join', all()), pieces: [...pieces], start: 'origin' };
        useJoins.getState().put(made);
        open(made.id);
      },
      duplicateJoin(join: JoinDoc) {
        const copy = {
          ...join,
          id: crypto.randomUUID(),
          name: freeName(join.name, all()),
          pieces: join.pieces.map((piece) => ({ ...piece, id: crypto.randomUUID() })),
        };
        useJoins.getState().put(copy);
        open(copy.id);
      },
      removeJoin(id: string) {
        const cut = useClips.getState().docs.filter(({ source }) => source.take === id);
        if (cut.length > 0) {
          const which =
            cut.length === 1
              ? `“${cut[0].name}” is cut from this join: remove it`
              : `${cut.length} clips are cut from this join: remove them`;
          enqueueSnackbar(`${which} on the Bench first.`, { variant: 'warning' });
          return;
        }
        useJoins.getState().remove(id);
        router.push(`/${project.id}/joins`);
      },
    };
  }, [router, project.id, enqueueSnackbar]);

  return { doc: now, chosen, setChosen, snaps, setSnaps, seen, view, problem, isBusy, laid, base, edit, acts, places, takes, sources };
}

export type Joinery = ReturnType<typeof useJoinery>;

/**
 * The join as it is without what is being dragged: every movement of a drag is counted from here, and not from the movement before it. What it was seen as
 * stays until it has changed.
 */
function useBase(doc: JoinDoc | null, seen: Seen | null, known: Known) {
  const [settled, setSettled] = useState<Seen | null>(null);
  if (seen && doc && seen.pieces === doc.pieces && settled !== seen) setSettled(seen);
  return useMemo(
    () => ({ doc, laid: layoutOf(doc?.pieces ?? [], known), view: settled && settled.asked.id === doc?.id ? settled.view : null }),
    [doc, known, settled],
  );
}
