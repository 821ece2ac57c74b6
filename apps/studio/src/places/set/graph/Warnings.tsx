'use client';
import type { Graph, GraphWarning } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { chart } from '@/controls/theme';
import type { Chosen } from './chart-shared';
import { LinkButton } from './LinkButton';

interface WarningsProps {
  readonly warnings: readonly GraphWarning[];
  readonly left: readonly { readonly state: string; readonly why: string }[];
  readonly onGo: (chosen: Chosen) => void;
  readonly put: (graph: Graph) => void;
}
/** What a game would trip over, in sentences; a click goes there. */
export function Warnings({ warnings, left, onGo, put }: WarningsProps) {
  const told = new Set(warnings.flatMap(({ about }) => (about && 'state' in about ? [about.state] : [])));
  const more = left.filter(({ state }) => !told.has(state));
  const count = warnings.length + more.length;
  return (
    <Box component="section" aria-label="Warnings" sx={{ px: 2, py: 1.2, borderTop: `1px solid ${chart('rule')}` }}>
      <Typography variant="h2">{count === 0 ? 'Nothing to warn of' : count === 1 ? 'One warning' : `${count} warnings`}</Typography>
      {warnings.map(({ about, text, mend }, i) => (
        <Box key={i} sx={{ display: 'grid', gridTemplateColumns: '20px 1fr', borderTop: `1px solid ${chart('rule')}`, py: 0.6 }}>
          <span>▲</span>
          <Box sx={{ display: 'grid', justifyItems: 'start' }}>
            <Box
              component="button"
              onClick={() => about && !('input' in about) && onGo(about)}
              sx={{
                border: 0,
                p: 0,
                background: 'none',
                font: 'inherit',
                fontSize: 14.5,
                textAlign: 'left',
                cursor: 'pointer',
                color: 'inherit',
              }}
            >
              {text}
            </Box>
            {mend && <LinkButton onClick={() => put(mend.graph)}>{mend.text}</LinkButton>}
          </Box>
        </Box>
      ))}
      {more.map(({ state, why }) => (
        <Typography key={state} variant="body2" sx={{ borderTop: `1px solid ${chart('rule')}`, py: 0.6 }}>
          ▲ {state} is not played. {why}
        </Typography>
      ))}
    </Box>
  );
}
