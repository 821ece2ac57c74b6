import { slotName, stepSchema, withStep } from '@lantern/motion';
import type { ClipDoc } from '@/data/clips-store';
import { editClips, setStepOf } from '../set-edits';
import type { SetMeasured } from '@/worker/core.worker';
import type { SetDoc } from '@/data/sets-store';
import { isLit } from './marks';

/** Something about a set that wants doing, and what does it. */
export interface Worry {
  readonly id: string;
  readonly text: string;
  readonly act: string;
  /** Null: the slot's card is opened. */
  readonly run: (() => void) | null;
  readonly slot: string;
}

/** What is out of bounds, and what is in doubt; what is worst first. */
export function worriesOf(doc: SetDoc, { coverage, home }: SetMeasured, clips: readonly ClipDoc[]): Worry[] {
  const { bounds } = doc;
  const nameOf = (id: string | null) => clips.find((own) => own.id === id)?.name ?? '';
  const there = coverage.slots.filter(({ state }) => isLit(state));
  const far = there
    .filter(({ homeCm }) => homeCm !== null && homeCm > bounds.homeCm)
    .sort((a, b) => (b.homeCm ?? 0) - (a.homeCm ?? 0))
    .map(({ id, clip, homeCm, ends }): Worry => {
      const worst = ends.reduce((a, b) => (b.cm > a.cm ? b : a));
      return {
        id: `home ${id}`,
        slot: id,
        text: `${nameOf(clip)} ${worst.end === 'first' ? 'begins' : 'ends'} ${(homeCm ?? 0).toFixed(1)} cm from home, ${bounds.homeCm} at most`,
        act: ends.length > 1 ? 'bring its ends home' : 'bring its end home',
        run: home && clip ? () => bringHome([clip], home) : null,
      };
    });
  const slow = there
    .filter(
      ({ slot, speedMps, askedMps }) =>
        (slot.kind === 'loop' || slot.kind === 'arc') &&
        speedMps !== null &&
        askedMps !== null &&
        Math.abs(speedMps / askedMps - 1) > bounds.speed,
    )
    .map(({ id, clip, speedMps, askedMps }): Worry => ({
      id: `speed ${id}`,
      slot: id,
      text: `${nameOf(clip)} goes ${(speedMps ?? 0).toFixed(2)} m/s, the game ${askedMps}`,
      act: 'bring it to that speed',
      run: clip && askedMps !== null ? () => setStepOf(new Set([clip]), { kind: 'speed', mps: askedMps }) : null,
    }));
  const doubted = coverage.slots
    .filter(({ state }) => state === 'doubted')
    .map(({ id, slot, clip, others }): Worry => ({
      id: `doubt ${id}`,
      slot: id,
      text: `${nameOf(clip)} or ${nameOf(others[0].clip)} for ${slotName(slot)}: ${others[0].why}`,
      act: 'choose',
      run: null,
    }));
  return [...far, ...slow, ...doubted];
}

/** A step that brings the ends of some clips into the home pose; one step of undo. */
export function bringHome(ids: readonly string[], pose: NonNullable<SetMeasured['home']>): void {
  const all = new Set(ids);
  editClips((doc) => {
    if (!all.has(doc.id)) return doc;
    const at = doc.steps.findIndex(({ kind, off }) => kind === 'meet-home' && !off);
    if (at < 0) return { ...doc, steps: withStep(doc.steps, stepSchema.parse({ kind: 'meet-home', pose })) };
    return { ...doc, steps: doc.steps.map((step, i) => (i === at && step.kind === 'meet-home' ? { ...step, pose } : step)) };
  });
}
