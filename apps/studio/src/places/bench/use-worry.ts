import { useCallback, useRef } from 'react';
import { usePlayer } from '@/data/player';

/** Half of what is played about the seam, seconds. */
const AROUND = 0.25;

/** Worries the seam of a loop: plays the half second around it round and round at a quarter of its speed, or stops that. */
export function useWorry(cycle: number | null): () => void {
  const speed = useRef<number | null>(null);
  return useCallback(() => {
    const player = usePlayer.getState();
    if (speed.current !== null && player.range) {
      player.setRange(null);
      player.setSpeed(speed.current);
      speed.current = null;
      return;
    }
    if (cycle === null) return;
    const reach = Math.min(cycle / 2, AROUND * player.fps);
    speed.current = player.speed;
    player.setRange({ from: cycle - reach, to: cycle + reach });
    player.setSpeed(0.25);
    if (!player.playing) player.toggle();
  }, [cycle]);
}
