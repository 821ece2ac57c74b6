'use client';
import { Box } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import dynamic from 'next/dynamic';
import { useEffect } from 'react';
import { DUSK } from '@/controls/theme';
import { useCharacter } from '@/data/fits';
import { usePlayer } from '@/data/player';
import { useFigure } from '@/data/use-figure';
import { ensureOpen } from '@/data/use-open-take';
import { core } from '@/worker/core';
import type { SetMember } from '@/data/set-view';

const Stage = dynamic(() => import('@/stage/Stage').then((module) => module.Stage), { ssr: false });

/** The clip that the pointer is on, playing. */
export function Glimpse({ member, character, label }: { member: SetMember | null; character: string | null; label: string }) {
  const { data } = useQuery({
    queryKey: ['glimpse', member?.asked.take, JSON.stringify(member?.asked.recipe)],
    enabled: member !== null,
    staleTime: Infinity,
    queryFn: async () => {
      if (!member) throw new Error('no clip');
      await ensureOpen(member.take);
      return core().clip(member.asked.take, member.asked.recipe, { repeats: 3, inPlace: false });
    },
  });
  const { data: plain } = useFigure(data?.motion.skeleton ?? null);
  const { data: skin } = useCharacter(character);
  const load = usePlayer((state) => state.load);
  const isShown = member !== null && data !== undefined;
  useEffect(() => {
    if (!isShown) return;
    load(data.motion.frames, data.motion.fps, 0);
    usePlayer.setState({ playing: true });
    return () => usePlayer.setState({ playing: false });
  }, [isShown, data, load]);
  if (!isShown || !plain) return null;
  const mesh = skin && skin.skeleton.joints.length === data.motion.skeleton.joints.length ? skin.mesh : plain.mesh;
  return (
    <Box
      aria-hidden
      sx={{
        position: 'absolute',
        right: 10,
        bottom: 8,
        width: 190,
        height: 150,
        border: `1.5px solid ${DUSK.line}`,
        borderRadius: 1,
        overflow: 'hidden',
        bgcolor: DUSK.deep,
        pointerEvents: 'none',
      }}
    >
      <Stage motion={data.motion} mesh={mesh} markers={data.markers} floor={data.floor} view="track" showsPrints={false} />
      <Box sx={{ position: 'absolute', left: 8, bottom: 4, color: DUSK.text, fontSize: 12.5 }}>{label}</Box>
    </Box>
  );
}
