import { dirname, resolve } from 'node:path';
import { InputError, oddities, parseProject, projectSources, readProject, type Project, type Sources } from '@lantern/motion';
import { inFile, placeIn, readInput } from './files';
import { printWarnings } from './print';

/** A project file with all that it names read: its clips can be run. */
export async function openProject(file: string, allowOutside = false): Promise<{ readonly project: Project; readonly sources: Sources }> {
  const text = new TextDecoder().decode(await readInput(file));
  const project = inFile(file, () => parseProject(text));
  printWarnings(file, oddities(JSON.parse(text.replace(/^\ufeff/, ''))));
  const folder = dirname(resolve(file));
  const { takeOf, cast } = await readProject(project, async (name) =>
    readInput(allowOutside ? resolve(folder, name) : inFile(file, () => placeIn(folder, name, 'The file'))),
  );
  for (const { id } of project.takes) {
    const take = takeOf(id);
    if (take instanceof InputError) throw take;
  }
  return { project, sources: projectSources(project, takeOf, cast) };
}
