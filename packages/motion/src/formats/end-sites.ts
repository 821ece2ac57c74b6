import { z } from 'zod';
import type { Vec3 } from '../math/quat';

const extras = z.object({ endSites: z.array(z.tuple([z.number(), z.number(), z.number()])).max(20) });

/** Ends of bones that are no joints, as our GLB files note them beside a joint; none where they are not noted, or wrongly. */
export function endSitesIn(noted: unknown): Vec3[] {
  const found = extras.safeParse(noted);
  return found.success ? found.data.endSites : [];
}
