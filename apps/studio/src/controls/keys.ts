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
      ['F S T W K A R', 'front, side, top, follow, track, all of the way, free view'],
      ['B · G · M', 'bones or body, ghosts, measure'],
    ],
  },
  {
    where: 'Takes',
    keys: [
      ['↑ ↓', 'the take above, below'],
      ['X · *', 'choose, star the take'],
      ['Del', 'remove it'],
      ['Wheel · middle drag', 'zoom at the pointer, pan the deck'],
      ['Shift drag', 'a range to play round and round'],
      ['P', 'a marker at the playhead'],
    ],
  },
  {
    where: 'Bench',
    keys: [
      ['I · O', 'in post, out post to the playhead'],
      ['N · X', 'new clip, split the clip at the playhead'],
      ['Q', 'worry the seam: the half second around it, slowly, again and again'],
      ['P · Y', 'in place or travelling, make the other side'],
      ['L', 'a marker at the playhead: in a clip it ships as an event'],
      ['Double click · arrows · Del on the threads', 'put a time pin, move it, take it out'],
      ['Arrows · Del on a contact’s edge', 'move the edge, take the contact out'],
      ['C · V', 'take hold of joints on the stage: turn by a ring, grab by a handle'],
      ['H held', 'the take as it was captured'],
      ['Tab · Shift Tab · Esc', 'along the chain of the joint taken hold of, and let go'],
      ['E · Del on a peg', 'set a peg at the playhead, take one out'],
      ['U', 'the keys at the playhead on the other side too'],
      ['1 … 9', 'take a loop candidate'],
      ['Wheel · middle drag', 'zoom at the pointer, pan the deck'],
      ['Alt while dragging', 'no snapping to footfalls'],
    ],
  },
  {
    where: 'Joins',
    keys: [
      ['N · X', 'new join, cut the piece at the playhead'],
      ['Ctrl C · Ctrl V · Ctrl D · Del', 'copy the chosen piece, put it in, duplicate it, take it out'],
      ['Alt ← · Alt →', 'the chosen piece before, behind its neighbour'],
      ['[ · ]', 'the join before, the next one'],
      ['P · U', 'a mark, a shift at the playhead'],
      ['Enter on a clip of the list', 'add it behind what is chosen'],
      ['Alt while dragging', 'no snapping to footfalls, ends and marks'],
    ],
  },
  {
    where: 'Set',
    keys: [
      ['Enter on a lamp', 'its clip on the Bench'],
      ['↑ ↓ on a lamp', 'ask for another speed'],
      ['Arrow keys on the puck', 'ask the field for something else'],
      ['Left stick', 'the same with a gamepad'],
    ],
  },
];
