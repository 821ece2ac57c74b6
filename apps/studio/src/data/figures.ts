import type { ClipFigures } from '@lantern/motion';
import { create } from 'zustand';

/** The last measured figures of each clip, for lamps and lists. */
export const useFigures = create<{ readonly byClip: Readonly<Record<string, ClipFigures>> }>()(() => ({ byClip: {} }));

export function noteFigures(clip: string, figures: ClipFigures | null): void {
  useFigures.setState(({ byClip }) => {
    const { [clip]: _, ...others } = byClip;
    return { byClip: figures ? { ...others, [clip]: figures } : others };
  });
}
