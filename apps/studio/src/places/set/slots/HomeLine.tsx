'use client';
import { Box, Button, Menu, MenuItem, Typography } from '@mui/material';
import { useState } from 'react';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import { TypedNumber } from '@/controls/TypedNumber';
import type { SetDoc } from '@/data/sets-store';
import { editSet } from '@/data/sets-store';
import type { SetView } from '@/data/set-view';
import { bringHome } from './worries';

/** The pose in which the ends of the set meet: chosen, proposed, and all ends brought there at once. */
export function HomeLine({ doc, view }: { doc: SetDoc; view: SetView }) {
  const { measured, members } = view;
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  if (!measured) return null;
  const { proposal, home, coverage } = measured;
  const nameOf = (id: string) => members.find((own) => own.doc.id === id)?.doc.name ?? 'a clip that is gone';
  const isProposed = proposal && doc.home?.clip === proposal.clip && doc.home.frame === proposal.frame;
  const far = coverage.slots.flatMap(({ clip, homeCm, state }) =>
    clip && homeCm !== null && homeCm > 0.3 && state !== 'mirror' ? [clip] : [],
  );
  return (
    <Box sx={{ minHeight: 34, display: 'flex', alignItems: 'center', gap: 1, borderTop: `1px solid ${chart('rule')}` }}>
      <Typography variant="body2" component="div" noWrap sx={{ flex: 1, minWidth: 0 }}>
        {doc.home ? (
          <>
            home is{' '}
            <Small name="Choose the clip that the home pose is of" onClick={(event) => setAnchor(event.currentTarget)}>
              <b>{nameOf(doc.home.clip)}</b>
            </Small>{' '}
            at frame{' '}
            <Box component="span" sx={{ display: 'inline-flex', verticalAlign: 'baseline' }}>
              <TypedNumber
                name="Frame of the home pose"
                value={doc.home.frame}
                least={0}
                most={100_000}
                digits={0}
                width={44}
                onChange={(frame) => doc.home && editSet(doc, { home: { ...doc.home, frame } })}
              />
            </Box>
            {proposal && !isProposed && proposal.meanCm >= 0.05 && (
              <>
                {' '}
                (nearest to all ends: {proposal.clip === doc.home.clip ? '' : `${nameOf(proposal.clip)}, `}frame {proposal.frame})
              </>
            )}
          </>
        ) : proposal ? (
          <>
            no home pose yet; nearest to all ends is <b>{nameOf(proposal.clip)}</b>, frame {proposal.frame}
          </>
        ) : (
          'no home pose yet: cut a clip in which he stands'
        )}
      </Typography>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {members.map(({ doc: { id, name } }) => (
          <MenuItem
            key={id}
            dense
            selected={id === doc.home?.clip}
            onClick={() => {
              setAnchor(null);
              editSet(doc, { home: { clip: id, frame: 0 } });
            }}
          >
            {name}
          </MenuItem>
        ))}
      </Menu>
      {proposal && !isProposed && (
        <Small
          name="Take the proposed frame as the home pose"
          onClick={() => editSet(doc, { home: { clip: proposal.clip, frame: proposal.frame } })}
        >
          take it
        </Small>
      )}
      {home && far.length > 0 && (
        <Button sx={{ color: chart('lampText'), fontWeight: 700, whiteSpace: 'nowrap' }} onClick={() => bringHome(far, home)}>
          bring {far.length === 1 ? 'one clip' : `${far.length} clips`} home
        </Button>
      )}
    </Box>
  );
}
