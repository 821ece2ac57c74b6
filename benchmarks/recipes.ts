import { capture } from '@lantern/capture';
import {
  applyStep,
  copyMotion,
  cutClip,
  findLoops,
  groundwork,
  joinMotions,
  recipeRunner,
  stepSchema,
  type Clip,
  type Motion,
  type RecipeStep,
  type RecipeStepInput,
} from '@lantern/motion';

export interface RecipeTime {
  readonly name: string;
  readonly ms: number;
  /** What it may take, milliseconds. */
  readonly limit: number;
  readonly note: string;
}

const SECONDS = 10;
const FPS = 60;
const HALF_HOUR = 30 * 60;
const RUNS = 7;
const HELD: RecipeStepInput = {
  kind: 'retime',
  pins: [
    { from: 100, to: 100 },
    { from: 100, to: 115 },
  ],
};

/** What stands behind the step that is changed. */
const SEVEN: readonly RecipeStepInput[] = [
  { kind: 'mirror' },
  { kind: 'path', shape: 'arc', radius: 3 },
  { kind: 'hips', sway: 0.8 },
  { kind: 'foot-lock' },
  { kind: 'travel', start: 'origin' },
  HELD,
];

const parse = (inputs: readonly RecipeStepInput[]) => inputs.map((input) => stepSchema.parse(input));

/** How long the steps of a ten-second clip take, each alone and all after one another: the first step changed, and the last. */
export function recipeTimes(): RecipeTime[] {
  const { motion } = capture('walk', { seconds: SECONDS + 2, seed: 5, fps: FPS });
  const found = groundwork(motion);
  const cycle = found && findLoops(found).candidates.find(({ strides }) => strides === 1);
  if (!cycle) throw new Error('no cycle');
  const usual = parse([{ kind: 'floor' }, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }]);
  const captured = parse([
    { kind: 'floor' },
    { kind: 'mirror' },
    { kind: 'speed', mps: 1.5 },
    { kind: 'path', shape: 'arc', radius: 3 },
    { kind: 'foot-lock' },
    { kind: 'travel', start: 'origin' },
    HELD,
  ]);
  const cycles = parse([
    { kind: 'loop' },
    { kind: 'even-out' },
    { kind: 'speed', mps: 1.5 },
    { kind: 'extend', cycles: 9 },
    { kind: 'path', shape: 'arc', radius: 3 },
    { kind: 'foot-lock' },
    { kind: 'travel', start: 'origin' },
    HELD,
  ]);
  const rows: RecipeTime[] = [];
  for (const [name, from, to, steps] of [
    ['three steps', FPS, (SECONDS + 1) * FPS, usual],
    ['seven steps', FPS, (SECONDS + 1) * FPS, captured],
    ['eight steps over nine cycles', cycle.from, cycle.to, cycles],
  ] as const) {
    const { all, each } = timed(() => cutClip(copyMotion(motion), from, to), steps);
    const last = steps[steps.length - 1].kind;
    rows.push({
      name: `the first of ${name} changed, 10 s`,
      ms: all,
      limit: 60,
      note: [...each].map(([kind, ms]) => `${kind} ${ms.toFixed(0)}`).join(', '),
    });
    rows.push({ name: `the last of ${name} changed (${last})`, ms: each.get(last) ?? 0, limit: 16, note: '' });
  }
  const long = joinMotions(Array.from({ length: Math.ceil((HALF_HOUR * FPS) / motion.frames) }, () => motion));
  return [...rows, ...changes(motion, `${SECONDS} s`), ...changes(long, `${SECONDS} s of half an hour`)];
}

/** What is dragged while one corrects: the step anew each time, with what stands behind it, and nothing of what stands before. */
function changes(motion: Motion, of: string): RecipeTime[] {
  const travel: RecipeStepInput = { kind: 'travel' };
  const layer = (own: object): RecipeStepInput => ({ kind: 'corrections', layers: [{ name: 'held', ...own }] });
  const nod = (i: number) => layer({ keys: [{ frame: 200, joint: 'Head', turn: [1 + i / 10, 0, 0] }] });
  const touch = { limb: 'left hand', from: 100, to: 200, target: { to: 'joint', joint: 'LeftThigh', at: [0.1, 0, 0.05] } };
  const dragged: readonly (readonly [string, (i: number) => RecipeStepInput[], limit?: number])[] = [
    ['a correction key', (i) => [nod(i), travel]],
    ['the swivel of a touch', (i) => [layer({ touches: [{ ...touch, swivel: i }] }), travel]],
    ['a factor of the hips', (i) => [{ kind: 'hips', sway: 0.5 + i / 100 }, travel]],
    ['the lag of the arms', (i) => [{ kind: 'delay', frames: 2 + i / 10 }, travel]],
    ['the room of the clearance', (i) => [{ kind: 'clearance', room: 0.5 + i / 100 }]],
    ['how much jitter is cleaned', (i) => [{ kind: 'clean', jitter: 0.5 + i / 50 }]],
    ['the first of seven steps', (i) => [{ kind: 'speed', mps: 1.2 + i / 50 }, ...SEVEN], 60],
  ];
  return dragged.map(([name, steps, limit = 16]) => {
    const run = recipeRunner(copyMotion(motion));
    const times = Array.from({ length: RUNS + 2 }, (_, i) => {
      const recipe = { from: FPS, to: (SECONDS + 1) * FPS, steps: parse(steps(i)) };
      const start = performance.now();
      run(recipe);
      return performance.now() - start;
    });
    return { name: `${name} changed, ${of}`, ms: medianOf(times.slice(2)), limit, note: '' };
  });
}

/** Medians over some runs after two to warm up. */
function timed(make: () => Clip, steps: readonly RecipeStep[]): { all: number; each: Map<string, number> } {
  const times = new Map<string, number[]>();
  const whole: number[] = [];
  for (let run = -2; run < RUNS; run++) {
    let clip = make();
    let sum = 0;
    for (const step of steps) {
      const start = performance.now();
      clip = applyStep(clip, step);
      const took = performance.now() - start;
      sum += took;
      if (run >= 0) times.set(step.kind, [...(times.get(step.kind) ?? []), took]);
    }
    if (run >= 0) whole.push(sum);
  }
  return { all: medianOf(whole), each: new Map([...times].map(([kind, values]) => [kind, medianOf(values)])) };
}

const medianOf = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1];
