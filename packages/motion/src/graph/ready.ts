import type { SetClip } from '../set/coverage';
import type { BlendField } from '../set/field-schema';
import { graphSchema, type Graph, type GraphInputs, type TransitionInput } from '../set/graph-schema';

/** A field and what a graph calls it. */
export interface KeyedField {
  readonly key: string;
  readonly field: BlendField;
}

/** Asked below this he stops, above this he sets off, m/s. */
const [STOPS, SETS_OFF, GOES_ON] = [0.2, 0.3, 0.5];

/**
 * A graph to begin with, from whatever a set has: somebody who waits, moves, stops, hops and turns about.
 *
 * @param fields of the set; the one with the most clips is moved in
 */
export function readyGraph(clips: readonly SetClip[], fields: readonly KeyedField[]): Graph {
  const of = (kind: string) => clips.filter(({ traits }) => traits.kind === kind);
  const idle = of('idle')[0];
  const field = [...fields].filter(({ field: own }) => own.clips.length > 0).sort((a, b) => b.field.clips.length - a.field.clips.length)[0];
  const ahead = of('loop').filter(({ traits }) => traits.direction === 'forward');
  const loop = [...ahead].sort((a, b) => a.traits.speedMps - b.traits.speedMps)[0];
  const stop = [...of('stop')]
    .filter(({ traits }) => traits.direction === 'forward')
    .sort((a, b) => b.traits.speedMps - a.traits.speedMps)[0];
  const flight = of('flight')[0];
  const turns = of('turn').filter(({ traits }) => Math.abs(traits.turnDeg) > 60);
  const moves = field ?? loop;
  const inField = field ? clips.filter(({ id }) => field.field.clips.includes(id)) : loop ? [loop] : [];
  const fastest = Math.max(1, ...inField.map(({ traits }) => traits.speedMps));
  const turnsBy = Math.max(45, ...inField.map(({ traits }) => Math.abs(traits.turnDegS)));
  const hasTurn = field?.field.inputs[1] === 'turn';
  const hasDirection = field?.field.inputs[1] === 'direction';
  const graph: { -readonly [K in 'inputs' | 'states']: NonNullable<GraphInputs[K]> } & { transitions: TransitionInput[] } = {
    inputs: [],
    states: [],
    transitions: [],
  };
  const go = (from: string, to: string, more: Omit<TransitionInput, 'from' | 'to'>) => graph.transitions.push({ from, to, ...more });
  if (moves) {
    graph.inputs.push({ name: 'speed', kind: 'number', from: 0, to: Math.ceil(fastest * 10) / 10, start: 0, unit: 'm/s' });
    if (hasTurn) graph.inputs.push({ name: 'turn', kind: 'number', from: -round(turnsBy), to: round(turnsBy), start: 0, unit: '°/s' });
    if (hasDirection) graph.inputs.push({ name: 'direction', kind: 'number', from: -180, to: 180, start: 0, unit: '°' });
  }
  if (turns.length > 0) graph.inputs.push({ name: 'way', kind: 'number', from: -180, to: 180, start: 0, unit: '°' });
  if (flight) graph.inputs.push({ name: 'hop', kind: 'press' });
  if (idle) graph.states.push({ name: 'waiting', plays: { clip: idle.id, loop: true } });
  if (field) graph.states.push({ name: 'moving', plays: { field: field.key, inputs: [...(field.field.inputs.slice(0, 2) as string[])] } });
  else if (loop) graph.states.push({ name: 'moving', plays: { clip: loop.id, loop: true } });
  const start = [...of('start')]
    .filter(({ traits }) => traits.direction === 'forward')
    .sort((a, b) => a.traits.speedMps - b.traits.speedMps)[0];
  if (idle && moves && start?.traits.foot) {
    // The first step of a start, and then whatever is asked for.
    graph.states.push({ name: 'setting off', plays: { clip: start.id, loop: false } });
    go('waiting', 'setting off', { when: [{ input: 'speed', is: 'above', value: SETS_OFF }], entry: 'beginning', overlap: 0.2 });
    go('setting off', 'moving', { leaveAfter: { landing: start.traits.foot }, entry: 'phase', overlap: 0.3 });
    // Whoever comes into it later than that does not stay in it to its end.
    go('setting off', 'moving', { leaveAfter: { share: 0.8 }, entry: 'phase', overlap: 0.3 });
    if (!stop) go('moving', 'waiting', { when: [{ input: 'speed', is: 'below', value: STOPS }], entry: 'beginning', overlap: 0.3 });
  } else if (idle && moves) {
    go('waiting', 'moving', { when: [{ input: 'speed', is: 'above', value: SETS_OFF }], entry: 'foot', overlap: 0.24 });
    if (!stop) go('moving', 'waiting', { when: [{ input: 'speed', is: 'below', value: STOPS }], entry: 'beginning', overlap: 0.3 });
  }
  if (moves && stop) {
    graph.states.push({ name: 'stopping', plays: { clip: stop.id, loop: false } });
    go('moving', 'stopping', { when: [{ input: 'speed', is: 'below', value: STOPS }], entry: 'best', overlap: 0.3 });
    go('stopping', 'moving', { when: [{ input: 'speed', is: 'above', value: GOES_ON }], entry: 'foot', overlap: 0.25 });
    if (idle) go('stopping', 'waiting', { leaveAfter: { share: 0.9 }, entry: 'beginning', overlap: 0.4 });
  }
  if (idle)
    for (const { id, traits } of [...turns].sort((a, b) => Math.abs(b.traits.turnDeg) - Math.abs(a.traits.turnDeg))) {
      const side = traits.turnDeg > 0 ? 'left' : 'right';
      const angle = Math.round(Math.abs(traits.turnDeg) / 45) * 45;
      const name = `turning ${side} ${angle}`;
      if (graph.states.some((own) => own.name === name)) continue;
      graph.states.push({ name, plays: { clip: id, loop: false } });
      const value = Math.round((angle * 2) / 3);
      go('waiting', name, {
        when: [{ input: 'way', is: traits.turnDeg > 0 ? 'above' : 'below', value: traits.turnDeg > 0 ? value : -value }],
        entry: 'beginning',
        overlap: 0.2,
      });
      if (moves)
        go(name, 'moving', {
          when: [{ input: 'speed', is: 'above', value: GOES_ON }],
          leaveAfter: { share: 0.6 },
          entry: 'foot',
          overlap: 0.25,
        });
      go(name, 'waiting', { leaveAfter: { share: 0.9 }, entry: 'beginning', overlap: 0.3 });
    }
  if (flight) {
    graph.states.push({ name: 'hopping', plays: { clip: flight.id, loop: false } });
    const when = [{ input: 'hop', is: 'pressed' as const }];
    if (moves) {
      go('moving', 'hopping', { when, leaveAfter: { landing: 'left' }, entry: 'best', overlap: 0.3, breakOff: 'nothing' });
      go('hopping', 'moving', {
        when: [{ input: 'speed', is: 'above', value: SETS_OFF }],
        leaveAfter: { share: 0.8 },
        entry: 'best',
        overlap: 0.3,
      });
    }
    if (idle) {
      go('waiting', 'hopping', { when, entry: 'beginning', overlap: 0.3, breakOff: 'nothing' });
      go('hopping', 'waiting', { leaveAfter: { share: 0.9 }, entry: 'beginning', overlap: 0.35 });
    }
  }
  let turning = 0;
  const states = graph.states.map((own) => ({ ...own, at: PLACES[own.name] ?? TURNS[turning++ % TURNS.length] }));
  return graphSchema.parse({ ...graph, states, initial: idle ? 'waiting' : (graph.states[0]?.name ?? '') });
}

/** Where the states of a ready graph stand in the picture. */
const PLACES: Readonly<Record<string, { x: number; y: number }>> = {
  waiting: { x: 0, y: 110 },
  'setting off': { x: 240, y: 190 },
  moving: { x: 470, y: 290 },
  stopping: { x: 430, y: 610 },
  hopping: { x: 490, y: 0 },
};
const TURNS: readonly { x: number; y: number }[] = [
  { x: -230, y: 300 },
  { x: -10, y: 440 },
  { x: -230, y: 520 },
  { x: 215, y: 520 },
  { x: -230, y: 80 },
  { x: -230, y: 740 },
];

/** To whole tens. */
const round = (value: number): number => Math.ceil(value / 10) * 10;
