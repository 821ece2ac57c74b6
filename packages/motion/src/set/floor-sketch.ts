import type { Contract } from './contract';
import { LENGTH, radiusOf, RUN_UP } from './shot-usual';
import { DIRECTIONS, type Direction, type Gait, type Slot } from './slot';

/** A foot that comes down, on the sketch of the floor: metres from the mark at which the performer begins, x to his left, z ahead. */
export interface SketchStep {
  readonly side: 'left' | 'right';
  readonly x: number;
  readonly z: number;
  /** The one that the shot is about. */
  readonly isKey: boolean;
}

/** What a shot looks like from above. */
export interface FloorSketch {
  readonly steps: readonly SketchStep[];
  /** The way, places on the floor. */
  readonly way: readonly (readonly [number, number])[];
  /** A tape on the floor to stop or turn at, metres ahead. */
  readonly markZ: number | null;
  readonly lengthM: number;
  /** In words: `3 m`, `8 m, backwards`. */
  readonly label: string;
}

/** Step lengths, metres (Winter, 2009, by the speeds above). */
const STEP: Readonly<Record<Gait, number>> = { hush: 0.5, walk: 0.7, jog: 0.95, dash: 1.3 };

/** What a shot looks like from above; null for what has no way. */
export function floorSketch(slot: Slot, contract: Contract): FloorSketch | null {
  const line = (
    gait: Gait,
    length: number,
    direction: Direction,
    key: 'first' | 'last' | null,
    keySide: 'left' | 'right' | undefined,
    label: string,
    markZ: number | null,
  ) => {
    const count = Math.max(2, Math.min(8, Math.round(length / STEP[gait])));
    const turn = Math.PI * (DIRECTIONS.indexOf(direction) / 4);
    const [dx, dz] = [Math.sin(turn), Math.cos(turn)];
    const last = keySide ?? 'right';
    const steps = Array.from({ length: count }, (_, i): SketchStep => {
      // The foot that the shot is about comes first, or last.
      const isLast = (key === 'first' ? i : count - 1 - i) % 2 === 0;
      const side = isLast === (last === 'left') ? 'left' : 'right';
      const along = ((i + 0.5) * length) / count;
      const aside = side === 'left' ? 0.12 : -0.12;
      return {
        side,
        x: dx * along + aside,
        z: dz * along,
        isKey: key === 'first' ? i === 0 : key === 'last' && i === count - 1,
      };
    });
    return {
      steps,
      way: [
        [0, 0],
        [dx * length, dz * length],
      ] as const,
      markZ,
      lengthM: length,
      label,
    };
  };
  switch (slot.kind) {
    case 'loop': {
      const way =
        slot.direction === 'forward' ? '' : slot.direction === 'backward' ? ', backwards' : `, ${slot.direction.replace('-', ' ')}`;
      return line(slot.gait, LENGTH[slot.gait], slot.direction, null, undefined, `${LENGTH[slot.gait]} m${way}`, null);
    }
    case 'start':
      return line(slot.gait, RUN_UP[slot.gait] + 2, slot.direction, 'first', slot.foot, `${RUN_UP[slot.gait] + 2} m`, null);
    case 'stop':
      return line(slot.gait, RUN_UP[slot.gait], slot.direction, 'last', slot.foot, `${RUN_UP[slot.gait]} m`, RUN_UP[slot.gait]);
    case 'pivot':
      return line(slot.gait, RUN_UP[slot.gait], 'forward', 'last', slot.foot, `${RUN_UP[slot.gait]} m and on`, RUN_UP[slot.gait]);
    case 'between':
      return line(slot.gait, LENGTH[slot.to], 'forward', null, slot.foot, `${LENGTH[slot.to]} m`, LENGTH[slot.to] / 2);
    case 'arc': {
      const radius = radiusOf(slot, contract);
      const sign = slot.side === 'left' ? 1 : -1;
      const at = (a: number, r = radius) => [sign * (radius - r * Math.cos(a)), r * Math.sin(a)] as const;
      const way = Array.from({ length: 25 }, (_, i) => at((i / 24) * 2 * Math.PI));
      const steps = Array.from({ length: 8 }, (_, i): SketchStep => {
        const side = i % 2 === 0 ? 'left' : 'right';
        const [x, z] = at((i / 8) * 2 * Math.PI, radius + (side === slot.side ? -0.1 : 0.1));
        return { side, x, z, isKey: false };
      });
      return { steps, way, markZ: null, lengthM: 2 * radius, label: `${radius.toFixed(1)} m from the middle` };
    }
    case 'turn': {
      const a = ((slot.side === 'left' ? 1 : -1) * slot.angle * Math.PI) / 180;
      const foot = (side: 'left' | 'right', turned: number): SketchStep => {
        const x = side === 'left' ? 0.12 : -0.12;
        return { side, x: x * Math.cos(turned), z: -x * Math.sin(turned), isKey: turned !== 0 };
      };
      const way = Array.from({ length: 13 }, (_, i) => [0.5 * Math.sin((a * i) / 12), 0.5 * Math.cos((a * i) / 12)] as const);
      return {
        steps: [foot('left', 0), foot('right', 0), foot('left', a), foot('right', a)],
        way,
        markZ: null,
        lengthM: 1,
        label: 'on the spot',
      };
    }
    case 'flight': {
      const stride = slot.along ? 0.5 : 0;
      const sides = slot.on === 'both' ? (['left', 'right'] as const) : ([slot.on] as const);
      const steps = [0, 1, 2, 3].flatMap((i) =>
        sides.map((side): SketchStep => ({ side, x: side === 'left' ? 0.1 : -0.1, z: i * stride, isKey: i > 0 })),
      );
      return {
        steps,
        way: [
          [0, 0],
          [0, 3 * stride],
        ],
        markZ: null,
        lengthM: Math.max(1, 3 * stride),
        label: slot.along ? 'three, ahead' : 'three, on the spot',
      };
    }
    case 'step':
      return line('walk', 4, 'forward', null, undefined, slot.over === 'kerb' ? 'kerb in the middle' : 'stairs in the middle', 2);
    case 'idle':
      return null;
  }
}
