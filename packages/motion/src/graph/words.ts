import type { Entry, BreakOff } from '@lantern/drive';
import type { Condition, Graph, Transition } from '../set/graph-schema';

/** What an entry is called in a sentence. */
export const ENTRY_WORDS: Readonly<Record<Entry, string>> = {
  phase: 'at the same phase',
  foot: 'on the same foot',
  beginning: 'at the beginning',
  best: 'where it fits best',
};

/** What may break an overlap off, in a sentence. */
export const BREAK_OFF_WORDS: Readonly<Record<BreakOff, string>> = {
  anything: 'anything',
  urgent: 'anything urgent',
  nothing: 'nothing',
};

/** A number as people write it, without zeros at its end. */
const short = (value: number): string => String(Number(value.toFixed(3)));

/**
 * A condition as a plain sentence.
 *
 * @example
 * conditionText({ inputs: [] }, { input: 'speed', is: 'above', value: 0.3 }); // 'speed above 0.3'
 */
export function conditionText({ inputs }: Pick<Graph, 'inputs'>, condition: Condition): string {
  const unit = inputs.flatMap((own) => (own.name === condition.input && own.kind === 'number' && own.unit ? [own.unit] : []))[0];
  if ('value' in condition)
    return `${condition.input} ${condition.is} ${short(condition.value)}${unit ? `${unit.startsWith('°') ? '' : ' '}${unit}` : ''}`;
  return condition.is === 'pressed' ? `${condition.input} is pressed` : `${condition.input} is ${condition.is}`;
}

/**
 * When a transition starts, as a plain sentence.
 *
 * @example
 * whenText({ inputs: [] }, transitionSchema.parse({ from: 'hopping', to: 'moving', leaveAfter: { share: 0.8 } })); // 'once 80 % is played'
 */
export function whenText(graph: Pick<Graph, 'inputs'>, { when, leaveAfter }: Pick<Transition, 'when' | 'leaveAfter'>): string {
  const conditions = when.map((own) => conditionText(graph, own)).join(' and ');
  const leave =
    leaveAfter === null
      ? ''
      : 'share' in leaveAfter
        ? `once ${Math.round(leaveAfter.share * 100)} % is played`
        : `on the ${leaveAfter.landing} foot`;
  return [conditions, leave].filter(Boolean).join(', ') || 'at once';
}

/** Where a transition leads, as a plain sentence. */
export const wayText = ({ from, to }: Pick<Transition, 'from' | 'to'>): string => `${from ?? 'anything'} to ${to}`;
