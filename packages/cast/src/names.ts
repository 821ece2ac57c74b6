/** What the characters that come with the program are called; a file of its own, for who only asks for names needs nobody's body. */
export const CAST_NAMES = ['wick', 'tallow'] as const;
export type CastName = (typeof CAST_NAMES)[number];
