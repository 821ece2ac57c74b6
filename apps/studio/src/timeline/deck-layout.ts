/** Where things stand on the deck, pixels. */
export const GUTTER = 72;
export const RIGHT = 14;
export const RULER = 26;
