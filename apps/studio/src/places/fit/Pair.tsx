'use client';
import { CHUNK_FRAMES, PARTS, turnedOn, type FitOverrides, type Part } from '@lantern/motion';
import { Box, CircularProgress, LinearProgress, Typography } from '@mui/material';
import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { useCharacter } from '@/data/fits';
import { usePlayer } from '@/data/player';
import type { ProjectData, TakeInfo } from '@/data/project';
import { takeKey, useOpenTake } from '@/data/use-open-take';
import { numeral } from '@/controls/Figure';
import { Split } from '@/controls/Split';
import { Choice } from '@/stage/Choice';
import { AtFrame, StageFrame } from '@/stage/StageFrame';
import type { Turning } from '@/stage/TurnRing';
import { TakeDeck } from '@/timeline/TakeDeck';
import type { FitView } from '@/worker/core.worker';
import { DayPanel } from './DayPanel';
import { LimbsPanel } from './LimbsPanel';
import { inMinute, MinuteMenu, stretchOf } from './Minute';
import { PartsPanel, withMapping } from './PartsPanel';
import { ReferencePanel, withTurn, type ByHand } from './ReferencePanel';
import { useFitSettings, useFitted, useFitView, useTints } from './use-fit';

export type Panel = 'parts' | 'reference' | 'limbs' | 'day';
const NO_TRACES: readonly never[] = [];
const NOBODY: readonly ReadonlySet<number>[] = [new Set(), new Set()];
/** Metres between two figures side by side. */
const BESIDE = 0.95;
/** The same with their arms out. */
const ARMS_OUT = 1.75;

/** A take and a character: seen in step, and what is settled for them. */
export function Pair({
  data,
  take,
  character,
  panel,
  head,
  at,
  onOpen,
}: {
  data: ProjectData;
  take: TakeInfo;
  character: string | null;
  panel: Panel;
  head: readonly ReactNode[];
  /** A frame of the take to go to. */
  at: number | null;
  onOpen: (take: string, character: string | undefined, frame?: number) => void;
}) {
  const goal = useRef(at);
  const [minute, setMinute] = useState(() => inMinute(take, at ?? 0).minute);
  const stretch = useMemo(() => stretchOf(take, minute), [take, minute]);
  const id = takeKey(take, undefined, stretch);
  const { data: opened, error } = useOpenTake(take, false, stretch);
  const isOpen = opened?.id === id;
  const { data: skin, error: skinError } = useCharacter(character);
  const { settings, change } = useFitSettings(take, character);
  // While something is turned by hand only the references follow; the take is fitted anew when it is let go.
  const [draft, setDraft] = useState<FitOverrides | null>(null);
  const inReference = panel === 'reference';
  const view = useFitView(id, isOpen, character, draft ?? settings);
  const fitted = useFitted(id, isOpen && !inReference, character, settings);
  const [chosen, setChosen] = useState<Part | null>(null);
  const [hand, setHand] = useState<ByHand>({ part: 'leftUpperArm', side: 'target' });
  const [overlaid, setOverlaid] = useState(false);
  const load = usePlayer((state) => state.load);
  const [frames, fps] = [opened?.motion.frames, opened?.motion.fps];
  useEffect(() => {
    if (frames === undefined || fps === undefined) return;
    load(frames, fps);
    // Once: afterwards one goes where one likes.
    if (goal.current !== null) usePlayer.getState().seek(inMinute(take, goal.current).frame);
    goal.current = null;
  }, [frames, fps, load, take]);
  const [sourceTint, targetTint] = [
    useTints(view.data?.source.parts, panel === 'parts'),
    useTints(view.data?.target.parts, panel === 'parts'),
  ];
  const picked = useMemo(() => {
    const of = (side: 'source' | 'target') => new Set(chosen ? (view.data?.[side].parts[chosen]?.joints ?? []) : []);
    return [of('source'), of('target')];
  }, [chosen, view.data]);
  const pick = useCallback(
    (figure: number, joint: number) => {
      if (!chosen || !view.data) return;
      const side = figure === 0 ? 'source' : 'target';
      const { names, parts } = view.data[side];
      const now = (parts[chosen]?.joints ?? []).map((j) => names[j]);
      const name = names[joint];
      change(withMapping(settings, chosen, side, now.includes(name) ? now.filter((n) => n !== name) : [...now, name]));
    },
    [chosen, view.data, settings, change],
  );
  const turning = useTurning(inReference ? view.data : undefined, settings, hand, (next, isDone) => {
    setDraft(isDone ? null : next);
    if (isDone) change(next);
  });
  const pickHand = useCallback(
    (figure: number, joint: number) => {
      const side = figure === 0 ? 'source' : 'target';
      const part = PARTS.find((name) => view.data?.mismatch[name] !== undefined && view.data[side].parts[name]?.joints.includes(joint));
      if (part) setHand({ part, side });
    },
    [view.data],
  );
  const picking = useMemo(() => {
    if (panel === 'parts' && chosen) return { chosen: picked, onPick: pick };
    return inReference ? { chosen: NOBODY, onPick: pickHand } : null;
  }, [panel, chosen, picked, pick, inReference, pickHand]);
  const scale = overlaid && view.data ? 1 / view.data.legRatio : 1;
  const other = useMemo(() => {
    const motion = inReference ? view.data?.target.reference : fitted.data?.motion;
    if (!skin || !motion || motion.skeleton.joints.length !== skin.skeleton.joints.length) return null;
    return {
      motion,
      mesh: skin.mesh,
      floor: inReference ? 0 : (fitted.data?.floor ?? 0),
      shift: [0, 0] as const,
      // Around the performer, so that both are seen.
      solid: !overlaid,
      tint: targetTint,
      scale,
      beside: overlaid ? 0 : inReference ? ARMS_OUT : BESIDE,
    };
  }, [inReference, view.data, fitted.data, skin, targetTint, scale, overlaid]);
  const stage = useMemo(
    () =>
      opened && isOpen
        ? {
            motion: inReference && view.data ? view.data.source.reference : opened.motion,
            mesh: opened.mesh,
            markers: inReference && opened.markers ? { ...opened.markers, footprints: [] } : opened.markers,
            floor: inReference ? 0 : opened.floor,
            heading: inReference ? undefined : opened.heading,
            tint: sourceTint,
            other,
            picking,
            turning,
          }
        : null,
    [opened, isOpen, inReference, view.data, other, picking, turning, sourceTint],
  );
  const takePose = () => {
    if (!opened) return;
    const frame = Math.round(usePlayer.getState().frame);
    const { motion } = opened;
    const J = motion.skeleton.joints.length;
    const at = (j: number) =>
      [...motion.rotations.subarray((frame * J + j) * 4, (frame * J + j) * 4 + 4)] as [number, number, number, number];
    const rotations = Object.fromEntries(motion.skeleton.joints.map(({ name }, j) => [name, at(j)]));
    const before = settings.reference ?? { target: 'T' as const, turns: { source: {}, target: {} } };
    change({
      ...settings,
      reference: { ...before, source: { label: `frame ${frame + (stretch?.from ?? 0) * CHUNK_FRAMES} of ${take.name}`, rotations } },
    });
  };
  const trouble = error ?? skinError ?? view.error ?? fitted.error;
  const report = fitted.data?.report ?? null;
  const movable = useMemo(() => {
    const target = view.data?.target;
    return target ? Object.values(target.parts).flatMap(({ joints }) => joints.filter((j) => j > 0).map((j) => target.names[j])) : [];
  }, [view.data]);
  const put = (next: FitOverrides) => change(next);
  return (
    <Split
      id="fit"
      parts={[
        {
          id: 'fit-stage',
          size: '62%',
          least: '40%',
          content: (
            <Box sx={{ display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto', height: '100%', minHeight: 0 }}>
              <Box sx={{ position: 'relative', minHeight: 0 }}>
                <StageFrame
                  stage={stage}
                  notice={
                    trouble ? (
                      <Typography role="alert">{trouble.message}</Typography>
                    ) : !stage ? (
                      <CircularProgress aria-label="Loading the take" />
                    ) : undefined
                  }
                  footer={
                    <>
                      <AtFrame>
                        {(frame) => (inReference ? 'the poses that count as the same' : `frame ${frame} of ${opened?.motion.frames ?? 0}`)}
                      </AtFrame>
                      <Box sx={{ flex: 1 }} />
                      {(fitted.isFetching || view.isFetching) && (
                        <CircularProgress size={14} color="inherit" aria-label="Fitting the take" />
                      )}
                      {report && !inReference && (
                        <Typography variant="body2" component="span" noWrap role="status" aria-label="Figures of the fit">
                          {report.slideCm > 0.2 && '▲ '}slide {report.slideCm.toFixed(2)} cm · sink {report.sinkCm.toFixed(2)} · hover{' '}
                          {report.hoverCm.toFixed(2)} cm
                          {report.seatCm > 1 && ` · ▲ seat ${report.seatCm.toFixed(0)} cm in the floor`}
                          {report.kink && report.kink.ratio > 2 && ` · ▲ ${report.kink.hinge} × ${report.kink.ratio.toFixed(1)}`}
                          {report.reachCm > 0.05 && ` · hands ${report.reachCm.toFixed(1)} cm off`}
                          {report.limits[0] && ` · ▲ joints by ${numeral(report.limits[0].degrees, 0)}°`}
                        </Typography>
                      )}
                      <Choice label="side by side" isOn={!overlaid} onClick={() => setOverlaid(false)} />
                      <Choice
                        label="overlaid"
                        isOn={overlaid}
                        title="Over each other, the character drawn as large as the performer"
                        onClick={() => setOverlaid(true)}
                      />
                    </>
                  }
                />
              </Box>
              {opened && isOpen && (
                <TakeDeck
                  take={opened}
                  traces={NO_TRACES}
                  markers={take.markers}
                  onMarkers={() => {}}
                  menu={stretch ? <MinuteMenu take={take} minute={minute} onMinute={setMinute} /> : null}
                />
              )}
            </Box>
          ),
        },
        {
          id: 'fit-panel',
          size: '38%',
          least: '28%',
          content: (
            <Box sx={{ height: '100%', display: 'grid', gridTemplateRows: 'auto auto minmax(0, 1fr)' }}>
              {head[0]}
              {head[1]}
              <Box sx={{ minHeight: 0 }}>
                {panel === 'day' ? (
                  <DayPanel data={data} onOpen={onOpen} />
                ) : !view.data ? (
                  <Box sx={{ p: 2 }}>
                    {trouble ? <Typography>{trouble.message}</Typography> : <LinearProgress aria-label="Finding the parts" />}
                  </Box>
                ) : panel === 'parts' ? (
                  <PartsPanel view={view.data} settings={settings} chosen={chosen} onChoose={setChosen} onChange={put} />
                ) : panel === 'reference' ? (
                  <ReferencePanel
                    view={view.data}
                    settings={draft ?? settings}
                    hand={hand}
                    onHand={setHand}
                    onChange={put}
                    onTakePose={takePose}
                  />
                ) : (
                  <LimbsPanel
                    settings={settings}
                    legRatio={view.data.legRatio}
                    joints={movable}
                    props={take.props}
                    report={report}
                    onChange={put}
                    onGo={(frame) => usePlayer.getState().seek(frame)}
                  />
                )}
              </Box>
            </Box>
          ),
        },
      ]}
    />
  );
}

/** The ring on the stage about the part that is turned by hand. */
function useTurning(
  view: FitView | undefined,
  settings: FitOverrides,
  { part, side }: ByHand,
  onTurned: (settings: FitOverrides, isDone: boolean) => void,
): Turning | null {
  const joint = view?.[side].parts[part]?.joints[0];
  const turned = useRef(onTurned);
  useEffect(() => {
    turned.current = onTurned;
  });
  return useMemo(() => {
    if (joint === undefined) return null;
    const before = settings.reference?.turns[side][part] ?? [0, 0, 0];
    return {
      figure: side === 'source' ? 0 : 1,
      joint,
      onTurn: (axis, degrees, isDone) => turned.current(withTurn(settings, side, part, turnedOn(before, axis, degrees)), isDone),
    };
  }, [joint, settings, side, part]);
}
