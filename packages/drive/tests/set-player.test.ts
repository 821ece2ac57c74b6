import { playMeters, setPlayer, STEP, type PlayGraph, type PlaySet, type PlayTransition, type SetPlayer } from '@lantern/drive';
import { dollSet } from './made';
import { jointPlaces } from './places';

const stateOf = (set: PlaySet, player: SetPlayer) => set.graph.states[player.state()].name;

/** Plays for some seconds, step by step; what is asked may change on the way. */
function play(player: SetPlayer, seconds: number, step = STEP, each: (t: number) => void = () => {}): void {
  for (let i = 0; i < Math.round(seconds / step); i++) {
    player.tick(step);
    each((i + 1) * step);
  }
}

const farthest = (a: Float64Array, b: Float64Array) => a.reduce((most, v, i) => Math.max(most, Math.abs(v - b[i])), 0);
const pressing = (when: PlayTransition['when']): PlayTransition['when'] => when;

test('it begins in the initial state, and goes where conditions lead', () => {
  const set = dollSet();
  const player = setPlayer(set);
  play(player, 1);
  expect(stateOf(set, player)).toBe('waiting');
  player.set('speed', 1.2);
  player.tick(STEP);
  expect(stateOf(set, player)).toBe('moving');
  play(player, 3);
  expect(player.root[1]).toBeGreaterThan(2.8);
  player.set('speed', 0);
  player.tick(STEP);
  expect(stateOf(set, player)).toBe('waiting');
});

test('a press is true until the transition that asks for it has started, which waits for its landing', () => {
  const set = dollSet();
  const player = setPlayer(set);
  player.set('speed', 1.2);
  play(player, 1);
  player.press('hop');
  let ticks = 0;
  while (stateOf(set, player) === 'moving' && ticks++ < 120) {
    expect(player.inputs[2]).toBe(1);
    player.tick(STEP);
  }
  expect(stateOf(set, player)).toBe('hopping');
  expect(player.inputs[2]).toBe(0);
  // After eight tenths of 0.7 s it goes back.
  const entered = player.started();
  play(player, 0.54);
  expect(player.started()).toBe(entered);
  play(player, 0.06);
  expect(stateOf(set, player)).toBe('moving');
});

test('the first of the transitions whose conditions hold starts, and one at the most in a step', () => {
  const always = (from: string | null, to: string): PlayTransition => ({ ...dollSet().graph.transitions[0], from, to, when: pressing([]) });
  const set = dollSet({ transitions: [always('waiting', 'hopping'), always('waiting', 'moving'), always('hopping', 'waiting')] });
  const player = setPlayer(set);
  player.tick(STEP);
  expect(stateOf(set, player)).toBe('hopping');
  expect(player.started()).toBe(1);
  player.tick(STEP);
  expect(stateOf(set, player)).toBe('waiting');
  expect(player.started()).toBe(2);
});

test('an overlap is broken off only by what may', () => {
  const { transitions } = dollSet().graph;
  const tried = (breakOff: PlayTransition['breakOff'], urgent: boolean) => {
    const set = dollSet({
      transitions: [
        { ...transitions[0], overlap: 0.5, breakOff },
        { ...transitions[1], urgent },
      ],
    });
    const player = setPlayer(set);
    player.set('speed', 1.2);
    player.tick(STEP);
    player.set('speed', 0);
    let steps = 0;
    while (stateOf(set, player) === 'moving' && steps < 100) {
      player.tick(STEP);
      steps++;
    }
    return steps;
  };
  expect(tried('anything', false)).toBe(1);
  expect(tried('urgent', false)).toBe(30);
  expect(tried('urgent', true)).toBe(1);
  expect(tried('nothing', true)).toBe(30);
});

test('a transition from anywhere does not lead from where it leads to', () => {
  const set = dollSet({
    transitions: [
      { ...dollSet().graph.transitions[1], from: null, to: 'waiting', when: [{ input: 'tired', is: 'on' }] },
      dollSet().graph.transitions[0],
    ],
  });
  const player = setPlayer(set);
  player.set('tired', true);
  play(player, 0.5);
  expect(player.started()).toBe(0);
  player.set('tired', false);
  player.set('speed', 2);
  play(player, 0.5);
  player.set('tired', true);
  player.tick(STEP);
  expect(stateOf(set, player)).toBe('waiting');
});

/** A changing game: what is asked at a time. */
function asks(player: SetPlayer, t: number): void {
  const whole = Math.round(t * 60);
  if (whole === 30) player.set('speed', 1.3);
  if (whole === 90) player.set('turn', 30);
  if (whole === 140) player.set('speed', 2.2);
  if (whole === 150) player.press('hop');
  if (whole === 260) player.set('speed', 0);
  if (whole === 270) player.set('speed', 1.8);
}

test.each([1 / 1000, 1 / 240, 1 / 30, 0.05])('it is all the same how long a tick is: %f s', (step) => {
  const run = (own: number) => {
    const set = dollSet();
    const player = setPlayer(set);
    const places = [];
    for (let i = 0; i < Math.round(6 / own); i++) {
      const before = i * own;
      // What is asked changes at twentieths of a second, which all lengths of ticks meet.
      if (Math.abs(before * 20 - Math.round(before * 20)) < 1e-6) asks(player, Math.round(before * 20) / 20);
      player.tick(own);
      if (Math.abs((i + 1) * own * 10 - Math.round((i + 1) * own * 10)) < 1e-6) places.push(jointPlaces(set.skeleton, player));
    }
    return places;
  };
  const [one, other] = [run(1 / 60), run(step)];
  expect(other.length).toBe(one.length);
  one.forEach((places, i) => expect(farthest(places, other[i])).toBeLessThan(1e-4));
});

test('between whole steps the pose goes on without a jump', () => {
  const set = dollSet();
  const player = setPlayer(set);
  let last = jointPlaces(set.skeleton, player);
  for (let i = 0; i < 4000; i++) {
    if (i % 50 === 0) asks(player, i / 1000);
    player.tick(0.001);
    const now = jointPlaces(set.skeleton, player);
    expect(farthest(now, last)).toBeLessThan(0.012);
    last = now;
  }
});

test('the same asked, the same comes to the bit', () => {
  const run = () => {
    const player = setPlayer(dollSet());
    play(player, 6, STEP, (t) => asks(player, t));
    return [...player.rotations, ...player.root, ...player.hips];
  };
  expect(run()).toEqual(run());
});

test('put back it plays as at first', () => {
  const player = setPlayer(dollSet());
  const run = () => {
    play(player, 4, STEP, (t) => asks(player, t));
    return [...player.rotations, ...player.root];
  };
  const first = run();
  player.reset();
  expect(run()).toEqual(first);
});

/** What is measured while a set is asked for this and that, for eight seconds. */
function measured(set: PlaySet) {
  const player = setPlayer(set);
  const meters = playMeters(set, player);
  play(player, 8, STEP, (t) => {
    asks(player, t);
    meters.read();
  });
  return meters;
}

test('feet that bear stay, through overlaps and blends; nothing jumps', () => {
  const set = dollSet();
  const meters = measured(set);
  expect(meters.worst[0]).toBeLessThan(0.1);
  expect(meters.worst[1]).toBeLessThan(2);
  expect(meters.answers[0]).toBeGreaterThan(3);
  expect(meters.answers[0]).toBeLessThanOrEqual(12);
});

test('without an overlap the meter sees the jump', () => {
  const { transitions } = dollSet().graph;
  const set = dollSet({ transitions: transitions.map((own) => ({ ...own, overlap: 0 })) });
  const meters = measured(set);
  expect(meters.worst[1]).toBeGreaterThan(4);
});

test.each(['phase', 'foot', 'best'] as const)('an entry by %s comes in with feet near to where they are', (entry) => {
  const first = dollSet().graph;
  const graph: PlayGraph = {
    ...first,
    transitions: [first.transitions[0], first.transitions[1], { ...first.transitions[3], entry }, first.transitions[2]],
  };
  const set = dollSet(graph);
  const player = setPlayer(set);
  player.reset(2, 0.8);
  const phase = player.phase();
  player.tick(STEP);
  expect(stateOf(set, player)).toBe('moving');
  const off = Math.abs(player.phase() - phase);
  expect(Math.min(off, 1 - off)).toBeLessThan({ phase: 0.02, foot: 0.5, best: 0.2 }[entry]);
});

test('a fade plays on what is left, and feet still stay', () => {
  const { transitions } = dollSet().graph;
  const set = dollSet({ transitions: transitions.map((own) => ({ ...own, fade: true, overlap: 0.3 })) });
  const meters = measured(set);
  expect(meters.worst[0]).toBeLessThan(0.1);
});

test('a capsule goes as it is asked at once, the body comes after it', () => {
  const set = dollSet();
  const player = setPlayer(set, { capsule: { acceleration: 12, deceleration: 16, springSeconds: 0.25, mostMetres: 0.2 } });
  const meters = playMeters(set, player);
  player.set('speed', 2.4);
  play(player, 2, STEP, () => meters.read());
  expect(player.capsule?.[3]).toBeCloseTo(2.4, 6);
  expect(meters.worst[3]).toBeLessThanOrEqual(20.0001);
  expect(meters.worst[3]).toBeGreaterThan(1);
  player.set('speed', 0);
  play(player, 2, STEP, () => meters.read());
  expect(meters.now[3]).toBeLessThan(1);
});

test('what is not there is said', () => {
  const set = dollSet({ initial: 'swimming' });
  expect(() => setPlayer(set)).toThrow('There is no state “swimming” in the graph.');
  expect(() => setPlayer(dollSet()).set('sped', 1)).toThrow('There is no input “sped” in the graph.');
});

test('feet come down on steps whose heights the game tells, and the body goes up with them without a jolt', () => {
  const set = dollSet();
  const player = setPlayer(set);
  const heightAt = (z: number) => (z < 2 ? 0 : z < 2.8 ? 0.12 : 0.24);
  player.set('speed', 1.2);
  const { left, right } = set.skeleton.legs;
  let [last, slope] = [NaN, NaN];
  const [off, high]: [number[], number[]] = [[], []];
  for (let f = 0; f < 300; f++) {
    const places = jointPlaces(set.skeleton, player);
    [left, right].forEach(({ toe }, side) => (player.ground[side] = heightAt(places[toe * 3 + 2])));
    player.tick(STEP);
    const now = jointPlaces(set.skeleton, player);
    [left, right].forEach(({ toe }, side) => {
      // Over the middle of a tread, where it has come down for good.
      const [y, z] = [now[toe * 3 + 1], now[toe * 3 + 2]];
      if (player.down[side] && player.phase() % 0.5 > 0.2) off.push(Math.abs(y - heightAt(z)));
    });
    high.push(now[1]);
    if (!Number.isNaN(slope)) expect(Math.abs(now[1] - last - slope)).toBeLessThan(0.012);
    [slope, last] = [now[1] - last, now[1]];
  }
  expect(Math.max(...off)).toBeLessThan(0.03);
  expect(high[299] - high[30]).toBeGreaterThan(0.2);
});

test('the meters say what was done: a jump in cm, a foot that is dragged in cm, an answer in frames', () => {
  const set = dollSet();
  const player = setPlayer(set);
  const meters = playMeters(set, player);
  const step = () => {
    player.tick(STEP);
    meters.read();
  };
  for (let i = 0; i < 10; i++) step();
  expect(meters.worst[1]).toBeLessThan(0.1);
  // The whole body five centimetres to the left at once.
  player.root[0] += 0.05;
  player.tick(0);
  meters.read();
  expect(meters.now[1]).toBeGreaterThan(4);
  expect(meters.now[1]).toBeLessThan(5.6);
  meters.forget();
  for (let i = 0; i < 5; i++) step();
  player.set('speed', 1.2);
  let [steps, speed] = [0, 0];
  while (speed < 0.9 * 1.2 && steps < 60) {
    step();
    steps++;
    speed = Math.hypot(player.step[0], player.step[1]) / STEP;
  }
  expect(meters.answers[0]).toBe(steps);
});
