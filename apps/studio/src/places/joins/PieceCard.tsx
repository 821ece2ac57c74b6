'use client';
import type { Shift } from '@lantern/motion';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import { Box, Link as MuiLink, Typography } from '@mui/material';
import Link from 'next/link';
import { Label } from '@/controls/fields';
import { Sign } from '@/controls/Sign';
import { TypedNumber } from '@/controls/TypedNumber';
import { TypedText } from '@/controls/TypedText';
import { chart } from '@/controls/theme';
import { useProjectInfo } from '@/data/project';
import * as edits from './join-edits';
import type { Joinery } from './use-joinery';

/** The chosen piece: its trims, how often it goes round, its shifts and its marks, typed as well as dragged. */
export function PieceCard({ joinery, index, name }: { joinery: Joinery; index: number; name: string }) {
  const { doc, laid, edit } = joinery;
  const project = useProjectInfo();
  const room = laid.rooms[index];
  if (!doc) return null;
  const piece = doc.pieces[index];
  const id = piece.id ?? '';
  const change = (next: typeof piece) => edit(edits.changePiece(doc, id, () => next));
  return (
    <Box component="section" aria-label="The chosen piece" sx={{ display: 'grid', gap: 1.2, minWidth: 0 }}>
      <Box>
        <Typography variant="body2" color="text.secondary">
          The chosen piece, {index + 1} of {doc.pieces.length}
        </Typography>
        <Typography variant="h2" sx={{ overflowWrap: 'anywhere', lineHeight: 1.2 }}>
          {name}
        </Typography>
        <MuiLink
          component={Link}
          variant="body2"
          color="text.secondary"
          href={'clip' in piece ? `/${project.id}/bench/${piece.clip}` : `/${project.id}/takes/${piece.take}`}
        >
          {'clip' in piece ? 'Open the clip on the Bench' : 'See the take'}
        </MuiLink>
      </Box>
      {room && (
        <Box sx={{ display: 'flex', gap: 2.4 }}>
          <TypedNumber
            name="Begins with frame"
            label="begins with frame"
            value={room.from}
            least={Math.max(-1e6, room.from - room.before)}
            most={room.from + room.frames - 2}
            digits={0}
            width={96}
            onChange={(from) => change(edits.trimStart(piece, room, from - room.from))}
          />
          <TypedNumber
            name="Ends with frame"
            label="ends with frame"
            value={edits.endOf(room)}
            least={room.from + 1}
            most={Math.min(1e6, edits.endOf(room) + room.after)}
            digits={0}
            width={92}
            onChange={(to) => change(edits.trimEnd(piece, room, to - edits.endOf(room)))}
          />
          <TypedNumber
            name="Times"
            label="times"
            value={piece.times}
            least={0.05}
            most={1000}
            step={0.5}
            width={52}
            onChange={(times) => change({ ...piece, from: room.from, to: room.to, times })}
          />
        </Box>
      )}
      {room && (
        <Typography variant="caption" color="text.secondary">
          {room.loop
            ? 'A loop: it goes round without end on either side.'
            : `There is motion for ${room.before} more frames before it and ${room.after} after it.`}
        </Typography>
      )}
      {index === 0 && <Start joinery={joinery} />}
      <Box component="section" aria-label="Shifts">
        <Typography variant="h3" sx={{ borderBottom: `1px solid ${chart('rule')}`, mb: 0.6 }}>
          Shifts
        </Typography>
        {piece.shifts.length === 0 && (
          <Typography variant="caption" color="text.secondary">
            None. U raises all that follows from the playhead on: onto a box, down a kerb, turned or moved.
          </Typography>
        )}
        {piece.shifts.map((shift, k) => (
          <ShiftFields key={k} shift={shift} number={k + 1} onChange={(next) => edit(edits.setShift(doc, id, k, next))} />
        ))}
      </Box>
      {piece.marks.length > 0 && (
        <Box component="section" aria-label="Marks">
          <Typography variant="h3" sx={{ borderBottom: `1px solid ${chart('rule')}`, mb: 0.6 }}>
            Marks
          </Typography>
          {piece.marks.map((mark, k) => (
            <Box key={`${k} ${mark.at}`} sx={{ display: 'flex', alignItems: 'end', gap: 1 }}>
              <TypedText
                key={mark.name}
                label={`Mark at frame ${mark.at}`}
                value={mark.name}
                read={(text) => text.trim().slice(0, 60) || null}
                onChange={(text) => change({ ...piece, marks: piece.marks.map((own, n) => (n === k ? { ...own, name: text } : own)) })}
              />
              <Sign name={`Take mark ${mark.name} away`} onClick={() => change({ ...piece, marks: piece.marks.filter((_, n) => n !== k) })}>
                <DeleteIcon />
              </Sign>
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}

/** Where the first piece starts. */
function Start({ joinery: { doc, edit } }: { joinery: Joinery }) {
  if (!doc) return null;
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
      <Label>It starts</Label>
      {(['origin', 'captured'] as const).map((start) => (
        <Box
          key={start}
          component="button"
          type="button"
          aria-pressed={doc.start === start}
          onClick={() => edit({ ...doc, start })}
          sx={{
            font: 'inherit',
            fontSize: 13.5,
            px: 1,
            py: 0.3,
            cursor: 'pointer',
            borderRadius: 1,
            color: 'text.primary',
            border: `1px solid ${chart(doc.start === start ? 'lamp' : 'rule')}`,
            bgcolor: doc.start === start ? chart('lampSoft') : 'transparent',
          }}
        >
          {start === 'origin' ? 'at the origin' : 'where it was captured'}
        </Box>
      ))}
    </Box>
  );
}

/** What a shift does, and when, in the units that a person thinks in: so many of them are one of the shift's own. */
const SHIFT_FIELDS = [
  { key: 'raise', name: 'raised, centimetres', label: 'raised', unit: 'cm', times: 100, least: -500, most: 500, digits: 1, width: 62 },
  { key: 'ahead', name: 'ahead, centimetres', label: 'ahead', unit: 'cm', times: 100, least: -2000, most: 2000, digits: 1, width: 62 },
  {
    key: 'left',
    name: 'to the left, centimetres',
    label: 'to the left',
    unit: 'cm',
    times: 100,
    least: -2000,
    most: 2000,
    digits: 1,
    width: 62,
  },
  { key: 'turnDeg', name: 'turned, degrees', label: 'turned', unit: '°', times: 1, least: -360, most: 360, digits: 1, width: 56 },
  { key: 'at', name: 'from frame', label: 'from its frame', unit: '', times: 1, least: 0, most: 1e6, digits: 0, width: 62 },
  { key: 'frames', name: 'over, frames', label: 'over', unit: 'frames', times: 1, least: 1, most: 600, digits: 0, width: 70 },
] as const;

function ShiftFields({ shift, number, onChange }: { shift: Shift; number: number; onChange: (shift: Shift | null) => void }) {
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 1.6, rowGap: 0.6, alignItems: 'end', mb: 1 }}>
      {SHIFT_FIELDS.map(({ key, name, times, ...field }) => (
        <TypedNumber
          key={key}
          {...field}
          name={`Shift ${number}: ${name}`}
          value={shift[key] * times}
          onChange={(value) => onChange({ ...shift, [key]: value / times })}
        />
      ))}
      <Sign name={`Take shift ${number} away`} onClick={() => onChange(null)}>
        <DeleteIcon />
      </Sign>
    </Box>
  );
}
