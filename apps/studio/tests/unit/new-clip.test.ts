import { stepSchema, tagsOf, type Proposal } from '@lantern/motion';
import type { ClipDoc } from '@/data/clips-store';
import { defaultSteps, freeName, offeredNames, otherSide, recut } from '@/data/new-clip';

const doc = (more: Partial<ClipDoc> = {}): ClipDoc => ({
  id: 'a',
  name: 'stroll',
  source: { take: 't', from: 100, to: 160 },
  steps: defaultSteps(),
  gait: '',
  direction: '',
  ...more,
});

test('offered clips are named after the pattern, each its own, whatever the case', () => {
  const segment = { kind: 'turn', from: 0, to: 9, turnDeg: 91, speedMps: 1, direction: null } as const;
  const offer = (gait: string, direction: string): Proposal => ({
    name: '',
    tags: { gait, direction },
    from: 0,
    to: 9,
    isLoop: false,
    segment,
  });
  const two = [offer('walk', 'forward'), offer('walk', 'forward'), offer('idle', '')];
  const plain = '{character}-{gait}-{direction}';
  expect(offeredNames(two, plain, 'Wick', [])).toEqual(['wick-walk-forward', 'wick-walk-forward-01', 'wick-idle']);
  expect(offeredNames(two, plain, 'Wick', [doc({ name: 'WICK-idle' })])[2]).toBe('wick-idle-01');
  expect(offeredNames(two, '{gait}_{number}', 'Wick', [])).toEqual(['walk_01', 'walk_02', 'idle_01']);
  expect(offeredNames([offer('turn', tagsOf(segment).direction)], plain, 'Wick', [])).toEqual(['wick-turn-left-90']);
  expect(freeName('stroll-01', [doc({ name: 'stroll-01' }), doc({ name: 'STROLL-02' })])).toBe('stroll-03');
});

test('a new clip is closed, its feet held and its root put at the origin; what does not loop is left open', () => {
  expect(defaultSteps().map(({ id }) => id)).toEqual(['loop', 'foot-lock', 'travel']);
  expect(defaultSteps(false).map(({ kind }) => kind)).toEqual(['foot-lock', 'travel']);
  expect(defaultSteps(true, 'wick')[0]).toMatchObject({ kind: 'fit', character: 'wick' });
});

test('contacts set by hand stay where they are in the take when the clip is cut elsewhere, and go when they are outside', () => {
  const lock = stepSchema.parse({
    kind: 'foot-lock',
    contacts: {
      left: [
        { from: 5, to: 20 },
        { from: 40, to: 55 },
      ],
      right: [{ from: 0, to: 8 }],
    },
  });
  const moved = recut(doc({ steps: [lock] }), { from: 110, to: 160 });
  expect(moved.source).toEqual({ take: 't', from: 110, to: 160 });
  expect(moved.steps[0]).toMatchObject({
    contacts: {
      left: [
        { from: 0, to: 10 },
        { from: 30, to: 45 },
      ],
      right: [],
    },
  });
  expect(recut(doc(), { from: 1, to: 9 }).steps).toEqual(doc().steps);
});

test('the other side of a clip has the other name, direction and foot, bends the other way, and its other side is the clip again', () => {
  const steps = [
    stepSchema.parse({ kind: 'loop', start: 'left-stance' }),
    stepSchema.parse({ kind: 'path', shape: 'arc', radius: 3, points: [[1, 2]] }),
    stepSchema.parse({ kind: 'foot-lock', contacts: { left: [{ from: 1, to: 9 }], right: [] } }),
  ];
  const turn = doc({ name: 'wick-turn-left-90', gait: 'turn', direction: 'left-90', steps });
  const other = otherSide(turn, [turn]);
  expect(other).toMatchObject({ name: 'wick-turn-right-90', gait: 'turn', direction: 'right-90', source: turn.source });
  expect(other.id).not.toBe(turn.id);
  expect(other.steps.map(({ kind }) => kind)).toEqual(['mirror', 'loop', 'path', 'foot-lock']);
  expect(other.steps[1]).toMatchObject({ start: 'right-stance' });
  expect(other.steps[2]).toMatchObject({ radius: -3, points: [[-1, 2]] });
  expect(other.steps[3]).toMatchObject({ contacts: { left: [], right: [{ from: 1, to: 9 }] } });
  const back = otherSide(other, [other]);
  expect({ ...back, id: turn.id }).toEqual(turn);
  expect(otherSide(doc({ name: 'idle' }), [doc({ name: 'idle-mirrored' })]).name).toBe('idle-mirrored-01');
});
