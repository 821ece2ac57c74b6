import { setStep, slotName, slotList, type RecipeStepInput, type SlotList, type SlotReport } from '@lantern/motion';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { freeName, otherSide } from '@/data/new-clip';
import { setDocumentSchema } from '@/http/set';
import { useSets, type SetDoc } from '@/data/sets-store';

/** A name that no other document has. */
function freeTitle(base: string, taken: readonly { readonly name: string }[]): string {
  const isFree = (name: string) => !taken.some((own) => own.name.toLowerCase() === name.toLowerCase());
  if (isFree(base)) return base;
  for (let n = 2; ; n++) if (isFree(`${base}-${n}`)) return `${base}-${n}`;
}

/** A new set from a ready list. */
export function newSet(list: SlotList, character: string | null): SetDoc {
  const { docs, put } = useSets.getState();
  const doc = setDocumentSchema.parse({ id: crypto.randomUUID(), name: freeTitle('set', docs), character, slots: slotList(list) });
  put(doc);
  return doc;
}

/** Changes several clips at once; one step of undo. */
export function editClips(change: (doc: ClipDoc) => ClipDoc): void {
  useClips.setState(({ docs }) => {
    const next = docs.map(change);
    return next.some((doc, i) => doc !== docs[i]) ? { docs: next } : {};
  });
}

/** One parameter, or several, of a step of some clips; where there is none of that kind it is added. */
export const setStepOf = (ids: ReadonlySet<string>, step: RecipeStepInput): void =>
  editClips((doc) => (ids.has(doc.id) ? { ...doc, steps: setStep(doc.steps, step) } : doc));

/**
 * The other sides of clips, made for the slots that they fill mirrored, and called as those are; one step of undo.
 *
 * @returns how many were made
 */
export function mirrorFor(reports: readonly SlotReport[]): number {
  const { docs } = useClips.getState();
  const made: ClipDoc[] = [];
  for (const { slot, clip, state } of reports) {
    const doc = state === 'mirror' ? docs.find(({ id }) => id === clip) : undefined;
    if (!doc) continue;
    const all = [...docs, ...made];
    const mirrored = otherSide(doc, all);
    // A name that says nothing of sides becomes that of the slot.
    const swaps = /left|right/i.test(doc.name);
    const wanted = swaps ? mirrored.name : slotName(slot);
    const isTaken = all.some(({ name }) => name.toLowerCase() === wanted.toLowerCase());
    made.push({ ...mirrored, name: isTaken ? freeName(wanted, all) : wanted });
  }
  if (made.length > 0) useClips.setState({ docs: [...docs, ...made] });
  return made.length;
}
