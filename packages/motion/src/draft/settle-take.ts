import { takeDescriber, type Passport } from '../passport/describe-take';
import type { TakeOverrides } from '../passport/overrides';
import type { Motion } from '../model/motion';
import type { Take } from '../model/take';

/** What a draft leaves open, or has settled by itself: about which take, and what. */
export interface Doubt {
  readonly take: string;
  readonly what: string;
}

/** A take as it is read for a draft: in metres, with what was settled without asking. */
export interface SettledTake {
  readonly motion: Motion;
  readonly overrides: TakeOverrides;
  readonly passport: Passport;
  readonly doubts: readonly Doubt[];
}

/**
 * Reads a take and settles what can be worked out of it: the floor at zero, and a rate or scale that its flights speak against. What it had to settle against the
 * file, and what it cannot, is told.
 *
 * @param id what clips call the take
 * @param known what its owner has said of it already, which stands
 *
 * @example
 * settleTake('stroll', take).doubts; // []
 */
export function settleTake(id: string, take: Take, known: TakeOverrides = {}): SettledTake {
  let overrides = known;
  const doubts: Doubt[] = [];
  const describe = takeDescriber(take);
  const read = describe(overrides);
  for (const { code, message, repair } of read.passport.warnings) {
    const settles = code === 'floor' || code.startsWith('free-fall');
    if (settles && repair) overrides = { ...repair.overrides, ...overrides };
    if (code.startsWith('free-fall') && repair) doubts.push({ take: id, what: `${message} It is read so: ${repair.label}.` });
    else if (code === 'units' || code.startsWith('doubt-')) doubts.push({ take: id, what: message });
  }
  const { motion, passport } = overrides === known ? read : describe(overrides);
  return { motion, overrides, passport, doubts };
}
