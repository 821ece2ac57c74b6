'use client';
import type { Standing } from '@lantern/motion';
import { Box, Button, CircularProgress, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { usePlayer } from '@/data/player';
import { useProjectData, type TakeInfo } from '@/data/project';
import { useJointWays } from '@/data/joint-ways';
import { changesOf, useTakeEdits } from '@/data/take-edits';
import { useOpenTake } from '@/data/use-open-take';
import { isInParts, useViewedTake } from '@/data/use-viewed-take';
import { DUSK } from '@/controls/theme';
import { useKeys } from '@/controls/use-keys';
import { Choice } from '@/stage/Choice';
import { AtFrame, StageFrame } from '@/stage/StageFrame';
import { useStageOptions } from '@/stage/stage-options';
import { TakeDeck, withMarker } from '@/timeline/TakeDeck';
import { core } from '@/worker/core';
import type { OpenTake } from '@/worker/core.worker';
import { TraceMenu, useTraces } from './traces';

/** How two takes that are compared stand to each other. */
type Stand = Standing | 'beside';
const STANDS: Readonly<Record<Stand, string>> = { captured: 'where captured', over: 'overlaid', beside: 'side by side' };
/** Metres between two side by side. */
const BESIDE = 1.1;

/** Compared with itself as found, without what was overruled. */
export const RAW = 'raw';

/** The open take on its stage and along its time axis, alone or beside another. */
export function TakeView({
  take,
  isGone,
  other,
  onCompare,
}: {
  take: TakeInfo | null;
  isGone: boolean;
  other: string | null;
  onCompare: (other: string | null) => void;
}) {
  const { data: opened, error, isFetching } = useViewedTake(take);
  const { data } = useProjectData();
  const { edit } = useTakeEdits();
  const load = usePlayer((state) => state.load);
  const id = take?.id;
  const second = other === RAW ? take : (data?.takes.find(({ id }) => id === other) ?? null);
  const inParts = take !== null && isInParts(take);
  const { data: otherTake } = useOpenTake(other && !inParts ? second : null, other === RAW);
  const [stand, setStand] = useState<Stand | null>(null);
  const stands = stand ?? (other === RAW ? 'captured' : 'over');
  const comparison = useComparison(opened, otherTake, stands === 'captured' ? 'captured' : 'over');
  const trails = useTrails(take, opened);
  const traces = useTraces(take, opened, comparison?.distanceCm ?? null);
  const [frames, fps] = [opened?.motion.frames, opened?.motion.fps];
  useEffect(() => {
    if (frames !== undefined && fps !== undefined) load(frames, fps, 0);
  }, [id, frames, fps, load]);
  const stage = useMemo(
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
  useKeys('p', () => take && mark(take));
  const mark = (to: TakeInfo) => {
    const markers = withMarker(to.markers, Math.round(usePlayer.getState().frame));
    if (markers !== to.markers)
      void edit(
        'marker',
        changesOf([to], () => ({ markers: [...markers] })),
      );
  };
  return (
    <>
      <Box sx={{ position: 'relative', minHeight: 0 }}>
        <StageFrame
          stage={
            stage && take
              ? {
                  ...stage,
                  props: take.props,
                  onProps: (props) =>
                    void edit(
                      'props',
                      changesOf([take], () => ({ props: [...props] })),
                    ),
                }
              : null
          }
          notice={
            isGone ? (
              <Typography>This take is not in the project any more.</Typography>
            ) : error ? (
              <Typography role="alert">{error.message}</Typography>
            ) : isFetching && !opened ? (
              <CircularProgress aria-label="Loading the take" />
            ) : undefined
          }
          footer={
            opened && (
              <>
                <AtFrame>{(frame) => `frame ${frame} of ${opened.motion.frames}`}</AtFrame>
                <AtFrame>{(frame) => `${(frame / opened.motion.fps).toFixed(2)} s`}</AtFrame>
                <AtFrame>{(frame) => `${(opened.speed[frame] ?? 0).toFixed(2)} m/s`}</AtFrame>
                <AtFrame>{(frame) => `hips ${((opened.hipHeight[frame] ?? 0) * 100).toFixed(1)} cm`}</AtFrame>
              </>
            )
          }
        />
        {second && opened && (
          <Box
            role="region"
            aria-label="Comparison"
            sx={{
              position: 'absolute',
              right: 12,
              top: 44,
              width: 296,
              bgcolor: 'rgba(14,29,33,0.86)',
              color: DUSK.text,
              borderRadius: 1,
              p: 1.2,
            }}
          >
            <Typography variant="body2" noWrap>
              <Box component="span" aria-hidden sx={{ color: '#8fd0cb' }}>
                ■{' '}
              </Box>
              {other === RAW ? 'as found' : second.name}
            </Typography>
            {comparison ? (
              <>
                {comparison.joints.slice(0, 5).map(({ joint, meanCm, worstCm, frame }) => (
                  <Box
                    key={joint}
                    component="button"
                    onClick={() => usePlayer.getState().seek(frame)}
                    title="Go to where it is greatest"
                    sx={{
                      all: 'unset',
                      cursor: 'pointer',
                      display: 'flex',
                      width: '100%',
                      gap: 1,
                      fontSize: 13.5,
                      '&:hover': { color: DUSK.warm },
                      '&:focus-visible': { outline: `1px solid ${DUSK.warm}` },
                    }}
                  >
                    <Box component="span" sx={{ flex: 1 }}>
                      {joint}
                    </Box>
                    <span>{meanCm.toFixed(1)}</span>
                    <b style={{ width: 64, textAlign: 'right' }}>{worstCm.toFixed(1)} cm</b>
                  </Box>
                ))}
                <Typography variant="caption" sx={{ opacity: 0.8 }}>
                  mean and greatest distance of {comparison.joints.length} joints
                </Typography>
              </>
            ) : (
              <CircularProgress size={16} color="inherit" aria-label="Comparing" />
            )}
            <Box sx={{ display: 'flex', flexWrap: 'wrap', ml: -1 }} role="group" aria-label="How they stand">
              {(Object.keys(STANDS) as Stand[]).map((way) => (
                <Choice key={way} label={STANDS[way]} isOn={stands === way} onClick={() => setStand(way)} />
              ))}
            </Box>
            <Box sx={{ display: 'flex', ml: -1 }}>
              <Choice label="done" isOn={false} onClick={() => onCompare(null)} />
            </Box>
          </Box>
        )}
      </Box>
      {opened && take && (
        <TakeDeck
          key={take.id}
          take={opened}
          traces={traces}
          markers={take.markers}
          onMarkers={(markers) =>
            void edit(
              'markers',
              changesOf([take], () => ({ markers: [...markers] })),
            )
          }
          menu={<TraceMenu take={opened} />}
        />
      )}
      {!opened && take && error && <Button onClick={() => location.reload()}>try again</Button>}
    </>
  );
}

function useComparison(a: OpenTake | undefined, b: OpenTake | undefined, standing: Standing) {
  return useQuery({
    queryKey: ['comparison', a?.id, b?.id, standing],
    enabled: a !== undefined && b !== undefined,
    staleTime: Infinity,
    placeholderData: (before) => before,
    queryFn: () => core().compare(a?.id ?? '', b?.id ?? '', standing),
  }).data;
}

/** Trails of the joints that the stage shows them for. */
function useTrails(take: TakeInfo | null, opened: OpenTake | undefined) {
  const joints = useStageOptions((state) => state.trails);
  const ways = useJointWays(take, opened, joints);
  return useMemo(() => ways.flatMap((points, i) => (points ? [{ joint: joints[i], points }] : [])), [ways, joints]);
}
