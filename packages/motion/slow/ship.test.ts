import { capture } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import { validateGlb } from '@lantern/unpack';
import {
  clipBytes,
  clipFromBytes,
  findLoops,
  forwardKinematics,
  groundwork,
  makeClips,
  manifestSchema,
  packProject,
  parseProject,
  projectInputs,
  projectSources,
  readBvh,
  readCharacter,
  readGlb,
  recipeRunner,
  shipNamed,
  shippedNames,
  travelCsv,
  whyChanged,
  whyWritten,
  worldMotion,
  type Character,
  type ClipInputs,
  type MadeFile,
  type Manifest,
  type Report,
  shipSchema,
  type ShipOptionsInput,
} from '@lantern/motion';
import { readShippedPlaces, readShippedTurns } from '../tests/shipped-places';
import { angleBetween, multiply } from '../src/math/quat';
import { glbChunks, joinGlb } from '../src/formats/gltf-container';
import { fileFacts } from '../src/ship/file-facts';
import { guarantees } from '../src/ship/guarantees';
import { measured } from '../src/ship/ship-clip';
import { writtenClip } from '../src/ship/written-clip';

const { motion: walk } = capture('walk', { seconds: 6, seed: 5 });
const { motion: idle } = capture('idle', { seconds: 6, seed: 5 });
const stride = (() => {
  const ground = groundwork(walk);
  const found = ground && findLoops(ground).candidates.find(({ strides }) => strides === 1);
  if (!found) throw new Error('nobody walks');
  return found;
})();
const cast = new Map<string, Character>();
beforeAll(async () => {
  for (const who of ['wick', 'tallow'] as const) cast.set(who, readCharacter(await castGlb(who), `${who}.glb`));
});

const takeOf = (id: string) => ({ motion: id === 'walk' ? walk : idle, warnings: [] });
type Who = 'wick' | 'tallow' | null;

/** A stroll and a wait as a set, of whoever is asked for. */
function project(ship: ShipOptionsInput, whose: readonly Who[] = [null]) {
  const steps = (who: Who) => [
    ...(who ? [{ kind: 'fit', character: who }] : []),
    { kind: 'clean' },
    { kind: 'loop' },
    { kind: 'foot-lock' },
    { kind: 'travel', start: 'origin' },
  ];
  const of = (who: Who, name: string) => (whose.length > 1 ? `${name}-${who}` : name);
  return parseProject(
    JSON.stringify({
      oldLantern: 1,
      takes: [
        { id: 'walk', file: 'walk.bvh', markers: [{ frame: stride.from + 20, name: 'lamp' }] },
        { id: 'idle', file: 'idle.bvh' },
      ],
      characters: whose.flatMap((who) => (who ? [{ id: who, file: `${who}.glb` }] : [])),
      clips: whose.flatMap((who) => [
        { name: of(who, 'stroll'), take: 'walk', from: stride.from, to: stride.to, steps: steps(who) },
        { name: of(who, 'wait'), take: 'idle', from: 60, to: 180, steps: steps(who) },
      ]),
      sets: whose.map((who) => ({ name: `set-${who}`, character: who, home: { clip: of(who, 'wait'), frame: 0 } })),
      ship,
    }),
  );
}

async function shipped(ship: ShipOptionsInput, whose: readonly Who[] = [null]) {
  const { files, report } = await makeClips(project(ship, whose), takeOf, cast, { validate: validateGlb });
  const text = (path: string) => new TextDecoder().decode(files.find((own) => own.path === path)?.bytes);
  const bytes = (path: string) => {
    const found = files.find((own) => own.path === path);
    if (!found) throw new Error(`${path} is not among ${files.map((own) => own.path)}`);
    return found.bytes;
  };
  return { files, report, text, bytes, manifest: (path: string): Manifest => manifestSchema.parse(JSON.parse(text(path))) };
}

const everythingHolds = ({ guarantees: all = [] }: Report) => all.filter(({ ok }) => !ok);
const jsonOf = (bytes: Uint8Array) =>
  JSON.parse(new TextDecoder().decode(glbChunks(bytes).json)) as {
    nodes: { name: string; children?: number[]; mesh?: number }[];
    skins?: object[];
    accessors: { componentType: number; min?: number[] }[];
    animations: {
      name: string;
      channels: { sampler: number; target: { node: number; path: string } }[];
      samplers: { input: number; output: number }[];
    }[];
  };

test.each<[string, ShipOptionsInput, Who]>([
  ['as they are', {}, null],
  ['at 24 a second', { fps: 24 }, null],
  ['thinned', { thin: {} }, null],
  ['thinned straight, in 16 bits', { thin: { joining: 'straight', quantised: true } }, null],
  ['on a character', { thin: {} }, 'wick'],
  ['on a character with other axes, in 16 bits', { thin: { quantised: true } }, 'tallow'],
  ['on a plain body', { body: 'plain' }, 'tallow'],
  ['without a body', { body: 'without', oneFilePerClip: true }, 'tallow'],
  ['nobody’s, without a body', { body: 'without' }, null],
  ['without last keys', { lastKey: 'left out', thin: {} }, 'wick'],
  ['with their travel in tables', { rootMotion: 'table', thin: {} }, 'tallow'],
  ['with targets and differences', { targets: true, differences: { clip: 'wait', of: ['stroll'] }, thin: {} }, 'tallow'],
])('clips %s keep every promise, in the bytes that were written', async (_, ship, who) => {
  const { report } = await shipped(ship, [who]);
  expect(everythingHolds(report)).toEqual([]);
  expect(report.guarantees?.map(({ id }) => id)).toEqual([
    ...['root', 'joints', 'frames', 'loops', 'scale', 'signs', 'names', 'skin', 'valid', 'poses'],
  ]);
});

/** A file of the set with its stroll, what it shows of what is promised, and what it does when something of it is changed. */
async function changeable(ship: ShipOptionsInput) {
  const { bytes } = await shipped(ship);
  const file = bytes('set.glb');
  const { thin } = shipSchema.parse(ship);
  const { clip } = measured(takeClip(), { fps: 60, thin, lastKey: 'kept', rootMotion: 'root', home: null });
  const facts = async (changed: Uint8Array) => {
    const joints = clip.motion.skeleton.joints.map(({ name }) => jsonOf(file).nodes.findIndex((node) => node.name === name));
    return fileFacts(changed, {
      path: 'set.glb',
      owner: '',
      clips: [{ name: 'stroll', clip, written: writtenClip(clip, { lastKey: 'kept', rootMotion: 'root' }) }],
      joints: { nodes: joints, turn: [0, 0, 0, 1], metresPerUnit: 1 },
      root: 0,
      options: { body: 'with' },
    });
  };
  const brokenBy = async (change: (json: ReturnType<typeof jsonOf>, binary: DataView) => void) => {
    const { json, binary } = glbChunks(file);
    const document = JSON.parse(new TextDecoder().decode(json)) as ReturnType<typeof jsonOf>;
    const numbers = Uint8Array.from(binary ?? []);
    change(document, new DataView(numbers.buffer));
    const { breaks } = await facts(joinGlb(new TextEncoder().encode(JSON.stringify(document)), numbers));
    return [...new Set(breaks.map(({ id }) => id))];
  };
  const stroll = (json: ReturnType<typeof jsonOf>) => json.animations.find(({ name }) => name === 'stroll') ?? json.animations[0];
  /** Where the keys of a node's rotation begin. */
  const keysOf = (json: ReturnType<typeof jsonOf>, node: string): number => {
    const own = stroll(json);
    const channel = own.channels.find(({ target }) => json.nodes[target.node].name === node && target.path === 'rotation');
    const accessor = json.accessors[own.samplers[channel?.sampler ?? 0].output] as unknown as { bufferView: number; byteOffset?: number };
    const views = (json as unknown as { bufferViews: { byteOffset?: number }[] }).bufferViews;
    return (views[accessor.bufferView].byteOffset ?? 0) + (accessor.byteOffset ?? 0);
  };
  return { file, clip, facts, brokenBy, stroll, keysOf };
}

test('a promise that is broken is told, by file and clip', async () => {
  const { file, clip, facts, brokenBy, stroll, keysOf } = await changeable({});
  expect((await facts(file)).breaks).toEqual([]);
  expect(await brokenBy((json) => (json.animations[1].name = 'stroll'))).toEqual(['names']);
  expect(await brokenBy((json) => (stroll(json).channels[0].target.path = 'scale'))).toContain('scale');
  expect(
    await brokenBy((json) => {
      for (const node of json.nodes) delete node.mesh;
    }),
  ).toEqual(['skin']);
  // One key of a hand with the other sign: the same pose, but players that do not take the shorter way turn it round.
  expect(
    await brokenBy((json, numbers) => {
      const at = keysOf(json, 'LeftHand') + 16 * 5;
      for (let k = 0; k < 4; k++) numbers.setFloat32(at + k * 4, -numbers.getFloat32(at + k * 4, true), true);
    }),
  ).toEqual(['signs']);
  // A thigh that is turned by a degree in the last key.
  expect(
    await brokenBy((json, numbers) => {
      const at = keysOf(json, 'LeftThigh') + 16 * (clip.motion.frames - 1);
      numbers.setFloat32(at, numbers.getFloat32(at, true) + 0.0087, true);
    }),
  ).toEqual(['loops', 'poses']);
  const other = { ...(await facts(file)), path: 'other.glb', joints: 'others' };
  expect(guarantees([await facts(file), other]).find(({ id }) => id === 'joints')).toMatchObject({
    ok: false,
    found: ['other.glb: its joints are not those of set.glb.'],
  });
});

test('a slope between two keys that is another breaks what is promised of poses, though every key is where it was', async () => {
  const { file, facts, brokenBy, keysOf } = await changeable({ thin: {} });
  expect((await facts(file)).breaks).toEqual([]);
  expect(
    await brokenBy((json, numbers) => {
      // Of a cubic track every key has three values: the slope that comes in, itself, and the slope that goes out.
      const at = keysOf(json, 'LeftThigh') + 16 * (3 * 2 + 2);
      numbers.setFloat32(at, numbers.getFloat32(at, true) + 0.5, true);
    }),
  ).toEqual(['poses']);
});

/** The stroll of the project, run by itself. */
function takeClip() {
  const { clips } = project({});
  const [{ source, steps }] = clips;
  return recipeRunner(walk)({ from: source.from, to: source.to, steps });
}

test('several characters have a folder each, with a manifest that knows its own', async () => {
  const { files, manifest, report } = await shipped({ thin: {}, csv: true }, ['wick', 'tallow']);
  expect(files.map(({ path }) => path).sort()).toEqual([
    ...['tallow/clips/stroll-tallow.travel.csv', 'tallow/clips/wait-tallow.travel.csv', 'tallow/set.glb', 'tallow/set.lantern.json'],
    ...['wick/clips/stroll-wick.travel.csv', 'wick/clips/wait-wick.travel.csv', 'wick/set.glb', 'wick/set.lantern.json'],
  ]);
  expect(manifest('wick/set.lantern.json').clips.map(({ name }) => name)).toEqual(['stroll-wick', 'wait-wick']);
  expect(report.clips.find(({ name }) => name === 'stroll-tallow')?.file).toBe('tallow/set.glb');
});

test('the same again is the same bytes, also when clips come in files of their own', async () => {
  for (const ship of [{ thin: {} }, { oneFilePerClip: true, targets: true, curves: true }]) {
    const [a, b] = [await shipped(ship, ['tallow']), await shipped(ship, ['tallow'])];
    expect(a.files.map(({ path }) => path)).toEqual(b.files.map(({ path }) => path));
    for (const [i, { bytes }] of a.files.entries()) expect(Buffer.compare(bytes, b.files[i].bytes)).toBe(0);
  }
});

test('markers of a take go out with the clips that show them, at whatever rate', async () => {
  for (const fps of [60, 30, 50]) {
    const { manifest } = await shipped({ fps });
    const [stroll, wait] = manifest('set.lantern.json').clips;
    const [mark] = stroll.events.filter(({ kind }) => kind === 'mark');
    expect(mark).toMatchObject({ name: 'lamp' });
    // A loop may begin at another frame than its cut, by its closing; the mark is on the pose that was marked.
    expect(mark.at).toBeGreaterThanOrEqual(0);
    expect(Math.abs(mark.at - 20 / 60)).toBeLessThan(0.02);
    expect(wait.events).toEqual([]);
    const falls = stroll.events.filter(({ kind }) => kind === 'footfall');
    expect(falls).toHaveLength(2);
    expect(stroll.startsOn).toBe('foot' in falls[0] && falls[0].foot);
  }
});

test('the manifest has the table of other sides, curves frame by frame, and the prefix on animations only', async () => {
  const { manifest, bytes } = await shipped({ prefix: 'W_', curves: true });
  const { mirror, clips, home } = manifest('set.lantern.json');
  expect(mirror).toContainEqual(['LeftFoot', 'RightFoot']);
  expect(clips.map(({ name, animation }) => [name, animation])).toEqual([
    ['stroll', 'W_stroll'],
    ['wait', 'W_wait'],
  ]);
  expect(jsonOf(bytes('set.glb')).animations.map(({ name }) => name)).toEqual(['W_stroll', 'W_wait']);
  const [{ curves, frames, speedMps, events }] = clips;
  expect(curves?.speed.values).toHaveLength(frames);
  const mean = (curves?.speed.values ?? []).reduce((sum, v) => sum + v, 0) / frames;
  expect(mean).toBeCloseTo(speedMps, 1);
  // The time to the next footfall is nothing at one.
  const first = Math.round((events.find(({ kind }) => kind === 'footfall')?.at ?? NaN) * 60);
  expect(curves?.toPlant.values[first]).toBeLessThan(1 / 60);
  expect(home).toEqual({ clip: 'wait', frame: 0 });
});

test('without its last key a loop plays as with it, one key shorter', async () => {
  const [whole, open] = [await shipped({}), await shipped({ lastKey: 'left out' })];
  const [[a], [b]] = [await readGlb(whole.bytes('set.glb')), await readGlb(open.bytes('set.glb'))];
  expect(b.clip.motion.frames).toBe(a.clip.motion.frames);
  const [p, q] = [worldMotion(a.clip), worldMotion(b.clip)].map((motion) => forwardKinematics(motion).positions);
  expect(Math.max(...p.map((v, i) => Math.abs(v - q[i])))).toBeLessThan(1e-4);
  const json = jsonOf(open.bytes('set.glb'));
  const count = (json.accessors[json.animations[0].samplers[0].input] as unknown as { count: number }).count;
  expect(count).toBe(a.clip.motion.frames - 1);
});

test('travel that stays in the table is not on the root, and in the table it is all there', async () => {
  const [onRoot, inTable] = [await shipped({}), await shipped({ rootMotion: 'table' })];
  const [[a], [b]] = [await readGlb(onRoot.bytes('set.glb')), await readGlb(inTable.bytes('set.glb'))];
  expect(b.clip.travel).toBeNull();
  const [head, ...lines] = inTable.text('clips/stroll.travel.csv').trim().split('\n');
  expect(head).toBe('time_s,x_m,y_m,z_m,heading_rad,speed_mps,turn_rad_s,phase,left_contact,right_contact');
  const rows = lines.map((line) => line.split(',').map(Number));
  expect(rows).toHaveLength(a.clip.motion.frames);
  rows.forEach(([time, x, , z, heading, speed], f) => {
    expect(time).toBeCloseTo(f / 60, 5);
    expect(x).toBeCloseTo(a.clip.travel?.x[f] ?? NaN, 5);
    expect(z).toBeCloseTo(a.clip.travel?.z[f] ?? NaN, 5);
    expect(heading).toBeCloseTo(a.clip.travel?.heading[f] ?? NaN, 5);
    expect(speed).toBeGreaterThan(1);
  });
  // The phase goes round once, and is nothing where the left foot comes down.
  const phases = rows.map((row) => row[7]);
  expect(Math.min(...phases)).toBeLessThan(0.02);
  expect(phases.filter((v, f) => f > 0 && v < phases[f - 1])).toHaveLength(1);
  expect(rows.every((row) => row[8] + row[9] >= 1)).toBe(true);
});

test('a table of somebody who stands has no phase', () => {
  const clip = { motion: idle, travel: null, loop: false, lead: null, tail: null };
  expect(travelCsv(clip).split('\n')[1]).toBe('0,0,0,0,0,0,0,,1,1');
});

test('targets go where hands and feet go', async () => {
  const { bytes, manifest } = await shipped({ targets: true }, ['tallow']);
  const file = bytes('set.glb');
  const { joints } = manifest('set.lantern.json');
  const { left } = joints;
  expect(left).toMatchObject({ footTarget: 'target-left-foot', handTarget: 'target-left-hand' });
  for (const [joint, target] of [
    [left.foot, left.footTarget],
    [left.hand, left.handTarget],
    [joints.right.foot, joints.right.footTarget],
  ])
    for (const seconds of [0, 0.3, 0.7]) {
      const at = readShippedPlaces(file, 'stroll', seconds);
      const [a, b] = [at(joint ?? ''), at(target ?? '')];
      expect(Math.hypot(...a.map((v, k) => v - b[k]))).toBeLessThan(1e-4);
    }
});

test('a difference put onto the base pose is the clip again', async () => {
  const { bytes, manifest } = await shipped({ differences: { clip: 'wait', frame: 3, of: ['stroll'] }, thin: {} }, ['tallow']);
  const told = manifest('set.lantern.json').differences;
  expect(told).toEqual({ base: 'base-pose', clips: [{ clip: 'stroll', animation: 'stroll-difference' }] });
  const [base, difference, whole] = ['base-pose', 'stroll-difference', 'stroll'].map((name) =>
    readShippedTurns(bytes('set.glb'), name, 0.4),
  );
  for (const node of whole.keys()) {
    const put = [0, 0, 0, 1];
    multiply(put, 0, base.get(node) ?? [0, 0, 0, 1], 0, difference.get(node) ?? [0, 0, 0, 1], 0);
    expect(angleBetween(put, 0, whole.get(node) ?? [0, 0, 0, 1], 0)).toBeLessThan(2e-3);
  }
});

test('BVH goes out in the axis and the unit that are asked for, and is the same motion', async () => {
  const made = await shipped({ bvh: true, bvhUp: '+z', bvhUnit: 'm' });
  const plain = await shipped({ bvh: true });
  const [a, b] = [plain, made].map(({ bytes }) => readBvh(bytes('clips/stroll.bvh'), 'stroll').motion);
  const [p, q] = [a, b].map((motion) => forwardKinematics(motion));
  for (let i = 0; i < p.positions.length; i += 3) {
    expect(q.positions[i] * 100).toBeCloseTo(p.positions[i], 2);
    expect(q.positions[i + 2] * 100).toBeCloseTo(p.positions[i + 1], 2);
    expect(-q.positions[i + 1] * 100).toBeCloseTo(p.positions[i + 2], 2);
  }
});

test('why something is written again is said: a step, a cut, what it is cut from, how it ships', () => {
  const inputs: ClipInputs = {
    source: 'a',
    cut: [0, 10],
    steps: [{ kind: 'loop' }, { kind: 'foot-lock' }],
    settled: [],
    character: null,
    markers: [],
    shipping: { fps: 60 },
  };
  expect(whyChanged(inputs, inputs)).toEqual([]);
  expect(whyChanged({ ...inputs, cut: [0, 11], source: 'b' }, inputs)).toEqual(['what it is cut from', 'its cut']);
  expect(whyChanged({ ...inputs, steps: [{ kind: 'loop', blend: 3 }, { kind: 'mirror' }] }, inputs)).toEqual([
    'the step “loop”',
    'the step “mirror” came in',
    'the step “foot-lock” is gone',
  ]);
  const clip = (name: string, change: Partial<ClipInputs> = {}) => ({
    name,
    take: 't',
    file: 'set.glb',
    rateChange: 1,
    warnings: [],
    inputs: { ...inputs, ...change },
  });
  const before = { clips: [clip('a'), clip('b'), clip('c')] };
  const now = { clips: [clip('a'), clip('b', { shipping: { fps: 30 } }), clip('d')] };
  expect(whyWritten('set.glb', now, before)).toEqual(['b: how it is shipped', 'd is new', 'c is gone']);
  expect(whyWritten('clips/b.bvh', now, before)).toEqual(['b: how it is shipped']);
  // One name is the end of another: each file is of its own clip.
  const [old, fresh] = [{ clips: [clip('walk'), clip('slow-walk')] }, { clips: [clip('walk', { cut: [0, 9] }), clip('slow-walk')] }];
  expect(whyWritten('clips/slow-walk.bvh', fresh, old)).toEqual(['the program writes it otherwise']);
  expect(whyWritten('clips/walk.bvh', fresh, old)).toEqual(['walk: its cut']);
  expect(whyWritten('set.lantern.json', before, before)).toEqual(['the set, its fields or its graph']);
});

test.each<ShipOptionsInput>([
  {},
  { thin: { quantised: true } },
  { thin: {}, lastKey: 'left out', rootMotion: 'table', bvh: true, csv: true, targets: true },
])('clips that were kept as bytes are packed to the same bytes as they were (%j)', async (ship) => {
  const own = project(ship, ['tallow']);
  const sources = projectSources(own, takeOf, cast);
  const inputs = projectInputs(own);
  const fresh = shippedNames(own).map((name) => shipNamed(own, sources, inputs, name));
  const kept = fresh.map((each) => ({ ...each, shipped: clipFromBytes(clipBytes(each.shipped, own.ship), own.ship) }));
  const packed = async (made: typeof fresh) => {
    const files: MadeFile[] = [];
    const report = await packProject(own, made, [], cast, (file) => void files.push(file));
    return { files, report };
  };
  const [a, b] = [await packed(fresh), await packed(kept)];
  expect(JSON.stringify(b.report)).toBe(JSON.stringify(a.report));
  expect(b.files.map(({ path }) => path)).toEqual(a.files.map(({ path }) => path));
  for (const [i, { bytes }] of a.files.entries()) expect(Buffer.compare(bytes, b.files[i].bytes)).toBe(0);
});
