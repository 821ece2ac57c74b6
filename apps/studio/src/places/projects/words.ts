import type { ProjectRow } from '@/data/projects';

const many = (count: number, what: string) => `${count} ${what}${count === 1 ? '' : 's'}`;

/** How long, in the largest units that tell it. */
export function lengthOf(seconds: number): string {
  const whole = Math.round(seconds);
  if (whole < 60) return `${whole} s`;
  if (whole < 3600) return `${Math.floor(whole / 60)} min ${whole % 60} s`;
  return `${Math.floor(whole / 3600)} h ${Math.floor((whole % 3600) / 60)} min`;
}

/** What is in a project. */
export function holds({ takes, seconds, clips, sets, shipments }: ProjectRow): string {
  if (takes === 0) return 'No takes yet';
  return [
    `${many(takes, 'take')}, ${lengthOf(seconds)}`,
    many(clips, 'clip'),
    ...(sets > 0 ? [many(sets, 'set')] : []),
    ...(shipments > 0 ? [`shipped ${shipments === 1 ? 'once' : `${shipments} times`}`] : []),
  ].join(' · ');
}

// Made once: to make one takes longer than all that it writes.
const HOUR = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' });
const DAY_AND_YEAR = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });

/** A day and an hour; today and yesterday by their names. */
export function whenOf(instant: string, now = new Date()): string {
  const at = new Date(instant);
  const hour = HOUR.format(at);
  const daysAgo = Math.round((dayOf(now) - dayOf(at)) / 86_400_000);
  if (daysAgo === 0) return `today, ${hour}`;
  if (daysAgo === 1) return `yesterday, ${hour}`;
  return (at.getFullYear() === now.getFullYear() ? DAY : DAY_AND_YEAR).format(at);
}

const dayOf = (at: Date) => new Date(at.getFullYear(), at.getMonth(), at.getDate()).getTime();
