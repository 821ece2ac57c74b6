import { sidesOf, slides, type Groundwork, type Sides } from '@lantern/motion';

/** Joints that carry the marks of left and right, the limbs on each side, and where the feet stood. */
export interface Markers extends Sides {
  readonly footprints: readonly Footprint[];
}

/** Where a foot stood: its middle and heading on the floor, and between which frames. */
export interface Footprint {
  readonly side: 'left' | 'right';
  readonly x: number;
  readonly z: number;
  readonly heading: number;
  readonly from: number;
  readonly to: number;
  /** How far the foot slid in the contact. */
  readonly slideCm: number;
}

export function markersOf({ body, soles, contacts, motion }: Groundwork): Markers {
  const slid = new Map(slides(soles, contacts).map((slide) => [`${slide.side} ${slide.from}`, slide.netCm]));
  const footprints = (['left', 'right'] as const).flatMap((side) =>
    contacts[side].map(({ from, to }): Footprint => {
      const f = Math.floor((from + to) / 2) * 3;
      const { heel, ball } = soles[side];
      return {
        side,
        from,
        to,
        slideCm: slid.get(`${side} ${from}`) ?? 0,
        x: (heel[f] + ball[f]) / 2,
        z: (heel[f + 2] + ball[f + 2]) / 2,
        heading: Math.atan2(ball[f] - heel[f], ball[f + 2] - heel[f + 2]),
      };
    }),
  );
  return { ...sidesOf(motion.skeleton, body), footprints };
}
