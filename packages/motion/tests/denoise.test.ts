import { random } from '@lantern/motion';
import { denoise } from '../src/math/denoise';
import { lowPass } from '../src/math/filter';

const FPS = 60;
const EDGES = [24, 17, 12, 8.5, 6, 4.2, 3];

/** The same rule written plainly: bands of the curve, then bands of what the first look left, a mean of squares summed anew at every instant. */
function plainly(values: Float64Array, noise: number): Float64Array {
  const gain = (hertz: number) => {
    const impulse = new Float64Array(2 * Math.ceil((4 * FPS) / hertz) + 1);
    impulse[impulse.length >> 1] = 1;
    return lowPass(impulse, hertz, FPS).reduce((sum, v) => sum + v * v, 0);
  };
  const noises = EDGES.map((edge, i) => noise ** 2 * ((i === 0 ? 1 : gain(EDGES[i - 1])) - gain(edge)));
  const below = (curve: Float64Array) => [curve, ...EDGES.map((edge) => lowPass(curve, edge, FPS))];
  const bandsOf = (curve: Float64Array) => EDGES.map((_, i) => below(curve)[i].map((v, f) => v - below(curve)[i + 1][f]));
  const strength = (band: Float64Array, i: number) =>
    band.map((_, f) => {
      const h = Math.min(Math.round((0.8 * FPS) / EDGES[i]), f, band.length - 1 - f);
      return band.slice(f - h, f + h + 1).reduce((sum, v) => sum + v * v, 0) / (2 * h + 1);
    });
  const rest = lowPass(values, 3, FPS);
  const bands = bandsOf(values);
  const first = rest.slice();
  bands.forEach((band, i) => strength(band, i).forEach((e, f) => (first[f] += Math.max(0, 1 - (1.3 * noises[i]) / e) * band[f])));
  const out = rest.slice();
  bandsOf(first).forEach((seen, i) => strength(seen, i).forEach((e, f) => (out[f] += (e / (e + noises[i])) * bands[i][f])));
  return out;
}

test.each([300, 61, 300])('%i frames lose the noise that the rule written plainly takes out, and no more', (frames) => {
  const own = random(frames);
  const values = Float64Array.from({ length: frames }, (_, f) => 0.3 * Math.sin(f / 9) + (f > 30 ? 0.1 : 0) + 0.002 * own.normal());
  for (const noise of [0.002, 0.003]) {
    const expected = plainly(values, noise);
    denoise(values, noise, FPS).forEach((v, f) => expect(v).toBeCloseTo(expected[f], 10));
  }
});
