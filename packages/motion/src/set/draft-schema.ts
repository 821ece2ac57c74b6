import { z } from 'zod';
import type { FloorTransform } from '../model/floor-transform';
import { clipSourceSchema } from '../recipe/clip-document';
import { stepsAtRate } from '../recipe/edits';
import { recipeSchema } from '../recipe/order';

const text = z.string().max(1000);
const id = z.string().min(1).max(200);

/** A cut that would do too, with the steps that make a clip of it, and why it is not the one. */
export const runnerUpSchema = z.object({ source: clipSourceSchema, steps: recipeSchema, why: text });
export type RunnerUp = Readonly<z.infer<typeof runnerUpSchema>>;

/** What a draft has chosen for a slot, and why. */
export const choiceSchema = z.object({
  slot: z.string().max(200),
  /** Null where nothing of the takes fills it. */
  clip: id.nullable(),
  why: text,
  others: z.array(runnerUpSchema).max(20).default([]),
  /** Figures that are out of bounds however it was tried, in words. */
  out: z.array(text).max(20).default([]),
});
export type Choice = Readonly<z.infer<typeof choiceSchema>>;

/** How a set was drafted: what was chosen and why, what is doubtful, and what was changed of its graph so that it plays calmly. */
export const draftSchema = z.object({
  choices: z.array(choiceSchema).max(500),
  doubts: z
    .array(z.object({ take: id, what: text }))
    .max(1000)
    .default([]),
  changes: z.array(text).max(500).default([]),
});
export type SetDraft = Readonly<z.infer<typeof draftSchema>>;

/**
 * A draft with its clips and takes called otherwise, as where it comes from one file or database into another. A clip that is gone leaves its slot without one, and
 * a runner-up whose take is gone is left out.
 *
 * @example
 * draftCalled({ choices: [], doubts: [], changes: [] }, (clip) => clip, (take) => take).choices; // []
 */
export const draftCalled = (draft: SetDraft, clip: (id: string) => string | null, take: (id: string) => string | null): SetDraft => ({
  ...draft,
  choices: draft.choices.map((own) => ({
    ...own,
    clip: own.clip === null ? null : clip(own.clip),
    others: own.others.flatMap((other) => {
      const from = take(other.source.take);
      return from === null ? [] : [{ ...other, source: { ...other.source, take: from } }];
    }),
  })),
});

/** Where a stretch of a take lies in another delivery of it; null where that does not have it. */
export type PlaceOf = (from: number, to: number) => { readonly from: number; readonly to: number } | null;

/**
 * A draft whose take was delivered anew: the runners-up that are cut from it are cut from the new delivery, and those that it does not have any more are left out.
 *
 * @param take the old delivery, and `fresh` the new one; the same where it takes its place
 * @param floor where places in the world have gone
 * @example
 * draftDelivered({ choices: [], doubts: [], changes: [] }, 'rounds', 'rounds', () => null).choices; // []
 */
export const draftDelivered = (draft: SetDraft, take: string, fresh: string, place: PlaceOf, floor?: FloorTransform): SetDraft => ({
  ...draft,
  choices: draft.choices.map((choice) => ({
    ...choice,
    others: choice.others.flatMap((other) => {
      if (other.source.take !== take) return [other];
      const { from, to } = other.source;
      const span = place(from, to);
      if (!span) return [];
      const steps = stepsAtRate(other.steps, (span.to - span.from) / (to - from), floor);
      return [{ ...other, source: { take: fresh, from: span.from, to: span.to }, steps }];
    }),
  })),
});

/** The stretches of a take that runners-up of a draft are cut from. */
export const runnersUpOf = (draft: SetDraft, take: string): { readonly from: number; readonly to: number }[] =>
  draft.choices.flatMap(({ others }) => others.flatMap(({ source: { take: own, from, to } }) => (own === take ? [{ from, to }] : [])));
