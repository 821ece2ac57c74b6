import { execFile } from 'node:child_process';
import { mkdir, mkdtemp, readdir, readFile, rm, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { capture } from '@lantern/capture';
import { cutMotion } from '@lantern/motion';
import { trot } from '../../../packages/motion/tests/four-legged';
import { asfAndAmc, oddGlb } from '../../../packages/motion/tests/odd-files';

const lantern = (...args: string[]) =>
  new Promise<{ code: number; out: string; err: string }>((resolve) => {
    execFile('node', ['apps/cli/dist/lantern.mjs', ...args], { maxBuffer: 1e8 }, (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err }),
    );
  });

let folder = '';
const at = (name: string) => join(folder, name);
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lantern-'));
  await lantern('capture', 'walk', '--out', at('walk.bvh'), '--truth', at('truth.json'), '--seconds', '8', '--seed', '7');
});
afterAll(() => rm(folder, { recursive: true }));

test('capture, inspect, contacts and loops speak the JSON they promise', async () => {
  const truth = JSON.parse(await readFile(at('truth.json'), 'utf8'));
  expect(truth).toMatchObject({ fps: 60, metresPerUnit: 0.01, script: 'walk', seed: 7, faults: 1 });
  expect(truth.speedMps).toBeCloseTo(1.3, 2);
  const { files } = JSON.parse((await lantern('inspect', at('walk.bvh'), '--json')).out);
  expect(files).toEqual([
    expect.objectContaining({
      format: 'bvh',
      joints: 21,
      frames: 481,
      fps: 60,
      up: '+y',
      units: expect.objectContaining({ metresPerUnit: 0.01, unit: 'cm' }),
      freeFall: expect.objectContaining({ verdict: 'no-flights' }),
    }),
  ]);
  const contacts = JSON.parse((await lantern('contacts', at('walk.bvh'), '--json')).out);
  expect(Math.abs(contacts.left.length - truth.left.length)).toBeLessThanOrEqual(1);
  const loops = JSON.parse((await lantern('loops', at('walk.bvh'), '--json')).out);
  expect(loops.candidates[0]).toMatchObject({
    strides: expect.any(Number),
    seam: { poseCm: expect.any(Number), worstJoint: expect.any(String), driftCm: expect.any(Number) },
  });
  expect(loops.pairs).toBeGreaterThan(1000);
});

test('set says what a project’s clips fill and lack, field how they blend; what is not there is said in a line', async () => {
  await lantern('capture', 'jog', '--out', at('jogging.bvh'), '--seconds', '8', '--seed', '7');
  const cycle = async (file: string) => {
    const { candidates } = JSON.parse((await lantern('loops', at(file), '--json')).out) as {
      candidates: { from: number; to: number; strides: number }[];
    };
    return candidates.find(({ strides }) => strides === 1);
  };
  const steps = [{ kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }];
  const clips = [
    { name: 'stroll', take: 'walk', ...(await cycle('walk.bvh')), steps },
    { name: 'jog', take: 'jog', ...(await cycle('jogging.bvh')), steps },
  ].map(({ name, take, from, to, steps: own }) => ({ name, take, from, to, steps: own }));
  const project = {
    oldLantern: 1,
    takes: [
      { id: 'walk', file: 'walk.bvh' },
      { id: 'jog', file: 'jogging.bvh' },
    ],
    clips,
    sets: [{ name: 'lamplighter', slots: 'full', contract: { speedMps: { walk: { forward: 1.4 } } } }],
    fields: [{ name: 'jogs', inputs: ['speed'], clips: ['stroll', 'jog'] }],
  };
  await writeFile(at('set.json'), JSON.stringify(project));
  const found = JSON.parse((await lantern('set', at('set.json'), '--json')).out);
  expect(found).toMatchObject({ set: 'lamplighter', counts: { filled: 2, mirror: 0, missing: 29 } });
  const slot = (id: string) => found.slots.find((own: { slot: string }) => own.slot === id);
  expect(slot('loop/walk/forward')).toMatchObject({ state: 'filled', clip: 'stroll', homeCm: null, askedMps: 1.4 });
  expect(slot('stop/jog/right')).toMatchObject({ state: 'missing', shot: 'Jog stop on the right foot, 3 m run-up, two good strides.' });
  expect(found.contract.find(({ id }: { id: string }) => id === 'speedMps/walk/forward')).toMatchObject({ asked: 1.4, breaks: null });
  const field = JSON.parse((await lantern('field', at('set.json'), 'jogs', '--json', '--grid', '5')).out);
  expect(field).toMatchObject({ field: 'jogs', inputs: ['speed'], figures: { out: 0 } });
  expect(field.soundings).toHaveLength(5);
  expect(field.soundings[2]).toMatchObject({
    slideMm: expect.any(Number),
    got: [expect.any(Number), expect.any(Number)],
    kink: expect.any(Number),
  });
  // Without somebody who waits he only moves: the graph is one state, in which nothing pops.
  const weather = JSON.parse((await lantern('drive', at('set.json'), '--minutes', '0.5', '--seed', '2', '--json')).out);
  expect(weather).toMatchObject({ set: 'lamplighter', minutes: 0.5, seed: 2, transitions: 0 });
  expect(weather.changes).toBeGreaterThan(10);
  expect(weather.worst.slideCm).toBeLessThan(0.5);
  expect(weather.worst.popCm).toBeGreaterThan(0);
  expect(weather.findings[0]).toMatchObject({
    figure: expect.any(String),
    to: 'moving',
    clip: expect.any(String),
    step: expect.any(Number),
  });
  expect(JSON.parse((await lantern('drive', at('set.json'), '--minutes', '0.5', '--seed', '2', '--json')).out).findings).toEqual(
    weather.findings,
  );
  expect(await lantern('drive', at('set.json'), '--set', 'nobody')).toMatchObject({
    code: 3,
    err: expect.stringContaining('There is no set "nobody".'),
  });
  // What ships says how it is played.
  await lantern('make', at('set.json'), '--out', at('shipped'));
  const manifest = JSON.parse(await readFile(at('shipped/set.lantern.json'), 'utf8'));
  expect(manifest).toMatchObject({
    oldLantern: 1,
    file: 'set.glb',
    joints: { root: 'root', hips: 'Hips' },
    fields: [{ name: 'jogs', inputs: ['speed'], points: [{ clip: 'stroll' }, { clip: 'jog' }] }],
    graph: { initial: 'moving' },
  });
  expect(manifest.clips.map(({ name, slot }: { name: string; slot: string }) => `${name} ${slot}`)).toEqual([
    'stroll loop/walk/forward',
    'jog loop/jog/forward',
  ]);
  const gone = await lantern('field', at('set.json'), 'strolls');
  expect(gone).toMatchObject({ code: 3, err: expect.stringContaining('There is no field "strolls"; there is "jogs".') });
  await writeFile(at('bad-set.json'), JSON.stringify({ ...project, fields: [{ name: 'jogs', clips: ['nobody'] }] }));
  expect(await lantern('set', at('bad-set.json'))).toMatchObject({ code: 3, err: expect.stringContaining('"nobody"') });
});

test('joins finds where one motion can follow another, and make builds what the project joins', async () => {
  await lantern('capture', 'jog', '--out', at('jog.bvh'), '--seconds', '8', '--seed', '7');
  const found = JSON.parse((await lantern('joins', at('walk.bvh'), at('jog.bvh'), '--json')).out);
  expect(found.pairs).toBe(481 * 481);
  expect(found.candidates[0]).toEqual({
    a: expect.any(Number),
    b: expect.any(Number),
    frames: 18,
    foot: expect.stringMatching(/foot|hips/),
    poseCm: expect.any(Number),
    popCm: expect.any(Number),
    slideCm: expect.any(Number),
  });
  const project = {
    oldLantern: 1,
    takes: ['walk', 'jog'].map((id) => ({ id, file: `${id}.bvh` })),
    clips: [{ name: 'stroll', take: 'walk', from: 100, to: 166, steps: [{ kind: 'loop' }, { kind: 'foot-lock' }] }],
    joins: [
      {
        name: 'round',
        pieces: [
          { clip: 'stroll', times: 3 },
          { take: 'jog', from: 60, to: 200, into: { inStep: false } },
        ],
      },
    ],
  };
  await writeFile(at('round.json'), JSON.stringify(project));
  const made = await lantern('make', at('round.json'), '--out', at('round'), '--json');
  expect(made.code).toBe(0);
  expect(JSON.parse(made.out).joins).toMatchObject([{ name: 'round', frames: 199 + 141 - 1 - 18 }]);
  const { clips } = JSON.parse((await lantern('measure', at('round/set.glb'), '--json')).out);
  expect(clips.map(({ name, seconds }: Record<string, unknown>) => [name, seconds])).toEqual([
    ['stroll', expect.closeTo(1.1, 5)],
    ['round', expect.closeTo(320 / 60, 5)],
  ]);
  const own = await lantern('joins', `${at('round.json')}#stroll`, at('jog.bvh'), '--json');
  expect(JSON.parse(own.out).candidates.length).toBeGreaterThan(0);
  const missing = await lantern('joins', `${at('round.json')}#nobody`, at('jog.bvh'));
  expect([missing.code, missing.err]).toEqual([3, `${at('round.json')}:1: There is no clip "nobody".\n`]);
});

test('inspect reads every format, a file with several takes, and a motion with its skeleton beside it', async () => {
  const short = cutMotion(capture('walk', { seconds: 1, seed: 9 }).motion, 0, 29);
  const { asf, amc } = asfAndAmc(short);
  await writeFile(at('gulls.glb'), await oddGlb(short, { animations: 2, armature: true }));
  await writeFile(at('pier.asf'), asf);
  await writeFile(at('pier_01.amc'), amc);
  const { files } = JSON.parse((await lantern('inspect', at('gulls.glb'), at('pier.asf'), at('pier_01.amc'), '--json')).out);
  expect(files.map(({ format, part, frames }: Record<string, unknown>) => [format, part, frames])).toEqual([
    ['gltf', 'way 1', 30],
    ['gltf', 'way 2', 30],
    ['asf-amc', undefined, 30],
  ]);
  // A motion alone says what it lacks.
  await writeFile(at('alone_01.amc'), amc);
  await rm(at('pier.asf'));
  const alone = await lantern('inspect', at('alone_01.amc'));
  expect(alone.code).toBe(3);
  expect(alone.err).toMatch(/alone_01\.amc:1: .*skeleton/);
});

test('make writes what measure reads: a loop without a tick at the speed of the walk', async () => {
  const [loop] = JSON.parse((await lantern('loops', at('walk.bvh'), '--json')).out).candidates;
  await writeFile(
    at('p.json'),
    JSON.stringify({
      oldLantern: 1,
      takes: [{ id: 'w', file: 'walk.bvh' }],
      clips: [{ name: 'stroll', take: 'w', from: loop.from, to: loop.to, steps: [{ kind: 'loop' }, { kind: 'travel' }] }],
      ship: { bvh: true },
    }),
  );
  expect((await lantern('make', at('p.json'), '--out', at('out'))).code).toBe(0);
  const report = JSON.parse(await readFile(at('out/report.json'), 'utf8'));
  for (const file of ['out/set.glb', 'out/clips/stroll.bvh']) {
    const { clips } = JSON.parse((await lantern('measure', at(file), '--json')).out);
    expect(clips).toHaveLength(1);
    expect(clips[0]).toMatchObject({ name: 'stroll', loop: true, inPlace: false, fps: 60 });
    expect(clips[0].tick).toBeLessThanOrEqual(1.2);
    expect(clips[0].speedMps).toBeCloseTo(1.3, 1);
    expect(clips[0].speedMps).toBeCloseTo(report.clips[0].speedMps, 1);
  }
});

test('bad input is a 3 with one line that says what and where', async () => {
  await writeFile(at('empty.bvh'), '');
  await writeFile(at('binary.bvh'), Buffer.from([1, 0, 2, 0, 255]));
  await writeFile(at('cut.bvh'), (await readFile(at('walk.bvh'), 'utf8')).slice(0, 40_000));
  await writeFile(at('huge.bvh'), 'HIERARCHY');
  await truncate(at('huge.bvh'), 300_000_000);
  await writeFile(at('not.glb'), 'hello');
  await writeFile(at('p.txt'), '{ nonsense');
  const cases: [string[], RegExp][] = [
    [['inspect', at('gone.bvh')], /gone\.bvh:1: There is no such file\.\n$/],
    [['loops', folder], /:1: This is a folder/],
    [['contacts', at('empty.bvh')], /empty\.bvh:1: The file is empty/],
    [['inspect', at('binary.bvh')], /binary\.bvh:1: This is not a text file/],
    [['inspect', at('cut.bvh')], /cut\.bvh:\d\d+: The last row has/],
    [['inspect', at('huge.bvh')], /huge\.bvh:1: The file has 300 MB/],
    [['measure', at('not.glb')], /not\.glb:1: This is not a GLB/],
    [['make', at('p.txt'), '--out', at('x')], /p\.txt:1: The project file is not valid JSON/],
  ];
  for (const [args, message] of cases) {
    const { code, out, err } = await lantern(...args);
    expect({ code, out, err: err.split('\n').length }).toEqual({ code: 3, out: '', err: 2 });
    expect(err).toMatch(message);
  }
});

test('nothing is written or read outside of the folders that were named, whatever a name is made of', async () => {
  const made = (change: object) => ({
    oldLantern: 1,
    takes: [{ id: 'walk', file: 'walk.bvh' }],
    clips: [{ name: 'stroll', take: 'walk', from: 60, to: 125 }],
    ship: { glb: 'set.glb' },
    ...change,
  });
  await mkdir(at('inner'), { recursive: true });
  const cases: [string, object, RegExp][] = [
    ['line', { ship: { glb: 'a\n../../escaped.glb' } }, /ship\.glb/],
    ['up', { ship: { glb: 'x/../../escaped.glb' } }, /ship\.glb/],
    ['root', { ship: { glb: '/escaped.glb' } }, /ship\.glb/],
    ['name', { clips: [{ name: 'a\u0007b', take: 'walk', from: 60, to: 125 }] }, /clips/],
    ['read', { takes: [{ id: 'walk', file: '../walk.bvh' }] }, /“\.\.\/walk\.bvh” does not lie in the folder/],
    ['bell', { takes: [{ id: 'walk', file: 'wa\u0007lk.bvh' }] }, /takes/],
  ];
  for (const [name, change, says] of cases) {
    await writeFile(at(`inner/${name}.json`), JSON.stringify(made(change)));
    const { code, err } = await lantern('make', at(`inner/${name}.json`), '--out', at(`inner/out-${name}`));
    expect([name, code]).toEqual([name, 3]);
    expect(err).toMatch(says);
  }
  expect((await readdir(folder)).filter((name) => name.includes('escaped'))).toEqual([]);
  const allowed = await lantern('make', at('inner/read.json'), '--out', at('inner/out'), '--allow-outside');
  expect(allowed.code).toBe(0);
  expect(await readdir(at('inner/out'))).toEqual(['report.json', 'set.glb']);
});

test('what is probably not meant in a project file is a warning, and it is made', async () => {
  await writeFile(
    at('odd.json'),
    JSON.stringify({
      oldLantern: 1,
      tekes: [],
      takes: [
        { id: 'walk', file: 'gone.bvh' },
        { id: 'walk', file: 'walk.bvh', color: 'red' },
      ],
      clips: [{ name: 'stroll', take: 'walk', from: 60, to: 125, speed: 3 }],
      ship: { glb: 'set.glb', format: 'x' },
    }),
  );
  const { code, err } = await lantern('make', at('odd.json'), '--out', at('odd'));
  for (const word of ['"tekes"', '"takes.color"', '"clips.speed"', '"ship.format"', 'Several takes have the id "walk"'])
    expect(err).toContain(word);
  expect(code).toBe(0);
});

test('devices, pipes, folders that cannot be written and names too long are a 3 with a line, at once', async () => {
  await writeFile(at('file'), 'x');
  const cases: [string[], RegExp][] = [
    [['inspect', '/dev/zero'], /\/dev\/zero:1: This is a device or a pipe/],
    [['character', 'wick', '--out', at('file/wick.glb')], /a part of its folder is a file/],
    [['capture', 'walk', '--seconds', '1', '--out', at(`${'x'.repeat(300)}.bvh`)], /its name is too long/],
    [['fit', at('walk.bvh'), 'wick', '--out', folder], /a folder is there/],
  ];
  for (const [args, message] of cases) {
    const { code, err } = await lantern(...args);
    expect([args[0], code]).toEqual([args[0], 3]);
    expect(err).toMatch(message);
  }
});

test('a broken skeleton beside a good one spoils only its own', async () => {
  const { asf, amc } = asfAndAmc(cutMotion(capture('walk', { seconds: 1, seed: 3 }).motion, 0, 30));
  await mkdir(at('beside'), { recursive: true });
  await writeFile(at('beside/good.asf'), asf);
  await writeFile(at('beside/broken.asf'), ':version 1.10\n:name x\n:root\n nonsense');
  await writeFile(at('beside/good_01.amc'), amc);
  expect((await lantern('inspect', at('beside/good_01.amc'))).code).toBe(0);
  expect((await lantern('inspect', at('beside/broken.asf'))).code).toBe(3);
});

test('what is written for a character reads back as what it was: upright, at its speed, with and without travel', async () => {
  for (const character of ['wick', 'tallow']) {
    await lantern('character', character, '--out', at(`${character}.glb`));
    const fit = { kind: 'fit', character };
    for (const steps of [[fit], [fit, { kind: 'travel' }], [fit, { kind: 'loop' }, { kind: 'travel' }]]) {
      const name = `${character}-${steps.length}`;
      const project = {
        oldLantern: 1,
        fps: 60,
        takes: [{ id: 'walk', file: 'walk.bvh' }],
        characters: [{ id: character, file: `${character}.glb` }],
        clips: [{ name: 'stroll', take: 'walk', from: 60, to: 190, steps }],
        ship: { glb: 'set.glb' },
      };
      await writeFile(at(`${name}.json`), JSON.stringify(project));
      const made = await lantern('make', at(`${name}.json`), '--out', at(name), '--json');
      expect([name, made.code, made.err.includes('was not made')]).toEqual([name, 0, false]);
      const [clip] = JSON.parse(made.out).clips;
      const [read] = JSON.parse((await lantern('inspect', at(`${name}/set.glb`), '--json')).out).files;
      expect([name, read.up]).toEqual([name, '+y']);
      const measured = JSON.parse((await lantern('measure', at(`${name}/set.glb`), '--json')).out);
      const figures = measured.clips?.[0] ?? measured;
      expect(Math.abs(figures.speedMps - clip.speedMps)).toBeLessThan(0.03);
    }
  }
});

test('wrong use is a 2', async () => {
  for (const args of [
    ['frobnicate'],
    ['make', 'p.json'],
    ['capture', 'swim', '--out', at('x.bvh')],
    ['capture', 'walk', '--out', at('x.bvh'), '--fps', 'fast'],
    ['inspect'],
  ]) {
    expect((await lantern(...args)).code).toBe(2);
  }
});

test('one clip that cannot be made has its line and exit 3; the others are written', async () => {
  const project = {
    oldLantern: 1,
    fps: 60,
    takes: [{ id: 'walk', file: 'walk.bvh' }],
    clips: [
      { name: 'good', take: 'walk', from: 60, to: 125, steps: [{ kind: 'loop' }] },
      { name: 'short', take: 'walk', from: 60, to: 90, steps: [{ kind: 'typical-cycle' }] },
    ],
    ship: { glb: 'set.glb' },
  };
  await writeFile(at('partly.json'), JSON.stringify(project));
  const { code, err, out } = await lantern('make', at('partly.json'), '--out', at('partly'), '--json');
  expect(code).toBe(3);
  expect(err).toContain(`${at('partly.json')}:1: Clip "short" was not made: A typical cycle needs two whole strides at least`);
  expect(JSON.parse(out)).toMatchObject({
    clips: [{ name: 'good', likeness: { worstCm: expect.any(Number) }, closing: { way: expect.any(String) } }],
    failed: [{ name: 'short' }],
  });
  expect((await readFile(at('partly/set.glb'))).length).toBeGreaterThan(1000);
});

test('what is no person is said alike by every command, and loops, measure and make work for it', async () => {
  await writeFile(at('dog.glb'), await oddGlb(trot({ seconds: 4 })));
  const sentence = 'This is not a person: no trunk on two legs of thigh, shin and foot was found.';
  for (const args of [['inspect'], ['loops'], ['measure'], ['contacts']]) {
    const { code, err } = await lantern(...args, at('dog.glb'), '--json');
    expect([args[0], code, err.includes(sentence)]).toEqual([args[0], args[0] === 'contacts' ? 3 : 0, true]);
  }
  expect((await lantern('fit', at('dog.glb'), 'wick', '--out', at('dog-wick.glb'))).err).toContain(sentence);
  expect((await lantern('fit', at('walk.bvh'), at('dog.glb'), '--out', at('walk-dog.glb'))).err).toContain(sentence);
  const { candidates } = JSON.parse((await lantern('loops', at('dog.glb'), '--json')).out);
  expect((candidates[0].to - candidates[0].from) % 36).toBe(0);
});
