/** How far the files are that are being read, by what their senders call them. */
const shared = globalThis as typeof globalThis & { lanternArrivals?: Map<string, number> };
const shares = (shared.lanternArrivals ??= new Map<string, number>());

/** Follows a file for as long as it is read. @param id what its sender calls it; null: nobody asks */
export async function followed<T>(id: string | null, run: (told: (share: number) => void) => Promise<T>): Promise<T> {
  if (id === null) return run(() => {});
  shares.set(id, 0);
  try {
    return await run((share) => shares.set(id, share));
  } finally {
    shares.delete(id);
  }
}

/** The share of a file that has been read, or null when it is not being read. */
export const shareOf = (id: string): number | null => shares.get(id) ?? null;
