import { DIRECTIONS, type ContractLine, type Direction, type SlotReport } from '@lantern/motion';

/** A slot on the rose: where it is, in the drawing's units, and how far its glow reaches. */
export interface RoseLamp {
  readonly report: SlotReport;
  readonly x: number;
  readonly y: number;
  /** Where the lamp would be were it straight: an arc has a feather from there. */
  readonly feather: readonly [number, number] | null;
  readonly glow: number;
  readonly mps: number;
  /** Radians clockwise from ahead. */
  readonly angle: number;
}

export const MIDDLE = { x: 300, y: 268 } as const;
export const RADIUS = 226;

/** Speeds where nobody says how fast, metres a second. */
const USUAL: Readonly<Record<string, number>> = { hush: 0.7, walk: 1.3, jog: 2.6, dash: 3.8 };
/** A feather shows how far it turns in half a second. */
const FEATHER_SECONDS = 0.5;
/** Of an arc that is missing, degrees a second. */
const USUAL_TURN = 50;

/** The greatest speed on the rose: the next half metre over all that is on it. */
export function roseReach(reports: readonly SlotReport[]): number {
  const speeds = reports.flatMap((report) => (isOnRose(report) ? [speedOf(report)] : []));
  return Math.max(2, Math.ceil((Math.max(0, ...speeds) + 0.2) * 2) / 2);
}

export const isOnRose = ({ slot }: Pick<SlotReport, 'slot'>): boolean => slot.kind === 'loop' || slot.kind === 'arc';

function speedOf({ slot, speedMps, askedMps, state }: SlotReport): number {
  const usual = 'gait' in slot ? USUAL[slot.gait] : 1;
  return (state === 'missing' ? null : speedMps) ?? askedMps ?? usual;
}

/** Radians clockwise from ahead of a direction; left is on the left. */
export const angleOf = (direction: Direction): number => (-DIRECTIONS.indexOf(direction) * Math.PI) / 4;

export const place = (mps: number, angle: number, reach: number): readonly [number, number] => {
  const r = (mps / reach) * RADIUS;
  return [MIDDLE.x + r * Math.sin(angle), MIDDLE.y - r * Math.cos(angle)];
};

/** Loops and arcs at what they measure; what is missing at what is asked. */
export function roseLamps(reports: readonly SlotReport[], contract: readonly ContractLine[], reach: number): RoseLamp[] {
  return reports.filter(isOnRose).map((report) => {
    const { slot, turnDegS, state, id } = report;
    const mps = speedOf(report);
    const line = contract.find((own) => own.slot === id && own.reach !== null);
    const glow = line?.reach && line.measured ? ((line.reach[1] - line.reach[0]) / 2 / reach) * RADIUS : 0;
    if (slot.kind === 'arc') {
      const rate = state === 'missing' ? (slot.turnDegS ?? USUAL_TURN) : Math.abs(turnDegS ?? USUAL_TURN);
      const angle = ((slot.side === 'left' ? -1 : 1) * rate * FEATHER_SECONDS * Math.PI) / 180;
      const [x, y] = place(mps, angle, reach);
      return { report, x, y, feather: place(mps, 0, reach), glow: (0.12 * mps * RADIUS) / reach, mps, angle };
    }
    const angle = slot.kind === 'loop' ? angleOf(slot.direction) : 0;
    const [x, y] = place(mps, angle, reach);
    return { report, x, y, feather: null, glow, mps, angle };
  });
}

/** A label beside a lamp. */
export interface RoseLabel {
  readonly x: number;
  readonly y: number;
  readonly anchor: 'start' | 'end';
  /** It had to give way: a hair line leads to it. */
  readonly isMoved: boolean;
}

const LINE = 15;
/** Room that a letter takes, and a lamp. */
const LETTER = 6.9;
const LAMP = 10;
/** How far a label gives way, up and down by turns. */
const TRIED = [0, -1, 1, -2, 2, -3, 3, -4, 4];

/** Labels beside their lamps, to the side that they are on; one that would lie over another, or over a lamp, gives way up or down. */
export function roseLabels(lamps: readonly RoseLamp[], texts: readonly string[]): RoseLabel[] {
  const boxes: { readonly x0: number; readonly x1: number; readonly y: number }[] = [];
  const out: RoseLabel[] = [];
  lamps.forEach((lamp, i) => {
    const isLeft = Math.sin(lamp.angle) < -0.01;
    const width = texts[i].length * LETTER;
    const x = lamp.x + (isLeft ? -13 : 13);
    const [x0, x1] = isLeft ? [x - width, x] : [x, x + width];
    const isFree = (y: number) =>
      boxes.every((box) => Math.abs(box.y - y) >= LINE - 1 || box.x1 < x0 || box.x0 > x1) &&
      lamps.every((other) => other === lamp || Math.abs(other.y - y) > LAMP + 5 || other.x + LAMP < x0 || other.x - LAMP > x1);
    const by = TRIED.find((k) => isFree(lamp.y + k * LINE)) ?? 0;
    const y = lamp.y + by * LINE;
    boxes.push({ x0, x1, y });
    out.push({ x, y: y + 4, anchor: isLeft ? 'end' : 'start', isMoved: by !== 0 });
  });
  return out;
}
