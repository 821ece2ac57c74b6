/** Longest that a value is said, signs. */
const MOST = 160;

/** Fields and values of takes and fits, as people read them. */
export const inWords = {
  /** @example inWords.name('soleCm'); // 'sole cm' */
  name: (key: string): string => key.replace(/([a-z])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`),
  /** @example inWords.value(['quay', 'dawn']); // 'quay, dawn' */
  value(value: unknown): string {
    const said = say(value);
    return said.length > MOST ? `${said.slice(0, MOST - 1)}…` : said;
  },
};

function say(value: unknown): string {
  if (value === undefined || value === null || value === '' || (Array.isArray(value) && value.length === 0)) return 'nothing';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value)) return value.map(say).join(', ');
  if (typeof value !== 'object') return String(value);
  const entries = Object.entries(value).filter(([key]) => key !== 'id');
  return entries.length === 0 ? 'nothing' : entries.map(([key, own]) => `${inWords.name(key)} ${say(own)}`).join(' ');
}
