'use client';
import type { LoopCandidate } from '@lantern/motion';
import { Box, Button, CircularProgress, LinearProgress, Typography } from '@mui/material';
import { useParams, useRouter, useSearchParams } from 'next/navigation';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { defaultSteps, freeName } from '@/data/new-clip';
import { usePlayer } from '@/data/player';
import { useProjectData, useProjectInfo, type TakeInfo } from '@/data/project';
import { takeKey } from '@/data/use-open-take';
import { Trouble } from '@/places/takes/Takes';
import { useOfferCommands, type Command } from '@/shell/commands';
import { Split } from '@/shell/Split';
import { useKeys } from '@/shell/use-keys';
import { Choice } from '@/stage/Choice';
import { AtFrame, StageFrame } from '@/stage/StageFrame';
import { CandidateList } from './CandidateList';
import { ClipHead } from './ClipHead';
import { Deck } from './Deck';
import { Nothing } from './Nothing';
import { RecipePanel } from './RecipePanel';
import { SeamFigures } from './SeamFigures';
import { useBench, useClipResult, useLoops, useSeam, type Cut, type Preview } from './use-bench';

const REPEATS = 4;
const NONE: readonly LoopCandidate[] = [];

/** Bench: cut, loop, travel. */
export function Bench() {
  const open = useParams<{ clip?: string[] }>().clip?.[0] ?? null;
  const { data, error, isPending, refetch } = useProjectData();
  const wanted = useSearchParams().get('take');
  if (isPending) return <LinearProgress aria-label="Loading the bench" />;
  if (error) return <Trouble message={error.message} onRetry={() => void refetch()} />;
  return <Workbench takes={data.takes} clip={open} wantedTake={wanted} />;
}

function Workbench({ takes, clip, wantedTake }: { takes: readonly TakeInfo[]; clip: string | null; wantedTake: string | null }) {
  const router = useRouter();
  const project = useProjectInfo();
  const { docs, doc, take, opened } = useBench(takes, clip, wantedTake);
  const put = useClips((state) => state.put);
  const remove = useClips((state) => state.remove);
  const [draft, setDraft] = useState<Cut | null>(null);
  const [preview, setPreview] = useState<Preview>('travel');
  const isOpen = opened.data !== undefined && take !== null && opened.data.id === takeKey(take);

  const cut = useMemo<Cut | null>(() => draft ?? (doc ? { from: doc.from, to: doc.to } : null), [draft, doc]);
  const seam = useSeam(take, isOpen, cut);
  const loops = useLoops(take, isOpen);
  const candidates = loops.data?.candidates ?? NONE;
  const result = useClipResult(take, isOpen, doc, REPEATS, preview === 'place');
  const shown = doc && preview !== 'take' && result.data ? result.data : null;
  useLoadPlayer(opened.data?.motion ?? null, shown?.motion ?? null, cut, preview);

  const implied = clip === null && wantedTake === null ? doc?.id : undefined;
  useEffect(() => {
    if (implied) router.replace(`/${project.id}/bench/${implied}`);
  }, [implied, router, project.id]);

  const openClip = useCallback((id: string) => router.push(`/${project.id}/bench/${id}`), [router, project.id]);
  const takeLoop = useCallback(
    ({ from, to }: Cut) => {
      if (!take) return;
      setDraft(null);
      setPreview('travel');
      if (doc) return put({ ...doc, from, to });
      const fresh: ClipDoc = { id: crypto.randomUUID(), take: take.id, name: freeName(take.name, docs), from, to, steps: defaultSteps() };
      put(fresh);
      openClip(fresh.id);
    },
    [take, doc, docs, put, openClip],
  );
  const newClip = useCallback(() => {
    if (!take || !opened.data) return;
    const start = Math.min(takeFrameNow(shown !== null, cut), opened.data.motion.frames - 3);
    const length = Math.max(2, Math.min(opened.data.motion.frames - 1 - start, opened.data.stride ?? opened.data.motion.fps));
    const fresh: ClipDoc = {
      id: crypto.randomUUID(),
      take: take.id,
      name: freeName(take.name, docs),
      from: start,
      to: start + length,
      steps: defaultSteps(),
    };
    put(fresh);
    openClip(fresh.id);
  }, [take, opened.data, shown, cut, docs, put, openClip]);
  const removeClip = useCallback(() => {
    if (!doc) return;
    remove(doc.id);
    router.push(`/${project.id}/bench?take=${doc.take}`);
  }, [doc, remove, router, project.id]);
  const moveCut = (next: Cut, isDone: boolean) => {
    if (!isDone || !doc) return setDraft(next);
    setDraft(null);
    if (next.from !== doc.from || next.to !== doc.to) put({ ...doc, ...next });
  };
  const setPost = (which: 'from' | 'to') => {
    if (!doc || !opened.data) return;
    const frame = takeFrameNow(shown !== null, cut);
    const next = { from: doc.from, to: doc.to, [which]: frame };
    if (next.to - next.from >= 2 && next.to < opened.data.motion.frames) put({ ...doc, ...next });
  };

  const cycle = shown?.cycle;
  const takeFrame = useCallback((frame: number) => (cycle && cut ? cut.from + (frame % cycle) : frame), [cycle, cut]);
  const showTake = (frame: number) => {
    if (opened.data) usePlayer.setState({ frames: opened.data.motion.frames, fps: opened.data.motion.fps });
    usePlayer.getState().seek(frame);
    setPreview('take');
  };
  const scrub = (frame: number) => {
    const { playing, toggle } = usePlayer.getState();
    if (playing) toggle();
    // Inside the cut the clip is scrubbed, outside it the take.
    if (shown && cut && cycle && frame >= cut.from && frame <= cut.to) usePlayer.getState().seek(Math.min(cycle, frame - cut.from));
    else {
      showTake(frame);
    }
  };

  useKeys('i', () => setPost('from'));
  useKeys('o', () => setPost('to'));
  useKeys('n', newClip);
  useKeys('home', () => cut && usePlayer.getState().seek(shown ? 0 : cut.from), 'arrows');
  useKeys('end', () => cut && usePlayer.getState().seek(shown ? (cycle ?? 0) : cut.to), 'arrows');
  useKeys('1,2,3,4,5,6,7,8,9', (event) => {
    const candidate = candidates[Number(event.key) - 1];
    if (candidate) takeLoop(candidate);
  });
  useOfferCommands(
    'bench',
    useMemo<Command[]>(
      () => [
        { id: 'new-clip', label: 'New clip', keys: 'N', run: newClip },
        { id: 'remove-clip', label: 'Remove this clip', run: removeClip },
        ...candidates.slice(0, 9).map((c, i) => ({
          id: `loop-${i}`,
          label: `Take loop ${i + 1}: ${c.seconds.toFixed(2)} s, ${c.seam.poseCm.toFixed(1)} cm`,
          keys: String(i + 1),
          run: () => takeLoop(c),
        })),
      ],
      [newClip, removeClip, candidates, takeLoop],
    ),
  );

  if (!take) return <Nothing isGone={clip !== null} takes={takes.length} project={project.id} />;
  const figures = shown?.figures ?? result.data?.figures ?? null;
  const stage =
    opened.data && isOpen ? (
      <StageFrame
        stage={{
          motion: shown?.motion ?? opened.data.motion,
          mesh: opened.data.mesh,
          markers: shown ? shown.markers : opened.data.markers,
          floor: shown ? shown.floor : opened.data.floor,
          heading: shown ? undefined : opened.data.heading,
        }}
        footer={
          <>
            <AtFrame>
              {(frame) => (shown && cycle ? `frame ${frame % cycle} of ${cycle}` : `frame ${frame} of ${opened.data.motion.frames}`)}
            </AtFrame>
            {figures && shown && (
              <Typography variant="body2" component="span" noWrap>
                {figures.speedMps.toFixed(2)} m/s
              </Typography>
            )}
            <Box sx={{ flex: 1 }} />
            {result.isFetching && <CircularProgress size={14} color="inherit" aria-label="Working the recipe" />}
            <Box role="toolbar" aria-label="Preview" sx={{ display: 'flex' }}>
              <Choice label="as captured" isOn={preview === 'take' || !doc} onClick={() => showTake(takeFrameNow(shown !== null, cut))} />
              {doc && <Choice label="in place" isOn={preview === 'place'} onClick={() => setPreview('place')} />}
              {doc && (
                <Choice
                  label={figures?.loop ? `travelling × ${REPEATS}` : 'travelling'}
                  isOn={preview === 'travel'}
                  onClick={() => setPreview('travel')}
                />
              )}
            </Box>
          </>
        }
      />
    ) : (
      <StageFrame
        stage={null}
        notice={
          opened.error ? <Typography role="alert">{opened.error.message}</Typography> : <CircularProgress aria-label="Loading the take" />
        }
      />
    );
  const deck =
    opened.data && isOpen ? (
      <Deck
        take={opened.data}
        cut={cut}
        seam={seam}
        candidates={candidates}
        clips={docs.filter((d) => d.take === take.id)}
        open={doc?.id ?? null}
        takeFrame={takeFrame}
        onCut={moveCut}
        onScrub={scrub}
        onTakeLoop={takeLoop}
        onOpenClip={openClip}
      />
    ) : null;
  const side = (
    <Box sx={{ height: '100%', overflow: 'auto', p: 1.5, display: 'flex', flexDirection: 'column', gap: 1.6 }}>
      {doc && opened.data ? (
        <ClipHead doc={doc} frames={opened.data.motion.frames} onChange={put} onNew={newClip} onRemove={removeClip} />
      ) : (
        <Box>
          <Typography variant="h2">{take.name}</Typography>
          <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
            No clip is open. Take a loop below, or cut one at the playhead.
          </Typography>
          <Button variant="outlined" color="inherit" onClick={newClip} title="N">
            Cut a clip at the playhead
          </Button>
        </Box>
      )}
      <CandidateList candidates={candidates} isSearching={loops.isLoading || !isOpen} cut={cut} onTake={takeLoop} />
      {doc && <SeamFigures seam={seam} figures={result.data?.figures ?? null} />}
      {result.error && (
        <Typography role="alert" variant="body2">
          ▲ {result.error.message}
        </Typography>
      )}
      {doc && <RecipePanel doc={doc} figures={result.data?.figures ?? null} onChange={put} />}
    </Box>
  );
  return (
    <Split
      id="bench"
      parts={[
        {
          id: 'work',
          size: '69%',
          least: '45%',
          content: (
            <Split
              id="bench-work"
              vertical
              parts={[
                { id: 'stage', size: '56%', least: '25%', content: stage },
                { id: 'deck', size: '44%', least: '30%', content: deck },
              ]}
            />
          ),
        },
        { id: 'recipe', size: '31%', least: '24%', content: side },
      ]}
    />
  );
}

/** The frame of the take under the playhead. */
function takeFrameNow(isClip: boolean, cut: Cut | null): number {
  const { frame } = usePlayer.getState();
  const cycle = cut ? cut.to - cut.from : 1;
  return Math.round(isClip && cut ? cut.from + (frame % cycle) : frame);
}

/** Tells the player what it plays whenever that changes; a clip begins at its first frame, the take at the cut. */
function useLoadPlayer(
  take: { frames: number; fps: number } | null,
  clip: { frames: number; fps: number } | null,
  cut: Cut | null,
  preview: Preview,
): void {
  const load = usePlayer((state) => state.load);
  // Where the other is taken up is asked for only when what is played changes, not whenever the cut does.
  const start = useRef<{ take: number | undefined; cut: Cut | null }>({ take: undefined, cut: null });
  const wasClip = useRef(false);
  useEffect(() => {
    start.current = { take: preview === 'take' ? undefined : cut?.from, cut };
  }, [preview, cut]);
  useEffect(() => {
    const { take: at, cut: within } = start.current;
    if (clip) {
      // From the take to the clip: at the same instant if the cut holds it, else at the clip's beginning.
      const { frame } = usePlayer.getState();
      const inCut = within && frame >= within.from && frame <= within.to;
      load(clip.frames, clip.fps, wasClip.current ? undefined : inCut ? frame - within.from : 0);
    } else if (take) load(take.frames, take.fps, at);
    wasClip.current = clip !== null;
  }, [clip, take, load]);
}
