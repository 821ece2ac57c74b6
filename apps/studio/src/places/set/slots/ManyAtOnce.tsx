'use client';
import { aboutStep, nameByPattern, type ClipTraits, type RecipeStep, type RecipeStepInput, type StepKind } from '@lantern/motion';
import {
  Box,
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  MenuItem,
  Tab,
  Tabs,
  TextField,
  Typography,
} from '@mui/material';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { chart } from '@/controls/theme';
import type { ClipDoc } from '@/data/clips-store';
import { freeName, withStepsGiven } from '@/data/new-clip';
import { useProjectInfo } from '@/data/project';
import type { SetDoc } from '@/data/sets-store';
import { editClips, setStepOf } from '../set-edits';
import type { SetView } from '@/data/set-view';

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

/** The parameters of a step that are a number, a word or a switch. */
const plainParams = (step: RecipeStep): [string, string | number | boolean][] =>
  Object.entries(step).filter(
    (entry): entry is [string, string | number | boolean] =>
      !['id', 'kind', 'off'].includes(entry[0]) && ['string', 'number', 'boolean'].includes(typeof entry[1]),
  );

/** One parameter of a step that the clips have; the others stay as they are in each. */
function StepForm({ docs, onApply }: { docs: readonly ClipDoc[]; onApply: (step: RecipeStepInput) => void }) {
  const steps = docs.flatMap((doc) => doc.steps);
  const kinds = [...new Set(steps.map(({ kind }) => kind))];
  const [kind, setKind] = useState<StepKind | ''>('');
  const [key, setKey] = useState('');
  const [text, setText] = useState('');
  const own = kind !== '' && kinds.includes(kind) ? kind : kinds[0];
  const like = steps.find((step) => step.kind === own);
  const params = like ? plainParams(like) : [];
  const [param, value] = params.find(([name]) => name === key) ?? params[0] ?? ['', ''];
  const has = docs.filter((doc) => doc.steps.some((step) => step.kind === own)).length;
  if (docs.length === 0) return <Typography color="text.secondary">Choose some clips on the left.</Typography>;
  const read = () => (typeof value === 'number' ? Number(text) : typeof value === 'boolean' ? text === 'yes' : text);
  const isBad = text.trim() === '' || (typeof value === 'number' && !Number.isFinite(Number(text)));
  const apply = () => {
    try {
      onApply({ kind: own, [param]: read() } as RecipeStepInput);
    } catch {
      setText('');
    }
  };
  return (
    <Box sx={{ display: 'grid', gap: 1.5, justifyItems: 'start' }}>
      <TextField select label="Step" value={own} onChange={(event) => setKind(event.target.value as StepKind)} sx={{ width: 220 }}>
        {kinds.map((name) => (
          <MenuItem key={name} value={name}>
            {aboutStep(name).title}
          </MenuItem>
        ))}
      </TextField>
      {params.length > 0 ? (
        <>
          <TextField select label="What of it" value={param} onChange={(event) => setKey(event.target.value)} sx={{ width: 220 }}>
            {params.map(([name]) => (
              <MenuItem key={name} value={name}>
                {name}
              </MenuItem>
            ))}
          </TextField>
          {typeof value === 'boolean' ? (
            <TextField
              select
              label="is"
              value={text === '' ? (value ? 'yes' : 'no') : text}
              onChange={(event) => setText(event.target.value)}
              sx={{ width: 220 }}
            >
              <MenuItem value="yes">yes</MenuItem>
              <MenuItem value="no">no</MenuItem>
            </TextField>
          ) : (
            <TextField
              label="is"
              value={text}
              placeholder={String(value)}
              onChange={(event) => setText(event.target.value)}
              sx={{ width: 220 }}
              slotProps={{ inputLabel: { shrink: true } }}
            />
          )}
          <Typography variant="body2" color="text.secondary">
            Only this changes. {has} of {docs.length} have the step; to the others it is added.
          </Typography>
          <Button variant="outlined" color="inherit" disabled={isBad} onClick={apply}>
            Set it on {docs.length} {docs.length === 1 ? 'clip' : 'clips'}
          </Button>
        </>
      ) : (
        <Typography variant="body2" color="text.secondary">
          This step has nothing that can be set on many clips: open one on the Bench.
        </Typography>
      )}
    </Box>
  );
}

/** The recipe of one clip for others, such as those of its gait. */
function TemplateForm({ docs, count, onApply }: { docs: readonly ClipDoc[]; count: number; onApply: (from: ClipDoc) => void }) {
  const [id, setId] = useState(docs[0]?.id ?? '');
  const from = docs.find((doc) => doc.id === id);
  return (
    <Box sx={{ display: 'grid', gap: 1.5, justifyItems: 'start' }}>
      <TextField select label="The recipe of" value={id} onChange={(event) => setId(event.target.value)} sx={{ width: 260 }}>
        {docs.map((doc) => (
          <MenuItem key={doc.id} value={doc.id}>
            {doc.name}
          </MenuItem>
        ))}
      </TextField>
      <Typography variant="body2" color="text.secondary">
        {from?.steps.map(({ kind }) => aboutStep(kind).title).join(', ')}
      </Typography>
      <Button variant="outlined" color="inherit" disabled={!from || count === 0} onClick={() => from && onApply(from)}>
        Give it to {count} {count === 1 ? 'clip' : 'clips'}
      </Button>
    </Box>
  );
}

/** Names after a pattern, of what is measured. */
function NameForm({ docs, traits, onDone }: { docs: readonly ClipDoc[]; traits: SetView['traits']; onDone: () => void }) {
  const project = useProjectInfo();
  const [pattern, setPattern] = useState('{gait}-{direction}-{number}');
  const names = namesBy(pattern, docs, traits, project.character.toLowerCase());
  const apply = () => {
    const byId = new Map(docs.map(({ id }, i) => [id, names[i]]));
    editClips((own) => {
      const name = byId.get(own.id);
      return name === undefined || name === own.name ? own : { ...own, name };
    });
    onDone();
  };
  return (
    <Box sx={{ display: 'grid', gap: 1.5, justifyItems: 'start' }}>
      <TextField
        label="Pattern"
        value={pattern}
        onChange={(event) => setPattern(event.target.value)}
        helperText="{character}, {gait}, {direction}, {number}"
        sx={{ width: 300 }}
      />
      <Box component="ul" aria-label="New names" sx={{ m: 0, p: 0, listStyle: 'none', maxHeight: 180, overflow: 'auto', width: '100%' }}>
        {docs.map(({ id, name }, i) => (
          <Typography component="li" key={id} variant="body2" noWrap>
            {name} → <b>{names[i]}</b>
          </Typography>
        ))}
      </Box>
      <Button variant="outlined" color="inherit" disabled={docs.length === 0} onClick={apply}>
        Rename {docs.length} {docs.length === 1 ? 'clip' : 'clips'}
      </Button>
    </Box>
  );
}

/** A name for each, none twice. */
export function namesBy(
  pattern: string,
  docs: readonly Pick<ClipDoc, 'id' | 'gait' | 'direction'>[],
  traits: SetView['traits'],
  character: string,
): string[] {
  const taken: { name: string }[] = [];
  return docs.map(({ id, gait, direction }, i) => {
    const own = traits.get(id);
    const kind = own?.kind && !['loop', 'idle'].includes(own.kind) ? own.kind : '';
    const words = {
      character,
      gait: gait || [own?.gait ?? (own?.kind === 'idle' ? 'idle' : ''), kind].filter(Boolean).join('-'),
      direction:
        direction ||
        (own?.kind === 'turn'
          ? `${own.turnDeg > 0 ? 'left' : 'right'}-${Math.round(Math.abs(own.turnDeg) / 45) * 45}`
          : own?.kind === 'arc'
            ? own.turnDegS > 0
              ? 'left'
              : 'right'
            : (own?.direction ?? '')),
      number: i + 1,
    };
    const base = nameByPattern(pattern, words);
    const name = taken.some((other) => other.name.toLowerCase() === base.toLowerCase()) ? freeName(base, taken) : base;
    taken.push({ name });
    return name;
  });
}

/** Gait and direction in words. */
function TagForm({ count, onApply }: { count: number; onApply: (tags: { gait?: string; direction?: string }) => void }) {
  const [gait, setGait] = useState('');
  const [direction, setDirection] = useState('');
  return (
    <Box sx={{ display: 'grid', gap: 1.5, justifyItems: 'start' }}>
      <TextField label="Gait" value={gait} onChange={(event) => setGait(event.target.value)} helperText="empty: as it is in each" />
      <TextField
        label="Direction"
        value={direction}
        onChange={(event) => setDirection(event.target.value)}
        helperText="empty: as it is in each"
      />
      <Button
        variant="outlined"
        color="inherit"
        disabled={count === 0 || (gait.trim() === '' && direction.trim() === '')}
        onClick={() => onApply({ ...(gait.trim() && { gait: gait.trim() }), ...(direction.trim() && { direction: direction.trim() }) })}
      >
        Tag {count} {count === 1 ? 'clip' : 'clips'}
      </Button>
    </Box>
  );
}
