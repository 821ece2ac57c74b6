'use client';
import type { SuitStatus } from '@lantern/capture';
import type { Worn } from '@/http/suit';
import { useEffect, useMemo, useState } from 'react';
import { usePlayer } from '@/data/player';
import type { WireMotion } from '@/worker/wire';

/** The suit's events: one frame of motion that is written over thirty times a second, and the state. */
export function useLive(suit: Worn | null): { status: SuitStatus | null; motion: WireMotion | null; isLost: boolean } {
  const [status, setStatus] = useState<SuitStatus | null>(null);
  const [isLost, setLost] = useState(false);
  const skeleton = suit?.skeleton;
  const motion = useMemo<WireMotion | null>(
    () =>
      skeleton
        ? {
            skeleton,
            fps: 60,
            frames: 1,
            rotations: new Float32Array(skeleton.joints.length * 4).map((_, i) => (i % 4 === 3 ? 1 : 0)),
            rootPositions: new Float32Array(skeleton.joints[0].offset),
          }
        : null,
    [skeleton],
  );
  const id = suit?.id;
  useEffect(() => {
    if (!id || !motion) return;
    usePlayer.getState().load(1, 60, 0);
    const source = new EventSource(`/api/suit/${id}/stream`);
    source.addEventListener('pose', (event: MessageEvent<string>) => {
      if (usePlayer.getState().held) return;
      const bytes = Uint8Array.from(atob(event.data), (c) => c.charCodeAt(0));
      const row = new Float32Array(bytes.buffer);
      motion.rootPositions.set(row.subarray(0, 3));
      motion.rotations.set(row.subarray(3, 3 + motion.rotations.length));
      usePlayer.setState({ frame: 0 });
    });
    source.addEventListener('status', (event: MessageEvent<string>) => {
      if (usePlayer.getState().held) return;
      setStatus(JSON.parse(event.data) as SuitStatus);
      setLost(false);
    });
    source.onerror = () => setLost(true);
    return () => source.close();
  }, [id, motion]);
  useEffect(() => {
    if (!id) return;
    return () => void fetch(`/api/suit/${id}`, { method: 'DELETE', keepalive: true }).catch(() => {});
  }, [id]);
  return { status, motion, isLost };
}
