import type { Clip } from '../model/clip';
import type { StepReport } from './definition';

const seconds = ({ motion, loop }: Clip): number => (motion.frames - (loop ? 1 : 0)) / motion.fps;

/** How long a clip lasts, a cycle from its beginning to its coming round. */
export const lasts = (before: Clip, after: Clip): StepReport => ({
  label: 'lasts',
  unit: 's',
  digits: 2,
  before: seconds(before),
  after: seconds(after),
});
