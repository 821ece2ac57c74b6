import { slides } from '@lantern/motion';
import type { Soles } from '../src/measure/soles';

const FRAMES = 120;
const FPS = 60;

/**
 * A foot with the heel up and the toes flat that goes half a millimetre a frame on average, while ball and tip take turns of two frames in being
 * the lower: each goes while it is not.
 */
function flatToes(lower: number): Soles {
  const track = (ahead: number, turn: number) => {
    const out = new Float32Array(FRAMES * 3);
    let z = ahead;
    for (let f = 0; f < FRAMES; f++) {
      const isLow = (f + turn) % 4 < 2;
      const isBoth = isLow && (f + 3 + turn) % 4 < 2;
      if (f > 0) z += isBoth ? -0.001 : 0.001;
      out.set([0, isLow ? -lower : lower, z], f * 3);
    }
    return out;
  };
  const heel = Float32Array.from({ length: FRAMES * 3 }, (_, i) => [0, 0.06, -0.15][i % 3]);
  const foot = { heel, ball: track(0, 0), tip: track(0.07, 2) };
  return { floor: 0, left: foot, right: foot };
}

test.each([0, 0.00004])('a foot on flat toes slides as far as it goes, though ball and tip take turns in being %d m lower', (lower) => {
  const soles = flatToes(lower);
  const [slide] = slides(soles, { fps: FPS, floorM: 0, left: [{ from: 10, to: 110 }], right: [] });
  const went = (f: number) => soles.left.ball[f * 3 + 2] * 100;
  expect(went(108) - went(12)).toBeGreaterThan(4);
  expect(Math.abs(slide.netCm - (went(108) - went(12)))).toBeLessThan(0.2);
});

test('a foot that rolls from heel to tip changes what bears, and slides nothing', () => {
  const roll = (at: number, z: number) =>
    Float32Array.from({ length: FRAMES * 3 }, (_, i) => [0, 0.02 * Math.max(0, Math.abs(Math.floor(i / 3) - 2 * at) - 20) * 0.1, z][i % 3]);
  const foot = { heel: roll(10, 0), ball: roll(30, 0.15), tip: roll(50, 0.22) };
  const [slide] = slides({ floor: 0, left: foot, right: foot }, { fps: FPS, floorM: 0, left: [{ from: 0, to: FRAMES }], right: [] });
  expect(slide.excursionCm).toBeLessThan(0.001);
});
