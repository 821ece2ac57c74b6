import type { Body } from '../model/body';
import type { Layer, Touch } from './layers';

/** A limb whose end is held by a touch: its middle joint can only swing about the line between its ends. */
export interface PinnedLimb {
  /** The touch's number in its layer. */
  readonly touch: number;
  /** The joints at the ends of the limb. */
  readonly from: number;
  readonly to: number;
  /** Degrees about the line from the one to the other that swing the middle joint to the outside by one degree. */
  readonly outwards: 1 | -1;
}

/**
 * The limb of a joint, if a touch of the layer holds its end at a frame.
 *
 * @param joint the elbow or knee, or the wrist or ankle
 *
 * @example
 * const layer = layerSchema.parse({ name: 'rail', touches: [{ limb: 'left hand', from: 5, to: 9, target: { to: 'floor' } }] });
 * pinnedLimb(layer, bodyOf(motion), bodyOf(motion).arms.left.elbow, 7).touch; // 0
 */
export function pinnedLimb({ touches }: Pick<Layer, 'touches'>, body: Body, joint: number, frame: number): PinnedLimb | null {
  const touch = touches.findIndex((own) => frame >= own.from && frame <= own.to && middleAndEnd(own, body).includes(joint));
  if (touch < 0) return null;
  const { limb } = touches[touch];
  const side = limb.startsWith('left') ? 'left' : 'right';
  const isFoot = limb.endsWith('foot');
  const { hip, ankle } = body.legs[side];
  const { shoulder, wrist } = body.arms[side];
  // Elbows point to the back, knees to the front.
  return { touch, from: isFoot ? hip : shoulder, to: isFoot ? ankle : wrist, outwards: (side === 'left') === isFoot ? -1 : 1 };
}

function middleAndEnd({ limb }: Touch, { arms, legs }: Body): readonly number[] {
  const side = limb.startsWith('left') ? 'left' : 'right';
  return limb.endsWith('foot') ? [legs[side].knee, legs[side].ankle] : [arms[side].elbow, arms[side].wrist];
}

/** A layer whose touch swings the middle of its limb on by some degrees, to the outside. */
export const swungOut = <Of extends Pick<Layer, 'touches'>>(layer: Of, touch: number, degrees: number): Of => ({
  ...layer,
  touches: layer.touches.map((own, i) => (i === touch ? { ...own, swivel: Math.min(180, Math.max(-180, own.swivel + degrees)) } : own)),
});
