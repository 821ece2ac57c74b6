import type { Shot } from '@lantern/motion';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { useWholeSteps } from '@/data/fits';
import { offersOf, type Offer } from '@/data/offers';
import { useProjectData, type TakeInfo } from '@/data/project';
import { useMembers, useSetView } from '@/data/set-view';
import { useSets, type SetDoc } from '@/data/sets-store';
import { changeShot } from '@/data/shot-edits';

/** What a take that landed fulfils. */
export interface Landed {
  readonly take: string;
  readonly offers: readonly Offer[];
  readonly isBusy: boolean;
}

export interface DeskShotsState {
  readonly doc: SetDoc | null;
  readonly shots: readonly Shot[];
  /** What the performer does next: the line that was chosen, or the first that has not come in. */
  readonly next: Shot | null;
  readonly choose: (id: string) => void;
  readonly landed: Landed | null;
  /** A take was kept: it is measured at once, and ticks what it fulfils. */
  readonly land: (take: TakeInfo) => void;
}

/** The shot list at the capture desk. @param wanted the set it is of; the first one unless it is said */
export function useDeskShots(wanted: string | null): DeskShotsState {
  const { data } = useProjectData();
  const { enqueueSnackbar } = useSnackbar();
  const whole = useWholeSteps();
  const docs = useSets((state) => state.docs);
  const doc = docs.find(({ id }) => id === wanted) ?? docs[0] ?? null;
  const view = useSetView(doc, useMembers(doc, data?.takes ?? []));
  const shots = view.measured?.shots ?? [];
  const [chosen, setChosen] = useState<string | null>(null);
  const [landed, setLanded] = useState<Landed | null>(null);
  const waiting = shots.filter(({ done }) => !done);
  const next = waiting.find(({ id }) => id === chosen) ?? waiting[0] ?? null;
  const land = async (take: TakeInfo) => {
    if (!doc) return;
    setLanded({ take: take.name, offers: [], isBusy: true });
    const best = new Map<string, Offer>();
    const slots = doc.slots.filter((_, i) => view.measured?.coverage.slots[i]?.state === 'missing');
    for await (const offer of offersOf(take, { slots, contract: doc.contract, character: doc.character, whole })) {
      if (offer.cost < (best.get(offer.slot)?.cost ?? Infinity)) best.set(offer.slot, offer);
    }
    const offers = [...best.values()];
    setLanded({ take: take.name, offers, isBusy: false });
    for (const { slot, proposal } of offers) {
      const shot = shots.find((own) => own.slot === slot);
      const now = useSets.getState().docs.find(({ id }) => id === doc.id);
      if (shot && now) changeShot(now, shot, { done: true, by: { take: take.id, from: proposal.from, to: proposal.to } });
    }
  };
  return {
    doc,
    shots,
    next,
    choose: setChosen,
    landed,
    land: (take) =>
      void land(take).catch((error: unknown) =>
        enqueueSnackbar(error instanceof Error ? error.message : 'The take could not be measured.', { variant: 'error' }),
      ),
  };
}
