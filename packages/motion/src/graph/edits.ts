import type { Graph, GraphInput, GraphState, Transition } from '../set/graph-schema';

/** A name that nothing of a list has yet. */
export function freeName(wanted: string, taken: readonly string[]): string {
  if (!taken.includes(wanted)) return wanted;
  for (let i = 2; ; i++) if (!taken.includes(`${wanted} ${i}`)) return `${wanted} ${i}`;
}

/** A state changed, its name too: transitions go along. */
export function changeState(graph: Graph, name: string, change: Partial<GraphState>): Graph {
  const to = change.name ?? name;
  const named = (own: string) => (own === name ? to : own);
  return {
    ...graph,
    initial: named(graph.initial),
    states: graph.states.map((own) => (own.name === name ? { ...own, ...change } : own)),
    transitions:
      to === name
        ? graph.transitions
        : graph.transitions.map((own) => ({ ...own, from: own.from === null ? null : named(own.from), to: named(own.to) })),
  };
}

/** Without a state, and the transitions that lead from it or to it. */
export const removeState = (graph: Graph, name: string): Graph => ({
  ...graph,
  initial: graph.initial === name ? (graph.states.find((own) => own.name !== name)?.name ?? '') : graph.initial,
  states: graph.states.filter((own) => own.name !== name),
  transitions: graph.transitions.filter(({ from, to }) => from !== name && to !== name),
});

export const changeTransition = (graph: Graph, index: number, change: Partial<Transition>): Graph => ({
  ...graph,
  transitions: graph.transitions.map((own, i) => (i === index ? { ...own, ...change } : own)),
});

/** A transition tried earlier or later among those of its state. */
export function moveTransition(graph: Graph, index: number, by: -1 | 1): Graph {
  const own = graph.transitions[index];
  let other = index + by;
  while (graph.transitions[other] && graph.transitions[other].from !== own.from) other += by;
  if (!graph.transitions[other]) return graph;
  const transitions = [...graph.transitions];
  [transitions[index], transitions[other]] = [transitions[other], own];
  return { ...graph, transitions };
}

/** An input changed, its name too: conditions and what fields are steered by go along; conditions that no longer fit it are left out. */
export function changeInput(graph: Graph, name: string, changed: GraphInput): Graph {
  const kind = graph.inputs.find((own) => own.name === name)?.kind;
  const named = (own: string) => (own === name ? changed.name : own);
  return {
    ...graph,
    inputs: graph.inputs.map((own) => (own.name === name ? changed : own)),
    states: graph.states.map((own) =>
      own.plays && 'field' in own.plays ? { ...own, plays: { ...own.plays, inputs: own.plays.inputs.map(named) } } : own,
    ),
    transitions: graph.transitions.map((own) => ({
      ...own,
      when: own.when.filter(({ input }) => input !== name || kind === changed.kind).map((own) => ({ ...own, input: named(own.input) })),
    })),
  };
}

/** Without an input, and the conditions that ask for it. */
export const removeInput = (graph: Graph, name: string): Graph => ({
  ...graph,
  inputs: graph.inputs.filter((own) => own.name !== name),
  transitions: graph.transitions.map((own) => ({ ...own, when: own.when.filter(({ input }) => input !== name) })),
});
