import { InputError, make, parseProject, readGlb, writeBvh } from '@lantern/motion';
import { bytesOf, suit } from './made';

const take = bytesOf(writeBvh(suit('walk', { seed: 4 }).motion));
const PROJECT = {
  oldLantern: 1,
  fps: 60,
  takes: [{ id: 'walk', file: 'walk.bvh' }],
  clips: [
    {
      name: 'stroll',
      take: 'walk',
      from: 101,
      to: 166,
      steps: [{ kind: 'loop' }, { kind: 'travel', forward: 'root', sideways: 'drop', heading: 'drop', height: 'body' }],
    },
    { name: 'cut', take: 'walk', from: 10, to: 40 },
  ],
  ship: { glb: 'out/set.glb', fps: 30 },
};
const project = (change: object = {}) => parseProject(JSON.stringify({ ...PROJECT, ...change }, null, 1));
const read = async (file: string) => {
  if (file !== 'walk.bvh') throw new InputError('unreadable', 'There is no such file.', { file });
  return take;
};

test('a project is made into one GLB at the shipping rate, with a report of every clip', async () => {
  const { files, report } = await make(project(), read);
  expect(files.map((file) => file.path)).toEqual(['out/set.glb']);
  const clips = await readGlb(files[0].bytes);
  // 65 frames at 60 last 32 or 33 frames at 30; 30 frames last 15.
  expect(clips.map(({ clip }) => clip.motion.frames - 1)).toEqual([33, 15]);
  expect(report.clips[0]).toMatchObject({ name: 'stroll', loop: true, inPlace: false, file: 'out/set.glb' });
  expect(report.clips[0].tick).toBeLessThanOrEqual(1.2);
  expect(report.clips[0].warnings.map((w) => w.code)).toEqual(['retime']);
  expect(report.clips[1].rateChange).toBe(1);
});

test('one file for each clip, and BVH beside them, when asked', async () => {
  const { files } = await make(project({ ship: { oneFilePerClip: true, bvh: true, fps: 60 } }), read);
  expect(files.map((file) => file.path).sort()).toEqual(['clips/cut.bvh', 'clips/stroll.bvh', 'cut.glb', 'stroll.glb']);
});

test.each<[string, object, RegExp]>([
  ['a clip of an unknown take', { clips: [{ name: 'a', take: 'run', from: 0, to: 9 }] }, /"run"/],
  ['two clips of one name', { clips: [PROJECT.clips[1], { ...PROJECT.clips[1], name: 'CUT' }] }, /Two clips/],
  ['an unknown step', { clips: [{ ...PROJECT.clips[1], steps: [{ kind: 'polish' }] }] }, /kind/],
  ['a name that no file can have', { clips: [{ ...PROJECT.clips[1], name: '../x' }] }, /file name/],
  ['a file outside the folder', { ship: { glb: '../set.glb' } }, /glb/],
  ['another version', { oldLantern: 2 }, /oldLantern/],
])('%s is refused with the field', (_, change, message) => {
  expect(() => project(change)).toThrow(message);
});

test('broken JSON is an error on its line, a cut beyond the take names the clip, a missing take its file', async () => {
  expect(() => parseProject('{\n "oldLantern": 1,\n oops }')).toThrow(
    expect.objectContaining({ place: expect.objectContaining({ line: 3 }) }),
  );
  await expect(make(project({ clips: [{ name: 'far', take: 'walk', from: 0, to: 99999 }] }), read)).rejects.toThrow(/"far".*0 to 480/);
  await expect(make(project({ takes: [{ id: 'walk', file: 'gone.bvh' }] }), read)).rejects.toMatchObject({ place: { file: 'gone.bvh' } });
});
