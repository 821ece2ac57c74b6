import { nameByPattern } from '@lantern/motion';
import type { ClipDoc } from '@/data/clips-store';
import { freeName } from '@/data/new-clip';
import type { SetView } from '@/data/set-view';

/** A name for each, none twice. */
export function namesBy(
  pattern: string,
  docs: readonly Pick<ClipDoc, 'id' | 'gait' | 'direction'>[],
  traits: SetView['traits'],
  character: string,
): string[] {
  const taken: { name: string }[] = [];
  return docs.map(({ id, gait, direction }, i) => {
    const own = traits.get(id);
    const kind = own?.kind && !['loop', 'idle'].includes(own.kind) ? own.kind : '';
    const words = {
      character,
      gait: gait || [own?.gait ?? (own?.kind === 'idle' ? 'idle' : ''), kind].filter(Boolean).join('-'),
      direction:
        direction ||
        (own?.kind === 'turn'
          ? `${own.turnDeg > 0 ? 'left' : 'right'}-${Math.round(Math.abs(own.turnDeg) / 45) * 45}`
          : own?.kind === 'arc'
            ? own.turnDegS > 0
              ? 'left'
              : 'right'
            : (own?.direction ?? '')),
      number: i + 1,
    };
    const base = nameByPattern(pattern, words);
    const name = taken.some((other) => other.name.toLowerCase() === base.toLowerCase()) ? freeName(base, taken) : base;
    taken.push({ name });
    return name;
  });
}
