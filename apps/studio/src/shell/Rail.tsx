'use client';
import { Box, Typography } from '@mui/material';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useClips } from '@/data/clips-store';
import { useJoins } from '@/data/joins-store';
import { useSets } from '@/data/sets-store';
import { useProjectData, useProjectInfo } from '@/data/project';
import { chart } from '../controls/theme';
import { GuideCall } from './guide/GuideCall';

/** The places in the order of work, each with the count of what waits there. */
export function Rail() {
  const { id } = useProjectInfo();
  const path = usePathname();
  const { data } = useProjectData();
  const clips = useClips((state) => state.docs.length);
  const joins = useJoins((state) => state.docs.length);
  const slots = useSets((state) => state.docs.reduce((sum, { slots: own }) => sum + own.length, 0));
  const sets = useSets((state) => state.docs.length);
  const places = [
    { name: 'Takes', slug: 'takes', waits: data?.takes.length ?? 0 },
    { name: 'Fit', slug: 'fit', waits: data?.characters.length ?? 0 },
    { name: 'Bench', slug: 'bench', waits: clips },
    { name: 'Joins', slug: 'joins', waits: joins },
    { name: 'Set', slug: 'set', waits: slots },
    { name: 'Drive', slug: 'drive', waits: sets },
    { name: 'Ship', slug: 'ship', waits: clips },
  ];
  return (
    <Box component="nav" aria-label="Places" sx={{ gridArea: 'rail', borderRight: `1px solid ${chart('rule')}`, pt: 1 }}>
      {places.map(({ name, slug, waits }) => {
        const isHere = path.startsWith(`/${id}/${slug}`);
        return (
          <Box
            key={slug}
            component={Link}
            href={`/${id}/${slug}`}
            aria-current={isHere ? 'page' : undefined}
            sx={{
              display: 'block',
              textAlign: 'center',
              textDecoration: 'none',
              color: 'text.primary',
              py: 0.9,
              mb: 0.8,
              borderLeft: '3px solid',
              borderColor: isHere ? chart('lamp') : 'transparent',
              bgcolor: isHere ? chart('lampSoft') : 'transparent',
              '&:hover': { bgcolor: isHere ? undefined : 'action.hover' },
            }}
          >
            <Typography
              component="span"
              sx={{ display: 'block', fontFamily: 'Alegreya', fontSize: 17, fontWeight: isHere ? 700 : 500, lineHeight: 1.2 }}
            >
              {name}
            </Typography>
            <Typography component="span" variant="caption" color="text.secondary">
              {waits}
            </Typography>
          </Box>
        );
      })}
      <GuideCall />
    </Box>
  );
}
