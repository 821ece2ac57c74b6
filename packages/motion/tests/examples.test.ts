import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { capture } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import * as motionCore from '../src';
import { mapFrame, mapIntervals } from '../src/model/frame-map';
import { asItIs, defineStep, stepObject } from '../src/steps/definition';
import { leading } from '../src/model/floor-transform';
import { checkMotion } from '../src/formats/check-motion';
import { beyondNesting } from '../src/formats/nesting';
import { surfaceNets } from '../src/math/surface-nets';
import { statureOf } from '../src/measure/stature';
import { orderProblems } from '../src/recipe/order';
import { z } from 'zod';
import { asfAndAmc } from './odd-files';

/** An example in a docstring: the function it belongs to, and its lines. */
interface Example {
  readonly file: string;
  readonly name: string;
  readonly lines: readonly string[];
}

const SOURCE = fileURLToPath(new URL('../src', import.meta.url));

function examplesIn(file: string): Example[] {
  const text = readFileSync(join(SOURCE, file), 'utf8');
  return [...text.matchAll(/\n( *)\* @example\n([\s\S]*?)\*\/\s*\n\s*export (?:async )?(?:function\*?|const) (\w+)/g)].map((found) => ({
    file,
    name: found[3],
    lines: found[2]
      .split('\n')
      .map((line) => line.replace(/^ *\* ?/, ''))
      .filter((line) => line.trim() !== '' && !line.startsWith('@')),
  }));
}

const all = (readdirSync(SOURCE, { recursive: true }) as string[]).filter((file) => file.endsWith('.ts')).flatMap(examplesIn);

const PROJECT = JSON.stringify({
  oldLantern: 1,
  fps: 60,
  takes: [{ id: 'walk', file: 'walk.bvh' }],
  clips: [{ name: 'stroll', take: 'walk', from: 60, to: 126, steps: [{ kind: 'travel' }] }],
  ship: { glb: 'wick.glb' },
});

/** What examples may speak of without saying where it is from. */
async function given(): Promise<Record<string, unknown>> {
  const { motion } = capture('walk', { seconds: 6, seed: 1 });
  const ground = motionCore.groundwork(motion);
  if (!ground) throw new Error('nobody walks');
  const glb = await castGlb('tallow');
  const character = motionCore.readCharacter(glb, 'tallow.glb');
  const settings = motionCore.fitSettingsSchema.parse({});
  const bytes = new TextEncoder().encode(motionCore.writeBvh(motion));
  const best = motionCore.findLoops(ground).candidates[0];
  const run = motionCore.recipeRunner(motion);
  const stroll = run({
    ...best,
    steps: motionCore.recipeSchema.parse([{ kind: 'loop' }, { kind: 'foot-lock' }, { kind: 'travel', start: 'origin' }]),
  });
  const traits = motionCore.clipTraits(stroll);
  if (!traits) throw new Error('nobody walks');
  const clips = [{ id: 'stroll', name: 'stroll', clip: stroll, traits }];
  const played = motionCore.playableSet(motionCore.readyGraph(clips, []), clips, []);
  return {
    ...motionCore,
    ...{ set: played?.set, graph: played?.set.graph },
    ...{
      mapFrame,
      mapIntervals,
      asItIs,
      defineStep,
      stepObject,
      leading,
      checkMotion,
      beyondNesting,
      surfaceNets,
      statureOf,
      orderProblems,
      z,
    },
    ...{ motion, ground, glb, character, settings, bytes, plan: motionCore.fitPlan(motion, character, settings) },
    asf: asfAndAmc(motion).asf,
    projectText: PROJECT,
    best,
    run,
    take: motionCore.readTake(bytes, 'walk.bvh'),
  };
}

/** The same but for the last digits of numbers, whatever array or record they are in. */
function rounded(value: unknown): unknown {
  if (typeof value === 'number') return Number(value.toFixed(3)) + 0;
  if (ArrayBuffer.isView(value)) return Array.from(value as unknown as ArrayLike<number>, rounded);
  if (Array.isArray(value)) return value.map(rounded);
  if (value && typeof value === 'object') return Object.fromEntries(Object.entries(value).map(([key, v]) => [key, rounded(v)]));
  return value;
}

const evaluated = async (code: string, names: Record<string, unknown>): Promise<unknown> =>
  (new Function(...Object.keys(names), `return (async () => { ${code} })()`) as (...values: unknown[]) => Promise<unknown>)(
    ...Object.values(names),
  );

let names: Record<string, unknown>;
beforeAll(async () => {
  names = await given();
});

test('the docstrings of the core have examples', () => {
  expect(all.length).toBeGreaterThan(100);
});

test.each(all.map((example): [string, Example] => [`${example.name} (${example.file})`, example]))(
  'the example of %s does what it says',
  async (_, { lines }) => {
    const last = lines.at(-1) ?? '';
    const [, expression, comes] = /^(.*?);(?: \/\/ (.*))?$/.exec(last) ?? [];
    const before = lines.slice(0, -1).join('\n');
    const isStatement = /^(const|let)\b|^}|^\)/.test(last);
    const result = await evaluated(isStatement ? `${before}\n${last}` : `${before}\nreturn ${expression};`, names);
    if (comes !== undefined && !isStatement) expect(rounded(result)).toEqual(rounded(await evaluated(`return (${comes});`, names)));
  },
);
