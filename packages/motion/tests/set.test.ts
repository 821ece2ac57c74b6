import {
  contractCsv,
  contractLines,
  contractSchema,
  coverage,
  DIRECTIONS,
  floorSketch,
  recipeSchema,
  setConstants,
  setSchema,
  setStep,
  shotCsv,
  shotList,
  shotText,
  slotId,
  slotList,
  slotName,
  slotOnOtherSide,
  slotSchema,
  speedCourse,
  stepsForContract,
  type SetClip,
  type Slot,
} from '@lantern/motion';
import fc from 'fast-check';
import { setClip } from './set-made';

const walk = setClip('any name', { script: 'walk', speed: 1.3, proposal: /walk-forward/ });
const jog = setClip('jog', { script: 'jog', speed: 2.8, proposal: /run-forward/ });
const wait = setClip('wait', { script: 'idle', seconds: 16, proposal: /idle/ });
const turn = setClip('turned', { script: 'turns', proposal: /turn-left-90/ });
const off = setClip('off', { script: 'start-stop', speed: 1.3, proposal: /start/ });
const halt = setClip('halt', { script: 'start-stop', speed: 1.3, proposal: /stop/ });
const arc = setClip('round', { script: 'jog', speed: 2.8, proposal: /run-forward/, steps: [{ kind: 'path', shape: 'arc', radius: 3 }] });
const all: SetClip[] = [walk, jog, wait, turn, off, halt, arc];
const slot = (input: Parameters<typeof slotSchema.parse>[0]) => slotSchema.parse(input);

test('what a clip is, is measured of it', () => {
  expect(all.map(({ traits }) => traits.kind)).toEqual(['loop', 'loop', 'idle', 'turn', 'start', 'stop', 'arc']);
  expect([walk, jog, off, halt, arc].map(({ traits }) => traits.gait)).toEqual(['walk', 'run', 'walk', 'walk', 'run']);
  expect(walk.traits.direction).toBe('forward');
  expect(walk.traits.speedMps).toBeCloseTo(1.3, 1);
  expect(turn.traits.turnDeg).toBeGreaterThan(85);
  expect(turn.traits.turnDeg).toBeLessThan(95);
  expect(arc.traits.turnDegS).toBeCloseTo(53.5, 0);
  expect([off.traits.standsFirst, off.traits.standsLast, halt.traits.standsFirst, halt.traits.standsLast]).toEqual([
    true,
    false,
    false,
    true,
  ]);
});

test.each([
  ['backwards', 'backward', /walk-backward/],
  ['sideways', 'left', /walk-left/],
  ['hush', 'forward', /sneak-forward/],
] as const)('someone who goes %s goes %s', (script, direction, proposal) => {
  const { traits } = setClip('x', { script, proposal });
  expect([traits.kind, traits.direction]).toEqual(['loop', direction]);
  expect(traits.gait).toBe(script === 'hush' ? 'hush' : 'walk');
});

test.each([
  [/^hop$/, 'both'],
  [/^hop-2$/, 'left'],
  [/^hop-3$/, 'right'],
] as const)('hops %s land on %s', (proposal, on) => {
  const { traits } = setClip('x', { script: 'hop', seed: 14, proposal });
  expect([traits.kind, traits.on]).toEqual(['flight', on]);
});

test('a slot is filled, to be mirrored, or missing, and the counts say the same', () => {
  const set = setSchema.parse({ name: 'lamplighter', slots: 'full' });
  const { slots, counts, spare } = coverage(set, all, null);
  const state = (id: string) => slots.find((own) => own.id === id)?.state;
  expect(state('idle')).toBe('filled');
  expect(state('loop/walk/forward')).toBe('filled');
  expect(state('turn/left/90')).toBe('filled');
  expect(state('turn/right/90')).toBe('mirror');
  expect(state('arc/jog/right')).toBe('mirror');
  expect(state('turn/left/180')).toBe('missing');
  expect(counts.filled + counts.mirror + counts.missing).toBe(31);
  expect(slots.filter((own) => own.state === 'missing')).toHaveLength(counts.missing);
  expect(spare).toEqual([]);
});

test('of two clips that contend the better one by its figures is proposed, and why; a pin settles it', () => {
  const worse: SetClip = {
    ...walk,
    id: 'worse',
    name: 'worse',
    traits: { ...walk.traits, figures: { ...walk.traits.figures, slideCm: 2 } },
  };
  const set = setSchema.parse({ name: 'a', slots: [{ kind: 'loop', gait: 'walk' }] });
  const [doubted] = coverage(set, [worse, walk], null).slots;
  expect([doubted.state, doubted.clip]).toEqual(['doubted', 'any name']);
  expect(doubted.others[0].why).toMatch(/a slide of 2\.00 cm, the other has a slide of 0\.\d\d cm/);
  const [pinned] = coverage({ ...set, pins: { 'loop/walk/forward': 'worse' } }, [worse, walk], null).slots;
  expect([pinned.state, pinned.clip, pinned.isPinned]).toEqual(['filled', 'worse', true]);
  const [without] = coverage({ ...set, without: ['worse'] }, [worse, walk], null).slots;
  expect([without.state, without.clip]).toEqual(['filled', 'any name']);
});

test('of two slots of one gait a clip goes to the one whose speed is nearer; one that is far from both fills neither', () => {
  const set = setSchema.parse({
    name: 'a',
    slots: [
      { kind: 'loop', gait: 'walk', speedMps: 1.2 },
      { kind: 'loop', gait: 'walk', speedMps: 1.8 },
    ],
  });
  const { slots } = coverage(set, [walk], null);
  expect(slots.map(({ id, state }) => [id, state])).toEqual([
    ['loop/walk/forward/1.2', 'filled'],
    ['loop/walk/forward/1.8', 'missing'],
  ]);
  const far = setSchema.parse({ name: 'a', slots: [{ kind: 'loop', gait: 'walk', speedMps: 2.2 }] });
  expect(coverage(far, [walk], null)).toMatchObject({ slots: [{ state: 'missing' }], spare: ['any name'] });
});

test('the other side of the other side is the slot itself, for every slot of the full list and every direction', () => {
  const directions: Slot[] = DIRECTIONS.map((direction) => slot({ kind: 'loop', gait: 'walk', direction }));
  for (const own of [...slotList('full'), ...slotList('modest'), ...directions]) {
    const other = slotOnOtherSide(own);
    if (!other) continue;
    expect(slotOnOtherSide(other)).toEqual(own);
  }
  expect(slotOnOtherSide(slot({ kind: 'loop', gait: 'walk', direction: 'backward' }))).toBeNull();
});

test('ready lists have a dozen slots and thirty-one, each once', () => {
  for (const [name, count] of [
    ['modest', 12],
    ['full', 31],
  ] as const) {
    const ids = slotList(name).map(slotId);
    expect(ids).toHaveLength(count);
    expect(new Set(ids).size).toBe(count);
    expect(new Set(slotList(name).map(slotName)).size).toBe(count);
  }
});

test('a start leaves into the loop of its gait at a stated phase and speed', () => {
  const set = setSchema.parse({ name: 'a', slots: 'full' });
  const { slots } = coverage(set, all, null);
  const loop = slots.find(({ id }) => id === 'start/walk')?.loop;
  expect(loop?.loop).toBe('any name');
  expect(loop?.end).toBe('last');
  expect(loop?.phase).toBeGreaterThanOrEqual(0);
  expect(loop?.phase).toBeLessThan(1);
  // Nobody is farther from his own gait than a step, and nobody exactly in it.
  expect(loop?.cm).toBeGreaterThan(0.3);
  expect(loop?.cm).toBeLessThan(15);
  expect(loop?.loopMps).toBeCloseTo(1.3, 1);
});

test('each missing slot is a shot that a performer can follow; a line that was changed stays as it was written', () => {
  const set = setSchema.parse({
    name: 'a',
    slots: [{ kind: 'stop', gait: 'jog', foot: 'right' }, { kind: 'loop', gait: 'hush', direction: 'backward' }, { kind: 'idle' }],
    shots: [
      { id: '1', slot: 'loop/hush/backward', text: 'Creep back to the crates.' },
      { id: '2', text: 'Tip the cap.' },
    ],
  });
  const shots = shotList(set, coverage(set, [wait], null).slots);
  expect(shots.map(({ number, text, gives, isEdited }) => [number, text, gives, isEdited])).toEqual([
    [1, 'Jog stop on the right foot, 3 m run-up, two good strides.', 'jog-stop-right', false],
    [2, 'Creep back to the crates.', 'hush-backward', true],
    [3, 'Tip the cap.', '', true],
  ]);
  expect(shotCsv(shots).split('\n')[1]).toBe(
    '1,"Jog stop on the right foot, 3 m run-up, two good strides.",jog-stop-right,stop/jog/right,3 m,no',
  );
});

test('every slot has a sentence that ends, and a sketch whose feet lie along its way', () => {
  const contract = contractSchema.parse({});
  for (const own of slotList('full')) {
    expect(shotText(own, contract)).toMatch(/^[A-Z].*\.$/);
    const sketch = floorSketch(own, contract);
    if (own.kind === 'idle') expect(sketch).toBeNull();
    else expect(sketch?.steps.length).toBeGreaterThan(1);
  }
  const stop = floorSketch(slot({ kind: 'stop', gait: 'jog', foot: 'right' }), contract);
  expect(stop?.steps.at(-1)).toMatchObject({ side: 'right', isKey: true });
  expect(stop?.markZ).toBe(3);
});

test('the contract says what each number asks of its clip, and where that breaks', () => {
  const set = setSchema.parse({
    name: 'a',
    slots: 'full',
    contract: { speedMps: { walk: { forward: 1.45 }, jog: { forward: 4 } }, turnRateDegS: { jog: 60 }, stoppingM: { walk: 0.8 } },
  });
  const lines = contractLines(set.contract, coverage(set, all, null), all);
  const line = (id: string) => lines.find((own) => own.id === id);
  const walking = line('speedMps/walk/forward');
  expect(walking?.breaks).toBeNull();
  expect((walking?.warp?.time ?? 0) * (walking?.warp?.stride ?? 0)).toBeCloseTo(1.45 / walk.traits.speedMps, 2);
  // It can be brought to any speed that it says it can, and to none beyond.
  const [least, most] = walking?.reach ?? [0, 0];
  expect(least).toBeLessThan(1.3);
  expect(most).toBeGreaterThan(1.45);
  expect(line('turnRateDegS/jog')?.warp?.path).toBeCloseTo(60 / arc.traits.turnDegS, 2);
  expect(line('stoppingM/walk')?.measured).toBeCloseTo(halt.traits.distanceM, 5);
  expect(contractCsv(lines).split('\n')).toHaveLength(lines.length + 2);
});

test('what the contract needs is put into a recipe: a step that is there is set, else it is added where it belongs', () => {
  const set = setSchema.parse({ name: 'a', slots: 'full', contract: { speedMps: { walk: { forward: 1.45 } }, turnRateDegS: { jog: 60 } } });
  const lines = contractLines(set.contract, coverage(set, all, null), all);
  const steps = recipeSchema.parse([{ kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'travel' }]);
  const [speed] = lines.filter(({ id }) => id === 'speedMps/walk/forward');
  const once = stepsForContract(speed, walk, steps) ?? [];
  expect(once.map(({ kind }) => kind)).toEqual(['loop', 'speed', 'foot-lock', 'travel']);
  expect(once[1]).toMatchObject({ mps: 1.45 });
  const twice = setStep(once, { kind: 'speed', mps: 1.5 });
  expect(twice).toHaveLength(4);
  expect(twice[1]).toMatchObject({ id: once[1].id, mps: 1.5 });
  const [turns] = lines.filter(({ id }) => id === 'turnRateDegS/jog');
  expect(stepsForContract(turns, arc, steps)?.find(({ kind }) => kind === 'path')).toMatchObject({
    shape: 'arc',
    radius: expect.closeTo(2.67, 1),
  });
  expect(stepsForContract({ ...speed, asked: null }, walk, steps)).toBeNull();
});

test('a set states its own numbers in the shape of a contract, which it then keeps', () => {
  const set = setSchema.parse({ name: 'a', slots: 'full' });
  const own = setConstants(contractLines(set.contract, coverage(set, all, null), all));
  expect(own.speedMps.walk?.forward).toBeCloseTo(walk.traits.speedMps, 2);
  expect(own.turnAnglesDeg).toContain(90);
  const kept = { ...set, contract: own };
  const lines = contractLines(own, coverage(kept, all, null), all).filter(({ asked, clip }) => asked !== null && clip !== null);
  expect(lines.length).toBeGreaterThan(3);
  expect(lines.filter(({ breaks }) => breaks !== null).map(({ id }) => id)).toEqual([]);
});

test('a start gathers speed, a stop loses it, a walk does neither', () => {
  const [up, down, even] = [off, halt, walk].map(({ clip }) => speedCourse(clip));
  expect(up?.rampSeconds).toBeGreaterThan(0.2);
  expect(down?.ratePerS2).toBeGreaterThan(0.5);
  expect(even?.rampSeconds).toBeNull();
  expect(up?.mps.at(-1)).toBeGreaterThan(up?.mps[0] ?? Infinity);
});

test('whatever a contract says, it is read back as it was written', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.1, max: 15, noNaN: true }), fc.constantFrom(...DIRECTIONS), (mps, direction) => {
      const contract = contractSchema.parse({ speedMps: { walk: { [direction]: mps } } });
      expect(contractSchema.parse(JSON.parse(JSON.stringify(contract)))).toEqual(contract);
    }),
    { numRuns: 40 },
  );
});
