import { clipNameSchema } from '@lantern/motion';

/**
 * Why a clip or a join cannot be called so; null where it can.
 *
 * @param names of the others, in small letters
 */
export function whyNotCalled(text: string, names: ReadonlySet<string>, what: 'clip' | 'join'): string | null {
  if (names.has(text.trim().toLowerCase())) return `another ${what} is called that`;
  return text.trim() === '' || clipNameSchema.safeParse(text).success ? null : 'no file can be called that';
}
