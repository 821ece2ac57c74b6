import { EMPTY_GRAPH, freeName, graphSchema, transitionSchema, type Graph, type GraphInput } from '@lantern/motion';
import { editSet, type SetDoc } from '@/data/sets-store';
import { placesOf } from './layout';

/** Changes the graph of a set; one step of undo. */
export const putGraph = (doc: SetDoc, graph: Graph): void => editSet(doc, { graph });

/** A graph in which everything stays where it stands, however it came there. */
export function pinned(graph: Graph): Graph {
  const places = placesOf(graph);
  return { ...graph, states: graph.states.map((own) => ({ ...own, at: own.at ?? places.get(own.name) })) };
}

export function addState(graph: Graph, at?: { x: number; y: number }): { graph: Graph; name: string } {
  const name = freeName(
    'new state',
    graph.states.map((own) => own.name),
  );
  const whole = pinned(graph);
  const below = Math.max(0, ...whole.states.map((own) => (own.at?.y ?? 0) + 190));
  const state = { name, plays: null, at: at ?? { x: 60, y: below } };
  return { graph: { ...whole, initial: graph.initial || name, states: [...whole.states, state] }, name };
}

/** Joins two states; what it asks for is the first number, or press, that there is. */
export function addTransition(graph: Graph, from: string | null, to: string): Graph {
  const made = transitionSchema.parse({ from, to, when: graph.inputs.slice(0, 1).map(conditionFor), entry: 'best' });
  return { ...graph, transitions: [...graph.transitions, made] };
}

/** The condition that an input begins with. */
export function conditionFor(input: GraphInput): Graph['transitions'][number]['when'][number] {
  if (input.kind === 'press') return { input: input.name, is: 'pressed' };
  if (input.kind === 'switch') return { input: input.name, is: 'on' };
  return { input: input.name, is: 'above', value: Number(((input.from + input.to) / 2).toFixed(2)) };
}

export function addInput(graph: Graph, kind: GraphInput['kind']): Graph {
  const name = freeName(
    { number: 'number', switch: 'switch', press: 'press' }[kind],
    graph.inputs.map((own) => own.name),
  );
  return graphSchema.parse({ ...graph, inputs: [...graph.inputs, { name, kind }] });
}

/** A graph of another set, as far as this one has what it plays: clips and fields of the same names. */
export function copied(
  source: Graph,
  name: { readonly clipOf: (id: string) => string | undefined; readonly fieldOf: (id: string) => string | undefined },
  own: { readonly clips: ReadonlyMap<string, string>; readonly fields: ReadonlyMap<string, string> },
): Graph {
  return {
    ...source,
    states: source.states.map((state) => {
      const { plays } = state;
      if (!plays) return state;
      if ('clip' in plays) {
        const clip = own.clips.get(name.clipOf(plays.clip) ?? '');
        return { ...state, plays: clip ? { ...plays, clip } : null };
      }
      const field = own.fields.get(name.fieldOf(plays.field) ?? '');
      return { ...state, plays: field ? { ...plays, field } : null };
    }),
  };
}

export const EMPTY = EMPTY_GRAPH;
