'use client';
import { DIRECTIONS, GAITS, slotId, slotList, slotName, slotSchema, type Slot, type SlotKind } from '@lantern/motion';
import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, MenuItem, TextField, Typography } from '@mui/material';
import CloseIcon from '@mui/icons-material/Close';
import { useState } from 'react';
import { Sign } from '@/controls/Sign';
import { chart } from '@/controls/theme';
import type { SetDoc } from '@/data/sets-store';
import { editSet } from '@/data/sets-store';

type Field = 'gait' | 'to' | 'direction' | 'side' | 'foot' | 'angle' | 'speedMps' | 'turnDegS' | 'how' | 'on' | 'along' | 'over' | 'way';

const EITHER = '';
/** What each kind of slot is told by. */
const FIELDS: Readonly<Record<SlotKind, readonly Field[]>> = {
  idle: [],
  loop: ['gait', 'direction', 'speedMps'],
  arc: ['gait', 'side', 'speedMps', 'turnDegS'],
  turn: ['side', 'angle'],
  start: ['gait', 'foot', 'direction'],
  stop: ['gait', 'foot', 'direction'],
  pivot: ['gait', 'foot', 'angle'],
  between: ['gait', 'to', 'foot'],
  flight: ['how', 'on', 'along'],
  step: ['over', 'way'],
};
const CHOICES: Readonly<Partial<Record<Field, readonly string[]>>> = {
  gait: GAITS,
  to: GAITS,
  direction: DIRECTIONS,
  side: ['left', 'right'],
  foot: [EITHER, 'left', 'right'],
  angle: ['45', '90', '135', '180'],
  how: ['hop', 'leap'],
  on: ['both', 'left', 'right'],
  along: ['along', 'on the spot'],
  over: ['kerb', 'stairs'],
  way: ['up', 'down'],
};
const WORDS: Readonly<Record<Field, string>> = {
  gait: 'gait',
  to: 'into',
  direction: 'direction',
  side: 'side',
  foot: 'foot',
  angle: 'angle, °',
  speedMps: 'speed, m/s (empty: the game’s)',
  turnDegS: 'turn, °/s (empty: any)',
  how: 'how',
  on: 'feet',
  along: 'where',
  over: 'over',
  way: 'way',
};
const FIRST: Readonly<Record<Field, string>> = {
  gait: 'walk',
  to: 'jog',
  direction: 'forward',
  side: 'left',
  foot: EITHER,
  angle: '90',
  speedMps: '',
  turnDegS: '',
  how: 'hop',
  on: 'both',
  along: 'along',
  over: 'kerb',
  way: 'up',
};

/** What a game expects to find: slots taken out, added one by one, or a ready list instead. */
export function SlotEditor({ doc, onClose }: { doc: SetDoc; onClose: () => void }) {
  const [kind, setKind] = useState<SlotKind>('loop');
  const [values, setValues] = useState(FIRST);
  const wanted = slotOf(kind, values);
  const isThere = wanted !== null && doc.slots.some((slot) => slotId(slot) === slotId(wanted));
  const put = (slots: SetDoc['slots']) => {
    const ids = new Set(slots.map(slotId));
    editSet(doc, { slots, pins: Object.fromEntries(Object.entries(doc.pins).filter(([slot]) => ids.has(slot))) });
  };
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="slots-title">
      <DialogTitle id="slots-title" sx={{ fontFamily: 'Alegreya' }}>
        {doc.slots.length} slots: what a game expects to find
      </DialogTitle>
      <DialogContent>
        <Box
          component="ul"
          aria-label="Slots"
          sx={{
            m: 0,
            p: 0,
            listStyle: 'none',
            display: 'grid',
            gridTemplateColumns: 'repeat(3, 1fr)',
            columnGap: 2,
            maxHeight: 330,
            overflow: 'auto',
          }}
        >
          {doc.slots.map((slot) => (
            <Box
              component="li"
              key={slotId(slot)}
              sx={{ display: 'flex', alignItems: 'center', borderBottom: `1px solid ${chart('rule')}` }}
            >
              <Typography variant="body2" noWrap sx={{ flex: 1 }}>
                {slotName(slot)}
              </Typography>
              <Sign name={`Take out ${slotName(slot)}`} onClick={() => put(doc.slots.filter((own) => own !== slot))}>
                <CloseIcon />
              </Sign>
            </Box>
          ))}
        </Box>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.2, mt: 2, alignItems: 'center' }}>
          <TextField
            select
            label="Another slot"
            value={kind}
            onChange={(event) => setKind(event.target.value as SlotKind)}
            sx={{ width: 120 }}
          >
            {(Object.keys(FIELDS) as SlotKind[]).map((own) => (
              <MenuItem key={own} value={own}>
                {own}
              </MenuItem>
            ))}
          </TextField>
          {FIELDS[kind].map((field) => {
            const choices = field === 'foot' && kind === 'pivot' ? ['left', 'right'] : CHOICES[field];
            const value = choices && !choices.includes(values[field]) ? choices[0] : values[field];
            return (
              <TextField
                key={field}
                select={choices !== undefined}
                label={WORDS[field]}
                value={value}
                onChange={(event) => setValues({ ...values, [field]: event.target.value })}
                slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
                sx={{ width: choices ? 130 : 200 }}
              >
                {choices?.map((own) => (
                  <MenuItem key={own} value={own}>
                    {own === EITHER ? 'either' : own}
                  </MenuItem>
                ))}
              </TextField>
            );
          })}
          <Button variant="outlined" color="inherit" disabled={!wanted || isThere} onClick={() => wanted && put([...doc.slots, wanted])}>
            Add it
          </Button>
          {isThere && (
            <Typography variant="body2" role="status">
              It is there already.
            </Typography>
          )}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={() => put(slotList('modest'))}>
          The modest list instead
        </Button>
        <Button color="inherit" onClick={() => put(slotList('full'))}>
          The full list instead
        </Button>
        <Box sx={{ flex: 1 }} />
        <Button variant="contained" onClick={onClose}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** A slot of what was chosen; null where a number cannot be read. */
function slotOf(kind: SlotKind, values: Readonly<Record<Field, string>>): Slot | null {
  const read = (field: Field): unknown => {
    const text = field === 'foot' && kind === 'pivot' && values.foot === EITHER ? 'left' : values[field];
    if (field === 'along') return text === 'along';
    if (field === 'angle' || field === 'speedMps' || field === 'turnDegS') return text.trim() === '' ? undefined : Number(text);
    return text === EITHER ? undefined : text;
  };
  const made = slotSchema.safeParse({ kind, ...Object.fromEntries(FIELDS[kind].map((field) => [field, read(field)])) });
  return made.success ? made.data : null;
}
