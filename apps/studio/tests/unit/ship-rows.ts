import { setSchema, shipSchema } from '@lantern/motion';
import type { SetDoc } from '@/data/sets-store';
import type { ClipAbout, ReadyRow, ShipmentRow } from '@/http/shipment';
import { readyClip, type ReadyClip } from '@/places/ship/use-readiness';

/** A set whose game asks for strolls of 1.4 m/s. */
export const set = {
  ...setSchema.parse({ name: 'ferry', contract: { speedMps: { walk: { forward: 1.4 } } } }),
  id: 's',
  fields: [],
} as SetDoc;

/** What is known of a clip as it ships: a stroll, all of it in bounds. */
export const about = (change: Partial<ClipAbout['figures']> = {}, more: Partial<ClipAbout> = {}): ClipAbout =>
  ({
    rateChange: 1,
    scale: 0.5,
    figures: {
      ...{ seconds: 1.1, fps: 30, frames: 34, loop: true, tick: 0.6, speedMps: 1.38, slideCm: 0.04, sinkCm: 0.3 },
      seam: { poseCm: 0.01, worstJoint: 'LeftHand' },
      ...change,
    },
    against: null,
    traits: { kind: 'loop', gait: 'walk', direction: 'forward', speedMps: change.speedMps ?? 1.38 },
    homeCm: null,
    keys: { kept: 300, dense: 1500, worstMm: 0.41, joint: 'LeftHand', frame: 12, bytes: 14_000, denseBytes: 25_000 },
    worst: { slide: { side: 'left', from: 8, to: 15 }, sink: { side: 'right', frame: 20 } },
    marks: [],
    meets: null,
    strip: null,
    warnings: [],
    ...more,
  }) as unknown as ClipAbout;

export const row = (name: string, change: Partial<ReadyRow> = {}): ReadyRow => ({
  id: `id-${name}`,
  kind: 'clip',
  name,
  character: null,
  key: name,
  state: 'done',
  about: about(),
  message: null,
  since: 'same',
  why: [],
  ...change,
});
export const clip = (name: string, change: Partial<ReadyRow> = {}): ReadyClip => readyClip(row(name, change), 'Wick', set);

export const shipment = (change: Partial<ShipmentRow> = {}): ShipmentRow => ({
  id: 'a',
  state: 'done',
  created: '2026-10-14T17:42:00Z',
  finished: null,
  done: 3,
  of: 3,
  failed: 0,
  ship: shipSchema.parse({}),
  files: [{ path: 'set.glb', bytes: 420_000, hash: 'x' }],
  written: [{ path: 'set.glb', bytes: 415_000, state: 'changed', why: ['stroll: its cut'] }],
  message: '',
  ...change,
});
