import { capture } from '@lantern/capture';
import { describeTake, forwardKinematics, InputError, readAsf, readTake, readTakes, type Motion } from '@lantern/motion';
import { asfAndAmc } from './odd-files';
import { bytesOf } from './made';

const { motion } = capture('walk', { seconds: 1, seed: 9 });
const short: Motion = {
  ...motion,
  frames: 30,
  rotations: motion.rotations.subarray(0, 30 * 84),
  rootPositions: motion.rootPositions.subarray(0, 90),
};
const files = asfAndAmc(short);
const asf = readAsf(bytesOf(files.asf), 'wick');

test('bones with axes of their own: every joint is where it was', () => {
  const take = readTake(bytesOf(files.amc), 'wick_01.amc', { skeletons: [asf] });
  const p = forwardKinematics(short);
  const q = forwardKinematics(take.motion);
  let most = 0;
  short.skeleton.joints.forEach(({ name }, j) => {
    const k = take.motion.skeleton.joints.findIndex((joint) => joint.name === (j === 0 ? 'root' : name));
    for (let f = 0; f < short.frames; f++)
      for (let c = 0; c < 3; c++)
        most = Math.max(most, Math.abs(p.positions[(f * p.joints + j) * 3 + c] - q.positions[(f * q.joints + k) * 3 + c]));
  });
  expect(most).toBeLessThan(0.00001);
  expect(take.warnings.map(({ code }) => code)).toContain('rate-unknown');
  expect(describeTake(take).passport.fps).toBe(120);
});

test('a motion finds the skeleton that it fits, whatever they are called; without one it says what to do', () => {
  const other = readAsf(bytesOf(files.asf.replaceAll('LeftFoot', 'LeftPaw')), 'other');
  expect(readTakes(bytesOf(files.amc), 'a.amc', { skeletons: [other, asf] })[0].motion.skeleton).toBe(asf.skeleton);
  expect(() => readTakes(bytesOf(files.amc), 'a.amc', { skeletons: [other] })).toThrow(/bring in the ASF/);
  expect(() => readTakes(bytesOf(files.amc), 'a.amc')).toThrow(/needs its skeleton/);
  expect(() => readTakes(bytesOf(files.asf), 'a.asf')).toThrow(/AMC files too/);
});

/** The lines of a file, each put otherwise by a question of which it is. */
const byLine = (put: (line: string, at: number) => string) => files.amc.split('\n').map(put).join('\n');

test.each([
  ['ends in CR LF', files.amc.replaceAll('\n', '\r\n')],
  ['ends in a lone CR', files.amc.replaceAll('\n', '\r')],
  [
    'is spaced here and there by tabs, two blanks, and blanks before and behind',
    byLine((line, at) => [line, line.replaceAll(' ', '\t'), line.replaceAll(' ', '  '), ` ${line} `][at % 4]),
  ],
  ['has a remark between its bones', byLine((line, at) => (at % 7 === 5 ? `${line}\n# a gull` : line))],
  [
    'has its last two bones the other way round in every second frame',
    files.amc.replace(/(\n\d*[13579]\n(?:\D.*\n)*?)(.*\n)(.*\n)(?=\d|$)/g, '$1$3$2'),
  ],
])('a file that %s is the same motion', (_, text) => {
  expect(text).not.toBe(files.amc);
  const [own, other] = [files.amc, text].map((all) => readTake(bytesOf(all), 'wick_01.amc', { skeletons: [asf] }).motion);
  expect(other.rotations).toEqual(own.rotations);
  expect(other.rootPositions).toEqual(own.rootPositions);
});

test('a fault is named by its line, however many good ones stand before it', () => {
  const lines = files.amc.split('\n');
  for (const at of [40, lines.length - 4]) {
    if (!/^[A-Z]\w+ /.test(lines[at])) throw new Error(`no bone on line ${at + 1}`);
    const text = lines.map((line, i) => (i === at ? `${line} 1` : line)).join('\n');
    expect(() => readTakes(bytesOf(text), 'a.amc', { skeletons: [asf] })).toThrow(
      expect.objectContaining({ place: expect.objectContaining({ line: at + 1 }) }),
    );
  }
});

test.each([
  ['a word for a number', 'amc', files.amc.replace(/(Head [^ ]+) [^ ]+/, '$1 abc'), 'abc'],
  ['a number too few', 'amc', files.amc.replace(/Head ([^ ]+) [^ \n]+/, 'Head $1'), '3 degrees of freedom'],
  ['an unknown bone later on', 'amc', files.amc.replace(/(\n2\n(?:.*\n)*?)Head /, '$1Hat '), 'no bone "Hat"'],
  ['a bone without a description', 'asf', files.asf.replace('root to_Waist', 'root nobody'), '"nobody"'],
  ['a bone with two parents', 'asf', files.asf.replace(/end\n$/, 'Waist Head\nend\n'), 'parent already'],
  ['no bones', 'asf', ':version 1.10\n:root\n order TX\n', 'no bones'],
])('%s is an error on its line', (_, kind, text, message) => {
  const read = () => (kind === 'asf' ? readAsf(bytesOf(text), 'a') : readTakes(bytesOf(text), 'a.amc', { skeletons: [asf] }));
  try {
    read();
    throw new Error('nothing was wrong');
  } catch (error) {
    expect(error).toBeInstanceOf(InputError);
    expect((error as InputError).message).toContain(message);
    expect((error as InputError).place.line).toBeGreaterThan(0);
  }
});
