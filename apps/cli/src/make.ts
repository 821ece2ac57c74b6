import { mkdir, writeFile } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import { InputError, make as makeProject, parseProject } from '@lantern/motion';
import { inFile, readInput } from './files';
import { print, printWarnings } from './print';

/**
 * Makes what a project file describes into a folder, with `report.json` beside it.
 *
 * @returns whether all of it was made; what was not has a line on standard error
 */
export async function make(file: string, { out, json }: { out: string; json?: boolean }): Promise<boolean> {
  const bytes = await readInput(file);
  const project = inFile(file, () => parseProject(new TextDecoder().decode(bytes)));
  const folder = dirname(resolve(file));
  let made;
  try {
    made = await makeProject(
      project,
      (name) => readInput(resolve(folder, name)),
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
  for (const { path, bytes: content } of files) {
    const target = join(out, path);
    await mkdir(dirname(target), { recursive: true });
    await writeFile(target, content);
  }
  await mkdir(out, { recursive: true });
  await writeFile(join(out, 'report.json'), `${JSON.stringify(report, null, 1)}\n`);
  printWarnings(file, [...report.warnings, ...report.clips.flatMap((clip) => clip.warnings)]);
  print(json ?? false, report, () => [
    ...report.clips.map(
      (clip) =>
        `${clip.name}: ${clip.seconds?.toFixed(2) ?? '?'} s, ${clip.speedMps?.toFixed(2) ?? '?'} m/s, tick ${clip.tick?.toFixed(2) ?? '?'}`,
    ),
    ...files.map(({ path }) => `wrote ${join(out, path)}`),
  ]);
  for (const { name, message, place } of report.failed) {
    process.stderr.write(`${place.file ?? file}:${place.line ?? 1}: Clip "${name}" was not made: ${message.replace(/\s+/g, ' ')}\n`);
  }
  return report.failed.length === 0;
}
