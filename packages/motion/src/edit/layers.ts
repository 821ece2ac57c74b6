import { z } from 'zod';
import { propSchema } from '../model/prop';

/** Frames of the clip; a key may lie beyond its ends, where it still fades in or out. */
const frame = z.int().min(-1e7).max(1e7);
const fade = z.int().min(0).max(10_000);
const share = z.number().min(0).max(1);
const vector = (most: number) => z.tuple([number(most), number(most), number(most)]);
const number = (most: number) => z.number().min(-most).max(most);
const jointName = z.string().min(1).max(200);

/** A joint turned, or the hips shifted, at a frame, against what it is without the layer. */
export const layerKeySchema = z.object({
  frame,
  joint: jointName,
  /** Axis times degrees. In the rest pose the axes point to the left, up and to the front; they go along with the joint. */
  turn: vector(360).default([0, 0, 0]),
  /** Of the first joint only: to the left, up and to the front of its way, metres. */
  shift: vector(100).optional(),
});
export type LayerKey = z.infer<typeof layerKeySchema>;

export const TOUCH_LIMBS = ['left hand', 'right hand', 'left foot', 'right foot'] as const;
export type TouchLimb = (typeof TOUCH_LIMBS)[number];

/** Where a touch brings a limb to. */
export const touchTargetSchema = z.discriminatedUnion('to', [
  /** A place in the world, metres. */
  z.object({ to: z.literal('place'), at: vector(1e4) }),
  /** The floor below. */
  z.object({ to: z.literal('floor') }),
  /** The nearest place on a prop, which stands in the take as it stood when the touch was made. */
  z.object({ to: z.literal('prop'), prop: propSchema }),
  /** A place fixed to a joint, as on the other hand, the hip or the head; metres in the joint's axes, which in the rest pose are left, up and front. */
  z.object({ to: z.literal('joint'), joint: jointName, at: vector(10).default([0, 0, 0]) }),
]);
export type TouchTarget = z.infer<typeof touchTargetSchema>;

/** A hand or foot brought to a place for a while. */
export const touchSchema = z
  .object({
    limb: z.enum(TOUCH_LIMBS),
    /** From the first frame to the last it is there; before and after it is led there and back. */
    from: frame,
    to: frame,
    fadeIn: fade.default(10),
    fadeOut: fade.default(10),
    /** How much of the way to the place it is brought. */
    weight: share.default(1),
    target: touchTargetSchema,
    /** Along the prop, or over the floor, with where the limb is without the layer; else it stays where it first is. */
    slide: z.boolean().default(false),
    /** Metres that the middle of the hand, or the ball of the foot, stays off the surface of a floor or prop. */
    off: z.number().min(0).max(1).default(0.02),
    /** Elbow or knee turned about the line from shoulder to wrist, or hip to ankle; degrees, to the outside. */
    swivel: number(180).default(0),
    /** How much of what the limb lacks the body makes up: the trunk for a hand, the hips for a foot. */
    give: share.default(0),
  })
  .refine(({ from, to }) => to >= from, 'A touch ends at the frame it begins at, or later.');
export type Touch = z.infer<typeof touchSchema>;

const weightKey = z.object({ frame, value: share });

/** A correction layer: sparse keys and touches over dense motion. */
export const layerSchema = z.object({
  name: z.string().trim().min(1).max(60),
  /** How much of it is done: one number, or one that goes from key to key. */
  weight: z.union([share, z.array(weightKey).min(1).max(1000)]).default(1),
  muted: z.boolean().default(false),
  /** Where any layer is alone, the others are not done. */
  alone: z.boolean().default(false),
  /** Frames in which keys come in before the first of them, and go out after the last. */
  fadeIn: fade.default(10),
  fadeOut: fade.default(10),
  /** Outside of the keys they stay as at the first and the last, to the ends of the clip; round a loop from the last to the first. */
  hold: z.boolean().default(false),
  /** Feet stay where they are when what carries the legs is moved. */
  feet: z.boolean().default(true),
  keys: z.array(layerKeySchema).max(20_000).default([]),
  touches: z.array(touchSchema).max(200).default([]),
});
export type Layer = z.infer<typeof layerSchema>;
