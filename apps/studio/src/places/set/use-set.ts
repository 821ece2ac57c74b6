'use client';
import { useParams, useRouter } from 'next/navigation';
import { useProjectInfo } from '@/data/project';
import { useSets, type SetDoc } from '@/data/sets-store';

export const PAGES = ['coverage', 'contract', 'fields', 'graph'] as const;
export type SetPage = (typeof PAGES)[number];

/** Which set is open, on which page; the address says both. */
export function useSetAddress() {
  const project = useProjectInfo();
  const router = useRouter();
  const params = useParams<{ page?: string[] }>();
  const [first, second] = params.page ?? [];
  const docs = useSets((state) => state.docs);
  const named = docs.find(({ id }) => id === first);
  const doc: SetDoc | null = named ?? docs[0] ?? null;
  const page: SetPage = PAGES.find((own) => own === second) ?? 'coverage';
  const open = (id: string, at: SetPage = page) => router.push(`/${project.id}/set/${id}/${at}`);
  return { doc, docs, page, open, isGone: first !== undefined && !named };
}
