import { JOIN_BOUNDS, type JoinInto } from '@lantern/motion';
import type { MeetView } from '@/worker/core.worker';

/** What is wrong with a meeting, and what can be done about it with a click. */
export interface Fault {
  readonly says: string;
  /** What the button is called, and what it changes; null: the inspector's proposals are the way out. */
  readonly todo: string;
  readonly change: Partial<JoinInto> | null;
}

/** A join sinks into the ground deeper than this, centimetres. */
export const MOST_SINK_CM = 1.5;

/** Why a meeting is out of bounds; null where it is not. */
export function faultOf({ slideCm, popCm, sinkCm }: MeetView, into: JoinInto): Fault | null {
  if (slideCm > JOIN_BOUNDS.slideCm + 0.05) {
    const says = `slide ${slideCm.toFixed(1)} cm, bound ${JOIN_BOUNDS.slideCm}`;
    return into.hold ? { says, todo: 'see where they fit', change: null } : { says, todo: 'hold planted feet', change: { hold: true } };
  }
  if (popCm > JOIN_BOUNDS.popCm) {
    const says = `pop ${popCm.toFixed(1)} cm, bound ${JOIN_BOUNDS.popCm}`;
    if (into.frames === 0) return { says, todo: 'overlap 18 frames', change: { frames: 18 } };
    if (!into.inStep) return { says, todo: 'run in step', change: { inStep: true } };
    return into.frames < 24
      ? { says, todo: 'overlap 30 frames', change: { frames: 30 } }
      : { says, todo: 'see where they fit', change: null };
  }
  if (sinkCm > MOST_SINK_CM && !into.hold) {
    return { says: `sinks ${sinkCm.toFixed(1)} cm`, todo: 'hold planted feet', change: { hold: true } };
  }
  return null;
}
