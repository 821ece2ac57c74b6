import type { Shot } from '@lantern/motion';
import { editSet, type SetDoc } from './sets-store';

/** A line of the shot list changed; one that follows from a slot is written down for it. */
export function changeShot(doc: SetDoc, shot: Shot, change: Partial<Pick<Shot, 'text' | 'done'> & { by: NonNullable<Shot['by']> }>): void {
  const known = doc.shots.find(({ id }) => id === shot.id);
  const next = {
    id: known?.id ?? crypto.randomUUID(),
    text: shot.text,
    done: shot.done,
    ...(shot.slot !== null && { slot: shot.slot }),
    ...(shot.by && { by: shot.by }),
    ...change,
  };
  const shots = known ? doc.shots.map((own) => (own.id === known.id ? next : own)) : [...doc.shots, next];
  editSet(doc, { shots });
}

export function addShot(doc: SetDoc, text: string): void {
  editSet(doc, { shots: [...doc.shots, { id: crypto.randomUUID(), text, done: false }] });
}

/** A line of one's own taken out; one that was changed says again what follows from its slot. */
export function removeShot(doc: SetDoc, shot: Shot): void {
  editSet(doc, { shots: doc.shots.filter(({ id }) => id !== shot.id) });
}

/** Lines added, those that are there already left alone. @returns how many were added */
export function addShots(doc: SetDoc, texts: readonly string[]): number {
  const fresh = [...new Set(texts)].filter((text) => !doc.shots.some((own) => own.text === text));
  if (fresh.length > 0) editSet(doc, { shots: [...doc.shots, ...fresh.map((text) => ({ id: crypto.randomUUID(), text, done: false }))] });
  return fresh.length;
}
