import { askedSpeed, type Contract } from '../set/contract';
import type { Gait } from '../set/slot';
import type { SetBounds } from '../set/schema';
import type { ShippedClip } from './ship-clip';

/** A figure that a clip is held to before it ships. */
export type ReadyFigure = 'seconds' | 'speed' | 'seamCm' | 'tick' | 'slideCm' | 'sinkCm' | 'keyMm' | 'homeCm' | 'sizeKb';

/** A figure of a clip beside the most that it may be. */
export interface HeldFigure {
  readonly figure: ReadyFigure;
  /** Null where the clip has none: a seam of what plays once. */
  readonly value: number | null;
  /** What it counts against the bound: the figure itself, or how far a speed is from the one asked. */
  readonly counts: number | null;
  readonly bound: number | null;
  readonly isOut: boolean;
}

/** A figure that is out of bounds: what is wrong, where, and what to do. */
export interface ShipTrouble {
  readonly figure: ReadyFigure;
  readonly says: string;
  readonly todo: string;
  /** Of the clip as it ships; null where it is the clip as a whole. */
  readonly frame: number | null;
}

type Measured = Pick<ShippedClip, 'figures' | 'keys' | 'homeCm' | 'worst'> & {
  readonly traits: Pick<NonNullable<ShippedClip['traits']>, 'kind' | 'gait' | 'direction' | 'speedMps'> | null;
};

/** The speed that a game asks of a loop: that of its gait, or of the nearer one of two that are both runs. */
export function speedAskedOf({ traits }: Pick<Measured, 'traits'>, contract: Contract): number | null {
  if (traits?.kind !== 'loop' || !traits.gait || !traits.direction) return null;
  const { direction, gait, speedMps } = traits;
  const gaits: readonly Gait[] = gait === 'run' ? ['jog', 'dash'] : [gait];
  const all = gaits.flatMap((own) => askedSpeed(contract, own, direction) ?? []);
  return all.length > 0 ? all.reduce((best, own) => (Math.abs(own - speedMps) < Math.abs(best - speedMps) ? own : best)) : null;
}

/** The figures of a clip, each beside its bound. */
export function heldFigures(clip: Measured, bounds: SetBounds, contract: Contract): readonly HeldFigure[] {
  const { figures, keys, homeCm } = clip;
  const asked = speedAskedOf(clip, contract);
  const { loop, seam } = figures;
  const held = (figure: ReadyFigure, value: number | null, bound: number | null, counts: number | null = value): HeldFigure => ({
    figure,
    value,
    counts,
    bound,
    isOut: counts !== null && bound !== null && counts > bound + 1e-9,
  });
  return [
    held('seconds', figures.seconds, bounds.seconds),
    held(
      'speed',
      figures.speedMps,
      asked === null ? null : bounds.speed * asked,
      asked === null || figures.speedMps === null ? null : Math.abs(figures.speedMps - asked),
    ),
    held('seamCm', loop && seam ? seam.poseCm : null, bounds.seamCm),
    held('tick', loop ? figures.tick : null, bounds.tick),
    held('slideCm', figures.slideCm, bounds.slideCm),
    held('sinkCm', figures.sinkCm, bounds.sinkCm),
    held('keyMm', keys.worstMm, bounds.keyMm),
    held('homeCm', homeCm, bounds.homeCm),
    held('sizeKb', keys.bytes / 1000, bounds.sizeKb),
  ];
}

/**
 * What of a clip is out of the bounds of its set, the worst first: how far a figure is over its bound, as a share of it.
 *
 * @param contract the game's numbers, which speeds are held to
 */
export function shipTroubles(clip: Measured, bounds: SetBounds, contract: Contract): ShipTrouble[] {
  const over = ({ counts, bound }: HeldFigure) => (counts ?? 0) / Math.max(1e-6, bound ?? 1);
  return heldFigures(clip, bounds, contract)
    .filter(({ isOut }) => isOut)
    .sort((a, b) => over(b) - over(a))
    .map((held) => troubleOf(held, clip, contract));
}

function troubleOf({ figure, value, bound }: HeldFigure, clip: Measured, contract: Contract): ShipTrouble {
  const { worst, figures, keys } = clip;
  const number = (v: number | null, digits: number) => (v ?? 0).toFixed(digits);
  const said = (says: string, todo: string, frame: number | null = null): ShipTrouble => ({ figure, says, todo, frame });
  switch (figure) {
    case 'seconds':
      return said(`It lasts ${number(value, 1)} s; ${number(bound, 1)} s are the most.`, 'Cut it shorter.');
    case 'speed':
      return said(
        `It goes at ${number(value, 2)} m/s where the game asks for ${number(speedAskedOf(clip, contract), 2)}.`,
        'Bring it there by its speed.',
      );
    case 'seamCm':
      return said(
        `Its end is ${number(value, 1)} cm from its start, ${figures.seam?.worstJoint ?? ''} most of all.`,
        'Close the loop, or take another one.',
        0,
      );
    case 'tick':
      return said('The loop ticks where it comes round.', 'Blend its seam over more frames.', 0);
    case 'slideCm':
      return said(
        worst.slide
          ? `The ${worst.slide.side} foot slides from frame ${worst.slide.from} to ${worst.slide.to}.`
          : `A bearing foot moves by ${number(value, 1)} cm.`,
        'Hold it there.',
        worst.slide?.from ?? null,
      );
    case 'sinkCm':
      return said(
        worst.sink
          ? `The ${worst.sink.side} sole is ${number(value, 1)} cm under the floor at frame ${worst.sink.frame}.`
          : 'A sole is under the floor.',
        'Hold the feet, or put the take’s floor right.',
        worst.sink?.frame ?? null,
      );
    case 'keyMm':
      return said(
        `Its keys are ${number(value, 2)} mm off at frame ${keys.frame}, ${keys.joint} most of all.`,
        'Thin them less.',
        keys.frame,
      );
    case 'homeCm':
      return said(`It stands ${number(value, 1)} cm from the home pose.`, 'Let its ends meet home.', 0);
    case 'sizeKb':
      return said(`Its keys take ${number(value, 0)} KB; ${number(bound, 0)} are the most.`, 'Clean it, or thin its keys more.');
  }
}
