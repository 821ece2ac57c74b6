'use client';
import { useOfferCommands, type Command } from './commands';

/** What a place offers to the command finder while it is on the screen. */
export function Commands({ place, commands }: { place: string; commands: readonly Command[] }) {
  useOfferCommands(place, commands);
  return null;
}
