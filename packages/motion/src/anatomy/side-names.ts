/**
 * `Left` ↔ `Right` in any case, and single letters set apart: `foot_l`, `L.Foot`, `lFoot`, `turn-left-90`. Nothing else is changed.
 *
 * @example
 * swapSides('LeftArm'); // 'RightArm'
 */
export function swapSides(name: string): string {
  return name
    .replace(/left|right/gi, (word) => inCaseOf(word, /left/i.test(word) ? 'right' : 'left'))
    .replace(/(?<![\p{L}])([lrLR])(?![\p{L}])/gu, swapLetter)
    .replace(/^([lrLR])(?=[A-Z][a-z])/, swapLetter);
}

const swapLetter = (letter: string) => ({ l: 'r', r: 'l', L: 'R', R: 'L' })[letter] ?? letter;

function inCaseOf(model: string, word: string): string {
  if (model === model.toUpperCase()) return word.toUpperCase();
  return model[0] === model[0].toUpperCase() ? word[0].toUpperCase() + word.slice(1) : word;
}
