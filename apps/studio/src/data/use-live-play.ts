'use client';
import { setPlayer, STEP, type CapsuleRules, type PlaySet, type SetPlayer } from '@lantern/drive';
import { useEffect, useMemo, useRef } from 'react';
import { usePlayer } from './player';

/** A set that is being played, tick by tick, by the same runtime as a game plays it. */
export interface LivePlay {
  readonly player: SetPlayer;
}

/** The longest piece of time that is made up for after the page was busy, seconds. */
const MOST = 0.1;

export interface LivePlayOptions {
  readonly capsule?: CapsuleRules;
  /** Who is played along, with the same time. */
  readonly other?: SetPlayer | null;
  /** Before every whole step: what is asked in it is told now. */
  readonly before?: (player: SetPlayer) => void;
  readonly onStep?: (player: SetPlayer) => void;
  /** After every picture's time. */
  readonly onFrame: (player: SetPlayer) => void;
}

/**
 * Plays a set for as long as the clock plays; pieces of time end at whole steps, so that what is asked and measured there is the same however often is
 * drawn.
 */
export function useLivePlay(set: PlaySet | null, { capsule, other = null, before, onStep, onFrame }: LivePlayOptions): LivePlay | null {
  const live = useMemo(() => (set ? { player: setPlayer(set, { capsule }) } : null), [set, capsule]);
  const told = useRef({ other, before, onStep, onFrame });
  useEffect(() => {
    told.current = { other, before, onStep, onFrame };
  });
  useEffect(() => {
    if (!live) return;
    const { player } = live;
    let last = performance.now();
    let frame = 0;
    let since = 0;
    const look = (now: number) => {
      frame = requestAnimationFrame(look);
      const { playing, held, speed } = usePlayer.getState();
      let left = Math.min(MOST, (now - last) / 1000) * speed;
      last = now;
      if (!playing || held || left <= 0) return;
      while (left > 1e-9) {
        if (since === 0) told.current.before?.(player);
        const own = Math.min(left, STEP - since);
        player.tick(own);
        told.current.other?.tick(own);
        left -= own;
        since += own;
        if (since >= STEP - 1e-9) {
          since = 0;
          told.current.onStep?.(player);
          // Whoever stopped it wants to see this very step.
          if (!usePlayer.getState().playing) break;
        }
      }
      told.current.onFrame(player);
      // Who draws is told that there is something new.
      usePlayer.setState({ frame: 0 });
    };
    frame = requestAnimationFrame(look);
    return () => cancelAnimationFrame(frame);
  }, [live]);
  return live;
}
