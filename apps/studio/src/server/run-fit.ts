import { fitSettingsSchema, fitTake, InputError, readCharacter, writeCharacterGlb, type Character } from '@lantern/motion';
import { characterFile, listFits } from './characters';
import type { Database } from './database';
import { beat, claim, finish } from './fit-jobs';
import { openMotion } from './takes';

const known = new Map<string, Character>();

/** A character, read once. */
async function characterOf(database: Database, project: string, id: string): Promise<Character> {
  const file = await characterFile(database, project, id);
  if (!file) throw new InputError('missing', 'The character is not in the project any more.');
  const found = known.get(file.hash) ?? readCharacter(file.bytes, file.name);
  known.set(file.hash, found);
  return found;
}

/** Does one job of the queue: a whole take onto a character, measured, and written as a GLB. Whatever happens is written down. */
export async function runFit(database: Database, id: string): Promise<void> {
  const job = await claim(database, id);
  if (!job) return;
  try {
    const character = await characterOf(database, job.project, job.character);
    const { motion, signature, name } = await openMotion(database, job.take);
    const saved = (await listFits(database, job.project)).find((fit) => fit.source === signature && fit.character === job.character);
    const settings = fitSettingsSchema.parse(saved?.settings ?? {});
    const fitted = await fitTake(motion, character, settings, () => beat(database, id));
    if (!fitted || !(await beat(database, id))) return;
    const { report } = fitted;
    const bytes = writeCharacterGlb([{ name, clip: { motion: fitted.motion, travel: null, loop: false } }], character);
    await finish(database, id, { state: 'done', report, bytes: Buffer.from(bytes) });
  } catch (error) {
    const message = error instanceof InputError ? error.message : 'Something went wrong on our side.';
    await finish(database, id, { state: 'failed', message });
    if (!(error instanceof InputError)) throw error;
  }
}
