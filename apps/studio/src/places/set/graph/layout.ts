import dagre from '@dagrejs/dagre';
import type { Graph } from '@lantern/motion';
import type { Box } from './channel-way';

/** Of a state in the picture, pixels. */
export const CARD = { width: 190, height: 142 } as const;
/** What stands for any state. */
export const ANYWHERE = '*';

/** Where states stand, and what stands for any state; upper left corners. */
export type Places = ReadonlyMap<string, { readonly x: number; readonly y: number }>;

export const sizeOf = (id: string) => (id === ANYWHERE ? { width: 120, height: 34 } : CARD);

/** What somebody takes up in the picture. */
export const boxOf = (places: Places, id: string): Box => ({ ...(places.get(id) ?? { x: 0, y: 0 }), ...sizeOf(id) });

/** Where everything stands: as it was put, or laid out by itself where nothing was. */
export function placesOf(graph: Graph): Places {
  const laid = graph.states.some(({ at }) => !at) ? laidOut(graph) : null;
  const places = new Map(graph.states.map(({ name, at }) => [name, at ?? laid?.get(name) ?? { x: 0, y: 0 }]));
  if (graph.transitions.some(({ from }) => from === null)) {
    const all = [...places.values()];
    places.set(ANYWHERE, { x: Math.min(...all.map(({ x }) => x)), y: Math.min(...all.map(({ y }) => y)) - 90 });
  }
  return places;
}

/** A layout in layers, from the initial state on. */
export function laidOut({ states, transitions, initial }: Graph): Places {
  const chart = new dagre.graphlib.Graph({ multigraph: true });
  chart.setGraph({ rankdir: 'TB', nodesep: 150, ranksep: 110, marginx: 30, marginy: 40 });
  chart.setDefaultEdgeLabel(() => ({}));
  // The initial state first: layers follow the order in which they are told.
  for (const { name } of [...states].sort((a, b) => Number(b.name === initial) - Number(a.name === initial)))
    chart.setNode(name, { ...CARD });
  transitions.forEach(({ from, to }, i) => {
    if (from !== null && chart.hasNode(from) && chart.hasNode(to)) chart.setEdge(from, to, {}, String(i));
  });
  dagre.layout(chart);
  return new Map(
    states.map(({ name }) => {
      const { x, y } = chart.node(name);
      return [name, { x: Math.round(x - CARD.width / 2), y: Math.round(y - CARD.height / 2) }];
    }),
  );
}
