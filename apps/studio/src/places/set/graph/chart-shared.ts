'use client';
import type { Graph, GraphWarning } from '@lantern/motion';
import { createContext, useContext } from 'react';
import type { Sounded } from './use-tried';

export type Chosen = { readonly state: string } | { readonly transition: number } | null;

export interface GraphChartProps {
  readonly graph: Graph;
  readonly chosen: Chosen;
  readonly onChoose: (chosen: Chosen) => void;
  /** The state that plays, and the transition that led there. */
  readonly lit: string | null;
  readonly led: number;
  readonly tried: readonly (Sounded | null)[];
  readonly popBound: number;
  readonly pictures: ReadonlyMap<string, string>;
  readonly medallion: string | null;
  readonly plays: (state: string) => string;
  readonly warnings: readonly GraphWarning[];
  readonly onMove: (name: string, at: { x: number; y: number }) => void;
  readonly onLink: (from: string | null, to: string) => void;
  readonly onRemove: (chosen: NonNullable<Chosen>) => void;
  readonly onAdd: (at: { x: number; y: number }) => void;
  /** A comment changed, moved, or taken out. */
  readonly onComment: (index: number, change: { text?: string; at?: { x: number; y: number } } | null) => void;
}

/** Whether a channel pops by more than it may. */
export const isShallow = (sounding: Sounded | null | undefined, popBound: number): boolean => (sounding?.popCm ?? 0) > popBound;
/** What is said of one that does. */
export const SHALLOW = '▲ shallow: overlap longer';

/** How ids of comments begin. */
export const COMMENT = 'comment ';

/** What states and channels read of the chart; the library gives them little of their own. */
export const Shared = createContext<GraphChartProps | null>(null);
export const useShared = () => {
  const found = useContext(Shared);
  if (!found) throw new Error('outside of the chart');
  return found;
};
