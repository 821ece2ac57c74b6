'use client';
import AddIcon from '@mui/icons-material/Add';
import CopyIcon from '@mui/icons-material/ContentCopy';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import { clipNameSchema, type JoinPiece } from '@lantern/motion';
import { Box, Button, CircularProgress, MenuItem, Select, Typography } from '@mui/material';
import Link from 'next/link';
import { Sign } from '@/controls/Sign';
import { TypedText } from '@/controls/TypedText';
import { chart } from '@/controls/theme';
import { useProjectInfo } from '@/data/project';
import { useJoins } from '@/data/joins-store';
import { whyNotCalled } from '@/data/why-not-called';
import { BrokenRows } from '@/shell/BrokenRows';
import { indexOf } from './join-edits';
import { MeetCard } from './MeetCard';
import { PieceCard } from './PieceCard';
import type { Joinery } from './use-joinery';

/** The column at the right: which join, what is chosen of it, and the bake. */
export function JoinSide({
  joinery,
  nameOf,
  bake,
  isBaking,
}: {
  joinery: Joinery;
  nameOf: (piece: JoinPiece) => string;
  bake: () => void;
  isBaking: boolean;
}) {
  const { doc, chosen, view } = joinery;
  const project = useProjectInfo();
  if (!doc) return null;
  const index = chosen ? indexOf(doc, chosen.id) : -1;
  const isMeet = chosen?.kind === 'meet' && index > 0;
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', minWidth: 0 }}>
      <Box
        sx={{
          flex: 1,
          minHeight: 0,
          overflowY: 'auto',
          overflowX: 'hidden',
          px: 1.6,
          py: 1,
          display: 'flex',
          flexDirection: 'column',
          gap: 1.2,
        }}
      >
        <BrokenRows kinds={['join']} />
        <Head joinery={joinery} />
        {isMeet ? (
          <MeetCard key={chosen.id} joinery={joinery} index={index} names={[nameOf(doc.pieces[index - 1]), nameOf(doc.pieces[index])]} />
        ) : index >= 0 ? (
          <PieceCard key={chosen?.id} joinery={joinery} index={index} name={nameOf(doc.pieces[index])} />
        ) : (
          <Typography variant="body2" color="text.secondary">
            {doc.pieces.length < 2
              ? 'Drop clips from the list on the deck, or double-click them: each goes on where the one before it leads.'
              : 'Choose a sail to trim and repeat it, or the plaque of a crossing to see how both meet.'}
          </Typography>
        )}
      </Box>
      <Box sx={{ p: 1, borderTop: `1px solid ${chart('rule')}`, textAlign: 'center' }}>
        <Button
          variant="contained"
          fullWidth
          disabled={!view || isBaking}
          onClick={bake}
          title="The pieces stay as they are"
          sx={{ py: 0.7, fontSize: '1rem' }}
        >
          {isBaking && <CircularProgress size={15} color="inherit" sx={{ mr: 1 }} aria-label="Baking" />}
          <b>Bake into a take</b>
          {view && (
            <Box component="span" sx={{ ml: 1, fontWeight: 400 }}>
              {((view.motion.frames - 1) / view.motion.fps).toFixed(2)} s, {view.motion.frames} frames
            </Box>
          )}
        </Button>
        <Button
          component={Link}
          href={`/${project.id}/bench?take=${doc.id}`}
          color="inherit"
          disabled={doc.pieces.length === 0}
          title="They follow when a piece changes"
          sx={{ mt: 0.4, py: 0.2 }}
        >
          Cut clips from it on the Bench
        </Button>
      </Box>
    </Box>
  );
}

/** The open join's name; others, a new one, a copy, and taking it out. */
function Head({ joinery: { doc, edit, places } }: { joinery: Joinery }) {
  const joins = useJoins((state) => state.docs);
  if (!doc) return null;
  const names = new Set(joins.filter(({ id }) => id !== doc.id).map(({ name }) => name.toLowerCase()));
  return (
    <Box component="section" aria-label="Join" sx={{ display: 'flex', alignItems: 'end', gap: 0.2, minWidth: 0 }}>
      <TypedText
        key={`${doc.id} ${doc.name}`}
        label="Join name"
        value={doc.name}
        read={(text) => (clipNameSchema.safeParse(text).success ? text.trim() : null)}
        refuse={(text) => whyNotCalled(text, names, 'join')}
        onChange={(name) => edit({ ...doc, name })}
        isTitle
      />
      {joins.length > 1 && (
        <Select
          variant="standard"
          disableUnderline
          value={doc.id}
          renderValue={() => `${joins.findIndex(({ id }) => id === doc.id) + 1} of ${joins.length}`}
          onChange={(event) => places.open(event.target.value)}
          inputProps={{ 'aria-label': 'Open another join' }}
          sx={{ fontSize: 13.5, mx: 0.6, '& .MuiSelect-select': { py: 0.1 } }}
        >
          {joins.map(({ id, name }) => (
            <MenuItem key={id} value={id} dense>
              {name}
            </MenuItem>
          ))}
        </Select>
      )}
      <Sign name="Duplicate this join" onClick={() => places.duplicateJoin(doc)}>
        <CopyIcon />
      </Sign>
      <Sign name="Remove this join" onClick={() => places.removeJoin(doc.id)}>
        <DeleteIcon />
      </Sign>
      <Sign name="New join" keys="N" onClick={() => places.create()}>
        <AddIcon />
      </Sign>
    </Box>
  );
}
