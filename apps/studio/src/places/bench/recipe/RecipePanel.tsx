'use client';
import { addableSteps, stepSchema, type Layer, type RecipeStep, type StepKind } from '@lantern/motion';
import AddIcon from '@mui/icons-material/Add';
import { Box, Button, ListItemText, Menu, MenuItem } from '@mui/material';
import { useState } from 'react';
import { Guarded } from '@/controls/Guarded';
import { CardContext } from '@/controls/StepCard';
import { isWithout, toggleGhost, useCorrecting } from '@/data/correcting';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { withStepOpened } from './add-step';
import { Card } from './cards';
import { CopySteps } from './CopySteps';
import { SeenAs } from './SeenAs';
import type { AboutRecipe } from './use-about-recipe';

/** The recipe as a column of step cards, each switched, changed, measured and removed in its place. */
export function RecipePanel({ doc, about, onChange }: { doc: ClipDoc; about: AboutRecipe; onChange: (doc: ClipDoc) => void }) {
  const [copies, setCopies] = useState(false);
  const { ghost, given } = useCorrecting();
  const put = (id: string, next: RecipeStep) => onChange({ ...doc, steps: doc.steps.map((step) => (step.id === id ? next : step)) });
  const add = async (kind: StepKind) => {
    const step = await about.created(kind);
    // What was changed meanwhile stays.
    onChange(withStepOpened(useClips.getState().docs.find(({ id }) => id === doc.id) ?? doc, step));
  };
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr)', gap: 0.6, minWidth: 0 }}>
      {doc.steps.map((step) => (
        <CardContext
          key={step.id}
          value={{
            report: about.measured?.steps[step.id]?.report ?? null,
            ghost: step.off ? null : { isOn: isWithout(ghost, step.id), toggle: () => toggleGhost(step.id) },
            remove: () => onChange({ ...doc, steps: doc.steps.filter(({ id }) => id !== step.id) }),
          }}
        >
          <Guarded name={`The card of the step “${step.id}”`}>
            <Card step={step} about={about} onChange={(next) => put(step.id, next)} />
          </Guarded>
        </CardContext>
      ))}
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <AddStep steps={doc.steps} onAdd={(kind) => void add(kind)} />
        <Box sx={{ flex: 1 }} />
        {doc.steps.length > 0 && (
          <Button color="inherit" sx={{ color: 'text.secondary' }} onClick={() => setCopies(true)}>
            Copy to clips…
          </Button>
        )}
      </Box>
      <SeenAs steps={doc.steps} />
      {copies && <CopySteps doc={doc} onClose={() => setCopies(false)} />}
      {given && <CopySteps doc={givenOf(doc, given)} onClose={() => useCorrecting.setState({ given: null })} />}
    </Box>
  );
}

/** The clip as if its recipe were but some layers. */
const givenOf = (doc: ClipDoc, layers: readonly Layer[]): ClipDoc => ({
  ...doc,
  steps: [stepSchema.parse({ kind: 'corrections', layers })],
});

/** What can be added, in the order of work, each with what it is for. */
function AddStep({ steps, onAdd }: { steps: readonly RecipeStep[]; onAdd: (kind: StepKind) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button
        color="inherit"
        startIcon={<AddIcon />}
        aria-label="Add a step"
        aria-haspopup="menu"
        onClick={(event) => setAnchor(event.currentTarget)}
        sx={{ justifySelf: 'start', color: 'text.secondary' }}
      >
        Add a step
      </Button>
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        slotProps={{ list: { 'aria-label': 'Steps', dense: true } }}
      >
        {addableSteps(steps).map(({ kind, title, about }) => (
          <MenuItem
            key={kind}
            onClick={() => {
              setAnchor(null);
              onAdd(kind);
            }}
          >
            <ListItemText primary={title} secondary={about} />
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
