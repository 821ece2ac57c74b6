'use client';
import { Button, Dialog, DialogActions, DialogContent, DialogContentText, DialogTitle } from '@mui/material';
import { settleConflict } from '@/data/autosave';
import { CLIPS, type ClipDoc } from '@/data/clips-store';
import type { DocumentKind, Identified } from '@/data/document-store';
import { JOINS, type JoinDoc } from '@/data/joins-store';
import { SETS, type SetDoc } from '@/data/sets-store';

/** Two tabs on one clip, join or set: says so, shows both, overwrites nothing by itself. */
export function ConflictDialog() {
  return (
    <>
      <Conflict kind={CLIPS} describe={clipInWords} />
      <Conflict kind={JOINS} describe={joinInWords} />
      <Conflict kind={SETS} describe={setInWords} />
    </>
  );
}

const clipInWords = ({ source, steps }: ClipDoc) => `frames ${source.from} to ${source.to}, ${steps.filter((s) => !s.off).length} steps on`;
const joinInWords = ({ pieces }: JoinDoc) => `${pieces.length} pieces`;
const setInWords = ({ slots, fields }: SetDoc) => `${slots.length} slots, ${fields.length} fields`;

function Conflict<Doc extends Identified, Row>({ kind, describe }: { kind: DocumentKind<Doc, Row>; describe: (doc: Doc) => string }) {
  const { store: useDocuments } = kind;
  const conflicts = useDocuments((state) => state.conflicts);
  const docs = useDocuments((state) => state.docs);
  const id = Object.keys(conflicts)[0];
  if (!id) return null;
  const theirs = conflicts[id].doc;
  const mine = docs.find((doc) => doc.id === id) ?? null;
  const words = (doc: Doc | null) => (doc ? `“${doc.name}”, ${describe(doc)}` : 'removed');
  return (
    <Dialog open aria-labelledby="conflict-title">
      <DialogTitle id="conflict-title" sx={{ fontFamily: 'Alegreya' }}>
        This {kind.field} was saved elsewhere
      </DialogTitle>
      <DialogContent>
        <DialogContentText component="div">
          Another window or person saved it after you opened it. Nothing has been overwritten.
          <ul>
            <li>There: {words(theirs)}</li>
            <li>Here: {words(mine)}</li>
          </ul>
        </DialogContentText>
      </DialogContent>
      <DialogActions>
        {mine && (
          <Button
            color="inherit"
            onClick={() => settleConflict(kind, id, 'copy', { ...mine, id: crypto.randomUUID(), name: `${mine.name} (mine)` })}
          >
            Keep mine as a copy
          </Button>
        )}
        <Button color="inherit" onClick={() => settleConflict(kind, id, 'mine')}>
          Put mine in its place
        </Button>
        <Button variant="contained" onClick={() => settleConflict(kind, id, 'theirs')}>
          Take theirs
        </Button>
      </DialogActions>
    </Dialog>
  );
}
