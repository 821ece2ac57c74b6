'use client';
import { fieldPlayer, type FieldPlayer } from '@lantern/drive';
import { forwardKinematics } from '@lantern/motion';
import { useEffect, useMemo, useRef, useState } from 'react';
import { oneFrame, writePose } from '@/data/play-pose';
import { usePlayer } from '@/data/player';
import type { FieldView } from '@/worker/core.worker';
import type { Footprint } from '@/worker/markers';
import type { WireMotion } from '@/worker/wire';

/** Footprints that stay on the floor. */
const MOST_PRINTS = 24;
/** Numbers that change with every frame are told so often, milliseconds. */
const TOLD = 120;

/** What a field does at this moment. */
export interface LiveField {
  /** One frame, that is written over as the field plays. */
  readonly motion: WireMotion;
  readonly prints: readonly Footprint[];
  readonly phase: number;
  readonly weights: Readonly<Record<string, number>>;
  /** Metres to the middle of the arc that it goes; null when straight. */
  readonly radius: number | null;
}

/**
 * A field being played: by the same runtime as a game plays it, tick by tick, for as long as the player plays.
 *
 * @param place of what is asked, on the chart
 */
export function useLiveField(view: FieldView | null, place: readonly [number, number]): LiveField | null {
  const player = useMemo(() => (view ? fieldPlayer(view.skeleton, view.field) : null), [view]);
  const motion = useMemo(() => (view ? oneFrame(view.joints) : null), [view]);
  const [told, setTold] = useState<Omit<LiveField, 'motion'> | null>(null);
  const prints = useRef<readonly Footprint[]>([]);
  const [x, y] = place;
  useEffect(() => {
    if (!player || !motion || !view) return;
    player.ask(x, y);
    // While it stands still what is asked is shown at once.
    if (!usePlayer.getState().playing) {
      player.reset(player.phase(), player.root[0], player.root[1], player.root[2]);
      writePose(player, motion);
      usePlayer.setState({ frame: 0 });
      setTold(tell(player, view, prints.current));
    }
  }, [player, motion, view, x, y]);
  useEffect(() => {
    if (!player || !motion || !view) return;
    prints.current = [];
    usePlayer.getState().load(1, 60, 0);
    // Whoever opens a field wants to see it go, unless things that move are not wanted.
    usePlayer.setState({ playing: !window.matchMedia('(prefers-reduced-motion: reduce)').matches });
    const down = [0, 0];
    let [last, spoken] = [performance.now(), 0];
    let frame = 0;
    const tick = (now: number) => {
      frame = requestAnimationFrame(tick);
      const { playing, held, speed } = usePlayer.getState();
      const seconds = Math.min(0.05, (now - last) / 1000) * speed;
      last = now;
      if (!playing || held || seconds <= 0) return;
      player.tick(seconds);
      writePose(player, motion);
      for (const side of [0, 1] as const) {
        if (player.down[side] && !down[side]) prints.current = [...prints.current, printOf(player, motion, view, side)].slice(-MOST_PRINTS);
        down[side] = player.down[side];
      }
      usePlayer.setState({ frame: 0 });
      if (now - spoken < TOLD) return;
      spoken = now;
      setTold(tell(player, view, prints.current));
    };
    frame = requestAnimationFrame(tick);
    return () => {
      cancelAnimationFrame(frame);
      usePlayer.setState({ playing: false });
    };
  }, [player, motion, view]);
  return useMemo(() => (motion && told ? { motion, ...told } : null), [motion, told]);
}

function tell(player: FieldPlayer, view: FieldView, prints: readonly Footprint[]): Omit<LiveField, 'motion'> {
  const weights: Record<string, number> = {};
  view.points.forEach(({ name }, i) => {
    if (player.weights[i] > 0.005) weights[name] = player.weights[i];
  });
  const turn = view.points.reduce((sum, { at }, i) => sum + player.weights[i] * (view.field.scale[1] === 1 ? 0 : (at[1] ?? 0)), 0);
  const speed = view.points.reduce((sum, { at }, i) => sum + player.weights[i] * at[0], 0);
  return { prints, phase: player.phase(), weights, radius: Math.abs(turn) < 3 ? null : speed / ((Math.abs(turn) * Math.PI) / 180) };
}

/** Where a foot has come down. */
function printOf(player: FieldPlayer, motion: WireMotion, { skeleton }: FieldView, side: 0 | 1): Footprint {
  const { positions } = forwardKinematics(motion);
  const { ankle, toe } = skeleton.legs[side === 0 ? 'left' : 'right'];
  const at = (j: number, k: number) => positions[j * 3 + k];
  const tip = toe >= 0 ? toe : ankle;
  return {
    side: side === 0 ? 'left' : 'right',
    x: (at(ankle, 0) + at(tip, 0)) / 2,
    z: (at(ankle, 2) + at(tip, 2)) / 2,
    heading: toe >= 0 ? Math.atan2(at(toe, 0) - at(ankle, 0), at(toe, 2) - at(ankle, 2)) : player.root[2],
    // Told apart by when they came; the one frame that is played is in none of them.
    from: -1 - Math.round(performance.now()),
    to: -1,
    slideCm: 0,
  };
}
