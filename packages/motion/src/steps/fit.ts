import { z } from 'zod';
import { InputError } from '../error';
import { fitMotion } from '../fit/fit-motion';
import { fitOverrides, fitSettingsSchema } from '../fit/settings';
import { joinMotions } from '../model/join';
import { cutMotion } from '../model/motion';
import type { Step } from './step';

export const fitParams = z.object({
  kind: z.literal('fit'),
  off: z.boolean().optional(),
  /** Whom the clip is fitted to, one of the project's characters. */
  character: z.string().min(1).max(200),
  /** What is otherwise in this clip than in the fit that is saved for its suit and this character. */
  ...fitOverrides.shape,
});
export type FitParams = z.infer<typeof fitParams>;

/**
 * Carries the clip, and what the take has around it, to the joints of a character: the first step of all, before anything is cleaned. What the
 * clip does not say is as saved for the pair of skeletons, or as it is by default.
 */
export const fit: Step<'fit', FitParams> = {
  kind: 'fit',
  params: fitParams,
  apply(clip, { kind: _kind, off: _off, character: id, ...settings }, cast = new Map()) {
    const character = cast.get(id);
    if (!character) throw new InputError('fit', `The character "${id}" is not among the project's.`, { field: 'characters' });
    if (clip.loop || clip.travel)
      throw new InputError('fit', 'A fit comes before every other step: a loop or a root is made of what it gives.');
    const { lead, motion, tail } = clip;
    const whole = joinMotions([...(lead ? [lead] : []), motion, ...(tail ? [tail] : [])]);
    const start = lead?.frames ?? 0;
    const fitted = fitMotion(whole, character, fitSettingsSchema.parse(settings), -start);
    const end = start + motion.frames;
    const along = fitted.space.alongScale;
    return {
      ...clip,
      belt: clip.belt && { x: clip.belt.x.map((v) => v * along), z: clip.belt.z.map((v) => v * along) },
      motion: cutMotion(fitted.motion, start, end - 1),
      lead: lead && cutMotion(fitted.motion, 0, start - 1),
      tail: tail && cutMotion(fitted.motion, end, whole.frames - 1),
      contacts: undefined,
      way: undefined,
    };
  },
};
