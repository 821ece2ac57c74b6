/**
 * Reads a number as people type it: a comma or a point, a true minus sign, and sums with + − * / and brackets.
 *
 * @returns null for what is no number
 * @example
 * readNumber('1.3*2'); // 2.6
 * readNumber('−0,5'); // −0.5
 */
export function readNumber(text: string): number | null {
  const signs = text.replaceAll(',', '.').replaceAll('−', '-').replaceAll('×', '*').replaceAll('÷', '/').replaceAll(/\s+/g, '');
  const parts = signs.match(/\d+\.?\d*|\.\d+|[-+*/()]/g);
  if (!parts || parts.join('') !== signs) return null;
  let at = 0;
  const sum = (): number => {
    let value = product();
    while (parts[at] === '+' || parts[at] === '-') value += parts[at++] === '+' ? product() : -product();
    return value;
  };
  const product = (): number => {
    let value = factor();
    while (parts[at] === '*' || parts[at] === '/') value = parts[at++] === '*' ? value * factor() : value / factor();
    return value;
  };
  const factor = (): number => {
    const part = parts[at++];
    if (part === '-') return -factor();
    if (part !== '(') return part === undefined ? Number.NaN : Number(part);
    const value = sum();
    return parts[at++] === ')' ? value : Number.NaN;
  };
  const value = sum();
  return at === parts.length && Number.isFinite(value) ? value : null;
}
