import { create } from 'zustand';
import type { RunnerUp } from '@lantern/motion';
import { draftedSchema, type Drafted, type DraftInput } from '@/http/draft';
import { useClips } from './clips-store';
import { asJson, fetchAs, RequestError } from './fetch-json';
import { useSets, type SetDoc } from './sets-store';
import { askShare } from './upload';

/** A set that is being drafted: how far, and what went wrong. It goes on while other places are looked at. */
export interface Drafting {
  readonly project: string;
  readonly name: string;
  readonly share: number;
  readonly problem: string | null;
  readonly stop: AbortController;
}

/** What came of a draft, until it has been read. */
export interface DraftNews {
  readonly project: string;
  readonly set: string;
  readonly filled: number;
  readonly of: number;
}

export const useDrafting = create<{ readonly drafting: Drafting | null; readonly news: DraftNews | null }>()(() => ({
  drafting: null,
  news: null,
}));

/** What it is busy with, by how much of it is done. */
export function draftWords(share: number): string {
  if (share < 0.08) return 'opening the takes';
  if (share < 0.24) return 'reading the takes';
  if (share < 0.63) return 'choosing for every slot';
  if (share < 0.71) return 'measuring the set';
  return 'playing it in rough weather';
}

/** Drafts a set from the takes of a project, and puts it beside what is there; its clips are one step of undo, the set another. */
export async function draftSet(project: string, input: Omit<DraftInput, 'arrival'>): Promise<void> {
  const arrival = crypto.randomUUID();
  const stop = new AbortController();
  const change = (patch: Partial<Drafting>) =>
    useDrafting.setState(({ drafting }) => (drafting?.stop === stop ? { drafting: { ...drafting, ...patch } } : {}));
  useDrafting.setState({ drafting: { project, name: input.name, share: 0, problem: null, stop }, news: null });
  const end = askShare(arrival, (share) => change({ share }));
  // The page is asked for before it is left: the draft would end with it.
  window.addEventListener('beforeunload', askFirst);
  try {
    const init = { ...asJson('POST', { ...input, arrival }), signal: stop.signal };
    const drafted = await fetchAs(draftedSchema, `/api/projects/${project}/draft`, init);
    keep(project, drafted);
    useDrafting.setState({ drafting: null });
  } catch (error) {
    if (stop.signal.aborted) useDrafting.setState({ drafting: null });
    else change({ problem: error instanceof RequestError ? error.message : 'The set could not be drafted.' });
  } finally {
    end();
    window.removeEventListener('beforeunload', askFirst);
  }
}

const askFirst = (event: BeforeUnloadEvent): void => event.preventDefault();

function keep(project: string, { clips, set }: Drafted): void {
  if (useSets.getState().project !== project) return;
  useClips.setState(({ docs }) => ({ docs: [...docs, ...clips] }));
  useSets.getState().put(set);
  useDrafting.setState({ news: { project, set: set.id, filled: clips.length, of: set.slots.length } });
}

export const endDrafting = (): void => {
  useDrafting.getState().drafting?.stop.abort();
  useDrafting.setState({ drafting: null });
};

/** Takes a runner-up of a slot instead of what was chosen, which becomes a runner-up itself. */
export function takeInstead(doc: SetDoc, slot: string, other: RunnerUp): void {
  const choice = doc.draft?.choices.find((own) => own.slot === slot);
  const clip = useClips.getState().docs.find(({ id }) => id === choice?.clip);
  if (!doc.draft || !choice || !clip) return;
  const others = choice.others.map((own) =>
    own === other ? { source: clip.source, steps: clip.steps, why: `chosen first: ${choice.why}` } : own,
  );
  useClips.getState().put({ ...clip, source: other.source, steps: other.steps });
  const choices = doc.draft.choices.map((own) => (own === choice ? { ...own, why: 'taken by hand', others, out: [] } : own));
  useSets.getState().put({ ...doc, draft: { ...doc.draft, choices } });
}
