'use client';
import { CircularProgress, Typography } from '@mui/material';
import { useMemo } from 'react';
import { useCharacter } from '@/data/fits';
import { useFigure } from '@/data/use-figure';
import { StageFrame } from '@/stage/StageFrame';
import type { LiveField } from './use-live-field';

/** The blend as it plays, on its arc, with its footprints. */
export function FieldStage({ live, character, words }: { live: LiveField | null; character: string | null; words: string }) {
  const { data: plain } = useFigure(live?.motion.skeleton ?? null);
  const { data: skin } = useCharacter(character);
  const markers = useMemo(() => plain?.markers && live && { ...plain.markers, footprints: live.prints }, [plain, live]);
  if (!live || !plain) return <StageFrame stage={null} notice={<CircularProgress aria-label="Opening the field" />} />;
  const mesh = skin && skin.skeleton.joints.length === live.motion.skeleton.joints.length ? skin.mesh : plain.mesh;
  return (
    <StageFrame
      stage={{ motion: live.motion, mesh, markers: markers ?? null, floor: 0 }}
      footer={
        <>
          <Typography variant="body2">{words}</Typography>
          <Typography variant="body2">phase {live.phase.toFixed(2)}</Typography>
          {live.radius !== null && <Typography variant="body2">round {live.radius.toFixed(1)} m</Typography>}
        </>
      }
    />
  );
}
