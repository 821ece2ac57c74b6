'use client';
import { Box, Typography } from '@mui/material';
import { useProjectData, type ProjectData } from '@/data/project';
import { chart } from '@/controls/theme';

type Broken = ProjectData['broken'][number];

/** What the project holds and cannot be shown, each by its name with what is wrong; nothing where all is well. */
export function BrokenRows({ kinds }: { kinds: readonly Broken['kind'][] }) {
  const { data } = useProjectData();
  const rows = data?.broken.filter(({ kind }) => kinds.includes(kind)) ?? [];
  if (rows.length === 0) return null;
  return (
    <Box role="alert" sx={{ px: 1.5, py: 0.8, bgcolor: chart('lampSoft'), maxHeight: 120, overflow: 'auto' }}>
      {rows.map(({ kind, id, name, why }) => (
        <Typography key={`${kind} ${id}`} variant="body2" sx={{ overflowWrap: 'anywhere' }}>
          ▲ The {kind} “{name}” cannot be shown ({why}). It is stored as it was.
        </Typography>
      ))}
    </Box>
  );
}
