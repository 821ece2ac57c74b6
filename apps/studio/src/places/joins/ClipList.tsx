'use client';
import { useDraggable } from '@dnd-kit/core';
import { Box, ButtonBase, CircularProgress, InputBase, MenuItem, Select, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import { useClips } from '@/data/clips-store';
import type { TakeInfo } from '@/data/project';
import { isMadeOf, type Sources } from '@/data/sources';
import { newPiece, type PieceOf } from './join-edits';
import { useFollowers, type Follower } from './use-followers';
import type { Joinery } from './use-joinery';

/** Something that can become a piece. */
interface Offer {
  readonly id: string;
  readonly name: string;
  readonly gait: string;
  readonly says: string;
  readonly of: PieceOf;
}

/** A take comes in with so much of it, seconds; its ends are trimmed on the deck. */
const TAKE_SECONDS = 4;

/** Clips, or takes, to be dropped on the deck: searched, by gait, or by how well they could follow what is there. */
export function ClipList({ joinery }: { joinery: Joinery }) {
  const { takes, sources, acts, doc } = joinery;
  const docs = useClips((state) => state.docs);
  const [from, setFrom] = useState<'clips' | 'takes'>('clips');
  const [search, setSearch] = useState('');
  const [gait, setGait] = useState('');
  const [ranks, setRanks] = useState(false);
  const followers = useFollowers(joinery, ranks);
  const join = doc?.id ?? '';
  const offers = useMemo(
    () => (from === 'clips' ? clipOffers(docs, sources, join) : takes.map(takeOffer)),
    [from, docs, takes, sources, join],
  );
  const gaits = [...new Set(offers.map((offer) => offer.gait).filter(Boolean))].sort();
  const words = search.trim().toLowerCase();
  const shown = offers.filter(
    (offer) => (words === '' || `${offer.name} ${offer.gait}`.toLowerCase().includes(words)) && (gait === '' || offer.gait === gait),
  );
  const order =
    ranks && from === 'clips' ? [...shown].sort((a, b) => lackOf(followers.found[a.id]) - lackOf(followers.found[b.id])) : shown;
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', minWidth: 0, bgcolor: chart('paper') }}>
      <Box sx={{ display: 'flex', alignItems: 'center', px: 1, pt: 0.8, gap: 0.4 }}>
        {(['clips', 'takes'] as const).map((word) => (
          <Small key={word} pressed={from === word} onClick={() => setFrom(word)}>
            {word}
          </Small>
        ))}
        <Box sx={{ flex: 1 }} />
        {gaits.length > 1 && (
          <Select
            variant="standard"
            disableUnderline
            displayEmpty
            value={gaits.includes(gait) ? gait : ''}
            onChange={(event) => setGait(event.target.value)}
            inputProps={{ 'aria-label': 'Gait' }}
            sx={{ fontSize: 13.5, '& .MuiSelect-select': { py: 0.1 } }}
          >
            <MenuItem value="" dense>
              any gait
            </MenuItem>
            {gaits.map((word) => (
              <MenuItem key={word} value={word} dense>
                {word}
              </MenuItem>
            ))}
          </Select>
        )}
      </Box>
      <InputBase
        value={search}
        placeholder="search"
        onChange={(event) => setSearch(event.target.value)}
        inputProps={{ 'aria-label': 'Search what can be joined' }}
        sx={{ mx: 1.8, my: 0.4, fontSize: 14.5, borderBottom: `1px solid ${chart('rule')}`, '& input': { p: 0.2 } }}
      />
      <Box
        component="ul"
        aria-label={from === 'clips' ? 'Clips' : 'Takes'}
        sx={{ m: 0, p: 0, listStyle: 'none', overflowY: 'auto', flex: 1, minHeight: 0 }}
      >
        {order.map((offer) => (
          <Row
            key={offer.id}
            offer={offer}
            follower={ranks ? followers.found[offer.id] : undefined}
            onAdd={() => doc && acts.add(newPiece(offer.of))}
          />
        ))}
        {order.length === 0 && (
          <Typography component="li" variant="body2" color="text.secondary" sx={{ px: 1.8, py: 1 }}>
            {offers.length === 0 ? 'There are none yet.' : 'Nothing is called that.'}
          </Typography>
        )}
      </Box>
      <Box sx={{ borderTop: `1px solid ${chart('rule')}`, px: 1, py: 0.4, display: 'flex', alignItems: 'center' }}>
        <Small pressed={ranks} onClick={() => setRanks(!ranks)}>
          What could follow?
        </Small>
        {followers.isBusy && <CircularProgress size={12} color="inherit" aria-label="Trying what could follow" />}
        {followers.isBusy && (
          <Typography variant="caption" color="text.secondary" sx={{ ml: 0.8 }}>
            {followers.done} of {followers.of}
          </Typography>
        )}
      </Box>
    </Box>
  );
}

function Row({ offer, follower, onAdd }: { offer: Offer; follower: Follower | undefined; onAdd: () => void }) {
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: `offer ${offer.id}`, data: { of: offer.of, name: offer.name } });
  const fit = follower && follower !== 'none' ? follower : null;
  return (
    <li>
      <ButtonBase
        ref={setNodeRef}
        {...listeners}
        disableRipple
        aria-label={`${offer.name}: add it to the join`}
        onDoubleClick={onAdd}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          onAdd();
        }}
        sx={{
          display: 'block',
          width: '100%',
          textAlign: 'left',
          px: 1.8,
          py: 0.45,
          fontFamily: 'inherit',
          cursor: 'grab',
          opacity: isDragging ? 0.4 : 1,
          borderBottom: `1px solid ${chart('rule')}`,
          touchAction: 'none',
          '&:hover': { bgcolor: chart('card') },
        }}
      >
        <Typography variant="body2" noWrap sx={{ fontWeight: 500, lineHeight: 1.3 }}>
          {offer.name}
        </Typography>
        <Typography variant="caption" color="text.secondary" component="div" noWrap sx={{ lineHeight: 1.3 }}>
          {fit ? `pose ${fit.poseCm.toFixed(0)} · slide ${fit.slideCm.toFixed(1)} · pop ${fit.popCm.toFixed(1)} cm` : offer.says}
        </Typography>
      </ButtonBase>
    </li>
  );
}

/** All clips, but those that are cut from the join itself. */
function clipOffers(docs: ReturnType<typeof useClips.getState>['docs'], { all }: Sources, join: string): Offer[] {
  return docs.flatMap(({ id, name, gait, source: { take, from, to } }) => {
    const source = all.find((own) => own.id === take);
    if (source && isMadeOf(source, join)) return [];
    const seconds = `${((to - from) / (source?.passport.fps ?? 60)).toFixed(2)} s`;
    return [{ id, name, gait, says: [gait, seconds].filter(Boolean).join(' · '), of: { clip: id } }];
  });
}

function takeOffer({ id, name, passport }: TakeInfo): Offer {
  const to = Math.min(passport.frames - 1, Math.round(TAKE_SECONDS * passport.fps));
  return { id, name, gait: '', says: `${passport.seconds.toFixed(1)} s`, of: { take: id, from: 0, to } };
}

/** What fits best comes first; what has not been tried comes behind it, and what cannot follow last. */
const lackOf = (follower: Follower | undefined): number =>
  follower === undefined
    ? 1e6
    : follower === 'none'
      ? 2e6
      : follower.poseCm + 20 * Math.max(0, follower.popCm - 1) + 40 * Math.max(0, follower.slideCm - 0.2);
