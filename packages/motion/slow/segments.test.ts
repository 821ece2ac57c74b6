import { capture, expressOn, SCRIPTS, zoo } from '@lantern/capture';
import { findLoops, proposals, segments } from '@lantern/motion';
import { sameKind } from '../src/find/segments';
import { median } from '../src/math/statistics';
import { groundwork, type Groundwork } from '../src/measure/groundwork';
import { cutClip } from '../src/model/clip';
import { trackOf } from '../src/model/track';
import { gaitOf, suit } from '../tests/made';

test.each(SCRIPTS)('%s: nineteen seconds in twenty are what the script says they are', (script) => {
  const { gait, truth } = suit(script, { seed: 40, seconds: 12 });
  expect(sameKind(truth.labels, segments(gait))).toBeGreaterThan(0.95);
});

test('what is read covers the take from end to end, and says where to and how far', () => {
  const { gait, motion } = suit('rounds', { seed: 7 });
  const found = segments(gait);
  expect(found[0].from).toBe(0);
  found.slice(1).forEach(({ from }, i) => expect(from).toBe(found[i].to));
  expect(found[found.length - 1].to).toBe(motion.frames);
  const turns = found.filter(({ kind }) => kind === 'turn');
  expect(turns).toHaveLength(2);
  for (const { turnDeg } of turns) expect(Math.abs(turnDeg - 90)).toBeLessThan(8);
  expect(found.find(({ kind }) => kind === 'run')).toMatchObject({ direction: 'forward' });
  expect(found.find(({ kind }) => kind === 'run')?.speedMps).toBeCloseTo(2.8, 1);
  expect(segments(suit('backwards', { seed: 7 }).gait)[0].direction).toBe('backward');
  expect(segments(suit('sideways', { seed: 7, seconds: 10 }).gait).find(({ kind }) => kind === 'walk')?.direction).toMatch(/left|right/);
});

test('clips are proposed: the best cycle of every gait, and starts, stops and turns as they are, each with a name of its own', () => {
  const { gait } = suit('rounds', { seed: 7 });
  const made = proposals(gait, segments(gait), findLoops(gait).candidates);
  const names = made.map(({ name }) => name);
  expect(new Set(names).size).toBe(names.length);
  for (const name of [
    'walk-forward',
    'run-forward',
    'turn-left-90',
    'turn-left-90-2',
    'walk-start',
    'walk-stop',
    'run-start',
    'run-stop',
    'idle',
  ]) {
    expect(names).toContain(name);
  }
  for (const { from, to, isLoop, segment } of made) {
    expect(to).toBeGreaterThan(from);
    if (isLoop) expect([from >= segment.from - 2, to <= segment.to + 2]).toEqual([true, true]);
    else expect(from <= segment.from && to >= segment.to - 1).toBe(true);
  }
});

/** Hops that are proposed of a take of three, each begun and ended as high as he stands at first; and not much stillness is about them. */
function expectUpright(gait: Groundwork): void {
  const hips = trackOf(gait.globals, gait.body.hips, 1);
  const stands = median(hips.subarray(0, gait.motion.fps / 2));
  const hops = proposals(gait, segments(gait), []).filter(({ segment }) => segment.kind === 'flight');
  expect(hops.map(({ name }) => name)).toEqual(['hop', 'hop-2', 'hop-3']);
  for (const { from, to, segment } of hops) {
    for (const f of [from, to]) expect(Math.abs(hips[f] - stands)).toBeLessThan(0.02 * stands);
    // The crouch is a good part of it.
    expect(segment.from - from).toBeGreaterThan(0.2 * gait.motion.fps);
    expect(segment.from - from + to - segment.to).toBeLessThan(2 * gait.motion.fps);
  }
}

test.each([
  [3, 1],
  [14, 1],
  [21, 3],
])('hops are proposed from standing upright to standing upright, not from within the crouch (seed %i, faults × %i)', (seed, faults) => {
  expectUpright(suit('hop', { seed, seconds: 12, faults }).gait);
});

test('so they are on other skeletons, at other rates', () => {
  for (const { rig, fps } of zoo().filter((_, i) => i % 6 === 0))
    expectUpright(gaitOf(expressOn(rig, capture('hop', { seed: 14, seconds: 12, stature: rig.stature, fps }).motion).motion));
});

test('a take that ends in the crouch of a landing is proposed up to its end', () => {
  const { gait } = suit('hop', { seed: 3, seconds: 12 });
  const cut = groundwork(cutClip(gait.motion, 0, 270).motion);
  if (!cut) throw new Error('nobody');
  const [hop] = proposals(cut, segments(cut), []).filter(({ segment }) => segment.kind === 'flight');
  expect(hop.to).toBeGreaterThan(260);
  expect(hop.to).toBeLessThan(271);
});
