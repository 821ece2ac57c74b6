import { dirname, resolve } from 'node:path';
import {
  describeTake,
  groundwork,
  InputError,
  joinIntoSchema,
  JOIN_BOUNDS,
  NOT_A_PERSON,
  parseProject,
  projectSources,
  whereTheyFit,
  worldMotion,
  type Groundwork,
} from '@lantern/motion';
import { inFile, placeIn, readInput, readTakeFile } from './files';
import { print } from './print';

/** The best instants at which one motion can follow another: files of takes, or clips of a project as `project.json#name`. */
export async function joins(a: string, b: string, { json, frames }: { json?: boolean; frames: number }): Promise<void> {
  const [leaving, coming] = [await motionOf(a), await motionOf(b)];
  if (leaving.motion.fps !== coming.motion.fps)
    throw new InputError('join', `It has ${coming.motion.fps} frames a second, ${a} has ${leaving.motion.fps}: bring both to one rate.`, {
      file: b,
    });
  const into = joinIntoSchema.parse({ frames });
  const start = performance.now();
  const { candidates, pairs } = whereTheyFit(leaving, coming, into);
  const ms = Math.round(performance.now() - start);
  const out = (value: number, bound: number) => (value > bound ? ' (out of bounds)' : '');
  print(json ?? false, { fps: leaving.motion.fps, pairs, ms, candidates }, () => [
    `${candidates.length} candidates of ${pairs} pairs in ${ms} ms`,
    ...candidates.map(
      ({ a: from, b: to, frames: overlap, foot, poseCm, popCm, slideCm }) =>
        `${from} → ${to}  by the ${foot} over ${overlap} frames  pose ${poseCm.toFixed(1)} cm  pop ${popCm.toFixed(1)} cm${out(popCm, JOIN_BOUNDS.popCm)}  ` +
        `slide ${slideCm.toFixed(2)} cm${out(slideCm, JOIN_BOUNDS.slideCm)}`,
    ),
  ]);
}

async function motionOf(name: string): Promise<Groundwork> {
  const [, file, clip] = /^(.*\.json)#(.+)$/i.exec(name) ?? [];
  const found = clip === undefined ? describeTake(await readTakeFile(name)).ground : groundwork(await clipOf(file, clip));
  if (!found) throw new InputError('body', NOT_A_PERSON, { file: name });
  return found;
}

/** A clip of a project as its recipe leaves it, in the world. */
async function clipOf(file: string, name: string) {
  const text = new TextDecoder().decode(await readInput(file));
  const { clips, fits, takes } = inFile(file, () => parseProject(text));
  const clip = clips.find((own) => own.name === name);
  if (!clip) throw new InputError('project', `There is no clip "${name}".`, { file });
  const take = takes.find(({ id }) => id === clip.source.take);
  if (!take) throw new InputError('project', `Clip "${name}" is cut from a join; name a clip of a take.`, { file });
  const { motion, passport } = describeTake(await readTakeFile(placeIn(dirname(resolve(file)), take.file, 'The file')), take);
  const { run, recipe } = projectSources({ clips, fits }, () => ({ motion, warnings: passport.warnings }), new Map()).run(clip);
  return worldMotion(run(recipe));
}
