'use client';
import { aboutStep, type ClipTraits } from '@lantern/motion';
import { Box, Button, Checkbox, Dialog, DialogActions, DialogContent, DialogTitle, FormControlLabel, Tab, Tabs } from '@mui/material';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { chart } from '@/controls/theme';
import { withStepsGiven } from '@/data/new-clip';
import type { SetDoc } from '@/data/sets-store';
import type { SetView } from '@/data/set-view';
import { editClips, setStepOf } from '../../set-edits';
import { NameForm } from './NameForm';
import { StepForm } from './StepForm';
import { TagForm } from './TagForm';
import { TemplateForm } from './TemplateForm';

const ACTS = ['a step', 'a template', 'names', 'tags'] as const;
type Act = (typeof ACTS)[number];

/** One act on many clips of a set; each is one step of undo. */
export function ManyAtOnce({ doc, view, onClose }: { doc: SetDoc; view: SetView; onClose: () => void }) {
  const docs = view.members.map((member) => member.doc);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [act, setAct] = useState<Act>('a step');
  const kinds = [...new Set(docs.map(({ id }) => groupOf(view.traits.get(id))))];
  const toggle = (ids: readonly string[], on: boolean) =>
    setChosen(on ? new Set([...chosen, ...ids]) : new Set([...chosen].filter((id) => !ids.includes(id))));
  const { enqueueSnackbar } = useSnackbar();
  const done = (what: string) => enqueueSnackbar(`${what}: ${chosen.size} ${chosen.size === 1 ? 'clip' : 'clips'}. Undo takes it back.`);
  const picked = docs.filter(({ id }) => chosen.has(id));
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="many-title">
      <DialogTitle id="many-title" sx={{ fontFamily: 'Alegreya' }}>
        Many clips of {doc.name} at once
      </DialogTitle>
      <DialogContent sx={{ display: 'grid', gridTemplateColumns: '1fr 1.1fr', gap: 3 }}>
        <Box sx={{ maxHeight: 420, overflow: 'auto' }} role="group" aria-label="Clips">
          {kinds.map((kind) => {
            const own = docs.filter(({ id }) => groupOf(view.traits.get(id)) === kind);
            const on = own.filter(({ id }) => chosen.has(id)).length;
            return (
              <Box key={kind} sx={{ mb: 0.5 }}>
                <FormControlLabel
                  label={<b>{kind}</b>}
                  control={
                    <Checkbox
                      size="small"
                      color="default"
                      checked={on === own.length}
                      indeterminate={on > 0 && on < own.length}
                      onChange={(_, next) =>
                        toggle(
                          own.map(({ id }) => id),
                          next,
                        )
                      }
                      sx={{ p: 0.4 }}
                    />
                  }
                  sx={{ ml: 0, borderBottom: `1px solid ${chart('rule')}`, width: '100%', mr: 0 }}
                />
                {own.map(({ id, name }) => (
                  <FormControlLabel
                    key={id}
                    label={name}
                    control={
                      <Checkbox
                        size="small"
                        color="default"
                        checked={chosen.has(id)}
                        onChange={(_, next) => toggle([id], next)}
                        sx={{ p: 0.3 }}
                      />
                    }
                    sx={{ ml: 2, display: 'flex', mr: 0 }}
                  />
                ))}
              </Box>
            );
          })}
        </Box>
        <Box>
          <Tabs
            value={act}
            onChange={(_, next: Act) => setAct(next)}
            aria-label="What to do"
            textColor="inherit"
            sx={{ mb: 1.5, minHeight: 36, '& .MuiTab-root': { textTransform: 'none', minHeight: 36, minWidth: 0, px: 1.4 } }}
          >
            {ACTS.map((own) => (
              <Tab key={own} value={own} label={own} disableRipple />
            ))}
          </Tabs>
          {act === 'a step' && (
            <StepForm docs={picked} onApply={(step) => (setStepOf(chosen, step), done(`“${aboutStep(step.kind).title}” was set`))} />
          )}
          {act === 'a template' && (
            <TemplateForm
              docs={docs}
              count={chosen.size}
              onApply={(from) => (
                editClips((own) => (chosen.has(own.id) && own.id !== from.id ? withStepsGiven(own, from, from.steps) : own)),
                done(`The recipe of “${from.name}” was given`)
              )}
            />
          )}
          {act === 'names' && <NameForm docs={picked} traits={view.traits} onDone={() => done('Renamed')} />}
          {act === 'tags' && (
            <TagForm
              count={chosen.size}
              onApply={(tags) => (editClips((own) => (chosen.has(own.id) ? { ...own, ...tags } : own)), done('Tagged'))}
            />
          )}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button variant="contained" onClick={onClose}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}

const groupOf = (traits: ClipTraits | undefined): string =>
  traits ? [traits.gait, traits.kind ?? 'other'].filter(Boolean).join(' ') : 'not measured';
