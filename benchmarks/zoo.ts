import { capture, expressOn, mirroredSuit, zoo, type ZooMember } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import {
  againstSource,
  bodyOf,
  clipFigures,
  cutClip,
  describeTake,
  findLoops,
  fitMotion,
  fitReport,
  fitSettingsSchema,
  foldAbove,
  forwardKinematics,
  groundwork,
  likeness,
  mirrorMotion,
  readCharacter,
  readTake,
  recipeRunner,
  stepSchema,
  toMetres,
  topOfBody,
  worldMotion,
  writeBvh,
  writeGlb,
  type Body,
  type Character,
  type Motion,
  type RecipeStepInput,
  DEGREES,
} from '@lantern/motion';
import { agreement, farthest } from '../packages/motion/tests/made';

/** What one member of the zoo comes to; distances in the unit that the name says. */
export interface ZooFigures {
  readonly member: string;
  /** Parts of the body that are taken for another. */
  readonly wrongParts: number;
  /** Written to a file and read back. */
  readonly readBackMm: number;
  readonly scale: number;
  /** By frame, against what was done. */
  readonly contactsF1: number;
  readonly floorCm: number;
  readonly headingDeg: number;
  /** Against the mirrored performer. */
  readonly mirrorMm: number;
  /** The best loop: closed, feet held, with a root. */
  readonly strides: number;
  readonly tick: number;
  readonly slideCm: number;
  readonly kink: number;
  readonly likenessCm: number;
  /** Worked on in place and as it goes: how far the bodies are apart. */
  readonly inPlaceCm: number;
  /** Recipes of every step, one after another: those that fail, and the worst slide. */
  readonly failures: readonly string[];
  readonly stepsSlideCm: number;
  /** Onto Tallow. */
  readonly fitSlideCm: number;
  readonly fitHoverCm: number;
  readonly fitKink: number;
  /** The suit onto this skeleton, against what this skeleton does. */
  readonly fitFromSuitCm: number | null;
}

/** What is asked of every member; of contacts at the least, of everything else at the most. */
export const ZOO_BOUNDS = [
  { figure: 'wrongParts', limit: 0 },
  { figure: 'readBackMm', limit: 0.02 },
  { figure: 'contactsF1', limit: 0.94 },
  { figure: 'floorCm', limit: 1.2 },
  { figure: 'headingDeg', limit: 1 },
  { figure: 'mirrorMm', limit: 0.01 },
  { figure: 'tick', limit: 1.2 },
  { figure: 'slideCm', limit: 0.2 },
  { figure: 'kink', limit: 1.25 },
  { figure: 'likenessCm', limit: 6 },
  { figure: 'inPlaceCm', limit: 3 },
  { figure: 'stepsSlideCm', limit: 0.25 },
  { figure: 'fitSlideCm', limit: 0.5 },
  { figure: 'fitHoverCm', limit: 1.3 },
  { figure: 'fitKink', limit: 1.3 },
  { figure: 'fitFromSuitCm', limit: 0.6 },
] as const satisfies readonly { readonly figure: keyof ZooFigures; readonly limit: number }[];

const SECONDS = 4;
const SEED = 7;
const step = (input: RecipeStepInput) => stepSchema.parse(input);
const settings = fitSettingsSchema.parse({});
const LOCK = step({ kind: 'foot-lock' });

/**
 * Every member of the zoo, measured.
 *
 * @param only names to measure, else all
 * @param seed of the walk, and so of who walks
 */
export async function zooTable(only?: (member: ZooMember) => boolean, seed = SEED): Promise<ZooFigures[]> {
  const tallow = readCharacter(await castGlb('tallow'), 'tallow');
  const out: ZooFigures[] = [];
  for (const member of zoo().filter(only ?? (() => true))) out.push(await zooFigures(member, tallow, seed));
  return out;
}

async function zooFigures(member: ZooMember, tallow: Character, seed: number): Promise<ZooFigures> {
  const { rig, fps, unitsPerMetre, up } = member;
  const made = capture('walk', { seconds: SECONDS, seed, stature: rig.stature, fps });
  const suit = describe(made.motion);
  const { motion: whole, body } = expressOn(rig, made.motion);
  const lying = up === 'z' ? toMetres(whole, { metresPerUnit: 1, up: '-z' }) : whole;
  const take = readTake(new TextEncoder().encode(writeBvh(lying, { unitsPerMetre })), 'zoo.bvh');
  const { motion, ground: found, passport } = describeTake(take);
  const truth = foldAbove(whole, topOfBody(whole.skeleton, body));
  if (!found || !suit.ground) throw new Error(`${member.name} is nobody`);

  const going = recipeRunner(motion);
  const last = motion.frames - 1;
  const on = describe(onTheSpot(motion));
  const locked = { from: 0, to: last, steps: [LOCK] };
  const [best] = findLoops(found).candidates;
  const recipe = { from: best.from, to: best.to, steps: [step({ kind: 'loop' }), LOCK, step({ kind: 'travel' })] };
  const figures = clipFigures(going(recipe));
  const against = againstSource(going, recipe);
  const steps = runSteps(going, best);
  const fitted = fitReport(fitMotion(motion, tallow, settings));
  return {
    member: member.name,
    wrongParts: wrongParts(body, whole, found.body, motion),
    readBackMm: 1000 * apart(motion, truth),
    scale: passport.units.metresPerUnit * unitsPerMetre,
    contactsF1: (['left', 'right'] as const).reduce((sum, s) => sum + agreement(found.contacts[s], made.truth[s], motion.frames) / 2, 0),
    floorCm: 100 * Math.abs(found.soles.floor - suit.ground.soles.floor),
    headingDeg: Math.max(...Array.from(found.headings, (h, f) => Math.abs(h - (suit.ground?.headings[f] ?? 0)))) * DEGREES,
    mirrorMm: mirrorMm(whole, expressOn(rig, mirroredSuit(made.motion)).motion),
    strides: best.strides,
    tick: figures?.tick ?? 0,
    slideCm: figures?.slideCm ?? 0,
    kink: against?.kink?.ratio ?? 0,
    likenessCm: against?.likeness?.worstCm ?? 0,
    inPlaceCm: bodyApartCm(going(locked).motion, recipeRunner(on.motion)(locked).motion),
    ...steps,
    fitSlideCm: fitted.slideCm,
    fitHoverCm: fitted.hoverCm,
    fitKink: fitted.kink?.ratio ?? 0,
    // A character stands in its file.
    fitFromSuitCm: rig.habits.rest === 'lying' ? null : await fromSuitCm(suit.motion, truth),
  };
}

const describe = (motion: Motion) => describeTake({ name: 'zoo', format: 'bvh', motion, warnings: [] }, { metresPerUnit: 1, up: '+y' });

/** The same on a belt. */
function onTheSpot(motion: Motion): Motion {
  const p = motion.rootPositions.slice();
  const last = motion.frames - 1;
  const [dx, dz] = [p[last * 3] - p[0], p[last * 3 + 2] - p[2]];
  for (let f = 0; f <= last; f++) {
    p[f * 3] -= (dx * f) / last;
    p[f * 3 + 2] -= (dz * f) / last;
  }
  return { ...motion, rootPositions: p };
}

const names = ({ skeleton }: Motion, { hips, head, legs, arms }: Body) =>
  [hips, head, ...(['left', 'right'] as const).flatMap((s) => [...Object.values(legs[s]), ...Object.values(arms[s])])].map(
    (j: number) => skeleton.joints[j]?.name ?? '–',
  );

function wrongParts(truth: Body, whole: Motion, found: Body, motion: Motion): number {
  const [a, b] = [names(whole, truth), names(motion, found)];
  return a.filter((name, i) => name !== b[i]).length;
}

/** The greatest distance of a joint from where it was, both from the same beginning. */
function apart(a: Motion, b: Motion): number {
  const [p, q] = [forwardKinematics(a), forwardKinematics(b)];
  let most = 0;
  for (let f = 0; f < a.frames; f++) {
    for (let j = 0; j < p.joints; j++) {
      const i = (f * p.joints + j) * 3;
      most = Math.max(most, Math.hypot(...[0, 1, 2].map((k) => p.positions[i + k] - q.positions[i + k])));
    }
  }
  return most;
}

function mirrorMm(whole: Motion, truth: Motion): number {
  bodyOf(whole);
  return 1000 * farthest(mirrorMotion(whole), truth);
}

/** How far two bodies are from each other, each seen from its hips. */
function bodyApartCm(a: Motion, b: Motion): number {
  const [p, q] = [forwardKinematics(a), forwardKinematics(b)];
  let most = 0;
  for (let f = 0; f < a.frames; f++) {
    const at = (g: typeof p, j: number, k: number) =>
      g.positions[(f * g.joints + j) * 3 + k] - (k === 1 ? 0 : g.positions[f * g.joints * 3 + k]);
    for (let j = 0; j < p.joints; j++) most = Math.max(most, Math.hypot(...[0, 1, 2].map((k) => at(p, j, k) - at(q, j, k))));
  }
  return 100 * most;
}

function runSteps(
  run: ReturnType<typeof recipeRunner>,
  { from, to }: { from: number; to: number },
): Pick<ZooFigures, 'failures' | 'stepsSlideCm'> {
  const more: RecipeStepInput[][] = [
    [{ kind: 'mirror' }, { kind: 'loop' }],
    [{ kind: 'loop' }, { kind: 'even-out' }],
    [{ kind: 'loop' }, { kind: 'speed', mps: 1.5 }],
    [{ kind: 'loop' }, { kind: 'extend', cycles: 2 }],
    [{ kind: 'loop' }, { kind: 'path', shape: 'arc', radius: 4 }],
    [{ kind: 'floor' }, { kind: 'loop' }],
    [{ kind: 'clean' }, { kind: 'loop' }, { kind: 'hips', sway: 0.5, list: 0.6 }, { kind: 'delay', frames: 3 }],
  ];
  const failures: string[] = [];
  let stepsSlideCm = 0;
  for (const first of more) {
    const all: RecipeStepInput[] = [...first, { kind: 'foot-lock' }, { kind: 'travel' }, { kind: 'retime', factor: 1.1 }];
    try {
      stepsSlideCm = Math.max(stepsSlideCm, clipFigures(run({ from, to, steps: all.map(step) }))?.slideCm ?? 0);
    } catch (error) {
      failures.push(`${first.map(({ kind }) => kind).join(', ')}: ${error instanceof Error ? error.message : String(error)}`);
    }
  }
  return { failures, stepsSlideCm };
}

/** The suit's walk carried onto the member's skeleton, against the member's own: the median joint's distance, pose by pose. */
async function fromSuitCm(suit: Motion, truth: Motion): Promise<number> {
  const member = readCharacter(
    await writeGlb([{ name: 'still', clip: cutClip(worldMotion({ motion: truth, travel: null }), 0, 1) }]),
    'member',
  );
  const { motion, plan } = fitMotion(suit, member, { ...settings, planted: 'free' });
  const own = groundwork(truth);
  if (!own) return Infinity;
  const alike = likeness({ globals: forwardKinematics(motion), body: plan.targetBody }, { globals: own.globals, body: own.body }, (f) => f);
  return alike?.medianCm ?? Infinity;
}
