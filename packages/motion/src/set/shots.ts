import type { SlotReport } from './coverage';
import type { LocomotionSet, ShotLine } from './schema';
import { askedSpeed, type Contract } from './contract';
import { slotId, type Direction, type Gait, type Slot } from './slot';

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

/** A line of the shot list. */
export interface Shot {
  readonly id: string;
  readonly number: number;
  /** The slot it gives; null for a line of one's own. */
  readonly slot: string | null;
  /** A name for the clip that it gives. */
  readonly gives: string;
  /** What the performer does. */
  readonly text: string;
  readonly isEdited: boolean;
  readonly done: boolean;
  readonly by: ShotLine['by'] | null;
  readonly sketch: FloorSketch | null;
  /** The script of the simulated suit that plays it, where there is one. */
  readonly script: SuitScript | null;
}

/** What the suit is asked for. */
export interface SuitScript {
  readonly script: string;
  readonly seconds: number;
  readonly speedMps?: number;
}

/** Speeds where a game asks for none, metres a second. */
const USUAL: Readonly<Record<Gait, number>> = { hush: 0.7, walk: 1.3, jog: 2.6, dash: 4 };
const VERB: Readonly<Record<Gait, string>> = { hush: 'Hush-walk', walk: 'Walk', jog: 'Jog', dash: 'Dash' };
/** Step lengths, metres (Winter, 2009, by the speeds above). */
const STEP: Readonly<Record<Gait, number>> = { hush: 0.5, walk: 0.7, jog: 0.95, dash: 1.3 };
/** Metres to get up to speed in, and to come to a stop in. */
const RUN_UP: Readonly<Record<Gait, number>> = { hush: 1, walk: 2, jog: 3, dash: 8 };
/** Four good strides at a gait, to the whole metre. */
const LENGTH: Readonly<Record<Gait, number>> = { hush: 5, walk: 7, jog: 10, dash: 16 };

const GOING: Readonly<Record<Direction, string>> = {
  forward: '',
  'forward-left': ' ahead and to the left, facing ahead',
  left: ' to the left, facing ahead',
  'backward-left': ' back and to the left, facing ahead',
  backward: ' backwards',
  'backward-right': ' back and to the right, facing ahead',
  right: ' to the right, facing ahead',
  'forward-right': ' ahead and to the right, facing ahead',
};

/** The sentence that a performer follows for a slot. */
export function shotText(slot: Slot, contract: Contract): string {
  switch (slot.kind) {
    case 'idle':
      return 'Stand at ease for 10 s, feet where they are, eyes ahead.';
    case 'loop':
      return `${VERB[slot.gait]}${GOING[slot.direction]}${atSpeed(slot.speedMps ?? askedSpeed(contract, slot.gait, slot.direction))}, straight, ${LENGTH[slot.gait]} m, four good strides.`;
    case 'arc':
      return `${VERB[slot.gait]} round a circle to the ${slot.side}${atSpeed(slot.speedMps ?? askedSpeed(contract, slot.gait, 'forward'))}, ${radiusOf(slot, contract).toFixed(1)} m from its middle, twice round.`;
    case 'turn':
      return `Stand, turn ${words(slot.angle)} to the ${slot.side} on the spot, and stand again.`;
    case 'start':
      return `Stand, then ${VERB[slot.gait].toLowerCase()} off${GOING[slot.direction]}${slot.foot ? `, ${slot.foot} foot first` : ''}, ${RUN_UP[slot.gait] + 2} m, two good strides.`;
    case 'stop':
      return `${VERB[slot.gait]} stop${slot.foot ? ` on the ${slot.foot} foot` : ''}${GOING[slot.direction]}, ${RUN_UP[slot.gait]} m run-up, two good strides.`;
    case 'pivot':
      return `${VERB[slot.gait]}, push off the ${slot.foot} foot at the mark and ${slot.angle >= 150 ? 'come back the way you came' : `go on ${words(slot.angle)} to the ${slot.foot === 'left' ? 'right' : 'left'}`}, ${RUN_UP[slot.gait]} m run-up.`;
    case 'between':
      return `${VERB[slot.gait]}, then ${VERB[slot.to].toLowerCase()} on${slot.foot ? `, ${slot.foot} foot first` : ''} without a break, two good strides of each.`;
    case 'flight':
      return `Stand, ${slot.how} ${slot.along ? 'ahead' : 'on the spot'} ${slot.on === 'both' ? 'on both feet' : `on the ${slot.on} foot`} three times, and stand.`;
    case 'step':
      return slot.over === 'kerb'
        ? `Walk ${slot.way} the kerb without breaking your step, two strides before it and after it.`
        : `Walk ${slot.way} the stairs, a foot to each, two strides before them and after them.`;
  }
}

const atSpeed = (mps: number | null): string => (mps === null ? '' : ` at ${mps.toFixed(1)} m/s`);

function words(angle: number): string {
  if (angle === 45) return 'an eighth of a turn';
  if (angle === 90) return 'a quarter';
  if (angle === 180) return 'right about';
  return `${angle}°`;
}

/** Radius of an arc: as asked, else one that a person leans into a little. */
function radiusOf(slot: Extract<Slot, { kind: 'arc' }>, contract: Contract): number {
  const mps = slot.speedMps ?? askedSpeed(contract, slot.gait, 'forward') ?? USUAL[slot.gait];
  const rate = slot.turnDegS ?? contract.turnRateDegS[slot.gait] ?? 60;
  return Math.max(0.5, mps / ((rate * Math.PI) / 180));
}

/** A name for what fills a slot: `jog-stop-right`. */
export function slotName(slot: Slot): string {
  const way = (direction: Direction) => (direction === 'forward' ? [] : [direction]);
  switch (slot.kind) {
    case 'idle':
      return 'wait';
    case 'loop':
      return `${slot.gait}-${slot.direction}`;
    case 'arc':
      return `${slot.gait}-arc-${slot.side}`;
    case 'turn':
      return `turn-${slot.side}-${slot.angle}`;
    case 'start':
    case 'stop':
      return [slot.gait, slot.kind, ...(slot.foot ? [slot.foot] : []), ...way(slot.direction)].join('-');
    case 'pivot':
      return `${slot.gait}-pivot-${slot.foot}-${slot.angle}`;
    case 'between':
      return [slot.gait, 'to', slot.to, ...(slot.foot ? [slot.foot] : [])].join('-');
    case 'flight':
      return [slot.how, slot.on, ...(slot.along ? [] : ['on-the-spot'])].join('-');
    case 'step':
      return `${slot.over}-${slot.way}`;
  }
}

/** The script of the suit that plays a slot. */
export function suitScript(slot: Slot, contract: Contract): SuitScript | null {
  if (slot.kind === 'idle') return { script: 'idle', seconds: 12 };
  if (slot.kind === 'turn') return { script: 'turns', seconds: 20 };
  if (slot.kind === 'flight' && slot.how === 'hop' && slot.along) return { script: 'hop', seconds: 12 };
  if (slot.kind === 'step') return slot.way === 'up' ? { script: slot.over, seconds: 10 } : null;
  if (slot.kind === 'loop') {
    const speedMps = slot.speedMps ?? askedSpeed(contract, slot.gait, slot.direction) ?? USUAL[slot.gait];
    if (slot.direction === 'forward' && slot.gait !== 'dash') return { script: slot.gait, seconds: 12, speedMps };
    if (slot.direction === 'backward' && slot.gait === 'walk') return { script: 'backwards', seconds: 12, speedMps: Math.min(1.2, speedMps) };
    if (slot.direction === 'left' && slot.gait === 'walk') return { script: 'sideways', seconds: 12, speedMps: 0.5 };
    return null;
  }
  if ((slot.kind === 'start' || slot.kind === 'stop') && slot.direction === 'forward' && (slot.gait === 'walk' || slot.gait === 'jog'))
    return { script: 'start-stop', seconds: 20, speedMps: askedSpeed(contract, slot.gait, 'forward') ?? USUAL[slot.gait] };
  if (slot.kind === 'arc' && slot.gait === 'walk' && slot.side === 'left') return { script: 'rounds', seconds: 40 };
  return null;
}

/** What a shot looks like from above; null for what has no way. */
export function floorSketch(slot: Slot, contract: Contract): FloorSketch | null {
  const line = (gait: Gait, length: number, direction: Direction, key: 'first' | 'last' | null, keySide: 'left' | 'right' | undefined, label: string, markZ: number | null) => {
    const count = Math.max(2, Math.min(8, Math.round(length / STEP[gait])));
    const turn = Math.PI * ((['forward', 'forward-left', 'left', 'backward-left', 'backward', 'backward-right', 'right', 'forward-right'] as const).indexOf(direction) / 4);
    const [dx, dz] = [Math.sin(turn), Math.cos(turn)];
    const last = keySide ?? 'right';
    const steps = Array.from({ length: count }, (_, i): SketchStep => {
      // The foot that the shot is about comes first, or last.
      const isLast = (key === 'first' ? i : count - 1 - i) % 2 === 0;
      const side = isLast === (last === 'left') ? 'left' : 'right';
      const along = ((i + 0.5) * length) / count;
      const aside = side === 'left' ? 0.12 : -0.12;
      return { side, x: dx * along + aside * dz, z: dz * along - aside * dx, isKey: key === 'first' ? i === 0 : key === 'last' && i === count - 1 };
    });
    return { steps, way: [[0, 0], [dx * length, dz * length]] as const, markZ, lengthM: length, label };
  };
  switch (slot.kind) {
    case 'loop': {
      const way = slot.direction === 'forward' ? '' : slot.direction === 'backward' ? ', backwards' : `, ${slot.direction.replace('-', ' ')}`;
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
      return { steps: [foot('left', 0), foot('right', 0), foot('left', a), foot('right', a)], way, markZ: null, lengthM: 1, label: 'on the spot' };
    }
    case 'flight': {
      const stride = slot.along ? 0.5 : 0;
      const sides = slot.on === 'both' ? (['left', 'right'] as const) : ([slot.on] as const);
      const steps = [0, 1, 2, 3].flatMap((i) => sides.map((side): SketchStep => ({ side, x: side === 'left' ? 0.1 : -0.1, z: i * stride, isKey: i > 0 })));
      return { steps, way: [[0, 0], [0, 3 * stride]], markZ: null, lengthM: Math.max(1, 3 * stride), label: slot.along ? 'three, ahead' : 'three, on the spot' };
    }
    case 'step':
      return line('walk', 4, 'forward', null, undefined, slot.over === 'kerb' ? 'kerb in the middle' : 'stairs in the middle', 2);
    case 'idle':
      return null;
  }
}

/**
 * The shot list of a set: a line for each slot that is missing, those that were changed as they were, and lines of one's own after them. A slot that is
 * there by now has its line only while a take ticked it off.
 */
export function shotList(set: Pick<LocomotionSet, 'shots' | 'contract' | 'slots'>, reports: readonly Pick<SlotReport, 'id' | 'state' | 'slot'>[]): Shot[] {
  const out: Omit<Shot, 'number'>[] = [];
  for (const { id, state, slot } of reports) {
    const own = set.shots.find((shot) => shot.slot === id);
    if (state !== 'missing' && !own?.by) continue;
    out.push({ ...lineOf(slot, own, set.contract), id: own?.id ?? id, done: own?.done ?? false });
  }
  for (const own of set.shots) {
    if (own.slot && set.slots.some((slot) => slotId(slot) === own.slot)) continue;
    out.push({ id: own.id, slot: null, gives: '', text: own.text, isEdited: true, done: own.done, by: own.by ?? null, sketch: null, script: null });
  }
  return out.map((shot, i) => ({ ...shot, number: i + 1 }));
}

function lineOf(slot: Slot, own: ShotLine | undefined, contract: Contract): Omit<Shot, 'number' | 'id' | 'done'> {
  const text = shotText(slot, contract);
  return {
    slot: slotId(slot),
    gives: slotName(slot),
    text: own?.text ?? text,
    isEdited: own !== undefined && own.text !== text,
    by: own?.by ?? null,
    sketch: floorSketch(slot, contract),
    script: suitScript(slot, contract),
  };
}

/** The shot list as rows of text with commas between. */
export function shotCsv(shots: readonly Shot[]): string {
  const cell = (value: string) => (/[",\n]/.test(value) ? `"${value.replace(/"/g, '""')}"` : value);
  const rows = shots.map(({ number, text, gives, slot, sketch, done }) =>
    [String(number), text, gives, slot ?? '', sketch?.label ?? '', done ? 'yes' : 'no'].map(cell).join(','),
  );
  return ['number,shot,gives,slot,on the floor,done', ...rows, ''].join('\n');
}
