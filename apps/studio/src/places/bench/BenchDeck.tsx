'use client';
import type { TakeInfo } from '@/data/project';
import type { ContactSlide } from '@/worker/core.worker';
import type { SetContacts } from './deck/ContactEdges';
import { Deck } from './deck/Deck';
import { layersOf } from './layers/layers-of';
import { threadsOf } from './retime/threads';
import { contactsInCut, contactsInCycle } from './take-frame';
import type { Workbench } from './use-workbench';

const NO_CONTACTS: readonly ContactSlide[] = [];

/** The time axis with the open clip on it. */
export function BenchDeck({ bench, take }: { bench: Workbench; take: TakeInfo }) {
  const { doc, docs, opened, isOpen, cut, shown, measured, lock, preview, put, travels } = bench;
  if (!opened.data || !isOpen) return null;
  // They are drawn over the take's own where a frame of the clip is one of the take's.
  const place = lock && preview !== 'take' ? measured?.contactsIn : null;
  const setContacts = (contacts: SetContacts) => {
    if (!doc || !lock || !place) return;
    const own = (all: SetContacts['left']) => contactsInCycle(all, place.start, place.cycle);
    const held = { ...lock, contacts: { left: own(contacts.left), right: own(contacts.right) } };
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
    />
  );
}
