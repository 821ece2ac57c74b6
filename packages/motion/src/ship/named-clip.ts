import type { ClipInputs } from './inputs';
import type { ShippedClip } from './ship-clip';

/** A clip that ships, with what it is called and where it belongs. */
export interface NamedShipped {
  readonly name: string;
  /** What it is cut from; of a join its own name. */
  readonly take: string;
  /** Whom it is on; null: nobody. */
  readonly character: string | null;
  readonly gait: string;
  readonly direction: string;
  /** The clip that it is the other side of. */
  readonly mirrorOf: string | null;
  readonly shipped: ShippedClip;
  /** What it is made from, to tell why it changed. */
  readonly inputs: ClipInputs;
}
