'use client';
import { stepOf } from '@lantern/motion';
import { useMemo } from 'react';
import type { TakeInfo } from '@/data/project';
import type { ContactSlide } from '@/worker/core.worker';
import type { ContactBar, SetContacts } from './deck/ContactEdges';
import { Deck } from './deck/Deck';
import type { Flaw } from './deck/FlawMarks';
import { layersOf } from './layers/layers-of';
import { threadsOf } from './retime/threads';
import { contactsInCut, contactsInCycle, takeFrameOf } from './take-frame';
import type { Workbench } from './use-workbench';

const NO_CONTACTS: readonly ContactSlide[] = [];
const NO_FLAWS: readonly Flaw[] = [];

/** The time axis with the open clip on it. */
export function BenchDeck({ bench, take }: { bench: Workbench; take: TakeInfo }) {
  const { doc, docs, opened, isOpen, cut, shown, measured, lock, preview, put, travels } = bench;
  const hands = useHands(bench);
  const flaws = useFlaws(bench);
  const balance = useMargin(bench);
  if (!opened.data || !isOpen) return null;
  // They are drawn over the take's own where a frame of the clip is one of the take's.
  const place = lock && preview !== 'take' ? measured?.contactsIn : null;
  const setContacts = (contacts: SetContacts) => {
    if (!doc || !lock || !place) return;
    const held = { ...lock, contacts: inCycle(contacts, place) };
    put({ ...doc, steps: doc.steps.map((step) => (step === lock ? held : step)) });
  };
  return (
    <Deck
      take={opened.data}
      cut={cut}
      rest={doc?.source ?? null}
      seam={bench.seam}
      candidates={bench.candidates}
      clips={docs.filter((d) => d.source.take === take.id)}
      open={doc?.id ?? null}
      takeFrame={travels.takeFrame}
      onCut={bench.edits.moveCut}
      onScrub={travels.scrub}
      onTakeLoop={bench.edits.takeLoop}
      onNearLoop={bench.setNear}
      onOpenClip={bench.acts.open}
      segments={bench.segments}
      onSegment={({ from }) => {
        travels.showTake(from);
        bench.propose();
      }}
      contacts={place && measured ? contactsInCut(measured.contacts, place.start, place.cycle) : NO_CONTACTS}
      threads={bench.corrections.isOn ? undefined : threadsOf(doc, shown, measured, put)}
      layers={layersOf(bench)}
      onContacts={setContacts}
      hands={hands?.contacts ?? null}
      onHands={hands?.set ?? nothing}
      flaws={flaws}
      onFlaw={({ from }) => travels.scrub(from)}
      balance={balance}
      markers={take.markers}
      onMarkers={bench.setMarkers}
    />
  );
}

const nothing = () => {};

const inCycle = (contacts: SetContacts, { start, cycle }: { readonly start: number; readonly cycle: number }) => ({
  left: contactsInCycle(contacts.left, start, cycle),
  right: contactsInCycle(contacts.right, start, cycle),
});

/** The rests of the hands that a hand lock holds, where they are in the cut; null where there is none, or its frames are none of the cut's. */
function useHands({
  doc,
  measured,
  preview,
  put,
}: Workbench): { contacts: readonly ContactBar[]; set: (contacts: SetContacts) => void } | null {
  return useMemo(() => {
    const lock = doc && stepOf(doc.steps, 'hand-lock');
    const found = lock && preview !== 'take' ? measured?.steps[lock.id]?.hands : undefined;
    const place = found?.contactsIn;
    if (!doc || !lock || !found || !place) return null;
    return {
      contacts: contactsInCut(found.contacts, place.start, place.cycle),
      set: (contacts) => {
        // What was found is found anew where its edges are put; what was set stays on what it was set on.
        const own = lock.contacts ? contacts : { left: contacts.left.map(bare), right: contacts.right.map(bare) };
        const held = { ...lock, contacts: inCycle(own, place) };
        put({ ...doc, steps: doc.steps.map((step) => (step === lock ? held : step)) });
      },
    };
  }, [doc, measured, preview, put]);
}

/** A rest without the place in the world that was found for it. */
const bare = ({ from, to, on, slide }: SetContacts['left'][number]): SetContacts['left'][number] =>
  on?.to === 'place' ? { from, to } : { from, to, on, slide };

/** What the clip's cleaning found, in frames of the take: a cleaning comes before anything that moves frames. */
function useFlaws({ doc, measured, cut }: Workbench): readonly Flaw[] {
  return useMemo(() => {
    const clean = doc && stepOf(doc.steps, 'clean');
    const found = clean && measured?.steps[clean.id]?.findings;
    return found && cut ? found.map((own) => ({ ...own, from: own.from + cut.from, to: own.to + cut.from })) : NO_FLAWS;
  }, [doc, measured, cut]);
}

/** The balance along the take, where the clip is. */
function useMargin({ judged, shown, time, opened }: Workbench): Float32Array | null {
  const frames = opened.data?.motion.frames ?? 0;
  return useMemo(() => {
    const margins = judged?.balance?.marginCm;
    if (!margins || !shown || !time) return null;
    const out = new Float32Array(frames).fill(NaN);
    for (let f = 0; f <= shown.cycle && f < margins.length; f++) {
      const at = Math.round(takeFrameOf(time, f));
      if (at >= 0 && at < frames) out[at] = margins[f];
    }
    return out;
  }, [judged, shown, time, frames]);
}
