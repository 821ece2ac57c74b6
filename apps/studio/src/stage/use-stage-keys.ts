'use client';
import { useEffect } from 'react';
import { usePlayer } from '@/data/player';
import { useKeys } from '@/controls/use-keys';
import { useStageOptions } from './stage-options';
import type { View } from './views';

/** The keys of the stage: playing, stepping, views, and what it shows. */
export function useStageKeys(setView: (view: View) => void): void {
  const step = (by: number) => {
    const { frame, seek, playing, toggle } = usePlayer.getState();
    if (playing) toggle();
    seek(Math.round(frame) + by);
  };
  useKeys('space', () => usePlayer.getState().toggle(), 'space');
  useKeys('left', () => step(-1), 'arrows');
  useKeys('right', () => step(1), 'arrows');
  useKeys('shift+left', () => step(-10), 'arrows');
  useKeys('shift+right', () => step(10), 'arrows');
  useKeys('f', () => setView('front'));
  useKeys('s', () => setView('side'));
  useKeys('t', () => setView('top'));
  useKeys('w', () => setView('follow'));
  useKeys('r', () => setView('free'));
  useKeys('a', () => setView('fit'));
  useKeys('k', () => setView('track'));
  useKeys('b', () => useStageOptions.setState(({ bones }) => ({ bones: !bones })));
  useKeys('g', () => useStageOptions.setState(({ ghosts }) => ({ ghosts: ghosts > 0 ? 0 : 6 })));
  useKeys('m', () => useStageOptions.setState(({ measuring }) => ({ measuring: !measuring })));
  useEffect(() => () => usePlayer.setState({ playing: false }), []);
}
