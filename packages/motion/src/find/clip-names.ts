import type { Segment } from './segments';

/** What a clip is, in words of its own: `walk`, `run-start`, `turn`; `forward`, `left`, `left-90`. Empty where nothing is known. */
export interface ClipTags {
  readonly gait: string;
  readonly direction: string;
}

/** Names unless another pattern is set. */
export const NAME_PATTERN = '{character}-{gait}-{direction}';

/** From this speed on a run is a fast one, metres a second. */
const FAST = 4;

/**
 * Gait and direction of what was measured.
 *
 * @param of the gait that a start leads to, or a stop comes from
 *
 * @example
 * tagsOf(segments(ground)[0]).direction; // 'forward'
 */
export function tagsOf({ kind, direction, turnDeg, speedMps }: Segment, of: Segment['kind'] | null = null): ClipTags {
  if (kind === 'turn') {
    const degrees = Math.max(15, Math.round(Math.abs(turnDeg) / 15) * 15);
    return { gait: 'turn', direction: `${turnDeg > 0 ? 'left' : 'right'}-${degrees}` };
  }
  if (kind === 'flight') return { gait: 'hop', direction: '' };
  if (kind === 'idle') return { gait: 'idle', direction: '' };
  if (kind === 'start' || kind === 'stop') {
    return { gait: of ? `${of}-${kind}` : kind, direction: direction && direction !== 'forward' ? direction : '' };
  }
  return { gait: kind === 'run' && speedMps > FAST ? 'run-fast' : kind, direction: direction ?? '' };
}

/**
 * The tags of a cut: those of what is done in most of it.
 *
 * @example
 * tagsOfCut(segments(ground), best).gait; // 'walk'
 */
export function tagsOfCut(segments: readonly Segment[], { from, to }: { readonly from: number; readonly to: number }): ClipTags {
  const shared = (segment: Segment) => Math.min(to, segment.to) - Math.max(from, segment.from);
  const most = segments.reduce<Segment | null>((best, s) => (shared(s) > Math.max(0, best ? shared(best) : 0) ? s : best), null);
  return most ? tagsOf(most) : { gait: '', direction: '' };
}

/** Words of a name: letters, digits and dashes; what is empty takes its dash with it. */
const tidy = (name: string) =>
  name
    .replace(/[^\p{L}\p{N}._ -]+/gu, '')
    .replace(/-{2,}/g, '-')
    .replace(/^[-\s]+|[-\s]+$/g, '');

/**
 * A name after a pattern with `{character}`, `{gait}`, `{direction}` and `{number}` (two digits).
 *
 * @example
 * nameByPattern('{character}-{gait}-{direction}', { character: 'Wick', gait: 'walk', direction: 'forward', number: 1 }); // 'Wick-walk-forward'
 */
export function nameByPattern(pattern: string, parts: ClipTags & { readonly character: string; readonly number: number }): string {
  const values: Record<string, string> = { ...parts, number: String(parts.number).padStart(2, '0') };
  return tidy(pattern.replace(/\{(\w+)\}/g, (_, key: string) => values[key] ?? '')) || 'clip';
}
