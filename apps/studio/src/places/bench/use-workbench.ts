import { characterIn, stepOf, type LoopCandidate, type Segment } from '@lantern/motion';
import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { useCorrecting } from '@/data/correcting';
import { recut } from '@/data/new-clip';
import { usePlayer } from '@/data/player';
import { useProjectInfo, type TakeInfo } from '@/data/project';
import { characterOf } from '@/data/sources';
import { stepsAlone } from '@/data/seen';
import { takeKey } from '@/data/use-open-take';
import type { ClipResult, OpenTake } from '@/worker/core.worker';
import type { GlassName } from './PreviewBar';
import { useAboutRecipe } from './recipe/use-about-recipe';
import { clipFrameOf, takeFrameOf, type ClipTime } from './take-frame';
import { useBench, useClipResult, useEndPoses, useLoops, useReading, useSeam, type Cut, type Preview } from './use-bench';
import { useBenchKeys } from './use-bench-keys';
import { useBend } from './layers/use-bend';
import { useGhost } from './use-ghost';
import { useJudged } from './judging/use-judged';
import { useCorrections } from './layers/use-corrections';
import { useDraft } from './use-draft';
import { useClipActs } from './use-clip-acts';
import { takeFrameNow, useLoadPlayer } from './use-load-player';
import { useMarkers } from './use-markers';
import { usePen } from './use-pen';
import { useWorry } from './use-worry';

/** So often a loop is played on end. */
export const REPEATS = 4;
const NONE: readonly LoopCandidate[] = [];
const NO_SEGMENTS: readonly Segment[] = [];
/** Least frames between the posts. */
const LEAST = 2;

/** All that the Bench shows and does: the open clip, the take it is cut from, and what is worked out of both. */
export function useWorkbench(takes: readonly TakeInfo[], clip: string | null, wantedTake: string | null) {
  const { docs, doc, take, opened } = useBench(takes, clip, wantedTake);
  const [preview, setPreview] = useState<Preview>('travel');
  const [proposing, setProposing] = useState(false);
  const [glass, setGlass] = useState<GlassName | null>(null);
  const [near, setNear] = useState<Cut | null>(null);
  const isOpen = opened.data !== undefined && take !== null && opened.data.id === takeKey(take);
  const seen = useAlone(doc);
  const { result, measured } = useClipResult(take, isOpen, seen, REPEATS, preview === 'place');
  const draft = useDraft(take, result.isPlaceholderData ? null : (result.data ?? null), { repeats: REPEATS, inPlace: preview === 'place' });
  const latest = draft.result ?? result.data;
  const shown = doc && preview !== 'take' && latest ? latest : null;
  const { cut, setDraft, time } = useCut(doc, shown);
  const seam = useSeam(take, isOpen, cut);
  const loops = useLoops(take, isOpen);
  const reading = useReading(take, isOpen);
  useLoadPlayer(opened.data?.motion ?? null, shown?.motion ?? null, time, cut, preview);
  useAddress(clip === null && wantedTake === null ? doc?.id : undefined);
  const about = useAboutRecipe(takes, take, doc, docs, {
    joints: opened.data?.motion.skeleton.joints,
    cycle: result.data?.cycle,
    loop: result.data?.loop ?? false,
    measured: measured.data ?? null,
    onGo: (frame) => {
      if (preview === 'take') setPreview('travel');
      usePlayer.getState().seek(frame);
    },
  });
  const corrections = useCorrections({ doc, shown, measured: measured.data ?? null, draft: draft.show });
  const correct = useCallback(() => {
    setPreview((now) => (now === 'take' ? 'travel' : now));
    useCorrecting.setState(({ isOn }) => ({ isOn: preview === 'take' || !isOn }));
  }, [preview]);
  const acts = useClipActs(take, doc);
  const edits = useCutEdits({
    doc,
    take: isOpen ? (opened.data ?? null) : null,
    time,
    setDraft,
    setPreview,
    make: acts.make,
    split: acts.split,
  });
  const travels = useScrubbing(opened.data, time, setPreview);
  const put = useClips((state) => state.put);
  const pen = usePen(doc, shown, about.isDrawing, opened.data?.heading, put);
  const propose = useCallback(() => setProposing(true), []);
  const { setMarkers, markHere } = useMarkers(take, time);
  const worry = useWorry(shown?.loop ? shown.cycle : null);
  const candidates = loops.data?.candidates ?? NONE;
  useBenchKeys({
    ...acts,
    ...edits,
    candidates,
    propose,
    worry,
    markHere,
    doc,
    created: about.created,
    preview,
    setPreview,
    glass,
    setGlass,
    correct,
    corrections,
    asCaptured: () => travels.showTake(takeFrameNow(time)),
    toEnd: (isStart) => cut && usePlayer.getState().seek(isStart ? (shown ? 0 : cut.from) : (shown?.cycle ?? cut.to)),
  });
  return {
    ...{ docs, doc, take, opened, isOpen, cut, time, seam, candidates, shown, result, measured: measured.data ?? null, about, acts, edits },
    ...{
      travels,
      preview,
      setPreview,
      glass,
      setGlass,
      proposing,
      setProposing,
      propose,
      worry,
      setNear,
      pen,
      put,
      corrections,
      correct,
      setMarkers,
    },
    isSearching: loops.isLoading || !isOpen,
    isBusy: result.isFetching || measured.isFetching,
    reading: reading.data,
    segments: reading.data?.segments ?? NO_SEGMENTS,
    pair: useEndPoses(take, near),
    bend: useBend(take, doc, corrections.isOn),
    ghost: useGhost(take, doc, shown, { repeats: REPEATS, inPlace: preview === 'place' }),
    judged: useJudged(take, seen, shown, { repeats: REPEATS, inPlace: preview === 'place' }),
    character: (doc && characterIn(doc.steps)) ?? (take && characterOf(take)),
    lock: doc ? stepOf(doc.steps, 'foot-lock') : undefined,
  };
}

export type Workbench = ReturnType<typeof useWorkbench>;

/** The clip with one of its steps by itself, while that is asked for. */
function useAlone(doc: ClipDoc | null): ClipDoc | null {
  const only = useCorrecting((state) => state.only);
  return useMemo(() => (doc && only !== null ? { ...doc, steps: [...stepsAlone(doc.steps, only)] } : doc), [doc, only]);
}

/** The cut as it is, or as it is being dragged, and where the clip that is played is in it. */
function useCut(doc: ClipDoc | null, shown: ClipResult | null) {
  const [draft, setDraft] = useState<Cut | null>(null);
  const cut = useMemo<Cut | null>(() => draft ?? (doc ? { from: doc.source.from, to: doc.source.to } : null), [draft, doc]);
  const time = useMemo<ClipTime | null>(() => (shown && cut ? { cut, cycle: shown.cycle, source: shown.source } : null), [cut, shown]);
  return { cut, setDraft, time };
}

/** What is opened by itself stands in the address too. */
function useAddress(implied: string | undefined): void {
  const router = useRouter();
  const project = useProjectInfo();
  useEffect(() => {
    if (implied) router.replace(`/${project.id}/bench/${implied}`);
  }, [implied, router, project.id]);
}

interface CutEditing {
  readonly doc: ClipDoc | null;
  readonly take: OpenTake | null;
  readonly time: ClipTime | null;
  readonly setDraft: (cut: Cut | null) => void;
  readonly setPreview: (preview: Preview) => void;
  readonly make: (cut: Cut) => void;
  readonly split: (frame: number) => void;
}

/** What is done to the cut: dragged, put at the playhead, taken from a loop, begun anew. */
function useCutEdits({ doc, take, time, setDraft, setPreview, make, split }: CutEditing) {
  const put = useClips((state) => state.put);
  const takeLoop = useCallback(
    ({ from, to }: Cut) => {
      setDraft(null);
      setPreview('travel');
      if (doc) put(recut(doc, { from, to }));
      else make({ from, to });
    },
    [doc, put, make, setDraft, setPreview],
  );
  const newClip = useCallback(() => {
    if (!take) return;
    const { frames, fps } = take.motion;
    const start = Math.min(takeFrameNow(time), frames - 3);
    make({ from: start, to: start + Math.max(LEAST, Math.min(frames - 1 - start, take.stride ?? fps)) });
  }, [make, take, time]);
  const setPost = useCallback(
    (which: 'from' | 'to') => {
      if (!doc || !take) return;
      const next = { ...doc.source, [which]: takeFrameNow(time) };
      if (next.to - next.from >= LEAST && next.to < take.motion.frames) put(recut(doc, next));
    },
    [doc, take, time, put],
  );
  const moveCut = (next: Cut, isDone: boolean) => {
    if (!isDone || !doc) return setDraft(next);
    setDraft(null);
    if (next.from !== doc.source.from || next.to !== doc.source.to) put(recut(doc, next));
  };
  return { takeLoop, newClip, setPost, moveCut, splitHere: useCallback(() => split(takeFrameNow(time)), [split, time]) };
}

/** Going along the take: inside the cut the clip is scrubbed, outside it the take. */
function useScrubbing(take: OpenTake | undefined, time: ClipTime | null, setPreview: (preview: Preview) => void) {
  const takeFrame = useCallback((frame: number) => (time ? takeFrameOf(time, frame) : frame), [time]);
  const showTake = (frame: number) => {
    if (take) usePlayer.setState({ frames: take.motion.frames, fps: take.motion.fps });
    usePlayer.getState().seek(frame);
    setPreview('take');
  };
  const scrub = (frame: number) => {
    const { playing, toggle, seek } = usePlayer.getState();
    if (playing) toggle();
    if (time && frame >= time.cut.from && frame <= time.cut.to) seek(clipFrameOf(time, frame));
    else showTake(frame);
  };
  return { takeFrame, showTake, scrub };
}
