import type { Clip } from '../model/clip';
import { clipContacts } from '../measure/clip-slides';
import { phaseAt, phaseTable } from './phase';

/** The columns of a table of travel. */
export const TRAVEL_COLUMNS = 'time_s,x_m,y_m,z_m,heading_rad,speed_mps,turn_rad_s,phase,left_contact,right_contact';

/**
 * The travel of a clip as a table: a line for every frame, from where its root is at the first one. Speed and turn are those of the stretch up to the next
 * frame; the phase goes on from 1 to 2 in the second stride, and is empty where there are no strides; contacts are 1 while a foot bears.
 *
 * @returns lines ended by a line feed
 *
 * @example
 * travelCsv(run({ from: best.from, to: best.to, steps: [] })).split('\n')[0]; // 'time_s,x_m,y_m,z_m,heading_rad,speed_mps,turn_rad_s,phase,left_contact,right_contact'
 */
export function travelCsv(clip: Clip): string {
  const { motion, travel, loop } = clip;
  const { frames, fps } = motion;
  const contacts = clipContacts(clip);
  const bears = (side: 'left' | 'right', f: number): string =>
    contacts === null
      ? ''
      : contacts[side].some(({ from, to }) => (f >= from && f < to) || (loop && f + frames - 1 >= from && f + frames - 1 < to))
        ? '1'
        : '0';
  const phases = contacts ? phaseTable(clip) : [];
  const at = (values: Float64Array | undefined, f: number) => values?.[f] ?? 0;
  const rows = [TRAVEL_COLUMNS];
  for (let f = 0; f < frames; f++) {
    const a = Math.min(f, Math.max(0, frames - 2));
    const b = Math.min(a + 1, frames - 1);
    const speed = Math.hypot(at(travel?.x, b) - at(travel?.x, a), at(travel?.z, b) - at(travel?.z, a)) * fps;
    const turn = (at(travel?.heading, b) - at(travel?.heading, a)) * fps;
    const phase = phaseAt(phases, f / fps);
    rows.push(
      [
        ...[f / fps, at(travel?.x, f), at(travel?.y, f), at(travel?.z, f), at(travel?.heading, f), speed, turn].map(tidy),
        phase === null ? '' : tidy(phase),
        bears('left', f),
        bears('right', f),
      ].join(','),
    );
  }
  return `${rows.join('\n')}\n`;
}

const tidy = (value: number): string => String(Number(value.toFixed(6)) + 0);
