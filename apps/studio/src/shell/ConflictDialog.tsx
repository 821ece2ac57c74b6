'use client';
import { Button, Dialog, DialogActions, DialogContent, DialogContentText, DialogTitle } from '@mui/material';
import { settleConflict } from '@/data/autosave';
import { useClips } from '@/data/clips-store';

/** Two tabs on one clip: says so, shows both, overwrites nothing by itself. */
export function ConflictDialog() {
  const conflicts = useClips((state) => state.conflicts);
  const docs = useClips((state) => state.docs);
  const id = Object.keys(conflicts)[0];
  if (!id) return null;
  const theirs = conflicts[id].doc;
  const mine = docs.find((doc) => doc.id === id) ?? null;
  const describe = (doc: typeof mine) =>
    doc ? `“${doc.name}”, frames ${doc.source.from} to ${doc.source.to}, ${doc.steps.filter((s) => !s.off).length} steps on` : 'removed';
  return (
    <Dialog open aria-labelledby="conflict-title">
      <DialogTitle id="conflict-title" sx={{ fontFamily: 'Alegreya' }}>
        This clip was saved elsewhere
      </DialogTitle>
      <DialogContent>
        <DialogContentText component="div">
          Another window or person saved it after you opened it. Nothing has been overwritten.
          <ul>
            <li>There: {describe(theirs)}</li>
            <li>Here: {describe(mine)}</li>
          </ul>
        </DialogContentText>
      </DialogContent>
      <DialogActions>
        {mine && (
          <Button
            color="inherit"
            onClick={() => settleConflict(id, 'copy', { ...mine, id: crypto.randomUUID(), name: `${mine.name} (mine)` })}
          >
            Keep mine as a copy
          </Button>
        )}
        <Button color="inherit" onClick={() => settleConflict(id, 'mine')}>
          Put mine in its place
        </Button>
        <Button variant="contained" onClick={() => settleConflict(id, 'theirs')}>
          Take theirs
        </Button>
      </DialogActions>
    </Dialog>
  );
}
