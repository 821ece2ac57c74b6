import { applyOverrides, motionFromRows, type Motion, type Overview } from '@lantern/motion';
import { core } from '@/worker/core';
import type { OpenTake } from '@/worker/core.worker';
import type { Located } from '@/worker/wire';
import { usePlayer } from './player';
import type { TakeInfo } from './project';

/** As the server cuts them. */
const CHUNK_FRAMES = 400;
/** Chunks kept, the longest unused forgotten first; and fetched ahead of the playhead. */
const KEPT = 40;
const AHEAD = 3;

/** The parts of a long take, fetched as they are needed. */
class Parts {
  private readonly held = new Map<number, Motion>();
  private readonly asked = new Map<number, Promise<void>>();

  constructor(private readonly take: TakeInfo) {}

  at(frame: number): Located | null {
    const index = Math.floor(frame / CHUNK_FRAMES);
    const motion = this.held.get(index);
    for (let k = 0; k <= AHEAD; k++) void this.fetch(index + k);
    if (!motion) return null;
    // Used last: forgotten last.
    this.held.delete(index);
    this.held.set(index, motion);
    return { motion, frame: Math.min(motion.frames - 1, frame - index * CHUNK_FRAMES) };
  }

  fetch(index: number): Promise<void> {
    const { id, frames, skeleton, fps, moving, passport, overrides } = this.take;
    if (index < 0 || index * CHUNK_FRAMES >= frames || this.held.has(index)) return Promise.resolve();
    const running = this.asked.get(index);
    if (running) return running;
    const work = (async () => {
      const response = await fetch(`/api/takes/${id}/chunks/${index}`);
      if (!response.ok) throw new Error('A part of the take could not be loaded.');
      const raw = motionFromRows(new Float32Array(await response.arrayBuffer()), skeleton, fps, moving);
      this.held.set(index, applyOverrides(raw, passport.reading, { ...overrides, conform: undefined }));
      for (const old of this.held.keys()) {
        if (this.held.size <= KEPT) break;
        this.held.delete(old);
      }
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
  const [, looks] = await Promise.all([parts.fetch(0), core().figure(take.skeleton)]);
  const first = parts.at(0)?.motion;
  if (!first) throw new Error('The take could not be loaded.');
  const motion = { ...first, frames: take.frames, part: (frame: number) => parts.at(frame) };
  const curve = () => new Float32Array(take.frames);
  return {
    id: take.id,
    motion,
    mesh: looks.mesh,
    markers: looks.markers,
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
