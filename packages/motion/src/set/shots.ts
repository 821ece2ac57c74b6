import type { Contract } from './contract';
import type { SlotReport } from './coverage';
import { floorSketch, type FloorSketch } from './floor-sketch';
import type { LocomotionSet, ShotLine } from './schema';
import { shotText } from './shot-text';
import { slotId, type Slot } from './slot';
import { slotName } from './slot-name';
import { suitScript, type SuitScript } from './suit-script';

/** A line of the shot list. */
export interface Shot {
  readonly id: string;
  readonly number: number;
  /** The slot it gives; null for a line of one's own. */
  readonly slot: string | null;
  /** A name for the clip that it gives. */
  readonly gives: string;
  /** What the performer does. */
  readonly text: string;
  readonly isEdited: boolean;
  readonly done: boolean;
  readonly by: ShotLine['by'] | null;
  readonly sketch: FloorSketch | null;
  /** The script of the simulated suit that plays it, where there is one. */
  readonly script: SuitScript | null;
}

/**
 * The shot list of a set: a line for each slot that is missing, those that were changed as they were, and lines of one's own after them. A slot that is
 * there by now has its line only while a take ticked it off.
 */
export function shotList(
  set: Pick<LocomotionSet, 'shots' | 'contract' | 'slots'>,
  reports: readonly Pick<SlotReport, 'id' | 'state' | 'slot'>[],
): Shot[] {
  const out: Omit<Shot, 'number'>[] = [];
  for (const { id, state, slot } of reports) {
    const own = set.shots.find((shot) => shot.slot === id);
    if (state !== 'missing' && !own?.by) continue;
    out.push({ ...lineOf(slot, own, set.contract), id: own?.id ?? id, done: own?.done ?? false });
  }
  for (const own of set.shots) {
    if (own.slot && set.slots.some((slot) => slotId(slot) === own.slot)) continue;
    out.push({
      id: own.id,
      slot: null,
      gives: '',
      text: own.text,
      isEdited: true,
      done: own.done,
      by: own.by ?? null,
      sketch: null,
      script: null,
    });
  }
  return out.map((shot, i) => ({ ...shot, number: i + 1 }));
}

function lineOf(slot: Slot, own: ShotLine | undefined, contract: Contract): Omit<Shot, 'number' | 'id' | 'done'> {
  const text = shotText(slot, contract);
  return {
    slot: slotId(slot),
    gives: slotName(slot),
    text: own?.text ?? text,
    isEdited: own !== undefined && own.text !== text,
    by: own?.by ?? null,
    sketch: floorSketch(slot, contract),
    script: suitScript(slot, contract),
  };
}

/** The shot list as rows of text with commas between. */
export function shotCsv(shots: readonly Shot[]): string {
  const cell = (value: string) => (/[",\n]/.test(value) ? `"${value.replace(/"/g, '""')}"` : value);
  const rows = shots.map(({ number, text, gives, slot, sketch, done }) =>
    [String(number), text, gives, slot ?? '', sketch?.label ?? '', done ? 'yes' : 'no'].map(cell).join(','),
  );
  return ['number,shot,gives,slot,on the floor,done', ...rows, ''].join('\n');
}
