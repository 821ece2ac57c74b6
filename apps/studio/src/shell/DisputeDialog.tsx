'use client';
import { Box, Button, Dialog, DialogActions, DialogContent, DialogContentText, DialogTitle } from '@mui/material';
import { useDisputes } from '@/data/disputes';
import { inWords } from './in-words';

/** Two people on one take or fit: says what each has made of it, and overwrites nothing by itself. */
export function DisputeDialog() {
  const dispute = useDisputes((state) => state.open[0]);
  if (!dispute) return null;
  const { what, fields, settle } = dispute;
  return (
    <Dialog open aria-labelledby="dispute-title">
      <DialogTitle id="dispute-title" sx={{ fontFamily: 'Alegreya' }}>
        {what[0].toUpperCase() + what.slice(1)} was changed elsewhere
      </DialogTitle>
      <DialogContent>
        <DialogContentText component="div">
          Another window or person changed the same after you opened it. Nothing has been overwritten.
          {fields.map(({ name, mine, theirs }) => (
            <Box key={name} component="dl" sx={{ m: 0, mt: 1.5, display: 'grid', gridTemplateColumns: 'auto 1fr', columnGap: 1.5 }}>
              <Box component="dt" sx={{ gridColumn: '1 / -1', fontWeight: 700, color: 'text.primary' }}>
                {inWords.name(name)}
              </Box>
              <dt>There</dt>
              <Box component="dd" sx={{ m: 0 }}>
                {inWords.value(theirs)}
              </Box>
              <dt>Here</dt>
              <Box component="dd" sx={{ m: 0 }}>
                {inWords.value(mine)}
              </Box>
            </Box>
          ))}
        </DialogContentText>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={() => settle('mine')}>
          Put mine in its place
        </Button>
        <Button variant="contained" onClick={() => settle('theirs')}>
          Take theirs
        </Button>
      </DialogActions>
    </Dialog>
  );
}
