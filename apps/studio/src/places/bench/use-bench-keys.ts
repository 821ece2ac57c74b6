import type { LoopCandidate } from '@lantern/motion';
import { useMemo } from 'react';
import { useOfferCommands, type Command } from '@/shell/commands';
import { useKeys } from '@/controls/use-keys';
import type { Cut } from './use-bench';

interface Acts {
  readonly candidates: readonly LoopCandidate[];
  readonly setPost: (which: 'from' | 'to') => void;
  readonly newClip: () => void;
  readonly split: () => void;
  readonly duplicate: () => void;
  readonly otherSide: () => void;
  readonly inPlace: () => void;
  readonly remove: () => void;
  readonly propose: () => void;
  readonly takeLoop: (cut: Cut) => void;
  readonly worry: () => void;
  readonly toEnd: (isStart: boolean) => void;
}

/** The keys of the Bench, and what its command finder offers. */
export function useBenchKeys(acts: Acts): void {
  const { candidates, newClip, split, duplicate, otherSide, remove, takeLoop, worry } = acts;
  useKeys('i', () => acts.setPost('from'));
  useKeys('o', () => acts.setPost('to'));
  useKeys('n', newClip);
  useKeys('x', split);
  useKeys('q', worry);
  useKeys('y', otherSide);
  useKeys('p', acts.inPlace);
  useKeys('home', () => acts.toEnd(true), 'arrows');
  useKeys('end', () => acts.toEnd(false), 'arrows');
  useKeys('1,2,3,4,5,6,7,8,9', (event) => {
    const candidate = candidates[Number(event.key) - 1];
    if (candidate) takeLoop(candidate);
  });
  const { propose } = acts;
  useOfferCommands(
    'bench',
    useMemo<Command[]>(
      () => [
        { id: 'new-clip', label: 'New clip', keys: 'N', run: newClip },
        { id: 'propose', label: 'Clips that this take offers', run: propose },
        { id: 'split-clip', label: 'Split this clip at the playhead', keys: 'X', run: split },
        { id: 'duplicate-clip', label: 'Duplicate this clip', run: duplicate },
        { id: 'other-side', label: 'Make the other side of this clip', keys: 'Y', run: otherSide },
        { id: 'remove-clip', label: 'Remove this clip', run: remove },
        { id: 'worry', label: 'Worry the seam: play the half second around it', keys: 'Q', run: worry },
        ...candidates.slice(0, 9).map((c, i) => ({
          id: `loop-${i}`,
          label: `Take loop ${i + 1}: ${c.seconds.toFixed(2)} s, ${c.seam.poseCm.toFixed(1)} cm`,
          keys: String(i + 1),
          run: () => takeLoop(c),
        })),
      ],
      [newClip, propose, split, duplicate, otherSide, remove, worry, candidates, takeLoop],
    ),
  );
}
