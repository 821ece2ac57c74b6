'use client';
import { characterIn, tagsOfCut, type LoopCandidate, type RecipeStep, type Segment } from '@lantern/motion';
import { Box, LinearProgress, Typography } from '@mui/material';
import { useParams, useRouter, useSearchParams } from 'next/navigation';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useClips } from '@/data/clips-store';
import { recut } from '@/data/new-clip';
import { usePlayer } from '@/data/player';
import { useProjectData, useProjectInfo, type TakeInfo } from '@/data/project';
import { takeKey } from '@/data/use-open-take';
import { Trouble } from '@/places/takes/Takes';
import { Split } from '@/controls/Split';
import type { ContactSlide } from '@/worker/core.worker';
import { BenchStage } from './BenchStage';
import { CandidateList } from './glasses/CandidateList';
import { ClipHead } from './ClipHead';
import { Deck } from './deck/Deck';
import { NoClip, Nothing } from './Nothing';
import { PreviewBar, type GlassName } from './PreviewBar';
import { Proposals } from './glasses/Proposals';
import { Glasses } from './glasses/Glasses';
import { RecipePanel } from './recipe/RecipePanel';
import { SeamFigures } from './glasses/SeamFigures';
import { useAboutRecipe } from './recipe/use-about-recipe';
import { useBench, useClipResult, useEndPoses, useLoops, useReading, useSeam, type Cut, type Preview } from './use-bench';
import { useBenchKeys } from './use-bench-keys';
import { useClipActs } from './use-clip-acts';
import { takeFrameNow, useLoadPlayer } from './use-load-player';
import { clipFrameAt, usePen } from './use-pen';
import { threadsOf } from './retime/threads';
import { useWorry } from './use-worry';

const REPEATS = 4;
const NONE: readonly LoopCandidate[] = [];
const NO_SEGMENTS: readonly Segment[] = [];
const NO_CONTACTS: readonly ContactSlide[] = [];
/** Steps after which a frame of the clip is no longer one of its cut, or is its mirror image. */
const OWN_TIME: ReadonlySet<RecipeStep['kind']> = new Set(['typical-cycle', 'mirror', 'extend', 'speed']);

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
  const { result, measured } = useClipResult(take, isOpen, doc, REPEATS, preview === 'place');
  const figures = measured.data?.figures ?? null;
  const shown = doc && preview !== 'take' && result.data ? result.data : null;
  useLoadPlayer(opened.data?.motion ?? null, shown?.motion ?? null, cut, preview);

  const implied = clip === null && wantedTake === null ? doc?.id : undefined;
  useEffect(() => {
    if (implied) router.replace(`/${project.id}/bench/${implied}`);
  }, [implied, router, project.id]);

  const pair = useEndPoses(take, near);
  const about = useAboutRecipe(takes, take, doc, docs, {
    cycle: result.data?.cycle,
    loop: result.data?.loop ?? false,
    measured: measured.data ?? null,
    onGo: (frame) => {
      if (preview === 'take') setPreview('travel');
      usePlayer.getState().seek(frame);
    },
  });
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
  const source = shown?.source ?? null;
  const takeFrame = useCallback(
    (frame: number) => {
      if (!cycle || !cut) return frame;
      const at = frame % cycle;
      return cut.from + (source ? (source[Math.min(source.length - 1, Math.round(at))] ?? at) : at);
    },
    [cycle, cut, source],
  );
  const showTake = (frame: number) => {
    if (opened.data) usePlayer.setState({ frames: opened.data.motion.frames, fps: opened.data.motion.fps });
    usePlayer.getState().seek(frame);
    setPreview('take');
  };
  const scrub = (frame: number) => {
    const { playing, toggle } = usePlayer.getState();
    if (playing) toggle();
    // Inside the cut the clip is scrubbed, outside it the take.
    if (shown && cut && cycle && frame >= cut.from && frame <= cut.to)
      usePlayer.getState().seek(clipFrameAt(source, frame - cut.from, cycle));
    else showTake(frame);
  };

  const pen = usePen(doc, shown, about.isDrawing, opened.data?.heading, put);
  const propose = useCallback(() => setProposing(true), []);
  const worry = useWorry(shown?.loop ? shown.cycle : null);
  useBenchKeys({
    candidates,
    setPost,
    newClip,
    split,
    duplicate: acts.duplicate,
    otherSide: acts.otherSide,
    inPlace: () => doc && setPreview(preview === 'place' ? 'travel' : 'place'),
    remove: acts.remove,
    propose,
    takeLoop,
    worry,
    toEnd: (isStart) => cut && usePlayer.getState().seek(isStart ? (shown ? 0 : cut.from) : shown ? (cycle ?? 0) : cut.to),
  });

  if (!take) return <Nothing isGone={clip !== null} takes={takes.length} project={project.id} />;
  const lock = doc?.steps.find((step) => step.kind === 'foot-lock' && !step.off);
  // Contacts are drawn over the take's own where a frame of the clip is one of the take's.
  const isTakesOwnTime = !doc?.steps.some((step) => !step.off && OWN_TIME.has(step.kind));
  const threads = threadsOf(doc, shown, measured.data?.untimed ?? null, put);
  const stage = (
    <BenchStage
      take={isOpen ? (opened.data ?? null) : null}
      error={opened.error}
      shown={shown}
      markers={measured.data?.markers ?? null}
      speedMps={figures?.speedMps ?? null}
      character={doc && characterIn(doc.steps)}
      isBusy={result.isFetching || measured.isFetching}
      pair={pair}
      pen={pen}
    >
      <PreviewBar
        preview={preview}
        hasClip={doc !== null}
        hasCut={cut !== null}
        isLoop={shown?.loop ?? false}
        glass={glass}
        repeats={REPEATS}
        onCaptured={() => showTake(takeFrameNow(shown !== null, cut))}
        onPreview={setPreview}
        onGlass={setGlass}
        onWorry={worry}
      />
    </BenchStage>
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
        contacts={lock && isTakesOwnTime && preview !== 'take' ? (measured.data?.contacts ?? NO_CONTACTS) : NO_CONTACTS}
        threads={threads}
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
          onOtherSide={acts.otherSide}
          onBake={acts.bake}
          onRemove={acts.remove}
        />
      ) : (
        <NoClip take={take.name} canOffer={reading.data !== undefined} onCut={newClip} onOffer={propose} />
      )}
      <CandidateList candidates={candidates} isSearching={loops.isLoading || !isOpen} cut={cut} onTake={takeLoop} />
      {doc && <SeamFigures seam={seam} figures={figures} against={measured.data?.against ?? null} />}
      {result.error && (
        <Typography role="alert" variant="body2">
          ▲ {result.error.message}
        </Typography>
      )}
      {doc && <RecipePanel doc={doc} about={about} onChange={put} />}
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
