import {
  applyOverrides,
  motionFromRows,
  withMapping,
  type Mapping,
  type Motion,
  type Passport,
  type Skeleton,
  type TakeOverrides,
} from '@lantern/motion';
import { nameMotion, takeOf } from './held';
import { joinMotion, type JoinAsked } from './joining';

/** What the worker needs to know of a take to open it. */
export interface TakeSource {
  /** What it goes by here: the take and how it is read. */
  readonly key: string;
  readonly project: string;
  readonly id: string;
  readonly skeleton: Skeleton;
  readonly fps: number;
  readonly moving: readonly number[];
  readonly passport: Pick<Passport, 'reading'>;
  readonly overrides: TakeOverrides;
  /** What a person has mapped by hand on skeletons of its suit. */
  readonly mapping: Mapping;
  /** Only some chunks of a long take. */
  readonly stretch?: Stretch;
}

/** Chunks of a take, from one on. */
export interface Stretch {
  readonly from: number;
  readonly chunks: number;
}

/** A join that is opened like a take: what it is made of, and what has to be open for that. */
export interface JoinSource {
  readonly key: string;
  readonly project: string;
  readonly mapping: Mapping;
  /** Whom its pieces are fitted to. */
  readonly character: string | null;
  readonly join: JoinAsked;
  readonly opens: readonly MotionSource[];
}

/** What can be opened: clips are cut from either. */
export type MotionSource = TakeSource | JoinSource;

/** Says what a take, or a join, is, for what follows, which calls it by its key: it is loaded when it is wanted. */
export function nameSource(source: MotionSource): void {
  if ('join' in source) {
    source.opens.forEach(nameSource);
    nameMotion({ ...source, lasts: false, load: () => joinedMotion(source) });
  } else {
    nameMotion({ key: source.key, project: source.project, character: null, lasts: true, load: () => takeMotion(source) });
  }
}

/** The same, loaded at once. */
export async function openSource(source: MotionSource): Promise<void> {
  nameSource(source);
  await takeOf(source.key);
}

const joinedMotion = async ({ join, mapping }: JoinSource): Promise<Motion> => withMapping(await joinMotion(join), mapping);

async function takeMotion({ id, stretch, skeleton, fps, moving, passport, overrides, mapping }: TakeSource): Promise<Motion> {
  const response = await fetch(`/api/takes/${id}/motion${stretch ? `?from=${stretch.from}&chunks=${stretch.chunks}` : ''}`);
  if (!response.ok) throw new Error('The take could not be loaded.');
  const rows = new Float32Array(await response.arrayBuffer());
  return withMapping(applyOverrides(motionFromRows(rows, skeleton, fps, moving), passport.reading, overrides), mapping);
}
