/** Every key, for the help and so that none is given twice. */
export const KEYS: readonly { readonly where: string; readonly keys: readonly (readonly [string, string])[] }[] = [
  {
    where: 'Everywhere',
    keys: [
      ['Ctrl K', 'find any command, take or clip'],
      ['Ctrl Z · Ctrl Shift Z', 'undo · redo'],
      ['?', 'these keys'],
    ],
  },
  {
    where: 'Stage',
    keys: [
      ['Space', 'play and pause'],
      ['← →', 'one frame back, on (with Shift ten)'],
      ['Home · End', 'to the start, to the end of the cut'],
      ['F S T W R', 'front, side, top, follow, free view'],
    ],
  },
  {
    where: 'Bench',
    keys: [
      ['I · O', 'in post, out post to the playhead'],
      ['N', 'new clip'],
      ['1 … 9', 'take a loop candidate'],
      ['Wheel · middle drag', 'zoom at the pointer, pan the deck'],
      ['Alt while dragging', 'no snapping to footfalls'],
    ],
  },
];
