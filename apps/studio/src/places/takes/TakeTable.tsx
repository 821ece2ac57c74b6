'use client';
import StarIcon from '@mui/icons-material/Star';
import StarBorderIcon from '@mui/icons-material/StarBorder';
import {
  Box,
  ButtonBase,
  Checkbox,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  TableSortLabel,
  TextField,
  Typography,
} from '@mui/material';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type MouseEvent } from 'react';
import type { TakeInfo } from '@/data/project';
import { chart } from '@/controls/theme';
import { PathThumb } from './PathThumb';
import { rate } from './rate';

type Column = 'name' | 'seconds' | 'fps' | 'statureM' | 'created';

const valueOf = (take: TakeInfo, column: Column): string | number =>
  column === 'name' ? take.name.toLowerCase() : column === 'created' ? take.created : take.passport[column];

const COLUMNS: readonly { id: Column; label: string; isNumber: boolean }[] = [
  { id: 'name', label: 'Take', isNumber: false },
  { id: 'seconds', label: 'Length', isNumber: true },
  { id: 'fps', label: 'Rate', isNumber: true },
  { id: 'statureM', label: 'Stature', isNumber: true },
];

/** Words that a take answers to: its name, tags and notes; "#tag" wants a tag, "*" a star, "!" a warning. */
export function answers(take: TakeInfo, search: string): boolean {
  return search
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .every((word) => {
      if (word === '*') return take.star;
      if (word === '!') return take.passport.warnings.length > 0;
      if (word.startsWith('#')) return take.tags.some((tag) => tag.toLowerCase().startsWith(word.slice(1)));
      return [take.name, take.notes, ...take.tags].some((text) => text.toLowerCase().includes(word));
    });
}

interface Props {
  readonly takes: readonly TakeInfo[];
  readonly open: string | null;
  readonly chosen: ReadonlySet<string>;
  readonly onOpen: (id: string) => void;
  readonly onChoose: (ids: ReadonlySet<string>) => void;
  readonly onStar: (takes: readonly TakeInfo[]) => void;
  readonly onRemove: (takes: readonly TakeInfo[]) => void;
}

/** All takes of the project: sorts, searches, chooses several, and goes by keys. */
export function TakeTable({ takes, open, chosen, onOpen, onChoose, onStar, onRemove }: Props) {
  const [search, setSearch] = useState('');
  const [under, setUnder] = useState<string | null>(null);
  const [sort, setSort] = useState<{ column: Column; descending: boolean } | null>(null);
  const body = useRef<HTMLTableSectionElement>(null);
  const shown = useMemo(() => {
    const found = takes.filter((take) => answers(take, search));
    if (!sort) return found;
    const sign = sort.descending ? -1 : 1;
    return [...found].sort((a, b) => (valueOf(a, sort.column) < valueOf(b, sort.column) ? -sign : sign));
  }, [takes, search, sort]);
  useEffect(() => {
    body.current?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' });
  }, [open]);
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    onChoose(next);
  };
  const chooseTo = (id: string) => {
    const a = shown.findIndex((take) => take.id === open);
    const b = shown.findIndex((take) => take.id === id);
    onChoose(new Set([...chosen, ...shown.slice(Math.min(a, b), Math.max(a, b) + 1).map((take) => take.id)]));
  };
  const click = (event: MouseEvent, id: string) => {
    if (event.shiftKey) chooseTo(id);
    else if (event.ctrlKey || event.metaKey) toggle(id);
    else onOpen(id);
  };
  const rows = () => [...(body.current?.querySelectorAll<HTMLElement>('tr') ?? [])];
  const key = (event: KeyboardEvent<HTMLElement>, take: TakeInfo, row: number) => {
    if (event.target !== event.currentTarget) return;
    const acted = takes.filter((t) => (chosen.has(take.id) ? chosen.has(t.id) : t.id === take.id));
    const move = { ArrowDown: row + 1, ArrowUp: row - 1 }[event.key];
    if (move !== undefined && shown[move]) {
      rows()[move]?.focus();
      onOpen(shown[move].id);
    } else if (event.key === 'Enter') onOpen(take.id);
    else if (event.key === 'x') toggle(take.id);
    else if (event.key === '*') onStar(acted);
    else if (event.key === 'Delete') onRemove(acted);
    else return;
    event.preventDefault();
  };
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, height: '100%' }}>
      <TextField
        placeholder="search names, #tags, notes, * starred, ! with warnings"
        value={search}
        onChange={(event) => setSearch(event.target.value)}
        sx={{ mx: 1.5, mb: 0.8, '& input': { py: '5px', fontSize: 14 } }}
        slotProps={{ htmlInput: { 'aria-label': 'Search takes' } }}
      />
      <Box sx={{ overflow: 'auto', flex: 1 }}>
        <Table size="small" stickyHeader aria-label="Takes">
          <TableHead>
            <TableRow>
              <TableCell sx={{ width: 30, bgcolor: chart('paper'), p: 0, pl: 0.5 }}>
                <Checkbox
                  size="small"
                  sx={{ p: 0.4 }}
                  checked={shown.length > 0 && shown.every((take) => chosen.has(take.id))}
                  indeterminate={shown.some((take) => chosen.has(take.id)) && !shown.every((take) => chosen.has(take.id))}
                  onChange={(_, isOn) => onChoose(new Set(isOn ? shown.map((take) => take.id) : []))}
                  slotProps={{ input: { 'aria-label': 'Choose all' } }}
                />
              </TableCell>
              <TableCell sx={{ width: 46, bgcolor: chart('paper'), p: 0 }}>
                <span style={{ position: 'absolute', clip: 'rect(0 0 0 0)' }}>Way</span>
              </TableCell>
              {COLUMNS.map(({ id, label, isNumber }) => (
                <TableCell
                  key={id}
                  align={isNumber ? 'right' : 'left'}
                  sx={{ bgcolor: chart('paper'), px: 0.8 }}
                  sortDirection={sort?.column === id ? (sort.descending ? 'desc' : 'asc') : false}
                >
                  <TableSortLabel
                    active={sort?.column === id}
                    direction={sort?.descending ? 'desc' : 'asc'}
                    onClick={() => setSort((s) => (s?.column === id && s.descending ? null : { column: id, descending: s?.column === id }))}
                  >
                    {label}
                  </TableSortLabel>
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody ref={body}>
            {shown.map((take, row) => {
              const isOpen = take.id === open;
              const warnings = take.passport.warnings.length;
              return (
                <TableRow
                  key={take.id}
                  hover
                  tabIndex={isOpen || (row === 0 && !shown.some((t) => t.id === open)) ? 0 : -1}
                  aria-selected={isOpen}
                  aria-label={take.name}
                  onClick={(event) => click(event, take.id)}
                  onKeyDown={(event) => key(event, take, row)}
                  data-take={take.id}
                  onDragOver={() => setUnder(take.id)}
                  onDragLeave={() => setUnder(null)}
                  onDrop={() => setUnder(null)}
                  sx={{
                    cursor: 'pointer',
                    userSelect: 'none',
                    // The head of the table stays on top: rows come into sight below it.
                    scrollMarginTop: 44,
                    bgcolor: isOpen || under === take.id ? chart('lampSoft') : 'transparent',
                    outline: under === take.id ? `2px solid ${chart('lamp')}` : undefined,
                    outlineOffset: -2,
                    '&:hover': { bgcolor: isOpen ? `${chart('lampSoft')} !important` : undefined },
                  }}
                >
                  <TableCell sx={{ p: 0, pl: 0.5 }}>
                    <Checkbox
                      size="small"
                      tabIndex={-1}
                      sx={{ p: 0.4 }}
                      checked={chosen.has(take.id)}
                      onClick={(event) => event.stopPropagation()}
                      onChange={() => toggle(take.id)}
                      slotProps={{ input: { 'aria-label': `Choose ${take.name}` } }}
                    />
                  </TableCell>
                  <TableCell sx={{ py: 0.5, px: 0 }}>
                    <PathThumb path={take.path} />
                  </TableCell>
                  <TableCell sx={{ maxWidth: 130, px: 0.8 }}>
                    <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 0.5 }}>
                      <Typography noWrap title={take.name} sx={{ fontWeight: isOpen ? 700 : 500 }}>
                        {take.name}
                      </Typography>
                      <ButtonBase
                        disableRipple
                        tabIndex={-1}
                        aria-label={take.star ? `Take the star from ${take.name}` : `Star ${take.name}`}
                        aria-pressed={take.star}
                        onClick={(event) => {
                          event.stopPropagation();
                          onStar([take]);
                        }}
                        sx={{
                          fontSize: 14,
                          color: take.star ? chart('lampText') : 'text.secondary',

                          px: 0.3,
                        }}
                      >
                        {take.star ? <StarIcon sx={{ fontSize: 17 }} /> : <StarBorderIcon sx={{ fontSize: 17 }} />}
                      </ButtonBase>
                    </Box>
                    <Typography variant="caption" color="text.secondary" noWrap component="div">
                      {[...(warnings > 0 ? [`▲ ${warnings}`] : []), ...take.tags.map((tag) => `#${tag}`)].join('  ')}
                    </Typography>
                  </TableCell>
                  <TableCell align="right" sx={{ whiteSpace: 'nowrap', px: 0.8 }}>
                    {length(take.passport.seconds)}
                  </TableCell>
                  <TableCell align="right" sx={{ whiteSpace: 'nowrap', px: 0.8 }}>
                    {rate(take.passport.fps)} /s
                  </TableCell>
                  <TableCell align="right" sx={{ whiteSpace: 'nowrap', px: 0.8 }}>
                    {take.passport.statureM.toFixed(2)} m
                  </TableCell>
                </TableRow>
              );
            })}
          </TableBody>
        </Table>
        {shown.length === 0 && (
          <Typography color="text.secondary" sx={{ p: 2 }}>
            No take answers to that.
          </Typography>
        )}
      </Box>
    </Box>
  );
}

const length = (seconds: number) =>
  seconds < 100 ? `${seconds.toFixed(1)} s` : `${Math.floor(seconds / 60)}:${String(Math.round(seconds % 60)).padStart(2, '0')} min`;
