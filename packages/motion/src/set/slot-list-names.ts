/** What the ready lists of slots are called; a file of its own, for who only asks for names needs no list. */
export const SLOT_LISTS = ['modest', 'full'] as const;
export type SlotList = (typeof SLOT_LISTS)[number];
