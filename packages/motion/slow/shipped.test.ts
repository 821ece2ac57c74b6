import { playMeters, readShipped, setPlayer, shippedGltf, STEP, type GltfJson, type ShippedManifest } from '@lantern/drive';
import { capture } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { jointPlaces } from '../../drive/tests/places';
import {
  findLoops,
  groundwork,
  makeClips,
  manifestSchema,
  parseProject,
  playProject,
  projectSources,
  readCharacter,
  type Manifest,
  type Project,
} from '@lantern/motion';

const { motion: walk } = capture('walk', { seconds: 6, seed: 5 });
const { motion: jog } = capture('jog', { seconds: 6, seed: 5 });
const loopOf = (motion: typeof walk) => {
  const ground = groundwork(motion);
  const found = ground && findLoops(ground).candidates.find(({ strides }) => strides === 1);
  if (!found) throw new Error('nobody walks');
  return { from: found.from, to: found.to };
};

const takeOf = (id: string) => ({ motion: id === 'walk' ? walk : jog, warnings: [] });

/** A stroll and a jog in a field, as a set that is shipped. */
function project(change: { thin?: boolean; character?: 'wick' | 'tallow'; fps?: number } = {}): Project {
  const steps = [
    ...(change.character ? [{ kind: 'fit', character: change.character }] : []),
    { kind: 'loop' },
    { kind: 'foot-lock' },
    { kind: 'travel', start: 'origin' },
    ...(change.thin ? [{ kind: 'thin' }] : []),
  ];
  return parseProject(
    JSON.stringify({
      oldLantern: 1,
      takes: [
        { id: 'walk', file: 'walk.bvh' },
        { id: 'jog', file: 'jog.bvh' },
      ],
      ...(change.character && { characters: [{ id: change.character, file: 'who.glb' }] }),
      clips: [
        { name: 'stroll', take: 'walk', ...loopOf(walk), steps },
        { name: 'jog', take: 'jog', ...loopOf(jog), steps },
      ],
      sets: [{ name: 'lamplighter', character: change.character ?? null }],
      fields: [{ name: 'strolls', inputs: ['speed'], clips: ['stroll', 'jog'] }],
      ship: { glb: 'set.glb', fps: change.fps ?? 60 },
    }),
  );
}

async function shipped(change: Parameters<typeof project>[0]) {
  const own = project(change);
  const cast = new Map(change?.character ? [[change.character, readCharacter(await castGlb(change.character), 'who.glb')]] : []);
  const { files } = await makeClips(own, takeOf, cast);
  const bytes = files.find(({ path }) => path === 'set.glb')?.bytes;
  const text = files.find(({ path }) => path === 'set.lantern.json')?.bytes;
  if (!bytes || !text) throw new Error(`shipped were ${files.map(({ path }) => path)}`);
  const manifest: Manifest = manifestSchema.parse(JSON.parse(new TextDecoder().decode(text)));
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const length = view.getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length))) as GltfJson;
  const buffer = bytes.slice(20 + length + 8).buffer;
  const { nodes, animations } = shippedGltf(json, buffer);
  const sources = projectSources(own, takeOf, cast);
  const { playable } = playProject(own, own.sets[0], sources);
  if (!playable) throw new Error('nothing is played');
  return { manifest, set: readShipped(manifest as ShippedManifest, nodes, animations), playable, nodes, animations };
}

test.each<[string, Parameters<typeof project>[0], number]>([
  ['dense, on the suit', {}, 1e-4],
  ['thinned, on the suit', { thin: true }, 2e-3],
  ['on a character with a skin', { character: 'tallow' }, 1e-4],
  // A cycle of whole frames at half the rate is a little longer: they are no more in step after four seconds.
  ['at another rate', { fps: 30 }, 6e-2],
])('what was shipped plays as the set plays in the program: %s', async (_, change, bound) => {
  const { set, playable } = await shipped(change);
  const [there, here] = [setPlayer(set), setPlayer(playable.set)];
  const meters = playMeters(set, there);
  let off = 0;
  for (let i = 0; i < 240; i++) {
    const speed = i < 60 ? 1.4 : 2.2;
    for (const player of [there, here]) {
      player.set('speed', speed);
      player.tick(STEP);
    }
    meters.read();
    // Joints may have other axes in the file, and come in another order: where they are is the same.
    const [a, b] = [jointPlaces(set.skeleton, there), jointPlaces(playable.set.skeleton, here)];
    playable.set.skeleton.names.forEach((name, i) => {
      const j = set.skeleton.names.indexOf(name);
      for (let k = 0; k < 3; k++) off = Math.max(off, Math.abs(a[j * 3 + k] - b[i * 3 + k] - (k === 2 ? there.root[1] - here.root[1] : 0)));
    });
  }
  expect(off).toBeLessThan(bound);
  // The way is a sum over four seconds.
  expect(Math.abs(there.root[1] - here.root[1])).toBeLessThan(10 * bound);
  expect(meters.worst[0]).toBeLessThan(0.5);
});

test('a manifest that names what is not there, or is of a later version, is told so in a sentence', async () => {
  const { manifest, nodes, animations } = await shipped({});
  const read = (change: object) => () => readShipped({ ...(manifest as ShippedManifest), ...change }, nodes, animations);
  expect(read({ oldLantern: 2 })).toThrow('The manifest is of version 2; this reads version 1.');
  expect(read({ graph: null })).toThrow('The set has no graph');
  expect(read({ joints: { ...manifest.joints, hips: 'Tail' } })).toThrow('The manifest names “Tail”, which the file does not have.');
  expect(() => readShipped(manifest as ShippedManifest, nodes, animations.slice(1))).toThrow('which the file does not have');
});
