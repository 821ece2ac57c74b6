import fc from 'fast-check';
import { fillGap, findGaps } from '../src/edit/gaps';
import { likeMoments } from '../src/edit/like-moment';
import { channelsAt, logChannels, writeChannels } from '../src/edit/log-channels';
import { denoise } from '../src/math/denoise';
import { fromAxisAngle } from '../src/math/quat';
import { bridgeSpike, bridgeWeights, findSpikes } from '../src/math/spikes';

const FPS = 60;
const curve = (frames: number, at: (f: number) => number) => Float64Array.from({ length: frames }, (_, f) => at(f));
const number = fc.double({ min: -1, max: 1, noNaN: true });
/** Curves as limbs make them: a few slow waves. */
const waves = fc
  .array(fc.tuple(fc.double({ min: 0.2, max: 3, noNaN: true }), number, number), { minLength: 1, maxLength: 3 })
  .map((parts) => curve(300, (f) => parts.reduce((sum, [hertz, a, b]) => sum + a * Math.sin((2 * Math.PI * hertz * f) / FPS + 6 * b), 0)));

describe('spikes of a curve', () => {
  test('there are none in a movement, however large', () => {
    fc.assert(
      fc.property(waves, (values) => findSpikes([values], 0, FPS, 0.001).length === 0),
      { seed: 1, numRuns: 100 },
    );
  });

  test('one that is put in is found where it is, and taken out again nearly whole', () => {
    fc.assert(
      fc.property(
        waves,
        fc.integer({ min: 20, max: 270 }),
        fc.integer({ min: 1, max: 3 }),
        fc.double({ min: 5, max: 20, noNaN: true }),
        (values, at, length, times) => {
          // So many times as far as it goes from frame to frame at the most.
          const off = 0.02 + times * Math.max(...values.map((v, f) => (f > 0 ? Math.abs(v - values[f - 1]) : 0)));
          const bad = values.slice();
          for (let f = at; f < at + length; f++) bad[f] += off;
          const found = findSpikes([bad], 0, FPS, 0.02);
          expect(found).toMatchObject([{ from: at, to: at + length }]);
          bridgeSpike([bad], found[0]);
          expect(Math.max(...bad.map((v, f) => Math.abs(v - values[f])))).toBeLessThan(0.06 * off + 0.02);
        },
      ),
      { seed: 2, numRuns: 100 },
    );
  });

  test.each([1, 2, 3])('what leads over %d frames is exact for a cubic', (length) => {
    const cubic = (f: number) => 0.3 - 0.2 * f + 0.05 * f * f - 0.004 * f ** 3;
    const values = curve(12 + length, cubic);
    const spoilt = values.slice();
    for (let f = 6; f < 6 + length; f++) spoilt[f] = 99;
    bridgeSpike([spoilt], { from: 6, to: 6 + length });
    spoilt.forEach((v, f) => expect(v).toBeCloseTo(values[f], 9));
    for (const row of bridgeWeights(length)) expect(row.reduce((sum, w) => sum + w, 0)).toBeCloseTo(1, 9);
  });

  test('one at the very end of a curve cannot be told from a movement that begins', () => {
    const values = curve(60, () => 0);
    values[59] = 1;
    expect(findSpikes([values], 0, FPS, 0.01)).toEqual([]);
  });
});

describe('gaps of a curve', () => {
  test('a filled one meets place and velocity on both sides', () => {
    fc.assert(
      fc.property(waves, fc.integer({ min: 30, max: 240 }), (values, from) => {
        const bad = values.slice();
        const to = from + 12;
        bad.fill(values[from - 1], from, to);
        fillGap([bad], { from, to }, FPS);
        const step = (f: number) => bad[f] - bad[f - 1];
        const most = Math.max(...values.map((v, f) => (f > 0 ? Math.abs(v - values[f - 1]) : 0)));
        // At the edges it goes on as fast as it came, within what one frame may change.
        expect(Math.abs(step(from) - step(from - 1))).toBeLessThan(0.35 * most + 1e-9);
        expect(Math.abs(step(to) - step(to + 1))).toBeLessThan(0.35 * most + 1e-9);
        expect([...bad.subarray(0, from)]).toEqual([...values.subarray(0, from)]);
        expect([...bad.subarray(to)]).toEqual([...values.subarray(to)]);
      }),
      { seed: 3, numRuns: 100 },
    );
  });

  test('with another moment that moves alike it is that one, led into both sides', () => {
    const values = curve(200, (f) => Math.sin(f / 7));
    const other = values.map((v, f) => v + 0.1 + 0.0005 * f);
    const bad = values.slice();
    bad.fill(values[79], 80, 100);
    fillGap([bad], { from: 80, to: 100 }, FPS, [other]);
    for (let f = 80; f < 100; f++) expect(bad[f]).toBeCloseTo(values[f], 3);
  });

  test('one at an end of the take stays', () => {
    const values = curve(60, (f) => f);
    const bad = values.slice();
    fillGap([bad], { from: 0, to: 10 }, FPS);
    fillGap([bad], { from: 50, to: 60 }, FPS);
    expect([...bad]).toEqual([...values]);
  });

  /** Two joints that swing together, round and round. */
  const swinging = (frames: number) => {
    const rotations = new Float32Array(frames * 12);
    for (let f = 0; f < frames; f++) {
      rotations.set([0, 0, 0, 1], f * 12);
      for (const j of [1, 2]) rotations.set(fromAxisAngle([1, 0, 0], 0.6 * Math.sin((2 * Math.PI * f) / 50 + j)), f * 12 + j * 4);
    }
    return rotations;
  };

  test('it is found in the joint that is frozen, and the moment that is alike is a swing away', () => {
    const rotations = swinging(300);
    for (let f = 140; f < 152; f++) rotations.set(rotations.slice(139 * 12 + 8, 139 * 12 + 12), f * 12 + 8);
    expect(findGaps(rotations, 8, 12, 300, FPS)).toEqual([{ from: 140, to: 152 }]);
    expect(findGaps(rotations, 4, 12, 300, FPS)).toEqual([]);
    expect(findGaps(rotations, 0, 12, 300, FPS)).toEqual([]);
    const silent = (joint: number, f: number) => joint === 2 && f >= 140 && f < 152;
    const moments = likeMoments({ rotations, joints: 3, frames: 300, fps: FPS, silent }, 2, { from: 140, to: 152 });
    expect(moments.map(({ shift }) => shift).sort((a, b) => a - b)).toEqual([-100, -50, 50, 100]);
  });

  test('where the body never moves so again there is no such moment', () => {
    const rotations = swinging(60);
    expect(likeMoments({ rotations, joints: 3, frames: 60, fps: FPS, silent: () => false }, 2, { from: 25, to: 37 })).toEqual([]);
  });

  test('rotations become curves and come back to the same rotations, at this moment and at another', () => {
    const rotations = swinging(200);
    const channels = logChannels(rotations, 8, 12, 200, FPS);
    const back = rotations.slice();
    writeChannels(channels, channels.values, back, 8, 12);
    back.forEach((v, i) => expect(v).toBeCloseTo(rotations[i], 6));
    writeChannels(channels, channelsAt(channels, rotations, 8, 12, 50), back, 8, 12);
    for (let i = 8; i < 150 * 12; i += 12) for (let k = 0; k < 4; k++) expect(back[i + k]).toBeCloseTo(rotations[50 * 12 + i + k], 6);
  });
});

describe('noise of a curve', () => {
  test('what is slow is left where it is, and no curve comes out with more error than it had', () => {
    let state = 5;
    const next = () => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 4294967296 - 0.5) * Math.sqrt(12);
    fc.assert(
      fc.property(waves, fc.double({ min: 0.001, max: 0.03, noNaN: true }), (values, noise) => {
        const noisy = values.map((v) => v + noise * next());
        const out = denoise(noisy, noise, FPS);
        const error = (other: Float64Array) => Math.sqrt(other.reduce((sum, v, f) => sum + (v - values[f]) ** 2, 0) / values.length);
        expect(error(out)).toBeLessThan(0.75 * error(noisy));
      }),
      { seed: 4, numRuns: 60 },
    );
  });

  test('a step keeps its place and most of its height at once', () => {
    const values = curve(200, (f) => (f < 100 ? 0 : 1));
    const out = denoise(values, 0.01, FPS);
    expect(out[96]).toBeLessThan(0.1);
    expect(out[103]).toBeGreaterThan(0.9);
  });

  test('at a rate that has no bands to take out, and in a curve of a few frames, nothing is done', () => {
    const few = curve(5, (f) => f % 2);
    expect(denoise(few, 1, FPS)).toBe(few);
    const slow = curve(50, (f) => f % 2);
    expect(denoise(slow, 1, 5)).toBe(slow);
  });
});
