import { dirname, join, resolve } from 'node:path';
import { InputError, make as makeProject, oddities, parseProject } from '@lantern/motion';
import { inFile, placeIn, readInput, writeOutput } from './files';
import { print, printWarnings } from './print';

interface MakeOptions {
  readonly out: string;
  readonly json?: boolean;
  /** Files may be read that lie outside of the project file's folder. */
  readonly allowOutside?: boolean;
}

/**
 * Makes what a project file describes into a folder, with `report.json` beside it.
 *
 * @returns whether all of it was made; what was not has a line on standard error
 */
export async function make(file: string, { out, json, allowOutside }: MakeOptions): Promise<boolean> {
  const text = new TextDecoder().decode(await readInput(file));
  const project = inFile(file, () => parseProject(text));
  printWarnings(file, oddities(JSON.parse(text.replace(/^\ufeff/, ''))));
  const folder = dirname(resolve(file));
  const placeOf = (name: string) => (allowOutside ? resolve(folder, name) : placeIn(folder, name, 'The file'));
  let made;
  try {
    made = await makeProject(
      project,
      async (name) => readInput(placeOf(name)),
      (done, of, name) => {
        process.stderr.write(`${done + 1} of ${of}: ${name}\n`);
      },
    );
  } catch (error) {
    // Errors without a file of their own are about the project file.
    if (error instanceof InputError && !error.place.file) throw new InputError(error.code, error.message, { ...error.place, file });
    throw error;
  }
  const { files, report } = made;
  for (const { path, bytes: content } of files) await writeOutput(placeIn(out, path, 'The file'), content);
  await writeOutput(join(out, 'report.json'), `${JSON.stringify(report, null, 1)}\n`);
  printWarnings(file, [...report.warnings, ...report.clips.flatMap((clip) => clip.warnings)]);
  print(json ?? false, report, () => [
    ...report.clips.map(
      (clip) =>
        `${clip.name}: ${clip.seconds?.toFixed(2) ?? '?'} s, ${clip.speedMps?.toFixed(2) ?? '?'} m/s, tick ${clip.tick?.toFixed(2) ?? '?'}`,
    ),
    ...(report.joins ?? []).flatMap(({ name, seconds, frames, meets }) => [
      `${name}: ${meets.length} joins, ${seconds.toFixed(2)} s, ${frames} frames`,
      ...meets.map(
        ({ from, to, by, popCm, slideCm }) => `  ${from}–${to} by the ${by}: pop ${popCm.toFixed(2)} cm, slide ${slideCm.toFixed(2)} cm`,
      ),
    ]),
    ...files.map(({ path }) => `wrote ${join(out, path)}`),
  ]);
  const isJoin = (name: string) => project.joins.some((own) => own.name === name);
  for (const { name, message, place } of report.failed) {
    process.stderr.write(
      `${place.file ?? file}:${place.line ?? 1}: ${isJoin(name) ? 'Join' : 'Clip'} "${name}" was not made: ${message.replace(/\s+/g, ' ')}\n`,
    );
  }
  return report.failed.length === 0;
}
