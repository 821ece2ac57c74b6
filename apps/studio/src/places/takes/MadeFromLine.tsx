'use client';
import { Link as MuiLink, Typography } from '@mui/material';
import Link from 'next/link';
import { useJoins } from '@/data/joins-store';
import { useProjectInfo } from '@/data/project';
import type { MadeFrom } from '@/http/made-from';

/** What a take was baked from: the join, whether it has changed since, and each piece as it was then. */
export function MadeFromLine({ made: { join, pieces } }: { made: MadeFrom }) {
  const { id } = useProjectInfo();
  const stands = useJoins((state) => state.docs.some((doc) => doc.id === join.id));
  const revision = useJoins((state) => state.saved[join.id]?.revision);
  const isNewer = stands && revision !== undefined && revision > join.revision;
  return (
    <Typography variant="body2" color="text.secondary" component="div" sx={{ py: 0.5, overflowWrap: 'anywhere' }}>
      Baked from the join{' '}
      {stands ? (
        <MuiLink component={Link} href={`/${id}/joins/${join.id}`} color="inherit">
          {join.name}
        </MuiLink>
      ) : (
        join.name
      )}
      , revision {join.revision}
      {isNewer && ` (it is at ${revision} now: bake it again to have what changed)`}:{' '}
      {pieces
        .map(
          (piece) =>
            `${piece.name}${piece.times === 1 ? '' : ` × ${Number(piece.times.toFixed(2))}`}${piece.revision ? ` (revision ${piece.revision})` : ''}`,
        )
        .join(', ')}
      .
    </Typography>
  );
}
