import { captureDayTake, type DayTake } from '@lantern/capture';
import { draftCalled, scaleSkeleton, settleTake, slotId, slotList, slotSchema, type Motion, type SetDraft } from '../src';
import { cutsOf, type Cut } from '../src/draft/cuts';
import { rankCuts, whyBehind } from '../src/draft/rank-cuts';
import { recipeFor, WAYS } from '../src/draft/recipe-for';
import { badness } from '../src/draft/calm';
import { groundwork } from '../src/measure/groundwork';
import { orderProblems } from '../src/recipe/order';
import { NO_CONTRACT } from '../src/set/contract';
import { fills } from '../src/set/fills';

/** In centimetres, as a file has it. */
const scaled = (motion: Motion): Motion => ({
  ...motion,
  skeleton: scaleSkeleton(motion.skeleton, 100),
  rootPositions: motion.rootPositions.map((v) => v * 100),
});

const cuts = (take: DayTake, motion: Motion = take.motion): Cut[] => {
  const ground = groundwork(motion);
  if (!ground) throw new Error('no gait');
  return cutsOf(take.name, ground);
};
/** Slots of the full list that cuts fill. */
const filled = (all: readonly Cut[]) =>
  new Set(slotList('full').flatMap((slot) => (all.some(({ traits }) => fills(slot, traits, NO_CONTRACT) !== null) ? [slotId(slot)] : [])));

test('turns on the spot are found with their angles and sides', () => {
  const take = captureDayTake('turns', 4);
  const found = cuts(take);
  for (const angle of [45, 90, 180]) for (const side of ['left', 'right']) expect(filled(found)).toContain(`turn/${side}/${angle}`);
  for (const { from, to, traits } of found.filter((own) => own.traits.kind === 'turn')) {
    const own = take.truth.tries.find((one) => from < one.to && to > one.from);
    const [, side, angle] = own?.gives[0].split('/') ?? [];
    expect(Math.sign(traits.turnDeg)).toBe(side === 'left' ? 1 : -1);
    expect(Math.abs(Math.abs(traits.turnDeg) - Number(angle))).toBeLessThan(20);
  }
});

test('pivots, kerbs and hops are cut whole', () => {
  expect([...filled(cuts(captureDayTake('pivots', 4)))].some((id) => id.startsWith('pivot/jog/'))).toBe(true);
  expect(filled(cuts(captureDayTake('kerb', 4)))).toContain('step/kerb/up');
  const hops = cuts(captureDayTake('hop', 4)).filter(({ traits }) => traits.kind === 'flight');
  expect(hops.length).toBeGreaterThan(1);
  for (const { isLoop, traits } of hops) {
    expect(isLoop).toBe(false);
    expect(traits).toMatchObject({ on: 'both', standsFirst: true, standsLast: true });
  }
});

test.each([4, 20, 31])('leaps are never taken for a way of going, whichever foot lands a moment sooner: seed %s', (seed) => {
  const own = cuts(captureDayTake('hop', seed));
  expect(own.filter(({ traits }) => traits.kind === 'loop' || traits.kind === 'arc').map(({ from, to }) => [from, to])).toEqual([]);
  expect(own.filter(({ traits }) => traits.kind === 'flight').map(({ traits }) => traits.on)).toContain('both');
});

test.each([
  ['walk', 'a stumble', 2],
  ['walk', 'the suit switched on late', 5],
  // Who jogs leans farther than who stands, and who turns about is slow: neither has stumbled.
  ['jog', 'a stumble', 104],
  ['dash', 'nothing wrong', 104],
  ['pivots', 'a stumble near the bend', 112],
  ['pivots', 'a stumble away from it', 121],
])('what is cut from a try that went wrong says so, and nothing else does: %s with %s', (name, _, seed) => {
  const take = captureDayTake(name, seed);
  const seen = { wrong: 0, right: 0 };
  for (const { from, to, fault, traits } of cuts(take)) {
    if (traits.kind === 'idle') continue;
    const own = take.truth.tries.find((one) => from >= one.from && to <= one.to);
    if (!own) continue;
    const isWrong = own.spoilt === 'stumble' || own.spoilt === 'cut';
    seen[isWrong ? 'wrong' : 'right']++;
    expect([from, fault !== null]).toEqual([from, isWrong]);
  }
  expect(seen.right).toBeGreaterThan(2);
  expect(seen.wrong > 2).toBe(take.truth.tries.some(({ spoilt }) => spoilt === 'stumble' || spoilt === 'cut'));
});

test('a take that walks on and on from its first frame to its last is no try that was cut', () => {
  const take = captureDayTake('walk', 1);
  const [, second] = take.truth.tries;
  const middle: Motion = {
    ...take.motion,
    frames: 180,
    rotations: take.motion.rotations.slice((second.from + 200) * 21 * 4, (second.from + 380) * 21 * 4),
    rootPositions: take.motion.rootPositions.slice((second.from + 200) * 3, (second.from + 380) * 3),
  };
  const found = cuts(take, middle);
  expect(found.length).toBeGreaterThan(0);
  expect(found.every(({ fault }) => fault === null)).toBe(true);
});

describe('ranking', () => {
  const walk = cuts(captureDayTake('walk', 1));
  const set = { slots: slotList('full'), contract: NO_CONTRACT };
  const slot = slotSchema.parse({ kind: 'loop', gait: 'walk' });

  test('the cheapest comes first, one with a fault last, and each of the others says why', () => {
    const ranked = rankCuts(slot, walk, set, 1);
    expect(ranked.length).toBeGreaterThan(3);
    expect(ranked.map(({ cost }) => cost)).toEqual(ranked.map(({ cost }) => cost).sort((a, b) => a - b));
    const [best, ...others] = ranked;
    for (const own of others) expect(whyBehind(own, best)).not.toBe('');
    const spoilt = rankCuts(slot, [{ ...best.cut, fault: 'he stumbles in it' }, ...others.map(({ cut }) => cut)], set, 1);
    expect(spoilt.at(-1)?.cut.fault).toBe('he stumbles in it');
  });

  test('the other side stands in where a side was not captured, behind what was', () => {
    const turns = cuts(captureDayTake('turns', 4)).filter(({ traits }) => traits.turnDeg > 0);
    const right = slotSchema.parse({ kind: 'turn', angle: 90, side: 'right' });
    const [best] = rankCuts(right, turns, set, 1);
    expect(best).toMatchObject({ isMirrored: true });
    expect(best.cut.traits.turnDeg).toBeGreaterThan(60);
  });
});

test('every way of every slot is a recipe in an order in which each step does something', () => {
  for (const slot of slotList('full'))
    for (const { way } of [...WAYS.loop, ...WAYS.once]) {
      const wanted = { slot, character: 'wick', isMirrored: true, mps: 1.4, metres: 2, turnDeg: 90, meetsHome: true };
      expect(orderProblems(recipeFor(wanted, way))).toEqual([]);
    }
});

test('the floor is settled without asking, a rate that flights speak against is settled and told, and what the owner has said stands', () => {
  const { motion } = captureDayTake('hop', 1);
  const take = { name: 'hop', format: 'bvh' as const, motion: scaled(motion), warnings: [] };
  const right = settleTake('hop', take);
  expect(right.overrides).toEqual({ floorToZero: true });
  expect(right.doubts).toEqual([]);
  expect(Math.abs(groundwork(right.motion)?.soles.floor ?? 1)).toBeLessThan(0.004);
  const slow = settleTake('hop', { ...take, motion: { ...take.motion, fps: 30 } });
  expect(slow.overrides.fps).toBe(60);
  expect(slow.doubts.map((own) => own.take)).toEqual(['hop']);
  expect(settleTake('hop', { ...take, motion: { ...take.motion, fps: 30 } }, { fps: 50 }).overrides.fps).toBe(50);
});

test('a draft called otherwise loses what is gone', () => {
  const draft: SetDraft = {
    choices: [
      { slot: 'idle', clip: 'a', why: 'best', out: [], others: [{ source: { take: 't', from: 0, to: 9 }, steps: [], why: 'as good' }] },
      { slot: 'loop/walk/forward', clip: 'b', why: 'best', out: [], others: [] },
    ],
    doubts: [],
    changes: [],
  };
  const called = draftCalled(
    draft,
    (clip) => (clip === 'a' ? 'wait' : null),
    () => null,
  );
  expect(called.choices.map(({ clip, others }) => [clip, others.length])).toEqual([
    ['wait', 0],
    [null, 0],
  ]);
});

test('only pops and slides beyond their bounds are bad', () => {
  expect(badness({ worst: { pop: 1.9, slide: 0.4, answer: 500, gap: 500 } })).toBe(0);
  expect(badness({ worst: { pop: 3, slide: 1, answer: 0, gap: 0 } })).toBeCloseTo(1.5);
});
