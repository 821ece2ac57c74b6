import { draftDelivered, figureChanges, runnersUpOf, stepsAtRate, type FigureChange } from '@lantern/motion';
import type { ClipMoved, Redelivery } from '@/worker/redelivery';
import type { ClipDoc } from './clips-store';
import type { TakeInfo } from './project';
import { useSets } from './sets-store';
import { changesOf, type ClipChange, type TakeChange } from './take-edits';

/** A take, and the one that came in later under its name. */
export interface TakePair {
  readonly old: TakeInfo;
  readonly fresh: TakeInfo;
}

/** What came in again under the name of a take that is here; of several the last. */
export function pairsOf(takes: readonly TakeInfo[]): TakePair[] {
  const byName = new Map<string, TakeInfo[]>();
  for (const take of takes) {
    const key = take.name.toLowerCase();
    byName.set(key, [...(byName.get(key) ?? []), take]);
  }
  return [...byName.values()].flatMap((own) => {
    const [old, fresh] = own.slice(-2);
    return fresh ? [{ old, fresh }] : [];
  });
}

/** What a worker is asked to find again: all that was made from a take. */
export const madeFrom = (old: TakeInfo, clips: readonly ClipDoc[]) => ({
  clips: clips
    .filter(({ source }) => source.take === old.id)
    .map(({ id, source: { from, to }, steps }) => ({ id, recipe: { from, to, steps } })),
  markers: old.markers,
  props: old.props,
  spans: useSets.getState().docs.flatMap(({ draft }) => (draft ? runnersUpOf(draft, old.id) : [])),
});

/** The new take in the place of the old one, with all that stood beside it, and the clips that are cut from it from now on. */
export function editsOf(
  { old, fresh }: TakePair,
  { markers, props, floor }: Redelivery,
  accepted: readonly ClipMoved[],
  clips: readonly ClipDoc[],
): { readonly takes: readonly TakeChange[]; readonly clips: readonly ClipChange[] } {
  const { name, tags, notes, star } = old;
  return {
    takes: [
      ...changesOf([old], () => ({ name: `${name} (earlier)` })),
      ...changesOf([fresh], () => ({ name, star, notes, tags: [...tags], markers: [...markers], props: [...props] })),
    ],
    clips: accepted.flatMap(({ id, from, to }) => {
      const doc = clips.find((clip) => clip.id === id);
      if (!doc) return [];
      const { source, steps } = doc;
      const factor = (to - from) / (source.to - source.from);
      const after = { source: { take: fresh.id, from, to }, steps: stepsAtRate(steps, factor, floor) };
      return [{ id, before: { source, steps }, after }];
    }),
  };
}

/** Runners-up of drafted sets are cut from the new takes from now on; those that these do not have any more are gone. */
export function moveRunnersUp(delivered: readonly (TakePair & { readonly found: Redelivery })[]): void {
  const { docs } = useSets.getState();
  const moved = docs.map((doc) => {
    const cutFrom = delivered.filter(({ old }) => doc.draft && runnersUpOf(doc.draft, old.id).length > 0);
    const draft = cutFrom.reduce((own, { old, fresh, found }) => {
      const places = new Map(found.spans.map(({ asked, at }) => [`${asked.from} ${asked.to}`, at]));
      return own && draftDelivered(own, old.id, fresh.id, (from, to) => places.get(`${from} ${to}`) ?? null, found.floor);
    }, doc.draft);
    return draft === doc.draft ? doc : { ...doc, draft };
  });
  if (moved.some((doc, i) => doc !== docs[i])) useSets.setState({ docs: moved });
}

/** What of a clip's figures has changed by more than two solves differ by anyway. */
export const changesIn = ({ before, after }: ClipMoved): FigureChange[] => (before && after ? figureChanges(before, after) : []);
