import { angleBetween, InputError, readBvh, readTake, toMetres, writeBvh } from '@lantern/motion';
import { snapFrameRate } from '../src/formats/frame-rate';
import fc from 'fast-check';
import { bytesOf, farthest, suit } from './made';

const HEADER = (channels: string, offset = '0 0 0') => `HIERARCHY
ROOT hips
{
  OFFSET ${offset}
  CHANNELS ${channels}
  JOINT knee
  {
    OFFSET 0 -40 0
    CHANNELS 3 Zrotation Xrotation Yrotation
    End Site
    {
      OFFSET 0 -45 0
    }
  }
}
MOTION
`;
const FILE = `${HEADER('6 Xposition Yposition Zposition Zrotation Xrotation Yrotation')}Frames: 2
Frame Time: 0.0083333
1 90 3 10 20 30 0 5 0
2 91 3 10 20 30 0 6 0
`;

const errorOf = (text: string): InputError => {
  try {
    readTake(bytesOf(text), 'a.bvh');
  } catch (error) {
    if (error instanceof InputError) return error;
    throw error;
  }
  throw new Error('the file was read without complaint');
};

/** Rotation matrices by the textbook, to check the reader's quaternions against. */
function matrixOf(axes: string, degrees: readonly number[]): number[][] {
  let m = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  [...axes].forEach((axis, i) => {
    const c = Math.cos((degrees[i] * Math.PI) / 180);
    const s = Math.sin((degrees[i] * Math.PI) / 180);
    const r =
      {
        X: [
          [1, 0, 0],
          [0, c, -s],
          [0, s, c],
        ],
        Y: [
          [c, 0, s],
          [0, 1, 0],
          [-s, 0, c],
        ],
        Z: [
          [c, -s, 0],
          [s, c, 0],
          [0, 0, 1],
        ],
      }[axis] ?? m;
    m = m.map((row) => [0, 1, 2].map((k) => row[0] * r[0][k] + row[1] * r[1][k] + row[2] * r[2][k]));
  });
  return m;
}

test('a rotation is the product of the channels in their written order, whatever the order', () => {
  const angle = fc.double({ min: -180, max: 180, noNaN: true });
  fc.assert(
    fc.property(fc.constantFrom('XYZ', 'XZY', 'YXZ', 'YZX', 'ZXY', 'ZYX', 'ZXZ', 'YX'), fc.tuple(angle, angle, angle), (axes, degrees) => {
      const names = [...axes].map((axis) => `${axis}rotation`).join(' ');
      const row = [...axes].map((_, i) => degrees[i].toFixed(6)).join(' ');
      const take = readBvh(bytesOf(`${HEADER(`${axes.length} ${names}`)}Frames: 1\nFrame Time: 0.01\n${row} 0 0 0\n`), 'a');
      const [x, y, z, w] = take.motion.rotations;
      const m = matrixOf(axes, degrees);
      expect(1 - 2 * (y * y + z * z)).toBeCloseTo(m[0][0], 5);
      expect(2 * (x * y - w * z)).toBeCloseTo(m[0][1], 5);
      expect(2 * (x * z + w * y)).toBeCloseTo(m[0][2], 5);
      expect(2 * (y * z - w * x)).toBeCloseTo(m[1][2], 5);
      expect(1 - 2 * (x * x + y * y)).toBeCloseTo(m[2][2], 5);
    }),
    { numRuns: 60 },
  );
});

test('line ends, tabs, a byte-order mark, exponents and wrapped rows change nothing', () => {
  const plain = readBvh(bytesOf(FILE), 'a').motion;
  const odd = `\ufeff${FILE.replace('1 90 3 10', '1e0 9.0E+1\n\t3\t10').replace(/\n/g, '\r\n')}`;
  const read = readBvh(bytesOf(odd), 'a').motion;
  expect([...read.rotations]).toEqual([...plain.rotations]);
  expect([...read.rootPositions]).toEqual([1, 90, 3, 2, 91, 3]);
  expect(read.fps).toBe(120);
});

test('a wrong frame count is a warning on its line and all the frames are there', () => {
  const take = readBvh(bytesOf(FILE.replace('Frames: 2', 'Frames: 7')), 'a');
  expect(take.motion.frames).toBe(2);
  expect(take.warnings).toEqual([expect.objectContaining({ code: 'frame-count', line: 17 })]);
});

test.each([
  ['a file cut in the middle of a row', FILE.slice(0, FILE.lastIndexOf('30')), 20, /cut short/],
  ['a file cut in the middle of a number', FILE.replace('2 91 3', '2 91 3-'), 20, /number.*"3-"/],
  ['a word among the numbers', FILE.replace('2 91', 'two 91'), 20, /"two"/],
  ['a number that is not one', FILE.replace('1 90', 'NaN 90'), 19, /"NaN"/],
  ['an unknown channel', FILE.replace('Xposition', 'Wposition'), 5, /Wposition/],
  ['a wrong channel count', FILE.replace('CHANNELS 6', 'CHANNELS 5'), 5, /5.*6/],
  ['an offset of two numbers', FILE.replace('OFFSET 0 -40 0', 'OFFSET 0 -40'), 8, /three numbers/],
  ['a brace too few', FILE.replace('}\nMOTION', 'MOTION'), 15, /closed/],
  ['no frame time', FILE.replace(/Frame Time.*\n/, ''), 18, /Frame|Expected/],
  ['a frame time of zero', FILE.replace('0.0083333', '0'), 18, /above zero/],
  ['another kind of text', 'name,age\nWick,41\n', 1, /HIERARCHY/],
  ['an empty file', '', 1, /empty/],
  ['a binary file', `HIERARCHY\n\0\0\0`, 1, /text/],
])('%s is an error on its line', (_, text, line, message) => {
  const error = errorOf(text);
  expect(error.message).toMatch(message);
  expect(error.place.line).toBe(line);
});

test('position channels of an inner joint are read so that the bone keeps its length', () => {
  const file = (position: string) =>
    `${HEADER('3 Zrotation Xrotation Yrotation').replace('CHANNELS 3 Zrotation Xrotation Yrotation\n    End', 'CHANNELS 3 Xposition Yposition Zposition\n    End')}Frames: 1\nFrame Time: 0.01\n0 0 0 ${position}\n`;
  for (const position of ['0 -40 0', '0 0 0', '0 -0.3 0']) {
    const knee = readBvh(bytesOf(file(position)), 'a').motion.translations?.get(1);
    expect(knee?.[1]).toBeCloseTo(position === '0 -0.3 0' ? -40.3 : -40, 4);
  }
});

test('a root whose positions are meant on top of its offset is put on the floor, with a warning', () => {
  const file = `${HEADER('6 Xposition Yposition Zposition Zrotation Xrotation Yrotation', '0 85 0')}Frames: 1\nFrame Time: 0.01\n0 0 0 0 0 0 0 0 0\n`;
  const take = readBvh(bytesOf(file.replace('JOINT knee', 'JOINT shin')), 'a');
  expect(take.motion.rootPositions[1]).toBeCloseTo(85, 5);
  expect(take.warnings.map((w) => w.code)).toContain('root-offset');
});

test('writing and reading back keeps every joint within 0.01 mm and every rotation within 0.001°', () => {
  const { motion } = suit('rounds', { faults: 2 });
  const back = toMetres(readBvh(bytesOf(writeBvh(motion)), 'a').motion, { metresPerUnit: 0.01, up: '+y' });
  expect(back.fps).toBe(60);
  expect(farthest(motion, back)).toBeLessThan(0.00001);
  let worst = 0;
  for (let i = 0; i < motion.rotations.length; i += 4) worst = Math.max(worst, angleBetween(motion.rotations, i, back.rotations, i));
  expect((worst * 180) / Math.PI).toBeLessThan(0.001);
});

test('a skeleton with rest rotations is written so that every joint stays where it is', () => {
  const { motion } = suit('walk', { seconds: 1 });
  const zUp = toMetres(motion, { metresPerUnit: 1, up: '+z' }); // turns the root's rest pose
  const back = toMetres(readBvh(bytesOf(writeBvh(zUp)), 'a').motion, { metresPerUnit: 0.01, up: '+y' });
  expect(farthest(zUp, back)).toBeLessThan(0.00001);
});

test('rounded frame times are the rate that was meant, odd ones stay', () => {
  const cases: [number, number][] = [
    [0.0083333, 120],
    [0.00833, 120],
    [0.0333333, 30],
    [0.0417083, 24000 / 1001],
    [0.016667, 60],
    [0.0166834, 60000 / 1001],
    [0.04, 25],
    [0.0121, 1 / 0.0121],
  ];
  for (const [seconds, fps] of cases) expect(snapFrameRate(seconds)).toBeCloseTo(fps, 6);
});
