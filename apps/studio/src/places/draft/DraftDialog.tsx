'use client';
import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  LinearProgress,
  MenuItem,
  TextField,
  Typography,
} from '@mui/material';
import type { SlotList } from '@lantern/motion';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { draftSet, draftWords, endDrafting, useDrafting } from '@/data/drafting';
import { useProjectData, useProjectInfo } from '@/data/project';
import { useSets } from '@/data/sets-store';

const NOBODY = 'nobody';
const LISTS: readonly (readonly [SlotList, string])[] = [
  ['full', 'a full one, of 31 slots'],
  ['modest', 'a modest one, of 12 slots'],
];

/** Asks whom a set is for and what it shall have, and drafts it from all takes: progress, stop, and where to look at it. */
export function DraftDialog({ onClose }: { readonly onClose: () => void }) {
  const { data } = useProjectData();
  const project = useProjectInfo();
  const router = useRouter();
  const sets = useSets((state) => state.docs);
  const { drafting, news } = useDrafting();
  const characters = data?.characters ?? [];
  const first = characters.find((own) => own.name === project.character) ?? characters[0];
  const [character, setCharacter] = useState(sets[0]?.character ?? first?.id ?? NOBODY);
  const [slots, setSlots] = useState<string>('full');
  const [name, setName] = useState('lamplighter');
  const takes = data?.takes.length ?? 0;
  const isOurs = drafting?.project === project.id;
  const begin = () => {
    const like = sets.find(({ id }) => id === slots)?.id ?? null;
    const list = slots === 'modest' ? 'modest' : 'full';
    void draftSet(project.id, { name: name.trim() || 'set', character: character === NOBODY ? null : character, slots: list, like });
  };
  const open = (place: string) => {
    onClose();
    router.push(`/${project.id}/${place}`);
  };
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="draft-title">
      <DialogTitle id="draft-title" sx={{ fontFamily: 'Alegreya' }}>
        Draft the set from {takes} {takes === 1 ? 'take' : 'takes'}
      </DialogTitle>
      <DialogContent>
        {isOurs && drafting ? (
          <Underway share={drafting.share} problem={drafting.problem} />
        ) : news?.project === project.id ? (
          <Box role="status">
            <Typography>
              <b>
                {news.filled} of {news.of} slots
              </b>{' '}
              are filled. Every choice is in Set, with its reason and its runners-up; one click takes another. Undo takes the draft back.
            </Typography>
          </Box>
        ) : (
          <Box sx={{ display: 'grid', gap: 2, pt: 0.5 }}>
            <Typography variant="body2" color="text.secondary">
              Every take is read, and for each slot the best cut of all is chosen, cleaned, looped or brought home, its feet held and its
              speed matched. What the takes do not have is seen in the mirror or stays on the shot list. Nothing that is there is changed.
            </Typography>
            <TextField select label="For" value={character} onChange={(event) => setCharacter(event.target.value)}>
              {characters.map(({ id, name: who }) => (
                <MenuItem key={id} value={id}>
                  {who}
                </MenuItem>
              ))}
              <MenuItem value={NOBODY}>nobody: clips as captured</MenuItem>
            </TextField>
            <TextField select label="Slots" value={slots} onChange={(event) => setSlots(event.target.value)}>
              {LISTS.map(([list, words]) => (
                <MenuItem key={list} value={list}>
                  {words}
                </MenuItem>
              ))}
              {sets.map((own) => (
                <MenuItem key={own.id} value={own.id}>
                  as in “{own.name}”, with its numbers and bounds
                </MenuItem>
              ))}
            </TextField>
            <TextField
              label="Called"
              value={name}
              onChange={(event) => setName(event.target.value)}
              slotProps={{ htmlInput: { maxLength: 80 } }}
            />
          </Box>
        )}
      </DialogContent>
      <DialogActions>
        {isOurs ? (
          <>
            <Button color="inherit" onClick={endDrafting}>
              {drafting?.problem ? 'Back' : 'Stop'}
            </Button>
            <Button variant="outlined" color="inherit" onClick={onClose}>
              {drafting?.problem ? 'Close' : 'Go on in the background'}
            </Button>
          </>
        ) : news?.project === project.id ? (
          <>
            <Button color="inherit" onClick={() => useDrafting.setState({ news: null })}>
              Draft another
            </Button>
            <Button variant="outlined" color="inherit" onClick={() => open('drive')}>
              Drive it
            </Button>
            <Button variant="contained" onClick={() => open(`set/${news.set}/coverage`)}>
              Look at the set
            </Button>
          </>
        ) : (
          <>
            <Button color="inherit" onClick={onClose}>
              Close
            </Button>
            <Button variant="contained" disabled={takes === 0} onClick={begin}>
              Draft the set
            </Button>
          </>
        )}
      </DialogActions>
    </Dialog>
  );
}

function Underway({ share, problem }: { readonly share: number; readonly problem: string | null }) {
  if (problem) return <Typography role="alert">▲ {problem}</Typography>;
  return (
    <Box role="status">
      <Typography sx={{ mb: 1 }}>{draftWords(share)}</Typography>
      <LinearProgress variant="determinate" value={100 * share} aria-label="Drafting the set" />
      <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
        A day of twenty takes is drafted in about a minute. It goes on when this is closed, but not when the page is.
      </Typography>
    </Box>
  );
}
