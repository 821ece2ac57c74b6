import { CAST_NAMES, castGlb, type CastName } from '@lantern/cast';
import { bareName, describeTake, fitSettingsSchema, fitTake, partName, readCharacter, writeCharacterGlb } from '@lantern/motion';
import { inFile, inFileAsync, readInput, readTakeFile, writeOutput } from './files';
import { print, printWarnings } from './print';

const isOurs = (name: string): name is CastName => CAST_NAMES.some((own) => own === name);

/** Carries a whole take onto a character (a skinned GLB, or one of ours by name) and writes it in the character's own file. */
export async function fit(takeFile: string, characterFile: string, { out, json }: { out: string; json?: boolean }): Promise<void> {
  // The character stands at height 0, wherever the suit believed the floor to be.
  const { motion, passport } = describeTake(await readTakeFile(takeFile), { floorToZero: true });
  printWarnings(takeFile, passport.warnings);
  const bytes = isOurs(characterFile) ? await castGlb(characterFile) : await readInput(characterFile);
  const character = inFile(characterFile, () => readCharacter(bytes, bareName(characterFile)));
  printWarnings(characterFile, character.warnings);
  const fitted = await inFileAsync(takeFile, () => fitTake(motion, character, fitSettingsSchema.parse({})));
  if (!fitted) return;
  const clip = { motion: fitted.motion, travel: null, loop: false };
  await writeOutput(out, writeCharacterGlb([{ name: bareName(takeFile), clip }], character));
  const { report } = fitted;
  const { sourceParts, targetParts, source } = fitted.plan;
  const parts = Object.entries(targetParts.parts).map(([part, { joints, confidence, reason }]) => {
    const from = sourceParts.parts[part as keyof typeof sourceParts.parts];
    return {
      part,
      source: from?.joints.map((j) => source.joints[j].name) ?? [],
      target: joints.map((j) => character.skeleton.joints[j].name),
      confidence: from ? Math.min(confidence, from.confidence) : confidence,
      reason,
    };
  });
  print(json ?? false, { file: out, ...report, legRatio: fitted.plan.legRatio, parts }, () => [
    `${out}: ${report.seconds.toFixed(2)} s, legs × ${fitted.plan.legRatio.toFixed(3)}`,
    `slide ${report.slideCm.toFixed(2)} cm over ${report.contacts} contacts, sink ${report.sinkCm.toFixed(2)} cm, hands ${report.reachCm.toFixed(1)} cm off`,
    ...report.limits.map(({ part, degrees, frame }) => `${partName(part)} is ${degrees.toFixed(0)}° beyond what it does, frame ${frame}`),
    ...parts.map((p) => `  ${p.part}: ${p.source.join(' ') || '–'} → ${p.target.join(' ')} (${Math.round(p.confidence * 100)} %)`),
  ]);
}

/** Writes one of the characters that come with the program. */
export async function character(name: CastName, { out, json }: { out: string; json?: boolean }): Promise<void> {
  const bytes = await castGlb(name);
  await writeOutput(out, bytes);
  print(json ?? false, { file: out, bytes: bytes.length }, () => [`${out}: ${bytes.length} bytes`]);
}
