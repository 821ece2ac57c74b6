'use client';
'use no memo';
import { useCallback, useEffect, useRef, useState } from 'react';
import { usePlayer } from '@/data/player';
import { useLivePlay } from '@/data/use-live-play';
import type { PlayView } from '@/worker/core.worker';
import type { SetPlayer } from '@lantern/drive';

/** What was passed through, the present state first. */
export interface Passed {
  readonly state: string;
  readonly seconds: number;
}

export interface LiveGraph {
  readonly player: SetPlayer;
  /** Changes when what is told has. */
  readonly told: number;
  readonly passed: readonly Passed[];
}

const TOLD = 120;
const MOST_PASSED = 10;

/** A graph being played in place: what is asked comes from sliders. */
export function useLiveGraph(view: PlayView | null): LiveGraph | null {
  const [told, setTold] = useState(0);
  const passed = useRef<Passed[]>([]);
  const started = useRef(-1);
  const spoken = useRef(0);
  const names = view?.set.graph.states;
  const onFrame = useCallback(
    (player: SetPlayer) => {
      if (!names) return;
      const state = names[player.state()].name;
      if (started.current !== player.started() || passed.current[0]?.state !== state) {
        started.current = player.started();
        passed.current = [{ state, seconds: 0 }, ...passed.current].slice(0, MOST_PASSED);
      }
      passed.current = [{ state, seconds: player.elapsed() }, ...passed.current.slice(1)];
      const now = performance.now();
      if (now - spoken.current < TOLD) return;
      spoken.current = now;
      setTold(now);
    },
    [names],
  );
  const live = useLivePlay(view?.set ?? null, { onFrame });
  useEffect(() => {
    if (!live) return;
    passed.current = [];
    usePlayer.getState().load(1, 60, 0);
    usePlayer.setState({ playing: !window.matchMedia('(prefers-reduced-motion: reduce)').matches });
    return () => usePlayer.setState({ playing: false });
  }, [live]);
  // What was passed is a list that is written over; it is read when something is told.
  return live && view ? { player: live.player, told, passed: passed.current } : null;
}
