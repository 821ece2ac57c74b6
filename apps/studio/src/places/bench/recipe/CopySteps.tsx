'use client';
import { aboutStep, type RecipeStep } from '@lantern/motion';
import { Box, Button, Checkbox, Dialog, DialogActions, DialogContent, DialogTitle, FormControlLabel, Typography } from '@mui/material';
import { useState } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { useClips } from '@/data/clips-store';
import { withStepsGiven } from '@/data/new-clip';

/** Steps of a clip given to others: of its take, of its gait, or any that are ticked; one step of undo. */
export function CopySteps({ doc, onClose }: { doc: ClipDoc; onClose: () => void }) {
  const docs = useClips((state) => state.docs);
  const others = docs.filter(({ id }) => id !== doc.id);
  const [kinds, setKinds] = useState<ReadonlySet<string>>(new Set(doc.steps.filter(isUsual).map(({ id }) => id)));
  const [clips, setClips] = useState<ReadonlySet<string>>(new Set());
  const steps = doc.steps.filter(({ id }) => kinds.has(id));
  const give = () => {
    useClips.setState({ docs: docs.map((other) => (clips.has(other.id) ? withStepsGiven(other, doc, steps) : other)) });
    onClose();
  };
  const ticked = (all: readonly ClipDoc[]) => setClips(new Set(all.map(({ id }) => id)));
  return (
    <Dialog open onClose={onClose} aria-labelledby="copy-steps-title" maxWidth="sm" fullWidth>
      <DialogTitle id="copy-steps-title">Copy steps of {doc.name}</DialogTitle>
      <DialogContent>
        <Typography variant="body2" color="text.secondary">
          A step of a kind that a clip has already takes its place; layers are laid over those that are there. In clips of the same take
          everything stays at the same instants.
        </Typography>
        <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) minmax(0, 1fr)', gap: 2, mt: 1.5 }}>
          <Box role="group" aria-label="Steps to copy">
            <Typography variant="h3">Steps</Typography>
            {doc.steps.map((step) => (
              <Tick
                key={step.id}
                label={aboutStep(step.kind).title}
                isOn={kinds.has(step.id)}
                onToggle={() => setKinds(toggled(kinds, step.id))}
              />
            ))}
          </Box>
          <Box role="group" aria-label="Clips that get them">
            <Typography variant="h3">Clips</Typography>
            <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap' }}>
              <Button color="inherit" sx={{ py: 0 }} onClick={() => ticked(others.filter(({ source }) => source.take === doc.source.take))}>
                of this take
              </Button>
              {doc.gait !== '' && (
                <Button color="inherit" sx={{ py: 0 }} onClick={() => ticked(others.filter(({ gait }) => gait === doc.gait))}>
                  of this gait
                </Button>
              )}
              <Button color="inherit" sx={{ py: 0 }} onClick={() => ticked(others)}>
                all
              </Button>
            </Box>
            <Box sx={{ maxHeight: 260, overflow: 'auto' }}>
              {others.map(({ id, name }) => (
                <Tick key={id} label={name} isOn={clips.has(id)} onToggle={() => setClips(toggled(clips, id))} />
              ))}
            </Box>
            {others.length === 0 && <Typography variant="body2">There is no other clip yet.</Typography>}
          </Box>
        </Box>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button variant="contained" disabled={steps.length === 0 || clips.size === 0} onClick={give}>
          {steps.length === 1 ? 'Copy 1 step' : `Copy ${steps.length} steps`} to {clips.size === 1 ? '1 clip' : `${clips.size} clips`}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** What is of one clip alone is not copied unless it is asked for. */
const isUsual = ({ kind }: RecipeStep): boolean => !['mirror', 'loop', 'retime', 'speed', 'path', 'between'].includes(kind);

function toggled(set: ReadonlySet<string>, id: string): ReadonlySet<string> {
  const next = new Set(set);
  if (!next.delete(id)) next.add(id);
  return next;
}

const Tick = ({ label, isOn, onToggle }: { label: string; isOn: boolean; onToggle: () => void }) => (
  <FormControlLabel
    sx={{ display: 'flex', ml: 0, mr: 0 }}
    control={<Checkbox size="small" sx={{ p: 0.3, mr: 0.5 }} checked={isOn} onChange={onToggle} />}
    label={
      <Typography variant="body2" noWrap>
        {label}
      </Typography>
    }
  />
);
