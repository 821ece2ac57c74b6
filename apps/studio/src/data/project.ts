'use client';
import { mappingOf } from '@lantern/motion';
import { useQuery } from '@tanstack/react-query';
import { createContext, useContext } from 'react';
import { projectDataSchema, type ProjectData, type ProjectInfo } from '@/http/project';
import { fetchAs } from './fetch-json';

export type { ProjectData, ProjectInfo, TakeInfo } from '@/http/project';

export const ProjectContext = createContext<ProjectInfo | null>(null);

export function useProjectInfo(): ProjectInfo {
  const project = useContext(ProjectContext);
  if (!project) throw new Error('outside a project');
  return project;
}

export const projectKey = (id: string) => ['project', id];

/** The mapping that a suit has belongs to every take of it. */
function withMappings(data: ProjectData): ProjectData {
  const fits = data.fits.map(({ source, character, settings }) => ({ source, character, ...settings }));
  if (fits.every(({ mapping }) => !mapping)) return data;
  return { ...data, takes: data.takes.map((take) => ({ ...take, mapping: mappingOf(take.signature, fits) })) };
}

export function useProjectData() {
  const { id } = useProjectInfo();
  return useQuery({
    queryKey: projectKey(id),
    queryFn: (): Promise<ProjectData> => fetchAs(projectDataSchema, `/api/projects/${id}`),
    select: withMappings,
  });
}
