'use client';
import { mappingOf, type Mapping, type Marker, type Passport, type Skeleton, type StageProp, type TakeOverrides } from '@lantern/motion';
import { useQuery } from '@tanstack/react-query';
import { createContext, useContext } from 'react';
import type { CharacterRow, FitRow } from '@/server/characters';
import type { ClipRow } from '@/http/clip';
import { fetchJson } from './fetch-json';

export interface ProjectInfo {
  readonly id: string;
  readonly name: string;
  readonly character: string;
  readonly fps: number;
  readonly namePattern: string;
  /** The character that new clips are fitted to; empty: nobody. */
  readonly fitTo: string;
  /** Takes that come in are put with their feet at height zero. */
  readonly settlesFloor: boolean;
}

export interface TakeInfo {
  readonly id: string;
  readonly project: string;
  readonly name: string;
  readonly file: string;
  readonly frames: number;
  readonly fps: number;
  readonly skeleton: Skeleton;
  readonly moving: readonly number[];
  readonly passport: Passport;
  readonly overrides: TakeOverrides;
  readonly signature: string;
  /** Its motion travels in parts. */
  readonly long: boolean;
  readonly tags: readonly string[];
  readonly notes: string;
  readonly star: boolean;
  readonly markers: readonly Marker[];
  readonly props: readonly StageProp[];
  readonly path: readonly number[];
  readonly created: string;
  /** What a person has mapped by hand on skeletons of its suit. */
  readonly mapping?: Mapping;
}

export interface ProjectData {
  readonly project: ProjectInfo;
  readonly takes: readonly TakeInfo[];
  readonly clips: readonly ClipRow[];
  readonly characters: readonly CharacterRow[];
  readonly fits: readonly FitRow[];
}

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
  return useQuery({ queryKey: projectKey(id), queryFn: () => fetchJson<ProjectData>(`/api/projects/${id}`), select: withMappings });
}
