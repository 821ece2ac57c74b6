import { graphSchema, type Graph } from '@lantern/motion';
import { boundsOf, labelsOf } from '@/places/set/graph/channel-labels';
import { channelWay } from '@/places/set/graph/channel-way';
import { addInput, addState, addTransition, conditionFor, copied, pinned } from '@/places/set/graph/graph-edits';
import { laneOf, wordsOf } from '@/places/set/graph/chart-words';
import { ANYWHERE, boxOf, laidOut, placesOf } from '@/places/set/graph/layout';
import { recorder } from '@/places/drive/recorder';
import { askedOf, helmOfKeys } from '@/places/drive/steering';
import { mendOf } from '@/places/drive/mends';
import { heightAt, QUAY } from '@/stage/quay/ground';

const graph = (change: object = {}): Graph =>
  graphSchema.parse({
    inputs: [
      { name: 'speed', kind: 'number', from: 0, to: 3, unit: 'm/s' },
      { name: 'turn', kind: 'number', from: -60, to: 60 },
      { name: 'way', kind: 'number', from: -180, to: 180, unit: '°' },
      { name: 'hop', kind: 'press' },
    ],
    initial: 'waiting',
    states: [
      { name: 'waiting', plays: { clip: 'w' } },
      { name: 'moving', plays: { field: 'f', inputs: ['speed', 'turn'] } },
      { name: 'hopping', plays: { clip: 'h', loop: false } },
    ],
    transitions: [
      { from: 'waiting', to: 'moving' },
      { from: 'moving', to: 'waiting' },
      { from: null, to: 'hopping' },
    ],
    ...change,
  });

describe('the helm', () => {
  const asked = (x: number, y: number, now = [0, 0, 0, 0]) => askedOf(graph().inputs, { x, y }, now);

  test('ahead is speed, to the side a turn; a press stays as it is', () => {
    expect(asked(0, 1)).toEqual([3, 0, 0, 0]);
    expect(asked(0.5, 0.5, [0, 0, 0, 1])).toEqual([1.5, -30, 0, 1]);
    expect(asked(-1, 1)[1]).toBe(60);
  });

  test('who stands is told which way to face, and does not turn by a rate', () => {
    expect(asked(-1, 0)).toEqual([0, 0, 90, 0]);
    expect(asked(1, 0)[2]).toBe(-90);
    expect(asked(0, -1)[2]).toBe(180);
    expect(asked(0.05, 0.05)).toEqual([0, 0, 0, 0]);
  });

  test('where a field goes by direction the helm points there', () => {
    const inputs = graph({
      inputs: [
        { name: 'speed', kind: 'number', from: 0, to: 2 },
        { name: 'direction', kind: 'number', from: -180, to: 180, unit: '°' },
      ],
    }).inputs;
    const [speed, direction] = askedOf(inputs, { x: -0.5, y: 0 }, [0, 0]);
    expect([speed, direction]).toEqual([1, 90]);
  });

  test('keys: Shift makes haste, opposite ones cancel each other', () => {
    expect(helmOfKeys(new Set(['w']))).toEqual({ x: 0, y: 0.5 });
    expect(helmOfKeys(new Set(['w', 'shift', 'd']))).toEqual({ x: 1, y: 1 });
    expect(helmOfKeys(new Set(['a', 'd', 'arrowdown']))).toEqual({ x: 0, y: -1 });
  });
});

test('a recorder writes down what changes, at the step that it is played in', () => {
  const own = recorder({ state: 0, at: 0, led: 'root', inputs: [0, 0] });
  for (const inputs of [
    [0, 0],
    [1.4, 0],
    [1.4, 0],
    [1.4, 1],
    [1.4, 0],
  ])
    own.note(inputs);
  expect(own.script()).toEqual({
    state: 0,
    at: 0,
    led: 'root',
    inputs: [0, 0],
    steps: 5,
    changes: [
      { step: 1, input: 0, value: 1.4 },
      { step: 3, input: 1, value: 1 },
      { step: 4, input: 1, value: 0 },
    ],
  });
});

describe('the picture of a graph', () => {
  const box = (x: number, y: number) => ({ x, y, width: 190, height: 142 });

  test('a channel begins and ends on the borders, and its boat heads for where it leads', () => {
    const way = channelWay(box(0, 0), box(400, 0));
    expect(way.start[0]).toBeCloseTo(190, 0);
    expect(way.boat[0]).toBeGreaterThan(350);
    expect(Math.abs(way.boatTurn)).toBeLessThan(10);
    const back = channelWay(box(400, 0), box(0, 0));
    expect(Math.abs(back.boatTurn)).toBeGreaterThan(170);
    // There and back do not lie on each other.
    expect(Math.abs(way.along(0.5)[1] - back.along(0.5)[1])).toBeGreaterThan(30);
    expect(Math.abs(channelWay(box(0, 0), box(400, 0), 1).along(0.5)[1] - way.along(0.5)[1])).toBeGreaterThan(10);
  });

  test('words stand near to where a channel begins, and elsewhere where a card or other words would be in their way', () => {
    const [a, b] = [box(0, 0), box(600, 0)];
    const there = { from: a, to: b, lane: 0, text: 'once 90 % is played' };
    expect(labelsOf([there], [a, b])).toMatchObject([{ share: 0.42, isRight: true }]);
    // A third card lies on the first half of the way.
    const [x, y] = channelWay(a, b).along(0.42);
    const between = { x: x - 60, y: y - 40, width: 120, height: 80 };
    const [moved] = labelsOf([there], [a, b, between]);
    expect(channelWay(a, b).along(moved.share)[0]).toBeGreaterThan(between.x + between.width);
    // The picture of an overlap is where no card hides it.
    const [, dy] = labelsOf([there], [a, b, { x: 0, y: y - 300, width: 790, height: 290 }])[0].picture;
    expect(dy).toBeGreaterThan(0);
    expect(labelsOf([there], [a, b, { x: 0, y: y + 10, width: 790, height: 290 }])[0].picture[1]).toBeLessThan(0);
    // Two that lie close to each other have their words apart, and the picture is large enough for all of them.
    const channels = [there, { ...there, lane: 0, text: 'speed above 0.3 m/s, once 80 % is played' }];
    const labels = labelsOf(channels, [a, b]);
    expect(labels[0]).not.toEqual(labels[1]);
    const all = boundsOf(channels, labels, [a, b]);
    expect(all).toMatchObject({ x: 0, y: 0, width: 790 });
    expect(boundsOf([{ ...there, to: box(0, 400) }], [{ share: 0.5, isRight: false }], [a]).x).toBeLessThan(-50);
  });

  test('in the ready graph no words lie under a card, and the picture takes in its comments', () => {
    const own = graph();
    const places = placesOf(own);
    const { labels, bounds } = wordsOf(own, places, new Set());
    own.transitions.forEach(({ from, to }, i) => {
      const [a, b] = [boxOf(places, from ?? ANYWHERE), boxOf(places, to)];
      const [x, y] = channelWay(a, b, laneOf(own, i)).along(labels[i].share);
      for (const id of places.keys()) {
        const card = boxOf(places, id);
        const isUnder = x > card.x && x < card.x + card.width && y > card.y && y < card.y + card.height;
        expect([i, id, isUnder]).toEqual([i, id, false]);
      }
    });
    const far = wordsOf({ ...own, comments: [{ at: { x: bounds.x - 500, y: bounds.y }, text: 'mind the kerb' }] }, places, new Set());
    expect(far.bounds.x).toBe(bounds.x - 500);
    // What is shallow has more to say.
    expect(wordsOf(own, places, new Set(own.transitions.keys())).labels).not.toEqual(labels);
  });

  test('states are laid out without lying on each other, and stay where they are put', () => {
    const places = [...laidOut(graph()).values()];
    for (const [i, a] of places.entries())
      for (const b of places.slice(i + 1)) expect(Math.abs(a.x - b.x) > 180 || Math.abs(a.y - b.y) > 130).toBe(true);
    const put = graph({ states: graph().states.map((own, i) => ({ ...own, at: { x: i * 7, y: 0 } })) });
    expect(placesOf(put).get('moving')).toEqual({ x: 7, y: 0 });
    expect(placesOf(put).has(ANYWHERE)).toBe(true);
    expect(pinned(graph()).states.every(({ at }) => at !== undefined)).toBe(true);
  });

  test('what is added has a name of its own, and asks for what there is', () => {
    const { graph: more, name } = addState(addState(graph()).graph);
    expect(name).toBe('new state 2');
    expect(more.states).toHaveLength(5);
    const led = addTransition(graph(), 'hopping', 'moving');
    expect(led.transitions.at(-1)).toMatchObject({ from: 'hopping', to: 'moving', when: [{ input: 'speed', is: 'above', value: 1.5 }] });
    expect(addInput(addInput(graph(), 'switch'), 'switch').inputs.slice(-2)).toMatchObject([{ name: 'switch' }, { name: 'switch 2' }]);
    expect(conditionFor({ name: 'hop', kind: 'press' })).toEqual({ input: 'hop', is: 'pressed' });
  });

  test('a graph of another set is taken over by names; what is not there plays nothing', () => {
    const taken = copied(
      graph(),
      { clipOf: (id) => ({ w: 'wait', h: 'hop-rope' })[id], fieldOf: () => 'strolls' },
      { clips: new Map([['wait', 'w2']]), fields: new Map([['strolls', 'f2']]) },
    );
    expect(taken.states.map(({ plays }) => plays)).toEqual([{ clip: 'w2', loop: true }, { field: 'f2', inputs: ['speed', 'turn'] }, null]);
  });
});

test('the quay: level but for the kerb and the steps, which rise evenly and end', () => {
  expect(heightAt(0, 0)).toBe(0);
  expect(heightAt(QUAY.kerb.x + 0.5, 3)).toBe(QUAY.kerb.height);
  const { x, z, count, rise, deep, landing } = QUAY.steps;
  const heights = Array.from({ length: count }, (_, i) => heightAt(x[0] + 0.5, z + (i + 0.5) * deep));
  expect(heights.map((own) => own.toFixed(2))).toEqual(['0.16', '0.32', '0.48', '0.64']);
  expect(heightAt(x[0] + 0.5, z + count * deep + 0.5)).toBeCloseTo(count * rise, 6);
  expect(heightAt(x[0] + 0.5, z + 2 * count * deep + landing + 0.1)).toBe(0);
  expect(heightAt(x[0] - 0.1, z + 1)).toBe(0);
});

test('what is out of bounds is named with what would mend it', () => {
  const finding = { figure: 'pop', value: 3, answer: null, from: 'moving', to: 'hopping', clip: 'hop-rope' } as never;
  expect(mendOf(finding)).toBe('a longer overlap, or a clip from moving to hopping');
  expect(mendOf({ ...(finding as object), figure: 'answer', answer: 'stop' } as never)).toBe('a stop out of moving within two steps');
  expect(mendOf({ ...(finding as object), figure: 'answer', answer: 'start', from: 'waiting' } as never)).toBe(
    'a start out of waiting into a run',
  );
});
