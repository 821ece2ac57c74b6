import { captureDay, DAY_TAKES } from '@lantern/capture';
import { writeBvh } from '@lantern/motion';
import type { Database } from './database';
import { importFile } from './takes';

/** A project in which a day was captured and nothing has been made of it yet. */
export const DAY = { name: 'Capture day', seed: 20 } as const;

/**
 * The takes of a simulated capture day, as they would come from the suit; those that are there already are not brought in again.
 *
 * @param project that gets them, which is there
 * @param told hears how much of it is done, 0 to 1
 */
export async function loadDay(database: Database, project: string, told: (share: number) => void = () => {}): Promise<void> {
  let done = 0;
  for (const { name, motion } of captureDay(DAY.seed)) {
    await importFile(database, project, `${name}.bvh`, new TextEncoder().encode(writeBvh(motion)));
    told(++done / DAY_TAKES.length);
  }
}
