import { stepSchema, type RecipeStep } from '@lantern/motion';
import type { ClipDoc } from './clips-store';

/** The recipe that a new clip begins with: a closed loop whose root starts at the origin. */
export const defaultSteps = (): RecipeStep[] => [stepSchema.parse({ kind: 'loop' }), stepSchema.parse({ kind: 'travel', start: 'origin' })];

/** `stroll` → `stroll-01`, or the next free number. */
export function freeName(base: string, docs: readonly ClipDoc[]): string {
  const stem = base.replace(/-\d+$/, '');
  const taken = new Set(docs.map((doc) => doc.name.toLowerCase()));
  for (let n = 1; ; n++) {
    const name = `${stem}-${String(n).padStart(2, '0')}`;
    if (!taken.has(name.toLowerCase())) return name;
  }
}
