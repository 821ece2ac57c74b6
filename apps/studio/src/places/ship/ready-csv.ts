import { READY_COLUMNS } from './columns';
import { saysOf } from './ReadyTable';
import type { ReadyClip } from './use-readiness';

const quoted = (text: string): string => (/[",\n]/.test(text) ? `"${text.replace(/"/g, '""')}"` : text);

/** The table as CSV, its figures unrounded, in the order in which it stands. */
export function readyCsv(clips: readonly ReadyClip[]): string {
  const heads = [
    'clip',
    'character',
    'kind',
    'ready',
    ...READY_COLUMNS.map(({ head, unit }) => (unit ? `${head} (${unit})` : head)),
    'what is wrong',
  ];
  const rows = clips.map((clip) => [
    clip.name,
    clip.who,
    clip.row.kind === 'join' ? 'join' : clip.row.about?.figures.loop ? 'loop' : 'once',
    clip.isReady ? 'yes' : 'no',
    ...READY_COLUMNS.map((_, i) => String(clip.held[i]?.value ?? '')),
    saysOf(clip) ?? '',
  ]);
  return `${[heads, ...rows].map((row) => row.map(quoted).join(',')).join('\n')}\n`;
}
