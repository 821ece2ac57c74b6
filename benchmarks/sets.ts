import { capture, type ScriptName } from '@lantern/capture';
import {
  clipSlides,
  clipTraits,
  describeTake,
  fieldGrid,
  fieldSchema,
  findLoops,
  groundwork,
  homeDistance,
  homePoseOf,
  joinMotions,
  playableField,
  popIn,
  proposals,
  readTake,
  recipeRunner,
  recipeSchema,
  segments,
  sounder,
  worldMotion,
  writeBvh,
  type Clip,
  type RecipeStepInput,
  type SetClip,
} from '@lantern/motion';
import { endToEnd } from '../packages/motion/src/steps/exact';
import { homeEnds } from '../packages/motion/src/steps/meet-home';

/** A take of the suit as it is read from its file. */
function take(script: ScriptName, seed: number, seconds: number, speed?: number) {
  const { motion } = capture(script, { seed, seconds, speed });
  const found = describeTake(readTake(new TextEncoder().encode(writeBvh(motion)), 'take.bvh'));
  if (!found.ground) throw new Error('nobody is there');
  return { motion: found.motion, ground: found.ground };
}

/** The worst of starts, stops and turns that are brought to an angle or a distance and home, over some seeds. */
export interface EndFigures {
  readonly ends: number;
  readonly turnDeg: number;
  readonly distanceCm: number;
  readonly homeCm: number;
  readonly homeBeforeCm: number;
  readonly slideCm: number;
  /** Of the worst frame, over what the clip did before. */
  readonly popCm: number;
  /** Clips whose pop is over half a centimetre, and over their own. */
  readonly popped: number;
}

export function endFigures(seeds: readonly number[]): EndFigures {
  const worst = { ends: 0, turnDeg: 0, distanceCm: 0, homeCm: 0, homeBeforeCm: 0, slideCm: 0, popCm: 0, popped: 0 };
  const note = (key: keyof typeof worst, value: number) => (worst[key] = Math.max(worst[key], value));
  for (const seed of seeds) {
    const pose = homePoseOf(take('idle', 1000 + seed, 6).ground, 100);
    for (const [script, speed] of [
      ['turns', undefined],
      ['start-stop', 1.3],
      ['start-stop', 2.8],
    ] as const) {
      const { motion, ground } = take(script, seed, 20, speed);
      const run = recipeRunner(motion);
      for (const { from, to, isLoop } of proposals(ground, segments(ground), [])) {
        if (isLoop) continue;
        const made = (...steps: RecipeStepInput[]): Clip => run({ from, to, steps: recipeSchema.parse(steps) });
        const before = made({ kind: 'foot-lock' });
        const traits = clipTraits(before);
        if (!traits || !['turn', 'start', 'stop'].includes(traits.kind ?? '')) continue;
        const turnDeg = Math.round(traits.turnDeg / 45) * 45;
        const metres = traits.distanceM * (seed % 2 ? 1.1 : 0.9);
        const exact: RecipeStepInput = traits.kind === 'turn' ? { kind: 'exact-turn', turnDeg } : { kind: 'exact-distance', metres };
        const after = made(exact, { kind: 'foot-lock' }, { kind: 'meet-home', pose });
        const end = endToEnd(after);
        const [p, q] = [worldMotion(before), worldMotion(after)];
        const [was, is] = [groundwork(p), groundwork(q)];
        if (!end || !was || !is) continue;
        if (traits.kind === 'turn') note('turnDeg', Math.abs((end.turn * 180) / Math.PI - turnDeg));
        else note('distanceCm', Math.abs(end.metres - metres) * 100);
        for (const frame of homeEnds(after, 'auto')) {
          worst.ends++;
          note('homeBeforeCm', homeDistance(was, frame, pose).cm);
          note('homeCm', homeDistance(is, frame, pose).cm);
        }
        note('slideCm', Math.max(0, ...clipSlides(after).map(({ excursionCm }) => excursionCm)));
        const both = joinMotions([p, q]);
        const own: readonly [number, number] = [2, p.frames - 2];
        const usual = popIn(both, own, [own]).cm;
        const pop = popIn(both, [p.frames + 2, p.frames + q.frames - 2], [own]).cm;
        note('popCm', Math.max(0, pop - usual));
        if (pop > Math.max(0.5, usual + 0.05)) worst.popped++;
      }
    }
  }
  return worst;
}

/** The worst soundings of a field of a stroll, a jog, and arcs of both to either side. */
export interface FieldFigures {
  readonly seed: number;
  readonly soundings: number;
  readonly ms: number;
  readonly slideMm: number;
  readonly speed: number;
  readonly turnDegS: number;
  readonly kink: number;
  readonly out: number;
  /** Without feet held. */
  readonly looseMm: number;
}

export function fieldFigures(seed: number): FieldFigures {
  const clips: SetClip[] = [];
  const add = (name: string, { motion, ground }: ReturnType<typeof take>, ...more: RecipeStepInput[]) => {
    const best = findLoops(ground).candidates.find(({ strides }) => strides === 1);
    if (!best) throw new Error('no stride');
    const steps = recipeSchema.parse([{ kind: 'loop' }, ...more, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }]);
    const clip = recipeRunner(motion)({ from: best.from, to: best.to, steps });
    const traits = clipTraits(clip);
    if (traits) clips.push({ id: name, name, clip, traits });
  };
  const [stroll, jog] = [take('walk', seed, 14, 1.3), take('jog', seed, 14, 2.8)];
  add('stroll', stroll);
  add('jog', jog);
  for (const sign of [1, -1]) {
    add(`stroll ${sign}`, stroll, { kind: 'path', shape: 'arc', radius: 1.6 * sign });
    add(`jog ${sign}`, jog, { kind: 'path', shape: 'arc', radius: 3 * sign });
  }
  const ids = clips.map(({ id }) => id);
  const sounded = (holdFeet: boolean) => {
    const playable = playableField(fieldSchema.parse({ name: 'x', clips: ids, holdFeet }), clips);
    if (!playable) throw new Error('no field');
    const { sound } = sounder(playable, clips);
    return fieldGrid(playable, 15, 15).map((at) => sound(at));
  };
  const start = performance.now();
  const all = sounded(true);
  const ms = performance.now() - start;
  const most = (of: (own: (typeof all)[number]) => number, list = all) => Math.max(...list.map(of));
  return {
    seed,
    soundings: all.length,
    ms,
    slideMm: most(({ slideMm }) => slideMm),
    speed: most(({ at, got }) => Math.abs(got[0] / at[0] - 1)),
    turnDegS: most(({ at, got }) => Math.abs(got[1] - at[1])),
    kink: most(({ kink }) => kink),
    out: all.filter(({ isOut }) => isOut).length,
    looseMm: most(({ slideMm }) => slideMm, sounded(false)),
  };
}

if (process.argv[1]?.endsWith('sets.ts')) {
  const seeds = Array.from({ length: Number(process.argv[2] ?? 30) }, (_, i) => i + 1);
  for (const seed of seeds.slice(0, 10)) console.log(JSON.stringify(fieldFigures(seed)));
  console.log(JSON.stringify(endFigures(seeds)));
}
