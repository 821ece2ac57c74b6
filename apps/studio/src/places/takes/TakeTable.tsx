'use client';
import { Box, Table, TableBody, TableCell, TableHead, TableRow, TableSortLabel, TextField, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import type { TakeInfo } from '@/data/project';
import { chart } from '@/shell/theme';
import { PathThumb } from './PathThumb';

type Column = 'name' | 'seconds' | 'fps' | 'statureM';

const valueOf = (take: TakeInfo, column: Column): string | number => (column === 'name' ? take.name.toLowerCase() : take.passport[column]);

const COLUMNS: readonly { id: Column; label: string; isNumber: boolean }[] = [
  { id: 'name', label: 'Take', isNumber: false },
  { id: 'seconds', label: 'Length', isNumber: true },
  { id: 'fps', label: 'Rate', isNumber: true },
  { id: 'statureM', label: 'Stature', isNumber: true },
];

export const rate = (fps: number) => String(Number(fps.toFixed(2)));

/** All takes of the project; sorts, searches, and goes by arrow keys. */
export function TakeTable({ takes, open, onOpen }: { takes: readonly TakeInfo[]; open: string | null; onOpen: (id: string) => void }) {
  const [search, setSearch] = useState('');
  const [sort, setSort] = useState<{ column: Column; descending: boolean } | null>(null);
  const shown = useMemo(() => {
    const found = takes.filter((take) => take.name.toLowerCase().includes(search.trim().toLowerCase()));
    if (!sort) return found;
    const sign = sort.descending ? -1 : 1;
    return [...found].sort((a, b) => (valueOf(a, sort.column) < valueOf(b, sort.column) ? -sign : sign));
  }, [takes, search, sort]);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, flex: 1 }}>
      {takes.length > 6 && (
        <TextField
          placeholder="search takes"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
          sx={{ mx: 1.5, mb: 1 }}
          slotProps={{ htmlInput: { 'aria-label': 'Search takes' } }}
        />
      )}
      <Box sx={{ overflow: 'auto', flex: 1 }}>
        <Table size="small" stickyHeader aria-label="Takes">
          <TableHead>
            <TableRow>
              <TableCell sx={{ width: 54, bgcolor: chart('paper') }}>
                <span style={{ position: 'absolute', clip: 'rect(0 0 0 0)' }}>Way</span>
              </TableCell>
              {COLUMNS.map(({ id, label, isNumber }) => (
                <TableCell
                  key={id}
                  align={isNumber ? 'right' : 'left'}
                  sx={{ bgcolor: chart('paper') }}
                  sortDirection={sort?.column === id ? (sort.descending ? 'desc' : 'asc') : false}
                >
                  <TableSortLabel
                    active={sort?.column === id}
                    direction={sort?.descending ? 'desc' : 'asc'}
                    onClick={() => setSort((s) => ({ column: id, descending: s?.column === id && !s.descending }))}
                  >
                    {label}
                  </TableSortLabel>
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {shown.map((take) => {
              const isOpen = take.id === open;
              const warnings = take.passport.warnings.length;
              return (
                <TableRow
                  key={take.id}
                  hover
                  tabIndex={0}
                  aria-selected={isOpen}
                  onClick={() => onOpen(take.id)}
                  onKeyDown={(event) => event.key === 'Enter' && onOpen(take.id)}
                  sx={{
                    cursor: 'pointer',
                    bgcolor: isOpen ? chart('lampSoft') : 'transparent',
                    '&:hover': { bgcolor: isOpen ? `${chart('lampSoft')} !important` : undefined },
                  }}
                >
                  <TableCell sx={{ pr: 0 }}>
                    <PathThumb path={take.path} />
                  </TableCell>
                  <TableCell sx={{ maxWidth: 180 }}>
                    <Typography noWrap sx={{ fontWeight: isOpen ? 700 : 500 }}>
                      {take.name}
                    </Typography>
                    {warnings > 0 && (
                      <Typography variant="caption" color="text.secondary">
                        ▲ {warnings} {warnings === 1 ? 'warning' : 'warnings'}
                      </Typography>
                    )}
                  </TableCell>
                  <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
                    {take.passport.seconds.toFixed(1)} s
                  </TableCell>
                  <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
                    {rate(take.passport.fps)} /s
                  </TableCell>
                  <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
                    {take.passport.statureM.toFixed(2)} m
                  </TableCell>
                </TableRow>
              );
            })}
          </TableBody>
        </Table>
        {shown.length === 0 && (
          <Typography color="text.secondary" sx={{ p: 2 }}>
            No take is called that.
          </Typography>
        )}
      </Box>
    </Box>
  );
}
