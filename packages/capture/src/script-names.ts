/** What the performer can be asked to do, by name; a file of its own, for who only asks for names needs no performer. */
export const SCRIPTS = [
  'walk',
  'jog',
  'hush',
  'turn',
  'start-stop',
  'hop',
  'idle',
  'rounds',
  'kerb',
  'stairs',
  'sideways',
  'backwards',
  'lean',
  'turns',
] as const;
export type ScriptName = (typeof SCRIPTS)[number];
