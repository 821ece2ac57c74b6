import type { TakeInfo } from '@/data/project';

/** Words that a take answers to: its name, tags and notes; "#tag" wants a tag, "*" a star, "!" a warning. */
export function answers(take: TakeInfo, search: string): boolean {
  return search
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .every((word) => {
      if (word === '*') return take.star;
      if (word === '!') return take.passport.warnings.length > 0;
      if (word.startsWith('#')) return take.tags.some((tag) => tag.toLowerCase().startsWith(word.slice(1)));
      return [take.name, take.notes, ...take.tags].some((text) => text.toLowerCase().includes(word));
    });
}
