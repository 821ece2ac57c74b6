import type { ClipTags, Proposal } from '@lantern/motion';
import { useRouter } from 'next/navigation';
import { useMemo } from 'react';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { defaultSteps, freeName, offeredNames, otherSide, recut } from '@/data/new-clip';
import { useProjectData, useProjectInfo, type TakeInfo } from '@/data/project';
import { useBake } from './use-bake';
import type { Cut } from './use-bench';

/** Least frames of a clip. */
const LEAST = 2;
const NO_TAGS: ClipTags = { gait: '', direction: '' };

/** What is done to clips as a whole: made, split, copied, removed; every act is one step of undo. */
export function useClipActs(take: TakeInfo | null, doc: ClipDoc | null) {
  const router = useRouter();
  const project = useProjectInfo();
  const bake = useBake(take, doc);
  const { data } = useProjectData();
  const fitTo = data?.project.fitTo ?? project.fitTo;
  return useMemo(() => {
    const { put, remove } = useClips.getState();
    const all = () => useClips.getState().docs;
    const open = (id: string) => router.push(`/${project.id}/bench/${id}`);
    const fresh = (name: string, { from, to }: Cut, isLoop = true, tags: ClipTags = NO_TAGS): ClipDoc => ({
      id: crypto.randomUUID(),
      name,
      source: { take: take?.id ?? '', from, to },
      steps: defaultSteps(isLoop, fitTo),
      ...tags,
    });
    return {
      open,
      bake,
      make(cut: Cut) {
        if (!take) return;
        const made = fresh(freeName(take.name, all()), cut);
        put(made);
        open(made.id);
      },
      makeAll(proposals: readonly Proposal[], pattern: string) {
        if (!take || proposals.length === 0) return;
        const names = offeredNames(proposals, pattern, project.character, all());
        const docs = [...all()];
        proposals.forEach(({ from, to, isLoop, tags }, i) => docs.push(fresh(names[i], { from, to }, isLoop, tags)));
        useClips.setState({ docs });
        open(docs[docs.length - proposals.length].id);
      },
      /** One clip becomes two that share the frame; the first keeps its name. */
      split(frame: number) {
        if (!doc || frame - doc.source.from < LEAST || doc.source.to - frame < LEAST) return;
        const second = { ...recut(doc, { from: frame, to: doc.source.to }), id: crypto.randomUUID(), name: freeName(doc.name, all()) };
        const first = recut(doc, { from: doc.source.from, to: frame });
        useClips.setState({ docs: all().flatMap((d) => (d.id === doc.id ? [first, second] : [d])) });
      },
      duplicate() {
        if (!doc) return;
        const copy = { ...doc, id: crypto.randomUUID(), name: freeName(doc.name, all()) };
        put(copy);
        open(copy.id);
      },
      otherSide() {
        if (!doc) return;
        const other = otherSide(doc, all());
        put(other);
        open(other.id);
      },
      remove() {
        if (!doc) return;
        remove(doc.id);
        router.push(`/${project.id}/bench?take=${doc.source.take}`);
      },
    };
  }, [router, project, take, doc, bake, fitTo]);
}
