import type { Finding } from '@lantern/motion';

/** What would mend a finding, in words: a clip that is missing, or a longer way over. */
export function mendOf({ figure, answer, from, to, clip }: Finding): string {
  if (figure === 'answer') {
    switch (answer) {
      case 'start':
        return from === to || from === '' ? 'a start that is quick' : `a start out of ${from} into a run`;
      case 'stop':
        return `a stop out of ${from || to} within two steps`;
      case 'turn':
      case 'way':
        return `a pivot, or a turn, out of ${to}`;
      default:
        return `a clip from gait to gait, out of ${from || to}`;
    }
  }
  if (figure === 'gap') return `${clip} at the capsule’s own speed`;
  if (figure === 'slide') return `feet of ${clip} held`;
  return from === '' ? `${clip} smoothed` : `a longer overlap, or a clip from ${from} to ${to}`;
}
