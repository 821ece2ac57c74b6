'use client';
import { LinearProgress } from '@mui/material';
import { Suspense, use, useState } from 'react';
import type { Named, TableProps } from './table-props';

type Grid = typeof import('./TableGrid');
let loaded: Grid | null = null;
let loading: Promise<Grid> | null = null;

/** Reads the table's code, once; after that tables are there at once. */
export function loadTable(): Promise<Grid> {
  loading ??= import('./TableGrid').then(
    (grid) => (loaded = grid),
    (error: unknown) => {
      loading = null;
      throw error;
    },
  );
  return loading;
}

/** A table whose code, which is large, is read when the first one is shown: the page around it is there before. */
export function DataTable<Row extends Named>(props: TableProps<Row>) {
  // As it was when this table came: one that waited stays what it is when the code is there.
  const [grid] = useState(() => loaded);
  if (grid) return <grid.TableGrid {...props} />;
  return (
    <Suspense fallback={<LinearProgress aria-label={`Loading the table of ${props.label}`} />}>
      <Loaded {...props} />
    </Suspense>
  );
}

function Loaded<Row extends Named>(props: TableProps<Row>) {
  const { TableGrid } = use(loadTable());
  return <TableGrid {...props} />;
}
