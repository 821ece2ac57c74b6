import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import {
  InputError,
  make as makeProject,
  oddities,
  parseProject,
  takeOverridesSchema,
  whyWritten,
  type ContentOf,
  type MadeFile,
  type Project,
  type Report,
  type WrittenFile,
} from '@lantern/motion';
import { validateGlb } from '@lantern/unpack';
import { inFile, placeIn, readInput, writeOutput } from './files';
import { print, printWarnings } from './print';

interface MakeOptions {
  readonly out: string;
  readonly json?: boolean;
  readonly allowOutside?: boolean;
}

/**
 * Makes everything that a project file describes, and writes what is not there already. A clip that fails is named on standard error; the others are made.
 *
 * @returns whether every clip was made
 */
export async function make(file: string, options: MakeOptions): Promise<boolean> {
  const { out, json } = options;
  const { report, project } = await shipTo(file, options);
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
    ...(report.guarantees ?? []).map(({ ok, what, found }) => `${ok ? 'holds' : 'BROKEN'}: ${what}${ok ? '' : `: ${found.join(' ')}`}`),
    ...(report.written ?? []).map((own) => saysWritten(out, own)),
  ]);
  const isJoin = (name: string) => project.joins.some((own) => own.name === name);
  for (const { name, message, place } of report.failed) {
    process.stderr.write(
      `${place.file ?? file}:${place.line ?? 1}: ${isJoin(name) ? 'Join' : 'Clip'} "${name}" was not made: ${message.replace(/\s+/g, ' ')}\n`,
    );
  }
  return report.failed.length === 0;
}

const saysWritten = (out: string, { path, state, why }: WrittenFile): string => {
  const place = join(out, path);
  if (state === 'same') return `stayed ${place}`;
  if (state === 'gone') return `${place} is none of the shipment any more`;
  return `wrote ${place} (${why.join('; ')})`;
};

/** Makes a project and writes its files and the report; files whose content would not change are not touched. */
export async function shipTo(file: string, { out, allowOutside }: MakeOptions): Promise<{ project: Project; report: Report }> {
  const text = new TextDecoder().decode(await readInput(file));
  const project = inFile(file, () => parseProject(text));
  printWarnings(file, oddities(JSON.parse(text.replace(/^\ufeff/, ''))));
  const folder = dirname(resolve(file));
  const placeOf = (name: string) => (allowOutside ? resolve(folder, name) : placeIn(folder, name, 'The file'));
  const hashes = new Map<string, string>();
  const read = async (name: string): Promise<Uint8Array> => {
    const bytes = await readInput(placeOf(name));
    hashes.set(name, createHash('sha256').update(bytes).digest('hex'));
    return bytes;
  };
  let made;
  try {
    made = await makeProject(project, read, {
      contentOf: contentOf(project, hashes),
      validate: validateGlb,
      progress: (done, of, name) => {
        process.stderr.write(`${done + 1} of ${of}: ${name}\n`);
      },
    });
  } catch (error) {
    // Errors without a file of their own are about the project file.
    if (error instanceof InputError && !error.place.file) throw new InputError(error.code, error.message, { ...error.place, file });
    throw error;
  }
  const before = await reportIn(out);
  const written: WrittenFile[] = [];
  for (const own of made.files) written.push(await writeChanged(out, own, made.report, before));
  for (const path of before?.files ?? [])
    if (!made.files.some((own) => own.path === path)) written.push({ path, bytes: 0, state: 'gone', why: ['it is none of the shipment'] });
  const report: Report = { ...made.report, written };
  await writeOutput(join(out, 'report.json'), `${JSON.stringify(report, null, 1)}\n`);
  return { project, report };
}

/** What takes and characters contain: their files, and how the project reads them. */
function contentOf({ takes, characters }: Project, hashes: ReadonlyMap<string, string>): ContentOf {
  const hash = (file: string | undefined) => (file === undefined ? undefined : (hashes.get(file) ?? file));
  return {
    take(id) {
      const found = takes.find((own) => own.id === id);
      if (!found) return id;
      const { file, skeleton, animation } = found;
      return JSON.stringify([hash(file), hash(skeleton), animation, takeOverridesSchema.parse(found)]);
    },
    character: (id) => hash(characters.find((own) => own.id === id)?.file) ?? id,
  };
}

/** The report of the shipment before, if a whole one is there. */
async function reportIn(out: string): Promise<Report | null> {
  try {
    const report = JSON.parse(await readFile(join(out, 'report.json'), 'utf8')) as Partial<Report>;
    return Array.isArray(report.files) && Array.isArray(report.clips) ? (report as Report) : null;
  } catch {
    return null;
  }
}

async function writeChanged(out: string, { path, bytes }: MadeFile, now: Report, before: Report | null): Promise<WrittenFile> {
  const place = placeIn(out, path, 'The file');
  const there = await readFile(place).catch(() => null);
  if (there && Buffer.compare(there, bytes) === 0) return { path, bytes: bytes.length, state: 'same', why: [] };
  await writeOutput(place, bytes);
  return { path, bytes: bytes.length, state: there ? 'changed' : 'new', why: whyWritten(path, now, there ? before : null) };
}
