import { shipSchema, type ClipReport, type PoseStrip, type Report, type ShippedClip, type WrittenFile } from '@lantern/motion';
import { z } from 'zod';
import { known } from './known';

export type MadeState = 'waiting' | 'running' | 'done' | 'failed';
/** `making`: clips are made; `packing`: they are put into files. */
export type ShipmentState = 'making' | 'packing' | 'done' | 'failed' | 'stopped';

/** What is shown of a clip as it ships, without its motion. */
export type ClipAbout = Omit<ShippedClip, 'clip' | 'traits'> & {
  readonly strip: PoseStrip | null;
  readonly traits: Pick<NonNullable<ShippedClip['traits']>, 'kind' | 'gait' | 'direction' | 'speedMps'> | null;
};

/** Why a clip cannot be made. */
export interface ClipFailure {
  readonly code: string;
  readonly message: string;
  readonly place: { readonly frame?: number; readonly joint?: string; readonly field?: string };
}

/** What is asked: how clips would ship. */
export const readinessInput = z.object({ ship: shipSchema });
export type ReadinessInput = z.input<typeof readinessInput>;

/** A clip or a join as it would leave. */
export const readyRowSchema = z.object({
  /** Of the clip or the join. */
  id: z.string(),
  kind: z.enum(['clip', 'join']),
  /** What it is called in files. */
  name: z.string(),
  character: z.string().nullable(),
  key: z.string(),
  state: z.enum(['waiting', 'running', 'done', 'failed']),
  about: known<ClipAbout>().nullable(),
  message: z.string().nullable(),
  /** Against the last shipment: it was not in it, it is made from something else, or it is as it was. */
  since: z.enum(['new', 'changed', 'same']).nullable(),
  why: z.array(z.string()).readonly(),
});
export type ReadyRow = Readonly<z.infer<typeof readyRowSchema>>;
export const readinessSchema = z.object({ rows: z.array(readyRowSchema).readonly() });

export const shipmentInput = z.object({ ship: shipSchema });
export type ShipmentInput = z.input<typeof shipmentInput>;

const fileSchema = z.object({ path: z.string(), bytes: z.int(), hash: z.string() });

/** A shipment in the list. */
export const shipmentSchema = z.object({
  id: z.string(),
  state: z.enum(['making', 'packing', 'done', 'failed', 'stopped']),
  created: z.string(),
  finished: z.string().nullable(),
  /** Clips that are made, of all; those that could not be. */
  done: z.int(),
  of: z.int(),
  failed: z.int(),
  ship: shipSchema,
  files: z.array(fileSchema).readonly(),
  written: known<readonly WrittenFile[]>(),
  message: z.string(),
});
export type ShipmentRow = Readonly<z.infer<typeof shipmentSchema>>;
export const shipmentsSchema = z.object({ shipments: z.array(shipmentSchema).readonly() });

/** Everything that a shipment tells of itself. */
export const shipmentReportSchema = known<Report>();
export type { ClipReport, Report };
