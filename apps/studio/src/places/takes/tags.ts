import type { TakeInfo } from '@/data/project';

/** Every tag of some takes, once. */
export const tagsOf = (takes: readonly TakeInfo[]): string[] => [...new Set(takes.flatMap((take) => take.tags))].sort();
