import type { PlayCondition, PlayGraph, PlayTransition } from '@lantern/drive';
import type { PlayScript } from './script';
import { restingInputs } from './sticks';

/** Phases that a transition is tried from. */
export const PHASES = 24;
/** Steps before and after what is asked changes. */
const [BEFORE, AFTER] = [20, 75];

/** A transition tried from one phase of what it leaves. */
export interface Try {
  readonly transition: number;
  readonly phase: number;
  readonly script: PlayScript;
}

/**
 * A transition tried from every phase of what it leaves, in play: inputs at which nothing else happens, then those that it asks for.
 *
 * @param transition by its place in the graph
 * @param most ways of asking that are tried from each phase
 * @returns nothing where its conditions cannot be brought about
 */
export function triesOf(graph: PlayGraph, transition: number, most = 2, led: PlayScript['led'] = 'root'): Try[] {
  const own = graph.transitions[transition];
  const out: Try[] = [];
  graph.states.forEach((state, index) => {
    if (own.from === null ? state.name === own.to : state.name !== own.from) return;
    // Of what plays once the last part matters: from where it may be left.
    const share = own.leaveAfter && 'share' in own.leaveAfter ? own.leaveAfter.share : 0;
    const first = Math.max(0, share - 0.1);
    // From anywhere all that may be left is tried, less thoroughly.
    const steady = spread(steadyInputs(graph, state.name, own), own.from === null ? 1 : most);
    for (const before of steady)
      for (const after of spread(askedInputs(graph, own, before), own.from === null ? 1 : most))
        for (let k = 0; k < PHASES; k++) {
          const at = first + ((1 - first) * k) / PHASES;
          const script: PlayScript = {
            state: index,
            at,
            led,
            inputs: before,
            changes: after.flatMap((value, input) => (value !== before[input] ? [{ step: BEFORE, input, value }] : [])),
            steps: BEFORE + AFTER + (share > 0 ? 30 : 0),
          };
          out.push({ transition, phase: at, script });
        }
  });
  return out;
}

/** Up to so many of a list: its ends first, then what is between. */
function spread<T>(all: readonly T[], most: number): T[] {
  if (all.length <= most) return [...all];
  return Array.from(
    { length: most },
    (_, i) => all[most === 1 ? Math.floor(all.length / 2) : Math.round((i * (all.length - 1)) / (most - 1))],
  );
}

/** Whether conditions hold. */
export const holdAll = (graph: PlayGraph, when: readonly PlayCondition[], values: readonly number[]): boolean =>
  when.every((condition) => {
    const value = values[graph.inputs.findIndex(({ name }) => name === condition.input)];
    if ('value' in condition) return condition.is === 'above' ? value > condition.value : value < condition.value;
    return condition.is === 'off' ? value === 0 : value !== 0;
  });

/** Inputs at which a state is not left by anything that asks for something. */
function steadyInputs(graph: PlayGraph, state: string, wanted: PlayTransition): number[][] {
  const leaves = graph.transitions.filter(({ from, to }) => from === state || (from === null && to !== state));
  // What asks for nothing leaves whatever is asked.
  const asks = leaves.filter((own) => own !== wanted && own.when.length > 0);
  const choices = graph.inputs.map((input, i) => {
    if (input.kind === 'press') return [0];
    if (input.kind === 'switch') return [0, 1];
    // An angle is off only for a moment.
    if ('unit' in input && input.unit === '°') return [restingInputs(graph)[i]];
    const marks = new Set([input.start, input.from, input.to]);
    for (const { when } of asks.concat(wanted))
      for (const own of when)
        if (own.input === input.name && 'value' in own) for (const by of [-0.02, 0.02]) marks.add(own.value + by * (input.to - input.from));
    const all = [...marks].filter((value) => value >= input.from && value <= input.to).sort((a, b) => a - b);
    return [...new Set(all.flatMap((value, k) => (k > 0 ? [(all[k - 1] + value) / 2, value] : [value])))];
  });
  const quiet = (values: readonly number[]) =>
    asks.every(({ when }) => !holdAll(graph, when, values)) && (wanted.when.length === 0 || !holdAll(graph, wanted.when, values));
  return combinations(choices).filter(quiet);
}

/** Inputs that bring a transition about, as near as can be to those before. */
function askedInputs(graph: PlayGraph, { when }: PlayTransition, before: readonly number[]): number[][] {
  const choices = graph.inputs.map((input, i) => {
    const own = when.filter((condition) => condition.input === input.name);
    if (own.length === 0) return [before[i]];
    if (input.kind !== 'number') return [own.some(({ is }) => is === 'off') ? 0 : 1];
    let [low, high] = [input.from, input.to];
    for (const condition of own) {
      if (!('value' in condition)) continue;
      if (condition.is === 'above') low = Math.max(low, condition.value);
      else high = Math.min(high, condition.value);
    }
    return low < high ? [low + 0.1 * (high - low), (low + high) / 2, low + 0.95 * (high - low)] : [];
  });
  return combinations(choices).filter((values) => holdAll(graph, when, values));
}

function combinations(choices: readonly (readonly number[])[]): number[][] {
  return choices.reduce<number[][]>((all, own) => all.flatMap((values) => own.map((value) => [...values, value])).slice(0, 4096), [[]]);
}
