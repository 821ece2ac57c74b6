import type { Database } from '../database';
import { makeClaimed } from './make-clip';
import { claimClip } from './made-clips';
import { claimShipment, packClaimed } from './pack-shipment';

let draining: Promise<void> | null = null;

/** Makes and packs until nothing waits any more; whoever asks meanwhile waits for the same. */
export function drain(database: Database): Promise<void> {
  draining ??= drainOnce(database).finally(() => (draining = null));
  return draining;
}

async function drainOnce(database: Database): Promise<void> {
  for (;;) {
    const clip = await claimClip(database);
    if (clip) {
      await makeClaimed(database, clip);
      continue;
    }
    const shipment = await claimShipment(database);
    if (!shipment) return;
    await packClaimed(database, shipment);
  }
}
