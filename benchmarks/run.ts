import { execFileSync } from 'node:child_process';
import { capture } from '@lantern/capture';
import { scoreContacts } from './contacts';
import { cleanTable } from './clean';
import { pairFigures, searchBeside } from './joins';
import { driveFigures } from './drive';
import { endFigures, fieldFigures } from './sets';
import { thinFigures } from './thin';
import { formatRaces } from './formats';
import { scoreFreeFall } from './free-fall';
import { race, time } from './race';
import { recipeTimes } from './recipes';
import { ZOO_BOUNDS, zooTable, type ZooFigures } from './zoo';
import { castGlb } from '@lantern/cast';
import {
  align,
  copyMotion,
  findLoops,
  fitMotion,
  fitSettingsSchema,
  forwardKinematics,
  groundwork,
  readBvh,
  readCharacter,
  seam,
  writeBvh,
} from '@lantern/motion';
import * as THREE from 'three';
import { BVHLoader } from 'three/addons/loaders/BVHLoader.js';

/** One line of the benchmark: how long ours takes, and beside what. */
interface Row {
  readonly name: string;
  readonly ours: string;
  readonly beside: string;
  readonly ratio: number | null;
  readonly note: string;
}

const ms = (value: number) => `${value.toFixed(value < 10 ? 2 : 0)} ms`;

const minute = capture('walk', { seconds: 60, seed: 5 }).motion;
const text = writeBvh(capture('walk', { seconds: 75, seed: 5 }).motion, { digits: 5 });
const bytes = new TextEncoder().encode(text);
const rows: Row[] = [];

{
  // Both results are in memory as rotations and positions over time; ours as quaternions, the library's as tracks.
  const [ours, theirs] = await race(
    () => readBvh(bytes, 'walk'),
    () => new BVHLoader().parse(text),
  );
  rows.push({
    name: `read BVH, ${(bytes.length / 1e6).toFixed(1)} MB`,
    ours: ms(ours),
    beside: `BVHLoader of three ${ms(theirs)}`,
    ratio: theirs / ours,
    note: 'result as quaternions',
  });
}

{
  const globals = forwardKinematics(minute);
  // The library's way: a hierarchy of objects, its matrices updated frame by frame.
  const bones = minute.skeleton.joints.map(() => new THREE.Bone());
  minute.skeleton.joints.forEach((joint, j) => bones[j].position.set(...joint.offset));
  minute.skeleton.joints.forEach((joint, j) => joint.parent >= 0 && bones[joint.parent].add(bones[j]));
  const hierarchy = () => {
    for (let f = 0; f < minute.frames; f++) {
      bones[0].position.fromArray(minute.rootPositions, f * 3);
      bones.forEach((bone, j) => bone.quaternion.fromArray(minute.rotations, (f * bones.length + j) * 4));
      bones[0].updateMatrixWorld(true);
    }
  };
  const [ours, theirs] = await race(() => forwardKinematics(minute, globals), hierarchy);
  rows.push({
    name: 'forward kinematics, a minute at 60',
    ours: ms(ours),
    beside: `object hierarchy of three ${ms(theirs)}`,
    ratio: theirs / ours,
    note: `${minute.frames} frames`,
  });
}

{
  const walker = groundwork(minute);
  if (!walker) throw new Error('no legs');
  const { pairs } = findLoops(walker);
  // Plain and exhaustive: every frame with every later one between the shortest and the longest cycle.
  const [shortest, longest] = [0.4 * 60, 6 * 60];
  const every = Array.from({ length: minute.frames }, (_, f) =>
    Math.max(0, Math.min(longest, minute.frames - 1 - f) - shortest + 1),
  ).reduce((a, b) => a + b);
  const ours = time(() => findLoops(walker), 5);
  // The naive way: the closed-form alignment and the seam of every pair; measured on some, counted for all.
  const some = 4000;
  const naive = time(() => {
    for (let i = 0; i < some; i++) {
      const a = (i * 7) % (minute.frames - 200);
      align(walker.globals, a, a + 30 + (i % 150), walker.weighted.joints, walker.weighted.weights, 2);
    }
  }, 3);
  const all = (naive / some) * every;
  rows.push({
    name: 'loop search, a minute at 60',
    ours: ms(ours),
    beside: `all ${every} pairs aligned ${ms(all)} (from ${some})`,
    ratio: all / ours,
    note: `${pairs} pairs compared`,
  });
  let at = 0;
  const drag = time(() => seam(walker, 600, 660 + (at++ % 40)), 200);
  rows.push({
    name: 'seam figures while a post is dragged',
    ours: ms(drag),
    beside: 'one frame of the screen 16.7 ms',
    ratio: 16.7 / drag,
    note: '',
  });
  rows.push({
    name: 'contacts, soles and headings, a minute',
    ours: ms(time(() => groundwork(copyMotion(minute)), 5)),
    beside: '',
    ratio: null,
    note: '',
  });
}

for (const { name, megabytes, ours, theirs, beside } of await formatRaces()) {
  const [mine, other] = await race(ours, theirs);
  rows.push({
    name: `${name}, ${megabytes.toFixed(1)} MB`,
    ours: ms(mine),
    beside: `${beside} ${ms(other)}`,
    ratio: other / mine,
    note: `${(megabytes / (mine / 1000)).toFixed(0)} MB/s`,
  });
}

{
  const tallow = readCharacter(await castGlb('tallow'), 'tallow');
  const settings = fitSettingsSchema.parse({});
  const { motion } = capture('walk', { seconds: 10, seed: 5, fps: 60 });
  groundwork(motion);
  const took = time(() => fitMotion(motion, tallow, settings));
  const bare = time(() => forwardKinematics(motion));
  rows.push({
    name: 'fit of a ten-second walk to Tallow',
    ours: ms(took),
    beside: `forward kinematics alone ${ms(bare)}`,
    ratio: null,
    note: `${Math.round((motion.frames / took) * 1000)} frames a second, feet held`,
  });
}

for (const { name, ms: took, limit, note } of recipeTimes())
  rows.push({ name, ours: ms(took), beside: `limit ${limit} ms`, ratio: limit / took, note });

for (const faults of [0, 1]) {
  const scores = scoreContacts(Number(process.env.CONTACT_SEEDS ?? 50), faults);
  const worst = scores.reduce((a, b) => (b.f1 < a.f1 ? b : a));
  const mean = scores.reduce((sum, { f1 }) => sum + f1, 0) / scores.length;
  rows.push({
    name: `contacts, all scripts, faults × ${faults}`,
    ours: `F1 ${mean.toFixed(3)}`,
    beside: 'F1 0.95',
    ratio: mean / 0.95,
    note: `lowest ${worst.script} ${worst.f1.toFixed(3)}, edges ${Math.max(...scores.map(({ edgeFrames }) => edgeFrames))} frames at most (median)`,
  });
}

for (const factor of [1, 3]) {
  const all = cleanTable().filter((row) => row.factor === factor);
  const ratios = all.map(({ beforeMm, afterMm }) => afterMm / beforeMm);
  const worst = all[ratios.indexOf(Math.max(...ratios))];
  rows.push({
    name: `jitter of all scripts cleaned, faults × ${factor}`,
    ours: `× ${(ratios.reduce((a, b) => a + b, 0) / ratios.length).toFixed(2)}`,
    beside: 'limit × 0.5',
    ratio: 0.5 / Math.max(...ratios),
    note: `worst ${worst.script} ${worst.beforeMm.toFixed(1)} → ${worst.afterMm.toFixed(1)} mm; spikes found ${(100 * Math.min(...all.map(({ spikesFound }) => spikesFound))).toFixed(0)} % at least`,
  });
}

for (const [a, b] of [
  ['stroll', 'jog'],
  ['wait', 'stroll'],
] as const) {
  const { ms: took, allMs, same } = searchBeside(a, b, 7100);
  const { slideCm, popCm } = pairFigures(a, b, [7100, 7101, 7102]);
  rows.push({
    name: `where ${b} can follow ${a}, 10 s against 10 s`,
    ours: ms(took),
    beside: `every pair of instants ${ms(allMs)}`,
    ratio: allMs / took,
    note: `${same} of its ten best are the same; the first one slides ${Math.max(...slideCm).toFixed(2)} cm, pops ${Math.max(...popCm).toFixed(2)} cm`,
  });
}

for (const [script, faults] of [
  ['walk', 0],
  ['jog', 0],
  ['walk', 1],
  ['jog', 1],
] as const) {
  const { fewer, denseBytes, ourBytes, theirBytes, ourMm, theirMm, ms: took } = await thinFigures(script, faults);
  const kb = (bytes: number) => `${(bytes / 1000).toFixed(0)} KB`;
  rows.push({
    name: `${script} thinned within 0.5 mm, faults × ${faults}`,
    ours: kb(ourBytes),
    beside: `resample of gltf-transform ${kb(theirBytes)} at ${theirMm.toFixed(2)} mm, dense ${kb(denseBytes)}`,
    ratio: theirBytes / ourBytes,
    note: `${fewer.toFixed(1)} × fewer keys, off by ${ourMm.toFixed(2)} mm, in ${took.toFixed(0)} ms`,
  });
}

{
  // Not a time but a rate of right answers: the limit is all of them, and none confidently wrong.
  const takes = Number(process.env.FREE_FALL_TAKES ?? 500);
  const { right, confidentlyWrong } = scoreFreeFall(takes, 1);
  rows.push({
    name: `free fall, ${takes} seeded takes`,
    ours: `${((right / takes) * 100).toFixed(1)} %`,
    beside: 'right in 99 %',
    ratio: right / takes / 0.99,
    note: `${confidentlyWrong} confidently wrong`,
  });
}

{
  const { soundings, ms: took, slideMm, looseMm, kink } = fieldFigures(11);
  rows.push({
    name: `sound a field, ${soundings} places`,
    ours: ms(took),
    beside: 'three seconds',
    ratio: 3000 / took,
    note: `slide ${slideMm.toFixed(1)} mm, ${looseMm.toFixed(0)} without feet held; knees ${kink.toFixed(2)} ×`,
  });
  const { ends, turnDeg, distanceCm, homeCm, homeBeforeCm, slideCm } = endFigures([1, 2]);
  rows.push({
    name: `${ends} ends brought home`,
    ours: `${homeCm.toFixed(2)} cm`,
    beside: `before ${homeBeforeCm.toFixed(1)} cm`,
    ratio: homeBeforeCm / Math.max(0.01, homeCm),
    note: `turns off by ${turnDeg.toFixed(4)}°, distances by ${distanceCm.toFixed(3)} cm, slide ${slideCm.toFixed(2)} cm`,
  });
}

{
  const { joints, ourMicroseconds, theirMicroseconds, characters } = await driveFigures();
  rows.push({
    name: `a tick of a field of three clips, ${joints} joints`,
    ours: `${ourMicroseconds.toFixed(1)} µs`,
    beside: `AnimationMixer of three, the plain blend ${theirMicroseconds.toFixed(1)} µs`,
    ratio: theirMicroseconds / ourMicroseconds,
    note: `with an overlap and feet held; ${characters} characters at 60 a second on one core`,
  });
}

{
  const start = performance.now();
  execFileSync('node', ['apps/cli/dist/lantern.mjs', '--help'], { stdio: 'ignore' });
  const took = performance.now() - start;
  rows.push({ name: 'the command line starts', ours: ms(took), beside: 'a second', ratio: 1000 / took, note: '' });
}

// The zoo, member by figure, the worst of each figure first.
const table = await zooTable();
const worst = ZOO_BOUNDS.map(({ figure, limit }) => {
  const value = (row: ZooFigures) => Number(row[figure] ?? 0);
  const sorted = [...table].sort((a, b) => (figure === 'contactsF1' ? value(a) - value(b) : value(b) - value(a)));
  return { figure, limit, members: sorted.slice(0, 3).map((row) => `${row.member} ${value(row).toFixed(3)}`) };
});

{
  // What nobody can mean is refused by counting: beside reading a good file of about that size.
  const deep = new TextEncoder().encode(`HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\n${'JOINT b\n{\nOFFSET 0 1 0\n'.repeat(100_000)}`);
  const refuse = () => {
    try {
      readBvh(deep, 'deep');
    } catch {
      return null;
    }
    throw new Error('it was read');
  };
  const [ours, theirs] = await race(refuse, () => readBvh(bytes, 'walk'));
  rows.push({
    name: `refuse joints nested 100 000 deep, ${(deep.length / 1e6).toFixed(1)} MB`,
    ours: ms(ours),
    beside: `reading a good file of ${(bytes.length / 1e6).toFixed(1)} MB ${ms(theirs)}`,
    ratio: theirs / ours,
    note: 'by counting, at the 401st',
  });
}

if (process.argv.includes('--json')) console.log(JSON.stringify({ rows, zoo: table }, null, 1));
else
  for (const { name, ours, beside, ratio, note } of rows)
    console.log(
      `${name.padEnd(42)} ${ours.padStart(9)}   ${beside ? `${beside}   ` : ''}${ratio ? `× ${ratio.toFixed(1)}` : ''}   ${note}`,
    );
if (!process.argv.includes('--json')) {
  console.log(`\nthe zoo: ${table.length} skeletons, the worst three of each figure`);
  for (const { figure, limit, members } of worst)
    console.log(`${figure.padEnd(16)} bound ${String(limit).padEnd(6)} ${members.join('   ')}`);
}
