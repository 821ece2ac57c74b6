import { stepOf } from '@lantern/motion';
import type { ReactNode } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import type { ClipMeasured, ClipResult } from '@/worker/core.worker';
import type { ThreadPlace } from '../deck/deck-props';
import { ThreadView } from './ThreadView';

/** The threads of an open clip's time, for the deck to draw; undefined while its time is its own. */
export function threadsOf(
  doc: ClipDoc | null,
  shown: ClipResult | null,
  measured: ClipMeasured | null,
  put: (doc: ClipDoc) => void,
): ((place: ThreadPlace) => ReactNode) | undefined {
  const retime = doc && stepOf(doc.steps, 'retime');
  const untimed = retime && measured?.steps[retime.id]?.untimed;
  if (!doc || !retime || !untimed || !shown) return undefined;
  return function threads(place) {
    return (
      <ThreadView
        {...place}
        step={retime}
        untimed={untimed}
        frames={shown.cycle}
        loop={shown.loop}
        onChange={(next) => put({ ...doc, steps: doc.steps.map((step) => (step === retime ? next : step)) })}
      />
    );
  };
}
