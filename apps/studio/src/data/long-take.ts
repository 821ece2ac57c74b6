import { applyOverrides, CHUNK_FRAMES, motionFromRows, type Motion, type Overview, type Skeleton } from '@lantern/motion';
import { LRUCache } from 'lru-cache';
import { core } from '@/worker/core';
import type { OpenTake } from '@/worker/core.worker';
import type { Located } from '@/worker/wire';
import { usePlayer } from './player';
import type { TakeInfo } from './project';
import { takeKey } from './use-open-take';

/** Chunks kept, the longest unused forgotten first; and fetched ahead of the playhead. */
const KEPT = 120;
const AHEAD = 6;

/** The parts of a long take, fetched as they are needed. */
class Parts {
  private readonly held = new LRUCache<number, Motion>({ max: KEPT });
  private readonly asked = new Map<number, Promise<void>>();

  private body: Skeleton['body'];
  private wanted = 0;
  private isWorking = false;

  constructor(private readonly take: TakeInfo) {}

  /** What is looked at first, then what lies ahead, one at a time: a jump elsewhere does not wait for what was ahead before it. */
  private async work(): Promise<void> {
    if (this.isWorking) return;
    this.isWorking = true;
    try {
      for (;;) {
        const next = Array.from({ length: AHEAD + 1 }, (_, k) => this.wanted + k).find((index) => this.isMissing(index));
        if (next === undefined) return;
        await this.fetch(next);
      }
    } catch {
      // Asked for again at the next drawing.
    } finally {
      this.isWorking = false;
    }
  }

  private isMissing(index: number): boolean {
    return index >= 0 && index * CHUNK_FRAMES < this.take.frames && !this.held.has(index);
  }

  at(frame: number): Located | null {
    const index = Math.floor(frame / CHUNK_FRAMES);
    const motion = this.held.get(index);
    this.wanted = index;
    void this.work();
    if (!motion) return null;
    return { motion, frame: Math.min(motion.frames - 1, frame - index * CHUNK_FRAMES) };
  }

  fetch(index: number): Promise<void> {
    const { id, skeleton, fps, moving, passport, overrides } = this.take;
    if (!this.isMissing(index)) return Promise.resolve();
    const running = this.asked.get(index);
    if (running) return running;
    const work = (async () => {
      const response = await fetch(`/api/takes/${id}/chunks/${index}`);
      if (!response.ok) throw new Error('A part of the take could not be loaded.');
      const raw = motionFromRows(new Float32Array(await response.arrayBuffer()), skeleton, fps, moving);
      // Whose body it is is told by the first part, and holds for all.
      const part = applyOverrides(raw, passport.reading, { ...overrides, conform: undefined }, this.body);
      this.body = part.skeleton.body;
      this.held.set(index, part);
      // Whoever waits for it draws again.
      usePlayer.setState({});
    })().finally(() => this.asked.delete(index));
    this.asked.set(index, work);
    return work;
  }
}

/** Opens a long take with its first part only; the curves along its axis follow in `curves`. */
export async function openLong(take: TakeInfo): Promise<OpenTake> {
  const parts = new Parts(take);
  await parts.fetch(0);
  const first = parts.at(0)?.motion;
  if (!first) throw new Error('The take could not be loaded.');
  const figure = await core().figure(first.skeleton);
  const motion = { ...first, frames: take.frames, part: (frame: number) => parts.at(frame) };
  const curve = () => new Float32Array(take.frames);
  return {
    id: takeKey(take),
    motion,
    ...figure,
    contacts: null,
    floor: take.overrides.floorToZero ? 0 : take.passport.reading.floorM,
    speed: curve(),
    hipHeight: curve(),
    heading: curve(),
    stride: null,
  };
}

/** The curves and contacts of a long take, which the server worked out when it came in. */
export async function readCurves(take: TakeInfo): Promise<Overview> {
  const response = await fetch(`/api/takes/${take.id}/overview`);
  if (!response.ok) throw new Error('The curves of the take could not be loaded.');
  const bytes = await response.arrayBuffer();
  const length = new DataView(bytes).getUint32(0, true);
  const about = JSON.parse(new TextDecoder().decode(new Uint8Array(bytes, 4, length))) as Pick<Overview, 'contacts' | 'floor' | 'stride'>;
  const curves = new Float32Array(bytes, 4 + length);
  const n = curves.length / 3;
  return { ...about, speed: curves.subarray(0, n), hipHeight: curves.subarray(n, 2 * n), heading: curves.subarray(2 * n) };
}
