'use client';
import { Box, Button, CircularProgress, Typography } from '@mui/material';
import { useEffect, useMemo, useState } from 'react';
import { MARKERS } from '@/data/acts';
import { usePlayer } from '@/data/player';
import { useProjectData, type TakeInfo } from '@/data/project';
import { useJointWays } from '@/data/joint-ways';
import { changesOf, useTakeEdits } from '@/data/take-edits';
import { useOpenTake } from '@/data/use-open-take';
import { isInParts, useViewedTake } from '@/data/use-viewed-take';
import { useKeys } from '@/controls/use-keys';
import { AtFrame, StageFrame } from '@/stage/StageFrame';
import { useStageOptions } from '@/stage/stage-options';
import { TakeDeck, withMarker } from '@/timeline/TakeDeck';
import type { OpenTake } from '@/worker/core.worker';
import { Comparison, useComparison, type Stand } from './Comparison';
import { TraceMenu, useTraces } from './traces';
import { RAW } from './raw';

/** Metres between two side by side. */
const BESIDE = 1.1;

interface Props {
  readonly take: TakeInfo | null;
  readonly isGone: boolean;
  readonly other: string | null;
  readonly onCompare: (other: string | null) => void;
}

/** The open take on its stage and along its time axis, alone or beside another. */
export function TakeView({ take, isGone, other, onCompare }: Props) {
  const { data: opened, error, isFetching } = useViewedTake(take);
  const put = usePutBeside(take);
  const { second, otherTake, stands, setStand } = useSecond(take, other);
  const comparison = useComparison(opened, otherTake, stands === 'captured' ? 'captured' : 'over');
  const stage = useStage(take, opened, otherTake, stands);
  const traces = useTraces(take, opened, comparison?.distanceCm ?? null);
  const load = usePlayer((state) => state.load);
  const [id, frames, fps] = [take?.id, opened?.motion.frames, opened?.motion.fps];
  useEffect(() => {
    if (frames !== undefined && fps !== undefined) load(frames, fps, 0);
  }, [id, frames, fps, load]);
  useKeys('p', () => take && put(MARKERS, { markers: withMarker(take.markers, Math.round(usePlayer.getState().frame)) }));
  return (
    <>
      <Box sx={{ position: 'relative', minHeight: 0 }}>
        <StageFrame
          stage={stage && take ? { ...stage, props: take.props, onProps: (props) => put('props', { props }) } : null}
          notice={
            isGone ? (
              <Typography>This take is not in the project any more.</Typography>
            ) : error ? (
              <Typography role="alert">{error.message}</Typography>
            ) : isFetching && !opened ? (
              <CircularProgress aria-label="Loading the take" />
            ) : undefined
          }
          footer={opened && <AtPlayhead opened={opened} />}
        />
        {second && opened && (
          <Comparison
            name={other === RAW ? 'as found' : second.name}
            comparison={comparison}
            stands={stands}
            onStand={setStand}
            onDone={() => onCompare(null)}
          />
        )}
      </Box>
      {opened && take && (
        <TakeDeck
          key={take.id}
          take={opened}
          traces={traces}
          markers={take.markers}
          onMarkers={(markers) => put(MARKERS, { markers })}
          menu={<TraceMenu take={opened} />}
        />
      )}
      {!opened && take && error && <Button onClick={() => location.reload()}>try again</Button>}
    </>
  );
}

/** What is said about the frame under the playhead. */
function AtPlayhead({ opened: { motion, speed, hipHeight } }: { opened: OpenTake }) {
  return (
    <>
      <AtFrame>{(frame) => `frame ${frame} of ${motion.frames}`}</AtFrame>
      <AtFrame>{(frame) => `${(frame / motion.fps).toFixed(2)} s`}</AtFrame>
      <AtFrame>{(frame) => `${(speed[frame] ?? 0).toFixed(2)} m/s`}</AtFrame>
      <AtFrame>{(frame) => `hips ${((hipHeight[frame] ?? 0) * 100).toFixed(1)} cm`}</AtFrame>
    </>
  );
}

/** Changes markers or props of a take, with undo; nothing when they stay as they are. */
function usePutBeside(take: TakeInfo | null) {
  const { edit } = useTakeEdits();
  return (label: string, change: { markers?: TakeInfo['markers']; props?: TakeInfo['props'] }) => {
    if (!take || (change.markers === undefined ? change.props === take.props : change.markers === take.markers)) return;
    void edit(
      label,
      changesOf([take], () => ({
        ...(change.markers && { markers: [...change.markers] }),
        ...(change.props && { props: [...change.props] }),
      })),
    );
  };
}

/** The take that it is compared with, opened, and how the two stand. */
function useSecond(take: TakeInfo | null, other: string | null) {
  const { data } = useProjectData();
  const second = other === RAW ? take : (data?.takes.find(({ id }) => id === other) ?? null);
  const inParts = take !== null && isInParts(take);
  const { data: otherTake } = useOpenTake(other && !inParts ? second : null, other === RAW);
  const [stand, setStand] = useState<Stand | null>(null);
  return { second, otherTake, stands: stand ?? (other === RAW ? 'captured' : 'over'), setStand };
}

function useStage(take: TakeInfo | null, opened: OpenTake | undefined, otherTake: OpenTake | undefined, stands: Stand) {
  const trails = useTrails(take, opened);
  return useMemo(
    () =>
      opened && {
        motion: opened.motion,
        mesh: opened.mesh,
        markers: opened.markers,
        floor: opened.floor,
        heading: opened.heading,
        trails,
        other: otherTake
          ? {
              motion: otherTake.motion,
              mesh: otherTake.mesh,
              floor: otherTake.floor,
              shift: [0, 0] as const,
              ...(stands !== 'captured' && { beside: stands === 'over' ? 0 : BESIDE, heading: otherTake.heading }),
            }
          : null,
      },
    [opened, otherTake, trails, stands],
  );
}

/** Trails of the joints that the stage shows them for. */
function useTrails(take: TakeInfo | null, opened: OpenTake | undefined) {
  const joints = useStageOptions((state) => state.trails);
  const ways = useJointWays(take, opened, joints);
  return useMemo(() => ways.flatMap((points, i) => (points ? [{ joint: joints[i], points }] : [])), [ways, joints]);
}
