import type { GridColDef } from '@mui/x-data-grid';
import type { HTMLAttributes } from 'react';

/** What a table needs of a row: to tell it from others, and to call it by. */
export interface Named {
  readonly id: string;
  readonly name: string;
}

/** Rows chosen by their ids, and what to do when they change. */
export interface Choosing {
  /** Lamps that are lit, in place of ticks. */
  readonly look?: 'lamps';
  readonly chosen: ReadonlySet<string>;
  readonly onChoose: (ids: ReadonlySet<string>) => void;
  /** The name of a row's tick box, as `Ship wick-stroll`. */
  readonly nameOf: (row: Named) => string;
  readonly all: string;
  readonly isChoosable?: (id: string) => boolean;
}

export interface TableProps<Row extends Named> {
  readonly label: string;
  readonly rows: readonly Row[];
  readonly columns: readonly GridColDef<Row>[];
  readonly rowHeight?: number;
  /** Of rows that are not all as high. */
  readonly rowHeightOf?: (row: Row) => number;
  readonly headHeight?: number;
  readonly open?: string | null;
  readonly choosing?: Choosing;
  /** A click on a row, Enter, and going to the next or last row by arrow keys; without it rows do not open. */
  readonly onOpen?: (row: Row) => void;
  /** Other keys on a row; true when one was used. */
  readonly onKey?: (key: string, row: Row) => boolean;
  readonly attributes?: (id: string) => HTMLAttributes<HTMLElement> & Readonly<Record<`data-${string}`, string>>;
  /** Columns that have no room now. */
  readonly hidden?: readonly string[];
  /** What stands there when there are no rows. */
  readonly empty?: string;
  /** As high as its rows are, instead of filling its place and scrolling. */
  readonly isWhole?: boolean;
}
