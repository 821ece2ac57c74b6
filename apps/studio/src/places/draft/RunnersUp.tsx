'use client';
import type { Choice } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { Small } from '@/controls/Small';
import { useProjectData } from '@/data/project';
import { takeInstead } from '@/data/drafting';
import type { SetDoc } from '@/data/sets-store';

/** The cuts that would have done too, each one click away. */
export function RunnersUp({ doc, choice }: { readonly doc: SetDoc; readonly choice: Choice }) {
  const { data } = useProjectData();
  if (choice.others.length === 0)
    return (
      <Typography variant="caption" color="text.secondary">
        no other cut is like it
      </Typography>
    );
  return (
    <Box component="ul" aria-label={`Runners-up of ${choice.slot}`} sx={{ m: 0, p: 0, listStyle: 'none' }}>
      {choice.others.map((other) => {
        const { take, from, to } = other.source;
        const name = data?.takes.find(({ id }) => id === take)?.name;
        // Nothing can be cut from a take that was removed.
        if (name === undefined) return null;
        return (
          <Box component="li" key={`${take} ${from}`} sx={{ display: 'flex', alignItems: 'baseline', gap: 1, minWidth: 0 }}>
            <Typography variant="caption" color="text.secondary" noWrap sx={{ flex: 1, minWidth: 0 }} title={other.why}>
              {name} {from}–{to}: {other.why}
            </Typography>
            <Small name={`Take ${name} ${from} to ${to} for ${choice.slot}`} onClick={() => takeInstead(doc, choice.slot, other)}>
              take it instead
            </Small>
          </Box>
        );
      })}
    </Box>
  );
}
