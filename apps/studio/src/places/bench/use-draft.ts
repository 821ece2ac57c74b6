import { useCallback, useEffect, useRef, useState } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { useWholeSteps } from '@/data/fits';
import type { TakeInfo } from '@/data/project';
import { takeKey } from '@/data/use-open-take';
import { core } from '@/worker/core';
import type { ClipResult, View } from '@/worker/core.worker';

/**
 * A clip as it would be while something of it is dragged: shown at once, neither kept nor measured before it is let go. One draft is worked out at a
 * time; of those that came meanwhile only the newest.
 *
 * @param settled what the clip itself shows: once that is new, the draft has done its work
 */
export function useDraft(take: TakeInfo | null, settled: ClipResult | null, { repeats, inPlace }: View) {
  const whole = useWholeSteps();
  const [result, setResult] = useState<ClipResult | null>(null);
  const running = useRef(false);
  const next = useRef<ClipDoc | null>(null);
  useEffect(() => setResult(null), [settled]);
  const show = useCallback(
    async (doc: ClipDoc | null) => {
      next.current = doc;
      if (!doc) return setResult(null);
      if (running.current || !take) return;
      running.current = true;
      try {
        while (next.current) {
          const { source, steps }: ClipDoc = next.current;
          next.current = null;
          const made = await core().clip(
            takeKey(take),
            { from: source.from, to: source.to, steps: whole(steps, take) },
            { repeats, inPlace },
          );
          setResult(made);
        }
      } catch {
        // What cannot be made is said when it is let go.
      } finally {
        running.current = false;
      }
    },
    [take, whole, repeats, inPlace],
  );
  return { result, show };
}
