import { whenText, wayText } from './words';
import type { Condition, Graph, GraphInput, Transition } from '../set/graph-schema';

/** Something about a graph that a game would trip over. */
export interface GraphWarning {
  /** What it is about, for a click to go there. */
  readonly about: { readonly state: string } | { readonly transition: number } | { readonly input: string } | null;
  readonly text: string;
  /** What would mend it, in words, and the graph with it mended. */
  readonly mend?: { readonly text: string; readonly graph: Graph };
}

/** What a set has that a graph may play. */
export interface Playables {
  /** Clips that are there, by what the graph calls them, and those that play round. */
  readonly clips: ReadonlyMap<string, { readonly name: string; readonly isLoop: boolean }>;
  readonly fields: ReadonlyMap<string, { readonly name: string; readonly inputs: number }>;
}

/**
 * What is wrong with a graph, in sentences: states that cannot be reached or left, conditions that never hold together, transitions that always tie, clips
 * that are not there.
 *
 * @example
 * checkGraph(graphSchema.parse({}), { clips: new Map(), fields: new Map() }); // []
 */
export function checkGraph(graph: Graph, playables: Playables): GraphWarning[] {
  if (graph.states.length === 0) return [];
  return [...checkStates(graph, playables), ...checkTransitions(graph), ...checkTies(graph)];
}

function checkStates(graph: Graph, { clips, fields }: Playables): GraphWarning[] {
  const out: GraphWarning[] = [];
  const names = graph.states.map(({ name }) => name);
  const known = new Set(names);
  if (!known.has(graph.initial))
    out.push({
      about: null,
      text: 'Nobody says which state it begins in.',
      mend: { text: `begin in ${names[0]}`, graph: { ...graph, initial: names[0] } },
    });
  for (const name of new Set(names.filter((own, i) => names.indexOf(own) !== i)))
    out.push({ about: { state: name }, text: `Two states are called ${name}.` });
  const reached = reachable(graph);
  for (const { name, plays } of graph.states) {
    const about = { state: name };
    const leads = leading(graph, name);
    if (known.has(graph.initial) && !reached.has(name)) out.push({ about, text: `${name} cannot be reached from ${graph.initial}.` });
    if (leads.length === 0 && graph.states.length > 1) out.push({ about, text: `${name} cannot be left.` });
    if (!plays) {
      out.push({ about, text: `${name} plays nothing yet.` });
      continue;
    }
    if ('clip' in plays) {
      const clip = clips.get(plays.clip);
      if (!clip) out.push({ about, text: `${name} plays a clip that the set does not have.` });
      else if (plays.loop && !clip.isLoop) {
        out.push({
          about,
          text: `${name} plays ${clip.name} round and round, but it is not made to loop.`,
          mend: { text: 'play it once', graph: withState(graph, name, { plays: { ...plays, loop: false } }) },
        });
      }
      // With every input at rest, and with every one held, somebody has to get out.
      const sure = leads.some(({ when }) => when.length === 0);
      if (!plays.loop && leads.length > 0 && !sure) {
        const back = leads.findIndex(({ leaveAfter }) => leaveAfter && 'share' in leaveAfter);
        const first = graph.transitions.indexOf(leads[Math.max(0, back)]);
        out.push({
          about,
          text: `${name} stands still after its clip until ${leads.map(({ when, leaveAfter }) => whenText(graph, { when, leaveAfter: leaveAfter && 'landing' in leaveAfter ? leaveAfter : null })).join(', or until ')}.`,
          mend: {
            text: 'leave it once 90 % is played',
            graph: {
              ...graph,
              transitions: [...graph.transitions, { ...graph.transitions[first], when: [], leaveAfter: { share: 0.9 } }],
            },
          },
        });
      }
    } else {
      const field = fields.get(plays.field);
      if (!field) out.push({ about, text: `${name} plays a field that the set does not have.` });
      for (const input of plays.inputs) {
        const own = graph.inputs.find((other) => other.name === input);
        if (own?.kind !== 'number') out.push({ about, text: `${name} is steered by ${input}, which is no number of the graph.` });
      }
      if (field && field.inputs > plays.inputs.length)
        out.push({ about, text: `${field.name} has ${field.inputs} inputs; ${name} steers only ${plays.inputs.length} of them.` });
    }
  }
  return out;
}

function checkTransitions(graph: Graph): GraphWarning[] {
  const known = new Set(graph.states.map(({ name }) => name));
  return graph.transitions.flatMap((own, transition): GraphWarning[] => {
    const about = { transition };
    const lost = [own.from, own.to].find((name) => name !== null && !known.has(name));
    if (lost) return [{ about, text: `A transition leads ${own.to === lost ? 'to' : 'from'} ${lost}, which is not there.` }];
    const out: GraphWarning[] = [];
    for (const condition of own.when) {
      const input = graph.inputs.find(({ name }) => name === condition.input);
      if (!input) out.push({ about, text: `${wayText(own)} asks for ${condition.input}, which is no input.` });
      else if (!fits(input, condition))
        out.push({ about, text: `${wayText(own)}: ${input.name} is a ${input.kind}, so it is never “${condition.is}”.` });
    }
    const why = never(graph, own.when);
    if (why) out.push({ about, text: `${wayText(own)} never starts: ${why}.` });
    return out;
  });
}

/** Transitions of a state of which the first always goes first. */
function checkTies(graph: Graph): GraphWarning[] {
  const out: GraphWarning[] = [];
  for (const { name } of graph.states) {
    const leads = leading(graph, name);
    leads.forEach((later, i) => {
      const earlier = leads.slice(0, i).find((own) => goesFirst(own, later));
      if (!earlier || later.from === null) return;
      const transition = graph.transitions.indexOf(later);
      const at = graph.transitions.indexOf(earlier);
      const transitions = graph.transitions.filter((_, k) => k !== transition);
      transitions.splice(at, 0, later);
      // Where both ask for the same, either order leaves one out.
      const isSame = goesFirst(later, earlier);
      out.push({
        about: { transition },
        text: `${wayText(later)} never starts: ${wayText(earlier)} is tried before it, and starts whenever it would.`,
        ...(!isSame && { mend: { text: `try ${wayText(later)} first`, graph: { ...graph, transitions } } }),
      });
    });
  }
  return out;
}

/** Whether a transition starts whenever another one of the same state would. */
function goesFirst(own: Transition, other: Transition): boolean {
  if (!sooner(own.leaveAfter, other.leaveAfter)) return false;
  return own.when.every((condition) => other.when.some((asked) => implies(asked, condition)));
}

function sooner(a: Transition['leaveAfter'], b: Transition['leaveAfter']): boolean {
  if (a === null) return true;
  if (b === null) return false;
  if ('share' in a) return 'share' in b && a.share <= b.share;
  return 'landing' in b && a.landing === b.landing;
}

/** Whether one condition holds whenever another does. */
function implies(asked: Condition, own: Condition): boolean {
  if (asked.input !== own.input || asked.is !== own.is) return false;
  if (!('value' in asked) || !('value' in own)) return true;
  return asked.is === 'above' ? asked.value >= own.value : asked.value <= own.value;
}

/** Why conditions never hold together; null where they may. */
function never({ inputs }: Graph, when: readonly Condition[]): string | null {
  for (const input of inputs) {
    const own = when.filter((condition) => condition.input === input.name);
    if (input.kind !== 'number') {
      const states = new Set(own.map(({ is }) => is));
      if (states.has('on') && states.has('off')) return `${input.name} cannot be on and off at once`;
      continue;
    }
    let [low, high] = [-Infinity, Infinity];
    for (const condition of own) {
      if (condition.is === 'above') low = Math.max(low, condition.value);
      if (condition.is === 'below') high = Math.min(high, condition.value);
    }
    if (low >= high) return `${input.name} cannot be above ${low} and below ${high} at once`;
    if (low >= input.to) return `${input.name} goes no higher than ${input.to}`;
    if (high <= input.from) return `${input.name} goes no lower than ${input.from}`;
  }
  return null;
}

/** Whether a condition can be asked of an input. */
export const fits = (input: GraphInput, { is }: Pick<Condition, 'is'>): boolean =>
  input.kind === 'number' ? is === 'above' || is === 'below' : input.kind === 'switch' ? is === 'on' || is === 'off' : is === 'pressed';

/** Transitions that lead from a state, in the order in which they are tried. */
export const leading = ({ transitions }: Pick<Graph, 'transitions'>, state: string): Transition[] =>
  transitions.filter(({ from, to }) => from === state || (from === null && to !== state));

function reachable(graph: Graph): Set<string> {
  const found = new Set([graph.initial]);
  for (const name of found) for (const { to } of leading(graph, name)) found.add(to);
  return found;
}

const withState = (graph: Graph, name: string, change: Partial<Graph['states'][number]>): Graph => ({
  ...graph,
  states: graph.states.map((own) => (own.name === name ? { ...own, ...change } : own)),
});
