'use client';
import { BREAK_OFF_WORDS, ENTRY_WORDS, whenText, type Graph } from '@lantern/motion';
import { Box, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { chart } from '@/controls/theme';
import type { Chosen } from './chart-shared';
import { LinkButton } from './LinkButton';
import type { Sounded } from './use-tried';

interface Props {
  readonly graph: Graph;
  readonly chosen: Chosen;
  readonly plays: (state: string) => string;
  readonly tried: readonly (Sounded | null)[];
  readonly lit: string | null;
  readonly onChoose: (chosen: Chosen) => void;
}

/** All that the picture says, as tables: states, and transitions in the order in which they are tried. */
export function GraphTable({ graph, chosen, plays, tried, lit, onChoose }: Props) {
  const isChosen = (what: NonNullable<Chosen>) => JSON.stringify(what) === JSON.stringify(chosen);
  const row = (on: boolean) => ({ bgcolor: on ? chart('lampSoft') : undefined });
  return (
    <Box sx={{ height: '100%', overflow: 'auto', px: 2, pb: 2 }}>
      <Typography variant="h2" sx={{ mt: 1.5 }}>
        States
      </Typography>
      <Table size="small" aria-label="States">
        <TableHead>
          <TableRow>
            <TableCell>state</TableCell>
            <TableCell>plays</TableCell>
            <TableCell>leads to</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {graph.states.map(({ name }) => (
            <TableRow key={name} sx={row(isChosen({ state: name }))}>
              <TableCell>
                <LinkButton onClick={() => onChoose({ state: name })}>
                  {name}
                  {graph.initial === name && ' (begins here)'}
                  {lit === name && ' ● plays now'}
                </LinkButton>
              </TableCell>
              <TableCell>{plays(name)}</TableCell>
              <TableCell>
                {[...new Set(graph.transitions.filter(({ from }) => from === name).map(({ to }) => to))].join(', ') || 'nowhere'}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Typography variant="h2" sx={{ mt: 2.5 }}>
        Transitions
      </Typography>
      <Table size="small" aria-label="Transitions">
        <TableHead>
          <TableRow>
            {['from', 'to', 'when', 'overlap', 'starting', 'broken off by', 'worst pop', 'slide', 'answers'].map((title) => (
              <TableCell key={title}>{title}</TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {graph.transitions.map((own, i) => (
            <TableRow key={i} sx={row(isChosen({ transition: i }))}>
              <TableCell>{own.from ?? 'anything'}</TableCell>
              <TableCell>
                <LinkButton onClick={() => onChoose({ transition: i })}>{own.to}</LinkButton>
              </TableCell>
              <TableCell>{whenText(graph, own)}</TableCell>
              <TableCell>{Math.round(own.overlap * 60)} frames</TableCell>
              <TableCell>{ENTRY_WORDS[own.entry]}</TableCell>
              <TableCell>{BREAK_OFF_WORDS[own.breakOff]}</TableCell>
              <TableCell>{tried[i] ? `${tried[i].popCm.toFixed(1)} cm` : '–'}</TableCell>
              <TableCell>{tried[i] ? `${tried[i].slideCm.toFixed(1)} cm` : '–'}</TableCell>
              <TableCell>{tried[i]?.answer ? `${tried[i].answer} frames` : '–'}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}
