import { fieldGrid, InputError, projectField, sounder, type Sounding } from '@lantern/motion';
import { print, printWarnings } from './print';
import { openProject } from './project';

interface FieldOptions {
  readonly json?: boolean;
  readonly grid: number;
  readonly allowOutside?: boolean;
}

/** Soundings of a blend field of a project, measured by playing it all over its chart. */
export async function field(file: string, name: string, { json, grid, allowOutside }: FieldOptions): Promise<void> {
  const { project, sources } = await openProject(file, allowOutside);
  const chosen = project.fields.find((own) => own.name === name);
  if (!chosen) {
    const known = project.fields.map((own) => `"${own.name}"`).join(', ');
    throw new InputError(
      'project',
      `There is no field "${name}"${known ? `; there ${project.fields.length === 1 ? 'is' : 'are'} ${known}` : ''}.`,
      { file },
    );
  }
  const { playable, clips, failed } = projectField(project, chosen, sources);
  const left = [...failed.map(({ clip, message }) => ({ id: clip, why: message })), ...(playable?.left ?? [])];
  printWarnings(
    file,
    left.map(({ id, why }) => ({ code: 'left-out', message: `Clip "${id}" is left out of the field: ${why}` })),
  );
  if (!playable) throw new InputError('project', `Field "${name}" has no clip with steps in it, so it cannot be played.`, { file });
  const start = performance.now();
  const { sound } = sounder(playable, clips);
  const soundings = fieldGrid(playable, grid, grid).map((at) => sound(at));
  const ms = Math.round(performance.now() - start);
  const most = (figure: (sounding: Sounding) => number) => Math.max(0, ...soundings.map(figure));
  const worst = soundings.reduce((a, b) => (b.slideMm > a.slideMm ? b : a));
  const figures = {
    slideMm: most(({ slideMm }) => slideMm),
    speed: most(({ at, got }) => Math.abs(got[0] / at[0] - 1)),
    turnDegS: chosen.inputs[1] === 'turn' ? most(({ at, got }) => Math.abs(got[1] - at[1])) : null,
    kink: most(({ kink }) => kink),
    out: soundings.filter(({ isOut }) => isOut).length,
  };
  const out = {
    field: name,
    inputs: chosen.inputs,
    points: playable.points.map(({ name: clip, at, strides }) => ({ clip, at, strides })),
    left,
    soundings,
    worst,
    figures,
    ms,
  };
  print(json ?? false, out, () => [
    `${name}: ${playable.points.length} clips, ${soundings.length} soundings in ${ms} ms, ${figures.out} out of bounds`,
    `  slide ${figures.slideMm.toFixed(1)} mm at the most, at ${worst.at.map((v) => v.toFixed(1)).join(', ')}`,
    `  speed off by ${(figures.speed * 100).toFixed(1)} % at the most${figures.turnDegS === null ? '' : `, turn by ${figures.turnDegS.toFixed(1)} °/s`}, kink ${figures.kink.toFixed(2)}`,
  ]);
}
