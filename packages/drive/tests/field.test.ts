import { fieldPlayer, fieldWeights, strideTable, type FieldPlayer, type PlayClip, type PlayField } from '@lantern/drive';
import fc from 'fast-check';
import { followChain, legChain } from '../src/legs';
import { doll, legs, mirrored } from './made';

const straight = doll('straight', { mps: 1.2, cycle: 1.1 });
const quick = doll('quick', { mps: 1.8, cycle: 0.9 });
const left = doll('left', { mps: 1.2, cycle: 1.1, turn: 0.7 });
const right = mirrored(left, 'right');
const arcs: PlayField = {
  name: 'arcs',
  clips: [straight, quick, left, right],
  points: [1.2, 0, 1.8, 0, 1.2, 40, 1.2, -40],
  triangles: [0, 1, 2, 0, 1, 3],
  scale: [1, 1 / 60],
  holdFeet: true,
  pace: 0.06,
};
const playing = (field: PlayField, x: number, y = 0, phase = 0): FieldPlayer => {
  const player = fieldPlayer(legs, field);
  player.ask(x, y);
  player.reset(phase);
  return player;
};

/** Places of the left and the right ball in the world. */
function balls(player: FieldPlayer): number[][] {
  const chain = legChain(legs);
  const turn = Float64Array.of(0, Math.sin(player.root[2] / 2), 0, Math.cos(player.root[2] / 2));
  followChain(chain, legs, player.rotations, player.hips, player.root, turn);
  return [4, 8].map((j) => [...chain.place.subarray(j * 3, j * 3 + 3)]);
}

test('a point in a triangle is the weighted mean of its corners, for any point inside', () => {
  fc.assert(
    fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (a, b) => {
      const [v, w] = a + b > 1 ? [1 - a, 1 - b] : [a, b];
      const x = 1.2 + 0.6 * v;
      const y = 40 * w;
      const weights = new Float64Array(4);
      expect(fieldWeights(weights, arcs, x, y)).toBe(0);
      const mean = [0, 1].map((k) => weights.reduce((sum, weight, i) => sum + weight * arcs.points[i * 2 + k], 0));
      expect(mean[0]).toBeCloseTo(x, 6);
      expect(mean[1]).toBeCloseTo(y, 5);
    }),
  );
});

test('outside of the field the nearest place on its edge counts; weights are never less than nothing and add up to one', () => {
  fc.assert(
    fc.property(fc.double({ min: -5, max: 8, noNaN: true }), fc.double({ min: -300, max: 300, noNaN: true }), (x, y) => {
      const weights = new Float64Array(4);
      const off = fieldWeights(weights, arcs, x, y);
      expect(off).toBeGreaterThanOrEqual(0);
      expect(Math.min(...weights)).toBeGreaterThanOrEqual(0);
      expect(weights.reduce((sum, w) => sum + w, 0)).toBeCloseTo(1, 9);
    }),
  );
  const weights = new Float64Array(4);
  expect(fieldWeights(weights, arcs, 3, 0)).toBeCloseTo(1.2, 6);
  expect([...weights]).toEqual([0, 1, 0, 0]);
});

test('with one input the two clips about a value count, and at the ends the last one', () => {
  const line = { points: [1, 0, 2, 0, 4, 0], triangles: [], scale: [1, 1] as const };
  const of = (x: number) => {
    const weights = new Float64Array(3);
    fieldWeights(weights, line, x, 0);
    return [...weights];
  };
  expect(of(1.25)).toEqual([0.75, 0.25, 0]);
  expect(of(3)).toEqual([0, 0.5, 0.5]);
  expect(of(9)).toEqual([0, 0, 1]);
  expect(of(0)).toEqual([1, 0, 0]);
});

test('half strides are read off the landings, wherever in its cycle a clip begins', () => {
  expect(strideTable(straight)).toMatchObject({ strides: 1, starts: Float64Array.of(0, 0.55) });
  const later: PlayClip = { ...straight, contacts: { left: [[0.3, 0.96]], right: [[0.85, 1.51]] } };
  const table = strideTable(later);
  expect('why' in table ? [] : [...table.lengths].map((v) => Number(v.toFixed(6)))).toEqual([0.55, 0.55]);
});

test.each([
  ['is no loop', { ...straight, loop: false }],
  ['has no steps', { ...straight, contacts: { left: [], right: [] } }],
  [
    'left foot never lands',
    {
      ...straight,
      contacts: {
        left: [],
        right: [
          [0, 0.3],
          [0.5, 0.8],
        ],
      },
    },
  ],
  [
    'lands twice in a row',
    {
      ...straight,
      contacts: {
        left: [
          [0, 0.2],
          [0.3, 0.5],
        ],
        right: [
          [0.6, 0.9],
          [0.95, 1],
        ],
      },
    },
  ],
  [
    'once more than the right',
    {
      ...straight,
      contacts: {
        left: [
          [0, 0.2],
          [0.6, 0.8],
        ],
        right: [[0.3, 0.5]],
      },
    },
  ],
] as const)('what cannot be brought into step says why: %s', (why, clip) => {
  const table = strideTable(clip as unknown as PlayClip);
  expect('why' in table && table.why).toContain(why);
});

test('the speed and the turn that are asked come', () => {
  for (const [x, y] of [
    [1.2, 0],
    [1.5, 0],
    [1.2, 20],
    [1.4, -15],
  ]) {
    const player = playing(arcs, x, y);
    let metres = 0;
    for (let f = 0; f < 300; f++) {
      player.tick(1 / 60);
      metres += Math.hypot(player.step[0], player.step[1]);
    }
    expect(metres / 5).toBeCloseTo(x, 2);
    // The doll's arcs turn by 0.7 a second where the chart says 40°.
    expect(player.root[2] / 5).toBeCloseTo((y / 40) * 0.7, 2);
  }
});

test('a foot that bears stays where it came down, on arcs too', () => {
  for (const [x, y] of [
    [1.5, 0],
    [1.35, 20],
    [1.2, -30],
  ]) {
    const player = playing(arcs, x, y);
    for (let f = 0; f < 80; f++) player.tick(1 / 60);
    const since: (number[] | null)[] = [null, null];
    let most = 0;
    for (let f = 0; f < 200; f++) {
      player.tick(1 / 60);
      balls(player).forEach((at, side) => {
        if (!player.down[side]) return void (since[side] = null);
        const first = (since[side] ??= at);
        most = Math.max(most, Math.hypot(at[0] - first[0], at[2] - first[2]));
      });
    }
    expect(most).toBeLessThan(0.003);
  }
});

test('it is all the same, but for millimetres of a foot, how long a tick is', () => {
  const [fine, coarse] = [playing(arcs, 1.4, 12), playing(arcs, 1.4, 12)];
  for (let k = 0; k < 100; k++) {
    coarse.tick(0.01);
    for (let i = 0; i < 10; i++) fine.tick(0.001);
  }
  expect(fine.root[0]).toBeCloseTo(coarse.root[0], 4);
  expect(fine.root[1]).toBeCloseTo(coarse.root[1], 4);
  const far = Math.max(...balls(fine).flatMap((at, side) => at.map((v, k) => Math.abs(v - balls(coarse)[side][k]))));
  expect(far).toBeLessThan(0.004);
});

test('the same ticks give the same pose to the bit', () => {
  const [a, b] = [playing(arcs, 1.4, 12), playing(arcs, 1.4, 12)];
  for (let k = 0; k < 90; k++) [a, b].forEach((player) => player.tick(1 / 50));
  expect(a.rotations).toEqual(b.rotations);
  expect([...a.root]).toEqual([...b.root]);
});

test('to the left and to the right it goes as in a mirror', () => {
  const [one, other] = [playing(arcs, 1.3, 18), playing(arcs, 1.3, -18, 0.5)];
  for (let k = 0; k < 200; k++) [one, other].forEach((player) => player.tick(1 / 60));
  expect(one.root[2]).toBeCloseTo(-other.root[2], 6);
  const [a, b] = [balls(one), balls(other)];
  // In the root's own axes: the left ball of the one against the right ball of the other.
  const own = (player: FieldPlayer, [x, , z]: number[]) => {
    const [dx, dz] = [x - player.root[0], z - player.root[1]];
    const [c, s] = [Math.cos(player.root[2]), Math.sin(player.root[2])];
    return [c * dx - s * dz, s * dx + c * dz];
  };
  for (const side of [0, 1]) {
    const [p, q] = [own(one, a[side]), own(other, b[1 - side])];
    expect(p[0]).toBeCloseTo(-q[0], 3);
    expect(p[1]).toBeCloseTo(q[1], 3);
  }
});

/** The quickest that a ball moves in some frames, metres a frame. */
function quickest(player: FieldPlayer, frames: number): number {
  let before = balls(player);
  let most = 0;
  for (let f = 0; f < frames; f++) {
    player.tick(1 / 60);
    const now = balls(player);
    now.forEach((at, side) => (most = Math.max(most, Math.hypot(...at.map((v, k) => v - before[side][k])))));
    before = now;
  }
  return most;
}

test('asked for another point the weights go over to it, and no foot moves much quicker than the quickest clip swings it', () => {
  const steady = quickest(playing(arcs, 1.8), 120);
  const player = playing(arcs, 1.2, 40);
  for (let f = 0; f < 40; f++) player.tick(1 / 60);
  player.ask(1.8, 0);
  expect(quickest(player, 60)).toBeLessThan(1.25 * steady);
  expect(player.weights[1]).toBeGreaterThan(0.999);
});

test('a clip that cannot be brought into step is refused with a sentence', () => {
  const lame = { ...straight, name: 'lame', contacts: { left: [], right: [] } };
  expect(() => fieldPlayer(legs, { ...arcs, clips: [lame], points: [1, 0], triangles: [] })).toThrow('“lame” has no steps.');
});
