import type { Random, Side } from '@lantern/motion';
import type { Kerb } from './path';
import type { Leg } from './plan-data';
import { ASLANT_LEFT, ASLANT_RIGHT, HUSH, PLAIN, SIDEWAYS, SIDEWAYS_RIGHT, type Style } from './style';

/** The way bends by some degrees, metres from where a try sets off. */
export interface Bend {
  readonly at: number;
  readonly metres: number;
  readonly turn: number;
}

/** One try: from standing to standing, and what of a set it is for. */
export interface Try {
  readonly legs: readonly Leg[];
  readonly gives: readonly string[];
  readonly bends?: readonly Bend[];
  readonly kerbs?: readonly Kerb[];
  /** He turns about in the midst of it; on which foot comes of how he plays it. */
  readonly pivots?: true;
}

/** A take of the day: several tries one after the other. */
export interface Shot {
  readonly name: string;
  readonly style: Style;
  readonly backwards?: boolean;
  readonly tries: (chance: Random) => Try[];
}

/** Somebody asked for a speed keeps it within some per cent. */
const about = (speed: number, chance: Random): number => speed * (1 + 0.025 * chance.normal());

const pause = (chance: Random): Leg => ({ stand: 1 + 0.5 * chance.next() });

interface Way {
  readonly metres: number;
  readonly speed: number;
  readonly first?: Side;
  readonly last?: Side;
}

/** Stand, go, and stand. */
function there({ metres, speed, first, last }: Way, gives: readonly string[], chance: Random, more: Partial<Try> = {}): Try {
  const go = { go: metres * (1 + 0.04 * chance.normal()), speed: about(speed, chance), fromStanding: true, toStanding: true, first, last };
  return { legs: [pause(chance), go, pause(chance)], gives, ...more };
}

const several =
  (count: number, way: Way, ...gives: string[]) =>
  (chance: Random): Try[] =>
    Array.from({ length: count }, () => there(way, gives, chance));

/** Twice round a circle: so many metres from its middle, to the left where that is positive. */
function circle(radius: number, speed: number, gives: string): (chance: Random) => Try[] {
  const round = 2 * Math.PI * Math.abs(radius) * 1.6;
  const bend: Bend = { at: 2, metres: round, turn: Math.sign(radius) * 360 * 1.6 };
  return (chance) => [0, 1].map(() => there({ metres: round + 4, speed }, [gives], chance, { bends: [bend] }));
}

/** Up to a mark, round it on one foot, and back. */
function pivot(metres: number, turn: number, chance: Random): Try {
  const tight = 0.7;
  const go: Leg = {
    go: 2 * metres,
    speed: about(2.6, chance),
    fromStanding: true,
    toStanding: true,
    dips: [{ at: metres, by: 0.72, metres: 1.5 }],
  };
  return {
    legs: [pause(chance), go, pause(chance)],
    gives: [],
    pivots: true,
    bends: [{ at: metres - tight / 2, metres: tight, turn }],
  };
}

const spin = (degrees: number, chance: Random): Try => ({
  legs: [pause(chance), { spin: degrees * (1 + 0.03 * chance.normal()) }, pause(chance)],
  gives: [`turn/${degrees > 0 ? 'left' : 'right'}/${Math.abs(degrees)}`],
});

const both = (speed: number, metres: number, gait: string) => (chance: Random) =>
  [...SIDES, ...SIDES].map((side) =>
    there({ metres, speed, first: side, last: side }, [`start/${gait}/${side}`, `stop/${gait}/${side}`, `loop/${gait}/forward`], chance),
  );
const SIDES = ['left', 'right'] as const;

/** What is asked for on a day for a full set. */
export const DAY: readonly Shot[] = [
  { name: 'wait', style: PLAIN, tries: () => [{ legs: [{ stand: 26 }], gives: ['idle'] }] },
  { name: 'hush', style: HUSH, tries: several(2, { metres: 5, speed: 0.75 }, 'loop/hush/forward') },
  { name: 'hush-back', style: HUSH, backwards: true, tries: several(2, { metres: 4.5, speed: 0.6 }, 'loop/hush/backward') },
  {
    name: 'walk',
    style: PLAIN,
    tries: several(3, { metres: 8, speed: 1.35 }, 'loop/walk/forward', 'start/walk/to-forward', 'stop/walk/to-forward'),
  },
  { name: 'walk-aslant-left', style: ASLANT_LEFT, tries: several(2, { metres: 6, speed: 1.1 }, 'loop/walk/forward-left') },
  { name: 'walk-aslant-right', style: ASLANT_RIGHT, tries: several(2, { metres: 6, speed: 1.1 }, 'loop/walk/forward-right') },
  { name: 'walk-left', style: SIDEWAYS, tries: several(2, { metres: 4, speed: 0.55 }, 'loop/walk/left') },
  { name: 'walk-right', style: SIDEWAYS_RIGHT, tries: several(2, { metres: 4, speed: 0.55 }, 'loop/walk/right') },
  { name: 'walk-back', style: PLAIN, backwards: true, tries: several(2, { metres: 6, speed: 1 }, 'loop/walk/backward') },
  { name: 'jog', style: PLAIN, tries: both(2.7, 12, 'jog') },
  { name: 'dash', style: PLAIN, tries: several(2, { metres: 22, speed: 3.9 }, 'loop/dash/forward') },
  { name: 'walk-round-left', style: PLAIN, tries: circle(1.6, 1.3, 'arc/walk/left') },
  { name: 'walk-round-right', style: PLAIN, tries: circle(-1.6, 1.3, 'arc/walk/right') },
  { name: 'jog-round-left', style: PLAIN, tries: circle(2.8, 2.5, 'arc/jog/left') },
  { name: 'jog-round-right', style: PLAIN, tries: circle(-2.8, 2.5, 'arc/jog/right') },
  { name: 'turns', style: PLAIN, tries: (chance) => [45, -45, 90, -90, 180, -180].map((degrees) => spin(degrees, chance)) },
  { name: 'turns-again', style: PLAIN, tries: (chance) => [-180, 180, -90, 90, -45, 45].map((degrees) => spin(degrees, chance)) },
  {
    name: 'pivots',
    style: PLAIN,
    tries: (chance) => [6, 6.35, 6.7, 7.05].map((metres, i) => pivot(metres, i % 2 === 0 ? 180 : -180, chance)),
  },
  {
    name: 'hop',
    style: PLAIN,
    tries: (chance) =>
      [0, 1, 2].map(() => ({
        legs: [pause(chance), { hops: 3, stride: 0.42 * (1 + 0.05 * chance.normal()), air: 0.4, on: 'both' as const }, pause(chance)],
        gives: ['flight/hop/both/along'],
      })),
  },
  {
    name: 'kerb',
    style: PLAIN,
    tries: (chance) =>
      [0.15, -0.15, 0.15].map((rise) =>
        there({ metres: 6, speed: 1.25 }, rise > 0 ? ['step/kerb/up'] : ['step/kerb/down'], chance, { kerbs: [{ at: 3, rise }] }),
      ),
  },
];
