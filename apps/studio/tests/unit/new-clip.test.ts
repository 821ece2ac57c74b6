import { stepSchema, tagsOf, type Proposal } from '@lantern/motion';
import type { ClipDoc } from '@/data/clips-store';
import { defaultSteps, freeName, offeredNames, recut, STEP_ORDER, withStep } from '@/data/new-clip';

const doc = (more: Partial<ClipDoc> = {}): ClipDoc => ({
  id: 'a',
  take: 't',
  name: 'stroll',
  from: 100,
  to: 160,
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

test('a step that is added comes where it is run, whatever was there before', () => {
  for (const kind of ['floor', 'typical-cycle'] as const) {
    const kinds = withStep(defaultSteps(), kind).map((step) => step.kind);
    expect(kinds).toEqual(STEP_ORDER.filter((k) => kinds.includes(k)));
  }
  expect(defaultSteps(false).map(({ kind }) => kind)).toEqual(['foot-lock', 'travel']);
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
  expect(moved).toMatchObject({ from: 110, to: 160 });
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
