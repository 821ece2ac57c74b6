import { InputError, playProject, roughWeather, setSchema, type Finding } from '@lantern/motion';
import { print, printWarnings } from './print';
import { openProject } from './project';

interface DriveOptions {
  readonly json?: boolean;
  readonly set?: string;
  readonly minutes: number;
  readonly seed: number;
  readonly allowOutside?: boolean;
}

/** Rough weather: the set of a project played by its graph, unattended. */
export async function drive(file: string, { json, set: name, minutes, seed, allowOutside }: DriveOptions): Promise<void> {
  const { project, sources } = await openProject(file, allowOutside);
  const chosen =
    name === undefined
      ? (project.sets[0] ?? setSchema.parse({ name: 'set', character: sources.character(project.clips[0]) }))
      : project.sets.find((own) => own.name === name);
  if (!chosen) throw new InputError('project', `There is no set "${name}".`, { file });
  const { playable, warnings, failed } = playProject(project, chosen, sources);
  printWarnings(file, [
    ...failed.map(({ clip, message }) => ({ code: 'left-out', message: `Clip "${clip}" is left out: ${message}` })),
    ...warnings.map(({ text }) => ({ code: 'graph', message: text })),
    ...(playable?.left ?? []).map(({ state, why }) => ({ code: 'left-out', message: `State "${state}" is left out: ${why}` })),
  ]);
  if (!playable) throw new InputError('project', `Nothing of set "${chosen.name}" can be played.`, { file });
  const start = performance.now();
  const { changes, transitions, seconds, worst, answers, findings } = roughWeather(playable.set, { minutes, seed });
  const ms = Math.round(performance.now() - start);
  const out = {
    set: chosen.name,
    minutes,
    seed,
    changes,
    transitions,
    playedSeconds: Math.round(seconds),
    ms,
    worst: { popCm: tenth(worst.pop), slideCm: tenth(worst.slide), answerFrames: worst.answer, gapCm: tenth(worst.gap) },
    answers,
    findings: findings.map((own) => ({
      figure: own.figure,
      value: tenth(own.value),
      ...(own.answer && { asked: own.answer }),
      at: Number(own.at.toFixed(2)),
      how: own.how,
      seed: own.seed,
      from: own.from,
      to: own.to,
      transition: own.transition,
      phase: Number.isNaN(own.phase) ? null : Number(own.phase.toFixed(3)),
      ...(own.joint && { joint: own.joint }),
      clip: own.clip,
      frame: own.frame,
      script: own.script,
      step: own.step,
    })),
  };
  print(json ?? false, out, () => [
    `${chosen.name}: ${minutes} minutes and every transition from every phase, ${changes} changes, ${transitions} transitions, in ${(ms / 1000).toFixed(1)} s`,
    `  worst: pop ${worst.pop.toFixed(1)} cm, slide ${worst.slide.toFixed(2)} cm, answer ${worst.answer} frames, gap ${worst.gap.toFixed(1)} cm`,
    ...findings.slice(0, 12).map((own) => `  ${findingText(own)}`),
  ]);
}

const UNITS = { pop: 'cm', slide: 'cm', answer: 'frames', gap: 'cm' } as const;

function findingText({ figure, value, answer, from, to, phase, clip, frame }: Finding): string {
  const way = from === '' ? `in ${to}` : `${from} to ${to}${Number.isNaN(phase) ? '' : ` at ${phase.toFixed(2)}`}`;
  return `${figure}${answer ? ` to ${answer}` : ''} ${value.toFixed(figure === 'answer' ? 0 : 1)} ${UNITS[figure]}  ${way}  ${clip} ${frame}`;
}

const tenth = (value: number): number => Number(value.toFixed(2));
