import { capture } from '@lantern/capture';
import { describeTake, forwardKinematics, InputError, readTake, readTakes, type Motion } from '@lantern/motion';
import { oddGlb, type GlbOddities } from './odd-files';

const { motion } = capture('turn', { seconds: 2, seed: 5 });
const short: Motion = {
  ...motion,
  frames: 40,
  rotations: motion.rotations.subarray(0, 40 * 84),
  rootPositions: motion.rootPositions.subarray(0, 120),
};

/** Greatest distance between joints of the same name, metres. */
function apart(a: Motion, b: Motion): number {
  const p = forwardKinematics(a);
  const q = forwardKinematics(b);
  let most = 0;
  a.skeleton.joints.forEach(({ name }, j) => {
    const k = b.skeleton.joints.findIndex((joint) => joint.name === name);
    for (let f = 0; f < a.frames; f++)
      for (let c = 0; c < 3; c++)
        most = Math.max(most, Math.abs(p.positions[(f * p.joints + j) * 3 + c] - q.positions[(f * q.joints + k) * 3 + c]));
  });
  return most;
}

describe.each<[string, GlbOddities, number]>([
  ['as it is', {}, 0.00001],
  ['under a scaled and turned armature', { armature: true }, 0.00001],
  ['with nodes between the joints that are no joints', { between: true }, 0.00001],
  ['with stepped keys', { interpolation: 'STEP' }, 0.00001],
  ['with cubic keys', { interpolation: 'CUBICSPLINE' }, 0.00001],
  ['with scale keys that change nothing', { scaleKeys: true, between: true }, 0.00001],
  ['under an armature that is scaled unevenly', { armature: true, uneven: true, between: true }, 0.0003],
  ['without a skin', { plain: true }, 0.00001],
  ['with rotations as 16-bit integers', { integers: true }, 0.0005],
  ['with all of it at once', { armature: true, between: true, interpolation: 'CUBICSPLINE', integers: true }, 0.001],
])('a GLB %s', (_, odd, within) => {
  test('has every joint where it was, at the rate it was keyed', async () => {
    const take = readTake(await oddGlb(short, odd), 'way.glb');
    expect(take.motion.fps).toBe(60);
    expect(take.motion.frames).toBe(40);
    expect(apart(short, take.motion)).toBeLessThan(within);
  });
});

test('several animations are several takes, told apart by their names; metres stay metres', async () => {
  const takes = readTakes(await oddGlb(short, { animations: 3 }), 'day.glb');
  expect(takes.map(({ name, part }) => [name, part])).toEqual([1, 2, 3].map((n) => [`day way ${n}`, `way ${n}`]));
  expect(describeTake(takes[0]).passport).toMatchObject({ format: 'gltf', units: { metresPerUnit: 1 }, up: '+y' });
  expect(() => readTake(new Uint8Array(0), 'a.glb')).toThrow(InputError);
});

test('a .gltf with its buffer inside reads as the GLB does; one with its buffer elsewhere says which file is missing', async () => {
  const glb = await oddGlb(short);
  const view = new DataView(glb.buffer, glb.byteOffset);
  const length = view.getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length)));
  const binary = glb.subarray(28 + length);
  const gltf = (uri: string) => new TextEncoder().encode(JSON.stringify({ ...json, buffers: [{ ...json.buffers[0], uri }] }));
  const inside = gltf(`data:application/octet-stream;base64,${Buffer.from(binary).toString('base64')}`);
  expect(apart(short, readTake(inside, 'way.gltf').motion)).toBeLessThan(0.00001);
  const beside = readTake(gltf('way.bin'), 'way.gltf', { resources: (uri) => (uri === 'way.bin' ? binary : undefined) });
  expect(apart(short, beside.motion)).toBeLessThan(0.00001);
  expect(() => readTake(gltf('way.bin'), 'way.gltf')).toThrow(/"way.bin"/);
});

test.each<[string, (json: Record<string, unknown[]>) => void, RegExp]>([
  ['a node that is its own ancestor', (json) => Object.assign(json.nodes[1] as object, { children: [0] }), /ancestor|two parents/],
  ['a count beyond the buffer', (json) => Object.assign(json.accessors.at(-1) as object, { count: 1e9 }), /count of 1000000000/],
  [
    'an accessor that is missing',
    (json) => Object.assign((json.animations[0] as { samplers: object[] }).samplers[0], { input: 99_999 }),
    /Accessor 99999/,
  ],
  ['no animation', (json) => Object.assign(json, { animations: [] }), /no animation/],
])('%s is an error that says so', async (_, spoil, message) => {
  const glb = await oddGlb(short);
  const length = new DataView(glb.buffer, glb.byteOffset).getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length)));
  json.buffers[0].uri = `data:application/octet-stream;base64,${Buffer.from(glb.subarray(28 + length)).toString('base64')}`;
  spoil(json);
  expect(() => readTakes(new TextEncoder().encode(JSON.stringify(json)), 'a.gltf')).toThrow(message);
});
