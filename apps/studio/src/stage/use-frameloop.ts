'use client';
import { usePlayer } from '@/data/player';

/** When the stage is drawn: always while it plays, else when something of it changed, and not at all while the next page is on its way. */
export function useFrameloop(): 'always' | 'demand' | 'never' {
  return usePlayer(({ playing, held }) => (held ? 'never' : playing ? 'always' : 'demand'));
}
