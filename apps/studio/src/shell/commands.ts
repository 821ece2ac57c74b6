import { create } from 'zustand';
import { useEffect } from 'react';

export interface Command {
  readonly id: string;
  readonly label: string;
  readonly keys?: string;
  readonly run: () => void;
}

interface CommandsState {
  readonly byPlace: Readonly<Record<string, readonly Command[]>>;
}

/** Commands of what is on the screen; each place brings its own. */
export const useCommands = create<CommandsState>()(() => ({ byPlace: {} }));

/** Offers commands for as long as the component is there. */
export function useOfferCommands(place: string, commands: readonly Command[]): void {
  useEffect(() => {
    useCommands.setState(({ byPlace }) => ({ byPlace: { ...byPlace, [place]: commands } }));
  }, [place, commands]);
  useEffect(
    () => () => {
      useCommands.setState(({ byPlace }) => ({ byPlace: { ...byPlace, [place]: [] } }));
    },
    [place],
  );
}
