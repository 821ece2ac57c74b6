import { z } from 'zod';
import { PARTS } from '../anatomy/parts';

const part = z.enum(PARTS);
const degrees = z.number().min(-180).max(180);
/** Turns about the reference's own axes, degrees, one after the other: X to the left, Y up, Z to the front. */
const turn = z.tuple([degrees, degrees, degrees]);
const turns = z.partialRecord(part, turn);
const jointNames = z.array(z.string().min(1).max(200)).max(40);
const quaternion = z.tuple([z.number(), z.number(), z.number(), z.number()]);
const coordinate = z.number().min(-1e4).max(1e4);

/** A pose to start from: limbs straightened (arms out, or half down), or as the skeleton rests. */
export const referenceKinds = ['T', 'A', 'rest'] as const;

export const LIMBS = ['leftHand', 'rightHand', 'leftFoot', 'rightFoot'] as const;
export type Limb = (typeof LIMBS)[number];

/** How much of a hand's or foot's captured place is kept, and against what. */
export const placementSchema = z.object({
  /** 0 keeps the joint angles of the source, 1 its place. */
  weight: z.number().min(0).max(1).default(0),
  to: z.enum(['floor', 'hips', 'other-hand', 'prop']).default('floor'),
  /** The middle of the prop in the take, metres; with `to: "prop"`. */
  prop: z.object({ x: coordinate, y: coordinate.default(0), z: coordinate }).optional(),
  /** Stretches with a weight of their own: frames of the clip, the first and the last; the weight is led in and out over `fade` seconds around them. */
  holds: z
    .array(
      z.object({
        from: z.int().min(-1e7).max(1e7),
        to: z.int().min(-1e7).max(1e7),
        weight: z.number().min(0).max(1).default(1),
        fade: z.number().min(0).max(5).default(0.25),
      }),
    )
    .max(500)
    .default([]),
});
export type Placement = z.infer<typeof placementSchema>;

const referenceSchema = z.object({
  /** The pose of the source that is the same as the target's: straightened, at rest, or given joint by joint (rotations local to the parents). */
  source: z
    .union([z.enum(referenceKinds), z.object({ label: z.string().max(120).default(''), rotations: z.record(z.string(), quaternion) })])
    .default('T'),
  target: z.enum(referenceKinds).default('T'),
  /** Turned by hand, part by part with all that hangs from it. */
  turns: z.object({ source: turns.default({}), target: turns.default({}) }).prefault({}),
});

const fields = {
  /** Joints by part of the body, where a person knows better than what was found; an empty list leaves the part out. */
  mapping: z.object({
    source: z.partialRecord(part, jointNames).default({}),
    target: z.partialRecord(part, jointNames).default({}),
  }),
  reference: referenceSchema,
  /** How far the body goes: in the ratio of the legs, as captured, or by a factor. */
  travel: z.union([z.enum(['legs', 'captured']), z.number().min(0.05).max(20)]),
  /** Where the translation of a target's joint comes from: its own build, the source's movement scaled by the bones, or as captured. */
  translations: z.record(z.string(), z.enum(['target', 'scaled', 'source'])),
  placement: z.partialRecord(z.enum(LIMBS), placementSchema),
  /** Rotations added part by part, in the axes of the reference pose, degrees. */
  offsets: turns,
  /** Bend of each joint of fingers that the source does not have, degrees. */
  curlDeg: z.number().min(-30).max(90),
  /** Contacts of feet and hands: kept where they came down, or left to the joint angles. */
  planted: z.enum(['held', 'free']),
  /** Hips, back and thighs of someone who sits or lies: left where they come, or the body lifted so that they stay out of the floor. */
  seat: z.enum(['free', 'out']),
  /** Lifts the soles off the floor, centimetres: for what is not in the skin. */
  soleCm: z.number().min(-20).max(20),
  /** How much of what a hand lacks to its place the body gives, 0 to 1. */
  give: z.number().min(0).max(1),
};

/** What a clip says otherwise than its pair of skeletons. */
export const fitOverrides = z.object(fields).partial();
export type FitOverrides = z.infer<typeof fitOverrides>;

/** What is settled once for a pair of skeletons and holds for every take and clip of it. Everything has a good default. */
export const fitSettingsSchema = z.object({
  mapping: fields.mapping.prefault({}),
  reference: fields.reference.prefault({}),
  travel: fields.travel.default('legs'),
  translations: fields.translations.default({}),
  placement: fields.placement.default({}),
  offsets: fields.offsets.default({}),
  curlDeg: fields.curlDeg.default(18),
  planted: fields.planted.default('held'),
  seat: fields.seat.default('free'),
  soleCm: fields.soleCm.default(0),
  give: fields.give.default(0.3),
});
export type FitSettings = z.infer<typeof fitSettingsSchema>;
export type FitSettingsInput = z.input<typeof fitSettingsSchema>;

/** A saved fit: of the takes of one suit, told by their skeletons' signature, onto one character. */
export const savedFitSchema = z
  .object({
    /** The signature of the source's skeleton; without it the fit is for any source. */
    source: z.string().max(64).optional(),
    character: z.string().min(1).max(200),
    ...fields,
  })
  .partial()
  .required({ character: true });
export type SavedFit = z.infer<typeof savedFitSchema>;
