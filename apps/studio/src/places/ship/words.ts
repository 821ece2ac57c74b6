import type { ShipmentRow } from '@/http/shipment';

export const many = (clips: number) => `${clips} ${clips === 1 ? 'clip' : 'clips'}`;

export const sizeOf = (bytes: number) => (bytes >= 10e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${(bytes / 1000).toFixed(0)} KB`);

// Made once: to make one takes longer than all that it writes.
const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' });
const HOUR = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });

/** When a shipment was asked for: its day and its hour. */
export function whenOf({ created }: Pick<ShipmentRow, 'created'>): string {
  const at = new Date(created);
  return `${DAY.format(at)} ${HOUR.format(at)}`;
}

/** Files of which nobody asks whether they changed. */
const isOwn = ({ path }: { readonly path: string }) => !path.endsWith('report.json');

/** What of a shipment was written again, and why; or what became of it. */
export function summaryOf({ state, message, written, files, of, failed }: ShipmentRow): string {
  if (state === 'failed') return `▲ It did not arrive. ${message}`;
  if (state === 'stopped') return 'It was stopped.';
  const size = files.reduce((sum, { bytes }) => sum + bytes, 0);
  const left = failed > 0 ? ` Not in it: ${many(failed)} that could not be made.` : '';
  const own = written.filter(isOwn);
  const again = own.filter(({ state: its }) => its === 'changed' || its === 'new');
  const about = `${many(of - failed)}, ${(size / 1e6).toFixed(2)} MB.`;
  if (own.every(({ state: its }) => its === 'new')) return `${about} The first.${left}`;
  if (again.length === 0) return `${about} Nothing had changed.${left}`;
  const why = [...new Set(again.flatMap((file) => file.why))];
  const told = why.slice(0, 2).join('; ');
  return `${about} ${again.length} of ${own.length} files written again: ${told}${why.length > 2 ? `, and ${why.length - 2} more` : ''}.${left}`;
}
