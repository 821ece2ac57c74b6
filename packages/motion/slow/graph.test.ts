import {
  changeInput,
  changeState,
  checkGraph,
  conditionText,
  freeName,
  graphSchema,
  moveTransition,
  playableSet,
  readyGraph,
  removeInput,
  removeState,
  roughWeather,
  scriptPlayer,
  stickScript,
  tester,
  triesOf,
  whenText,
  type Graph,
  type Playables,
  type SetClip,
} from '@lantern/motion';
import { playMeters, setPlayer, STEP } from '@lantern/drive';
import { fieldSchema } from '@lantern/motion';
import { fieldClips, setClip } from '../tests/set-made';

const playables: Playables = {
  clips: new Map([
    ['wait', { name: 'wait', isLoop: true }],
    ['hop-rope', { name: 'hop-rope', isLoop: false }],
    ['jog-stop', { name: 'jog-stop', isLoop: false }],
  ]),
  fields: new Map([['strolls', { name: 'strolls', inputs: 2 }]]),
};

/** Wick's graph: he waits, moves, hops. */
const wick = (change: object = {}): Graph =>
  graphSchema.parse({
    inputs: [
      { name: 'speed', kind: 'number', from: 0, to: 4, unit: 'm/s' },
      { name: 'turn', kind: 'number', from: -60, to: 60, unit: '°/s' },
      { name: 'lit', kind: 'switch' },
      { name: 'hop', kind: 'press' },
    ],
    initial: 'waiting',
    states: [
      { name: 'waiting', plays: { clip: 'wait' } },
      { name: 'moving', plays: { field: 'strolls', inputs: ['speed', 'turn'] } },
      { name: 'hopping', plays: { clip: 'hop-rope', loop: false } },
    ],
    transitions: [
      { from: 'waiting', to: 'moving', when: [{ input: 'speed', is: 'above', value: 0.3 }] },
      { from: 'moving', to: 'waiting', when: [{ input: 'speed', is: 'below', value: 0.2 }] },
      { from: 'moving', to: 'hopping', when: [{ input: 'hop', is: 'pressed' }], leaveAfter: { landing: 'left' } },
      { from: 'hopping', to: 'moving', leaveAfter: { share: 0.8 } },
    ],
    ...change,
  });
const texts = (graph: Graph) => checkGraph(graph, playables).map(({ text }) => text);

test('of a graph that holds there is nothing to say', () => {
  expect(texts(wick())).toEqual([]);
});

test.each([
  ['nowhere to begin', { initial: 'swimming' }, 'Nobody says which state it begins in.'],
  ['no way there', { transitions: wick().transitions.filter(({ to }) => to !== 'hopping') }, 'hopping cannot be reached from waiting.'],
  ['no way out', { transitions: wick().transitions.filter(({ from }) => from !== 'moving') }, 'moving cannot be left.'],
  [
    'above and below at once',
    {
      transitions: [
        {
          from: 'waiting',
          to: 'moving',
          when: [
            { input: 'speed', is: 'above', value: 2 },
            { input: 'speed', is: 'below', value: 1 },
          ],
        },
        ...wick().transitions.slice(1),
      ],
    },
    'waiting to moving never starts: speed cannot be above 2 and below 1 at once.',
  ],
  [
    'higher than it goes',
    { transitions: [{ ...wick().transitions[0], when: [{ input: 'speed', is: 'above', value: 4 }] }, ...wick().transitions.slice(1)] },
    'waiting to moving never starts: speed goes no higher than 4.',
  ],
  [
    'a condition that does not fit',
    { transitions: [{ ...wick().transitions[0], when: [{ input: 'hop', is: 'above', value: 1 }] }, ...wick().transitions.slice(1)] },
    'waiting to moving: hop is a press, so it is never “above”.',
  ],
  [
    'a tie',
    { transitions: [...wick().transitions, { from: 'waiting', to: 'hopping', when: [{ input: 'speed', is: 'above', value: 1 }] }] },
    'waiting to hopping never starts: waiting to moving is tried before it, and starts whenever it would.',
  ],
  [
    'a clip that is gone',
    { states: [{ name: 'waiting', plays: { clip: 'lost' } }, ...wick().states.slice(1)] },
    'waiting plays a clip that the set does not have.',
  ],
  [
    'a clip that is no loop, played round',
    { states: [...wick().states.slice(0, 2), { name: 'hopping', plays: { clip: 'hop-rope', loop: true } }] },
    'hopping plays hop-rope round and round, but it is not made to loop.',
  ],
  [
    'a once clip that is left only by a press',
    {
      transitions: [
        ...wick().transitions.slice(0, 3),
        { from: 'hopping', to: 'moving', when: [{ input: 'hop', is: 'pressed' }], leaveAfter: { share: 0.8 } },
      ],
    },
    'hopping stands still after its clip until hop is pressed.',
  ],
])('a check: %s', (_, change, text) => {
  expect(texts(wick(change))).toContain(text);
});

test('what a warning offers mends it', () => {
  const broken = [
    wick({ initial: 'swimming' }),
    wick({ states: [...wick().states.slice(0, 2), { name: 'hopping', plays: { clip: 'hop-rope', loop: true } }] }),
    wick({ transitions: [...wick().transitions.slice(0, 3), { from: 'hopping', to: 'moving', when: [{ input: 'hop', is: 'pressed' }] }] }),
    wick({
      transitions: [...wick().transitions, { from: 'waiting', to: 'hopping', when: [{ input: 'speed', is: 'above', value: 1 }] }],
    }),
  ];
  for (const graph of broken) {
    const [warning] = checkGraph(graph, playables);
    if (!warning.mend) throw new Error(`nothing mends “${warning.text}”`);
    expect(texts(warning.mend.graph)).not.toContain(warning.text);
  }
});

test('conditions and leaving are plain sentences', () => {
  const graph = wick();
  expect(conditionText(graph, { input: 'turn', is: 'below', value: -20 })).toBe('turn below -20°/s');
  expect(conditionText(graph, { input: 'lit', is: 'off' })).toBe('lit is off');
  expect(graph.transitions.map((own) => whenText(graph, own))).toEqual([
    'speed above 0.3 m/s',
    'speed below 0.2 m/s',
    'hop is pressed, on the left foot',
    'once 80 % is played',
  ]);
});

test('names go along: of states into transitions, of inputs into conditions and fields', () => {
  const named = changeState(wick(), 'moving', { name: 'going' });
  expect(named.transitions.map(({ from, to }) => `${from} ${to}`)).toContain('going hopping');
  const input = changeInput(wick(), 'speed', { name: 'pace', kind: 'number', from: 0, to: 4, start: 0, unit: 'm/s' });
  expect(input.transitions[0].when[0].input).toBe('pace');
  expect(input.states[1].plays).toMatchObject({ inputs: ['pace', 'turn'] });
  expect(removeInput(wick(), 'hop').transitions[2].when).toEqual([]);
  const less = removeState(wick(), 'waiting');
  expect(less).toMatchObject({ initial: 'moving', transitions: [{ to: 'hopping' }, { to: 'moving' }] });
  expect(freeName('moving', ['moving', 'moving 2'])).toBe('moving 3');
  // The order is that among the transitions of one state.
  expect(moveTransition(wick(), 1, 1).transitions.map(({ to }) => to)).toEqual(['moving', 'hopping', 'waiting', 'moving']);
});

describe('played', () => {
  const clips: SetClip[] = [
    ...fieldClips(),
    setClip('wait', { script: 'idle', seconds: 16, proposal: /idle/ }),
    setClip('stop', { script: 'turn', seed: 17, seconds: 20, proposal: /walk-stop/ }),
    setClip('turn-180', { script: 'turn', seed: 17, seconds: 20, proposal: /turn-left-180/ }),
    setClip('hop', { script: 'hop', seed: 14, seconds: 12, proposal: /^hop$/ }),
  ];
  const field = fieldSchema.parse({ name: 'strolls', clips: fieldClips().map(({ id }) => id) });
  const keyed = [{ key: 'f', field }];
  const graph = readyGraph(clips, keyed);
  const made = playableSet(graph, clips, keyed);
  if (!made) throw new Error('nothing can be played');

  test('a ready graph is built from what there is, and holds', () => {
    expect(graph.states.map(({ name }) => name)).toEqual(['waiting', 'moving', 'stopping', 'turning left 180', 'hopping']);
    expect(graph.inputs.map(({ name }) => name)).toEqual(['speed', 'turn', 'way', 'hop']);
    const known: Playables = {
      clips: new Map(clips.map(({ id, clip }) => [id, { name: id, isLoop: clip.loop }])),
      fields: new Map([['f', { name: 'strolls', inputs: 2 }]]),
    };
    expect(checkGraph(graph, known)).toEqual([]);
    const little = readyGraph(clips.slice(0, 1), []);
    expect(little.states).toMatchObject([{ name: 'moving', plays: { clip: 'stroll', loop: true } }]);
    expect(readyGraph([], [])).toMatchObject({ states: [], initial: '' });
  });

  test('what cannot be played is left out, and it is said why', () => {
    const less = playableSet(
      { ...graph, states: graph.states.map((own) => (own.name === 'hopping' ? { ...own, plays: { clip: 'gone', loop: false } } : own)) },
      clips,
      keyed,
    );
    expect(less?.left).toEqual([{ state: 'hopping', why: 'Its clip is not there.' }]);
    expect(less?.set.graph.transitions.some(({ to }) => to === 'hopping')).toBe(false);
    expect(playableSet({ ...graph, states: [] }, clips, keyed)).toBeNull();
  });

  test('every transition starts from every phase, feet stay, and little pops', () => {
    const { try: tried } = tester(made.set);
    made.set.graph.transitions.forEach((own, i) => {
      const all = tried(i);
      expect(all).toHaveLength(24);
      const came = all.filter(({ isMissing }) => !isMissing);
      expect(came.length).toBeGreaterThan(5);
      for (const { popCm, slideCm } of came) {
        expect(popCm).toBeLessThan(3.5);
        expect(slideCm).toBeLessThan(0.5);
      }
      expect(triesOf(made.set.graph, i)[0].transition).toBe(i);
      expect(own.to).not.toBe(own.from);
    });
  });

  test('rough weather finds the same to the bit, and a finding is there again when it is played', () => {
    const options = { minutes: 0.5, seed: 3 };
    const [one, two] = [roughWeather(made.set, options), roughWeather(made.set, options)];
    expect(two).toEqual(one);
    expect(one.changes).toBeGreaterThan(500);
    expect(roughWeather(made.set, { ...options, seed: 4 }).findings).not.toEqual(one.findings);
    const finding = one.findings.find(({ figure, script }) => figure === 'pop' && script.led === 'root');
    if (!finding) throw new Error('nothing popped');
    const player = setPlayer(made.set);
    const meters = playMeters(made.set, player);
    const scripts = scriptPlayer(made.set.graph, player, STEP);
    scripts.begin(finding.script);
    meters.forget();
    meters.read();
    while (scripts.at() < finding.step) {
      scripts.step();
      meters.read();
    }
    expect(meters.now[1]).toBe(finding.value);
    expect(made.set.graph.states[player.state()].name).toBe(finding.to);
  });

  test('a set whose overlaps are taken away pops in rough weather', () => {
    const bare = {
      ...made.set,
      graph: { ...made.set.graph, transitions: made.set.graph.transitions.map((own) => ({ ...own, overlap: 0 })) },
    };
    expect(roughWeather(bare, { minutes: 0.5, seed: 3 }).worst.pop).toBeGreaterThan(
      2 * roughWeather(made.set, { minutes: 0.5, seed: 3 }).worst.pop,
    );
  });

  test('what a stick asks lies within what inputs have, in the order of its steps', () => {
    for (const stick of ['steady', 'snaps', 'taps', 'circles', 'wander'] as const) {
      const { changes, steps } = stickScript(made.set.graph, stick, 5, 20, 'root');
      expect(steps).toBe(1200);
      expect(changes.length).toBeGreaterThan(5);
      changes.forEach(({ step, input, value }, i) => {
        expect(step).toBeGreaterThanOrEqual(i > 0 ? changes[i - 1].step : 0);
        const own = made.set.graph.inputs[input];
        if (own.kind === 'number') expect(value >= own.from && value <= own.to).toBe(true);
      });
    }
  });
});
