'use client';
import { tagsOfCut, type LoopCandidate, type Segment } from '@lantern/motion';
import { Box, CircularProgress, LinearProgress, Typography } from '@mui/material';
import { useParams, useRouter, useSearchParams } from 'next/navigation';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useClips } from '@/data/clips-store';
import { recut } from '@/data/new-clip';
import { usePlayer } from '@/data/player';
import { useProjectData, useProjectInfo, type TakeInfo } from '@/data/project';
import { takeKey } from '@/data/use-open-take';
import { Trouble } from '@/places/takes/Takes';
import { Split } from '@/shell/Split';
import { AtFrame, StageFrame } from '@/stage/StageFrame';
import type { ContactSlide } from '@/worker/core.worker';
import { CandidateList } from './CandidateList';
import { ClipHead } from './ClipHead';
import { Deck } from './Deck';
import { NoClip, Nothing } from './Nothing';
import { PreviewBar, type GlassName } from './PreviewBar';
import { Proposals } from './Proposals';
import { Glasses } from './Glasses';
import { RecipePanel } from './RecipePanel';
import { SeamFigures } from './SeamFigures';
import { useAboutRecipe } from './use-about-recipe';
import { useBench, useClipResult, useEndPoses, useLoops, useReading, useSeam, type Cut, type Preview } from './use-bench';
import { useBenchKeys } from './use-bench-keys';
import { useClipActs } from './use-clip-acts';
import { takeFrameNow, useLoadPlayer } from './use-load-player';
import { useWorry } from './use-worry';

const REPEATS = 4;
const NONE: readonly LoopCandidate[] = [];
const NO_SEGMENTS: readonly Segment[] = [];
const NO_CONTACTS: readonly ContactSlide[] = [];

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
  const [draft, setDraft] = useState<Cut | null>(null);
  const [preview, setPreview] = useState<Preview>('travel');
  const [proposing, setProposing] = useState(false);
  const [glass, setGlass] = useState<GlassName | null>(null);
  const [near, setNear] = useState<Cut | null>(null);
  const isOpen = opened.data !== undefined && take !== null && opened.data.id === takeKey(take);

  const cut = useMemo<Cut | null>(() => draft ?? (doc ? { from: doc.from, to: doc.to } : null), [draft, doc]);
  const names = useMemo(() => new Set(docs.filter((d) => d.id !== doc?.id).map((d) => d.name.toLowerCase())), [docs, doc]);
  const seam = useSeam(take, isOpen, cut);
  const loops = useLoops(take, isOpen);
  const reading = useReading(take, isOpen);
  const candidates = loops.data?.candidates ?? NONE;
  const result = useClipResult(take, isOpen, doc, REPEATS, preview === 'place');
  const shown = doc && preview !== 'take' && result.data ? result.data : null;
  useLoadPlayer(opened.data?.motion ?? null, shown?.motion ?? null, cut, preview);

  const implied = clip === null && wantedTake === null ? doc?.id : undefined;
  useEffect(() => {
    if (implied) router.replace(`/${project.id}/bench/${implied}`);
  }, [implied, router, project.id]);

  const pair = useEndPoses(take, near);
  const about = useAboutRecipe(take, isOpen && result.data !== undefined, doc, result.data?.cycle);
  const acts = useClipActs(take, doc);
  const takeLoop = useCallback(
    ({ from, to }: Cut) => {
      setDraft(null);
      setPreview('travel');
      if (doc) put(recut(doc, { from, to }));
      else acts.make({ from, to });
    },
    [doc, put, acts],
  );
  const newClip = useCallback(() => {
    if (!opened.data) return;
    const start = Math.min(takeFrameNow(shown !== null, cut), opened.data.motion.frames - 3);
    const length = Math.max(2, Math.min(opened.data.motion.frames - 1 - start, opened.data.stride ?? opened.data.motion.fps));
    acts.make({ from: start, to: start + length });
  }, [acts, opened.data, shown, cut]);
  const split = useCallback(() => acts.split(takeFrameNow(shown !== null, cut)), [acts, shown, cut]);
  const moveCut = (next: Cut, isDone: boolean) => {
    if (!isDone || !doc) return setDraft(next);
    setDraft(null);
    if (next.from !== doc.from || next.to !== doc.to) put(recut(doc, next));
  };
  const setPost = (which: 'from' | 'to') => {
    if (!doc || !opened.data) return;
    const frame = takeFrameNow(shown !== null, cut);
    const next = { from: doc.from, to: doc.to, [which]: frame };
    if (next.to - next.from >= 2 && next.to < opened.data.motion.frames) put(recut(doc, next));
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

  const propose = useCallback(() => setProposing(true), []);
  const worry = useWorry(shown?.figures?.loop ? shown.cycle : null);
  useBenchKeys({
    candidates,
    setPost,
    newClip,
    split,
    duplicate: acts.duplicate,
    remove: acts.remove,
    propose,
    takeLoop,
    worry,
    toEnd: (isStart) => cut && usePlayer.getState().seek(isStart ? (shown ? 0 : cut.from) : shown ? (cycle ?? 0) : cut.to),
  });

  if (!take) return <Nothing isGone={clip !== null} takes={takes.length} project={project.id} />;
  const figures = shown?.figures ?? result.data?.figures ?? null;
  const lock = doc?.steps.find((step) => step.kind === 'foot-lock' && !step.off);
  const stage =
    opened.data && isOpen ? (
      <StageFrame
        stage={{
          motion: shown?.motion ?? opened.data.motion,
          mesh: opened.data.mesh,
          markers: shown ? shown.markers : opened.data.markers,
          floor: shown ? shown.floor : opened.data.floor,
          heading: shown ? undefined : opened.data.heading,
          pair,
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
            <PreviewBar
              preview={preview}
              hasClip={doc !== null}
              hasCut={cut !== null}
              isLoop={figures?.loop ?? false}
              glass={glass}
              repeats={REPEATS}
              onCaptured={() => showTake(takeFrameNow(shown !== null, cut))}
              onPreview={setPreview}
              onGlass={setGlass}
              onWorry={worry}
            />
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
        rest={doc}
        seam={seam}
        candidates={candidates}
        clips={docs.filter((d) => d.take === take.id)}
        open={doc?.id ?? null}
        takeFrame={takeFrame}
        onCut={moveCut}
        onScrub={scrub}
        onTakeLoop={takeLoop}
        onNearLoop={setNear}
        onOpenClip={acts.open}
        segments={reading.data?.segments ?? NO_SEGMENTS}
        onSegment={({ from }) => {
          showTake(from);
          setProposing(true);
        }}
        contacts={lock && preview !== 'take' ? (result.data?.contacts ?? NO_CONTACTS) : NO_CONTACTS}
        onContacts={(contacts) =>
          doc &&
          lock &&
          put({
            ...doc,
            steps: doc.steps.map((step) =>
              step === lock ? { ...lock, contacts: { left: [...contacts.left], right: [...contacts.right] } } : step,
            ),
          })
        }
      />
    ) : null;
  const side = (
    <Box sx={{ height: '100%', overflow: 'auto', p: 1.5, display: 'flex', flexDirection: 'column', gap: 1.6 }}>
      {doc && opened.data ? (
        <ClipHead
          doc={doc}
          offered={tagsOfCut(reading.data?.segments ?? NO_SEGMENTS, doc)}
          names={names}
          frames={opened.data.motion.frames}
          onChange={put}
          onNew={newClip}
          onSplit={split}
          onDuplicate={acts.duplicate}
          onRemove={acts.remove}
        />
      ) : (
        <NoClip take={take.name} canOffer={reading.data !== undefined} onCut={newClip} onOffer={propose} />
      )}
      <CandidateList candidates={candidates} isSearching={loops.isLoading || !isOpen} cut={cut} onTake={takeLoop} />
      {doc && <SeamFigures seam={seam} figures={result.data?.figures ?? null} />}
      {result.error && (
        <Typography role="alert" variant="body2">
          ▲ {result.error.message}
        </Typography>
      )}
      {doc && (
        <RecipePanel
          doc={doc}
          figures={result.data?.figures ?? null}
          contacts={result.data?.contacts ?? NO_CONTACTS}
          about={about}
          onChange={put}
          onGo={(frame) => {
            if (preview === 'take') setPreview('travel');
            usePlayer.getState().seek(frame);
          }}
        />
      )}
      {proposing && reading.data && (
        <Proposals
          proposals={reading.data.proposals}
          docs={docs.filter((d) => d.take === take.id)}
          fps={take.passport.fps}
          onMake={(chosen, pattern) => {
            setProposing(false);
            acts.makeAll(chosen, pattern);
          }}
          onClose={() => setProposing(false)}
        />
      )}
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
                {
                  id: 'stage',
                  size: '56%',
                  least: '25%',
                  content: (
                    <Box sx={{ position: 'relative', height: '100%' }}>
                      {stage}
                      {opened.data && isOpen && (
                        <Glasses shown={glass} take={opened.data} cut={cut} onCut={takeLoop} onClose={() => setGlass(null)} />
                      )}
                    </Box>
                  ),
                },
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
