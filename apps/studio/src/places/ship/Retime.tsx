'use client';
import { stepOf, stepSchema, withStep } from '@lantern/motion';
import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import { useState } from 'react';
import { TypedNumber } from '@/controls/TypedNumber';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { many } from './words';

/** A clip in which time goes so much quicker than it goes now. */
export function quicker(doc: ClipDoc, factor: number): ClipDoc {
  const known = stepOf(doc.steps, 'retime');
  const step = stepSchema.parse({
    ...known,
    kind: 'retime',
    factor: Math.min(10, Math.max(0.1, (known?.factor ?? 1) * factor)),
    frames: undefined,
    cadence: undefined,
  });
  const steps = withStep(
    doc.steps.filter((own) => own !== known),
    step,
  );
  return { ...doc, steps };
}

/** Time of several clips at once, slower or quicker; one step of undo. */
export function Retime({ ids, onClose }: { ids: readonly string[]; onClose: () => void }) {
  const [percent, setPercent] = useState(100);
  const run = () => {
    const chosen = new Set(ids);
    useClips.setState(({ docs }) => ({ docs: docs.map((doc) => (chosen.has(doc.id) ? quicker(doc, percent / 100) : doc)) }));
    onClose();
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="retime-title">
      <DialogTitle id="retime-title">How quickly time goes in {many(ids.length)}</DialogTitle>
      <DialogContent sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <TypedNumber
          name="How quickly time goes"
          value={percent}
          unit="%"
          least={20}
          most={500}
          step={1}
          digits={1}
          onChange={setPercent}
        />
        <Typography color="text.secondary">of how it goes now: 110 % is a tenth quicker. Feet that are held stay held.</Typography>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Leave it
        </Button>
        <Button variant="contained" disabled={percent === 100} onClick={run}>
          Set the time
        </Button>
      </DialogActions>
    </Dialog>
  );
}
