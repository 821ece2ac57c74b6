import type { Slot, SlotReport } from '@lantern/motion';

/** Where a slot stands in the table: its row, and its column, of which it takes one side or both. */
export interface Cell {
  readonly row: string;
  readonly column: Column;
  readonly side: 'left' | 'right' | 'both';
}

export const COLUMNS = ['straight', '45°', '90°', '180°'] as const;
export type Column = (typeof COLUMNS)[number];

const TURNED: Readonly<Record<string, Column>> = {
  forward: 'straight',
  'forward-left': '45°',
  'forward-right': '45°',
  left: '90°',
  right: '90°',
  'backward-left': '180°',
  'backward-right': '180°',
  backward: '180°',
};

const columnOf = (angle: number): Column => (angle < 67 ? '45°' : angle < 135 ? '90°' : '180°');

/** Everything but loops and arcs, which are on the rose; null for those. */
export function cellOf(slot: Slot): Cell | null {
  switch (slot.kind) {
    case 'loop':
    case 'arc':
      return null;
    case 'idle':
      return { row: 'idle', column: 'straight', side: 'both' };
    case 'turn':
      return { row: 'turns on the spot', column: columnOf(slot.angle), side: slot.side };
    case 'start':
    case 'stop': {
      const column = TURNED[slot.direction];
      const way = /left|right/.exec(slot.direction)?.[0] as 'left' | 'right' | undefined;
      return { row: `${slot.gait} ${slot.kind}s`, column, side: way ?? slot.foot ?? 'both' };
    }
    case 'pivot':
      return { row: `${slot.gait} pivots`, column: columnOf(slot.angle), side: slot.foot };
    case 'between':
      return { row: `${slot.gait} to ${slot.to}`, column: 'straight', side: slot.foot ?? 'both' };
    case 'flight':
      return { row: slot.along ? `${slot.how}s` : `${slot.how}s on the spot`, column: 'straight', side: slot.on };
    case 'step':
      return { row: `${slot.over} ${slot.way}`, column: 'straight', side: 'both' };
  }
}

export interface Row {
  readonly name: string;
  readonly cells: readonly { readonly cell: Cell; readonly report: SlotReport }[];
}

/** The rows of the table in the order of the slots; two that would stand in one place stand in two rows. */
export function rowsOf(reports: readonly SlotReport[]): Row[] {
  const rows = new Map<string, { cell: Cell; report: SlotReport }[]>();
  for (const report of reports) {
    const cell = cellOf(report.slot);
    if (!cell) continue;
    let name = cell.row;
    for (let n = 2; isTaken(rows.get(name) ?? [], cell); n++) name = `${cell.row}, ${n}`;
    rows.set(name, [...(rows.get(name) ?? []), { cell, report }]);
  }
  return [...rows].map(([name, cells]) => ({ name, cells }));
}

const isTaken = (cells: readonly { readonly cell: Cell }[], { column, side }: Cell): boolean =>
  cells.some(({ cell }) => cell.column === column && (cell.side === side || cell.side === 'both' || side === 'both'));
