import type { Layer, StageProp, TouchLimb, Vec3 } from '@lantern/motion';
import { createContext } from 'react';
import type { Corrections } from './use-corrections';

/** What the card of the corrections is given besides its step. */
export interface CorrectionsTools extends Corrections {
  /** Joints of the skeleton that is corrected, by name. */
  readonly joints: readonly string[];
  /** Things that stand in the take, to be touched. */
  readonly props: readonly StageProp[];
  /** Where a hand or foot is at a frame, without the corrections, metres; null where there is none. */
  readonly place: (limb: TouchLimb, frame: number) => Promise<Vec3 | null>;
  /** Offers layers to other clips. */
  readonly copy: (layers: readonly Layer[]) => void;
  /** Makes layers one, from the lowest to the highest of them. */
  readonly merge: (from: number, to: number) => Promise<void>;
}

export const CorrectionsContext = createContext<CorrectionsTools | null>(null);
