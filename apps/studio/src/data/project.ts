'use client';
import type { Mapping } from '@lantern/motion';
import { useQuery } from '@tanstack/react-query';
import { createContext, useContext } from 'react';
import type { ProjectInfo, StoredProject, StoredTake } from '@/http/project';
import type { JoinAsked } from '@/worker/core.worker';
import { fetchAs } from './fetch-json';
import { late, loadLate } from './late';

export { LAST_PROJECT } from '@/http/project-facts';
export type { ProjectInfo } from '@/http/project';

/** A take, or a join, which is seen as one where clips are cut from it. */
export type TakeInfo = StoredTake & {
  /** What a person has mapped by hand on skeletons of its suit. */
  readonly mapping?: Mapping;
  readonly join?: JoinedFrom;
};

/** What a join is made of, with the takes and joins that have to be open for it; or why it cannot be made. */
export type JoinedFrom =
  | {
      readonly asked: JoinAsked;
      readonly opens: readonly TakeInfo[];
      /** Whom its pieces are fitted to. */
      readonly character: string | null;
    }
  | { readonly problem: string };

export type ProjectData = Omit<StoredProject, 'takes'> & { readonly takes: readonly TakeInfo[] };

export const ProjectContext = createContext<ProjectInfo | null>(null);

export function useProjectInfo(): ProjectInfo {
  const project = useContext(ProjectContext);
  if (!project) throw new Error('outside a project');
  return project;
}

export const projectKey = (id: string) => ['project', id];

/** The mapping that a suit has belongs to every take of it. */
function withMappings(data: StoredProject): ProjectData {
  const fits = data.fits.map(({ source, character, settings }) => ({ source, character, ...settings }));
  if (fits.every(({ mapping }) => !mapping)) return data;
  return { ...data, takes: data.takes.map((take) => ({ ...take, mapping: late().mappingOf(take.signature, fits) })) };
}

export function useProjectData() {
  const { id } = useProjectInfo();
  return useQuery({
    queryKey: projectKey(id),
    queryFn: (): Promise<StoredProject> => fetchAs(async () => (await loadLate()).projectDataSchema, `/api/projects/${id}`),
    select: withMappings,
  });
}
