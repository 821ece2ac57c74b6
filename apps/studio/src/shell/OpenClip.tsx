'use client';
import { Box, Typography } from '@mui/material';
import { usePathname } from 'next/navigation';
import { useClips } from '@/data/clips-store';
import { useFigures } from '@/data/figures';
import { isOut } from '@/data/bounds';
import { chart } from '../controls/theme';

/** The open clip's name and its row of lamps: lit when a stage is done, unlit when not, flickering when a figure is out of bounds. */
export function OpenClip() {
  const path = usePathname();
  const id = /\/bench\/([^/]+)/.exec(path)?.[1];
  const doc = useClips((state) => state.docs.find((d) => d.id === id));
  const figures = useFigures((state) => (id ? state.byClip[id] : undefined));
  if (!doc) return null;
  const has = (kind: string) => doc.steps.some((step) => step.kind === kind && !step.off);
  const lamps = [
    { name: 'cut', lit: true, bad: false },
    {
      name: 'loop',
      lit: has('loop'),
      bad: has('loop') && figures !== undefined && (isOut('tick', figures.tick) || isOut('poseCm', figures.seam.poseCm)),
    },
    { name: 'travel', lit: has('travel'), bad: false },
    {
      name: 'feet',
      lit: figures !== undefined && !isOut('slideCm', figures.slideCm),
      bad: figures !== undefined && isOut('slideCm', figures.slideCm),
    },
  ];
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 3, minWidth: 0 }}>
      <Typography noWrap sx={{ fontWeight: 700 }}>
        <Box component="span" sx={{ mr: 1, fontWeight: 400, opacity: 0.5 }}>
          /
        </Box>
        {doc.name}
      </Typography>
      <Box component="ul" aria-label="Stages" sx={{ display: 'flex', gap: 2.2, m: 0, p: 0, listStyle: 'none' }}>
        {lamps.map(({ name, lit, bad }) => (
          <Box
            key={name}
            component="li"
            sx={{ textAlign: 'center', lineHeight: 1 }}
            aria-label={`${name}: ${bad ? 'out of bounds' : lit ? 'done' : 'not done'}`}
          >
            <Box
              sx={{
                width: 11,
                height: 11,
                mx: 'auto',
                borderRadius: '50%',
                border: `1.3px solid ${chart('ink')}`,
                bgcolor: lit ? chart('lamp') : 'transparent',
                boxShadow: lit ? `0 0 0 3px ${chart('lampSoft')}` : 'none',
                '@keyframes flicker': { '50%': { opacity: 0.35 } },
                animation: bad ? 'flicker 1.6s ease-in-out infinite' : 'none',
              }}
            />
            <Typography variant="caption" sx={{ lineHeight: 1.4 }}>
              {name}
            </Typography>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
