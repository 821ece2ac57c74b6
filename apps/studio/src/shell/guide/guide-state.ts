import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { GUIDE } from './guide-steps';

/** Where somebody is in the guide; kept from visit to visit, so that it can be left and taken up. */
interface GuideState {
  readonly isOpen: boolean;
  readonly step: number;
  /** Steps that were gone through. */
  readonly done: readonly number[];
}

export const useGuide = create<GuideState>()(
  persist((): GuideState => ({ isOpen: false, step: 0, done: [] }), {
    name: 'old-lantern.guide',
    // The rail comes from the server, which does not know: what was kept is read when the page is there.
    skipHydration: true,
  }),
);

export const isThrough = ({ done }: Pick<GuideState, 'done'>): boolean => done.length >= GUIDE.length;

/** Opens it where it was left; from the beginning when it was gone through. */
export function takeUpGuide(): void {
  const { step, done } = useGuide.getState();
  useGuide.setState(isThrough({ done }) ? { isOpen: true, step: 0, done: [] } : { isOpen: true, step });
}

export const leaveGuide = () => useGuide.setState({ isOpen: false });

export const goToStep = (step: number) => useGuide.setState({ step });

/** Ticks a step and goes on; after the last the guide closes. */
export function finishStep(step: number): void {
  const done = [...new Set([...useGuide.getState().done, step])];
  const next = GUIDE.findIndex((_, k) => k > step && !done.includes(k));
  const open = next >= 0 ? next : GUIDE.findIndex((_, k) => !done.includes(k));
  useGuide.setState(open < 0 ? { done, isOpen: false } : { done, step: open });
}
