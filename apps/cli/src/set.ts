import { InputError, measureSet, setConstants, setSchema, type ContractLine, type LocomotionSet, type SlotList } from '@lantern/motion';
import { print, printWarnings } from './print';
import { openProject } from './project';

interface SetOptions {
  readonly json?: boolean;
  readonly set?: string;
  readonly slots: SlotList;
  readonly allowOutside?: boolean;
}

/** Coverage, ends and contract of a set of a project; one without sets is held against a ready list. */
export async function set(file: string, { json, set: name, slots, allowOutside }: SetOptions): Promise<void> {
  const { project, sources } = await openProject(file, allowOutside);
  const [first] = project.clips;
  const chosen: LocomotionSet | undefined =
    name === undefined
      ? (project.sets[0] ?? setSchema.parse({ name: 'set', character: sources.character(first), slots }))
      : project.sets.find((own) => own.name === name);
  if (!chosen) {
    const known = project.sets.map((own) => `"${own.name}"`).join(', ');
    throw new InputError(
      'project',
      `There is no set "${name}"${known ? `; there ${project.sets.length === 1 ? 'is' : 'are'} ${known}` : ''}.`,
      { file },
    );
  }
  const found = measureSet(project, chosen, sources);
  printWarnings(
    file,
    found.failed.map(({ clip, message }) => ({ code: 'left-out', message: `Clip "${clip}" is left out: ${message}` })),
  );
  const { slots: reports, counts, spare } = found.coverage;
  const shots = new Map(found.shots.map((shot) => [shot.slot, shot]));
  const rounded = (value: number | null, digits: number) => (value === null ? null : Number(value.toFixed(digits)));
  const out = {
    set: chosen.name,
    character: chosen.character,
    slots: reports.map(({ id, state, clip, isPinned, homeCm, speedMps, askedMps, turnDegS, ends, loop, others }) => ({
      slot: id,
      state,
      clip,
      pinned: isPinned,
      homeCm: rounded(homeCm, 2),
      speedMps: rounded(speedMps, 3),
      askedMps,
      turnDegS: rounded(turnDegS, 1),
      ends: ends.map((end) => ({ end: end.end, cm: rounded(end.cm, 2), worstJoint: end.worstJoint, worstDeg: rounded(end.worstDeg, 1) })),
      loop: loop && {
        clip: loop.loop,
        frame: loop.frame,
        phase: rounded(loop.phase, 3),
        cm: rounded(loop.cm, 2),
        loopMps: rounded(loop.loopMps, 3),
        endMps: rounded(loop.endMps, 3),
      },
      others,
      shot: shots.get(id)?.text ?? null,
    })),
    counts,
    spare,
    home: chosen.home ?? null,
    proposedHome: found.proposal && {
      ...found.proposal,
      meanCm: rounded(found.proposal.meanCm, 2),
      worstCm: rounded(found.proposal.worstCm, 2),
    },
    contract: found.contract,
    constants: setConstants(found.contract),
    shots: found.shots.map(({ number, slot, gives, text, done }) => ({ number, slot, gives, text, done })),
  };
  print(json ?? false, out, () => [
    `${chosen.name}: ${counts.filled} of ${reports.length} there, ${counts.mirror} by mirroring, ${counts.missing} to capture` +
      (counts.doubted > 0 ? `; ${counts.doubted} in doubt` : ''),
    ...reports.map(({ id, state, clip, homeCm, others }) => {
      const off = homeCm === null ? '' : `  ${homeCm.toFixed(1)} cm from home`;
      return `  ${id.padEnd(28)} ${state.padEnd(8)} ${clip ?? ''}${off}${others.map((own) => `; ${own.clip}: ${own.why}`).join('')}`;
    }),
    ...(found.shots.length > 0 ? ['shots', ...found.shots.map(({ number, text }) => `  ${number}  ${text}`)] : []),
    'contract',
    ...found.contract.map((line) => `  ${lineText(line)}`),
  ]);
}

function lineText({ title, asked, measured, unit, digits, breaks }: ContractLine): string {
  const value = (number: number | null) => (number === null ? '?' : number.toFixed(digits));
  const wanted = asked === null ? '' : `, asked ${value(asked)}`;
  return `${title}: ${value(measured)} ${unit}${wanted}${breaks ? ` ▲ ${breaks}` : ''}`;
}
