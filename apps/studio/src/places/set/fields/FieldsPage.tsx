'use client';
import { fieldSchema, type Sounding } from '@lantern/motion';
import { Box, Button, Checkbox, CircularProgress, FormControlLabel, Menu, MenuItem, Popover, Tab, Tabs, Typography } from '@mui/material';
import AddIcon from '@mui/icons-material/Add';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useEffect, useMemo, useRef, useState } from 'react';
import { EmptyPlace } from '@/controls/EmptyPlace';
import { Choose } from '@/controls/fields';
import { Sign } from '@/controls/Sign';
import { Small } from '@/controls/Small';
import { Split } from '@/controls/Split';
import { chart } from '@/controls/theme';
import { TypedText } from '@/controls/TypedText';
import { Commands } from '@/shell/Commands';
import type { FieldDoc, SetDoc } from '@/data/sets-store';
import { core } from '@/worker/core';
import { addShots } from '@/data/shot-edits';
import { editSet } from '@/data/sets-store';
import type { SetView } from '@/data/set-view';
import { AskedAndComes } from './AskedAndComes';
import { clipFor, DEPTH_WORDS, DEPTHS, shallowsOf, worstOf, type Depth } from './depths';
import { FieldStage } from './FieldStage';
import { PhaseStrips } from './PhaseStrips';
import { DepthKey } from './sea/DepthKey';
import { SeaChart } from './sea/SeaChart';
import { words } from './sea/words';
import { useGamepad } from './use-gamepad';
import { placeAt, useField, type OpenField } from './use-field';
import { useLiveField } from './use-live-field';

/** Places of the puck that its wake remembers. */
const WAKE = 40;

/** Fields: clips that are blended by inputs, seen as a sea chart. */
export function FieldsPage({ doc, view }: { doc: SetDoc; view: SetView }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const field = doc.fields.find(({ id }) => id === chosen) ?? doc.fields[0] ?? null;
  const add = () => {
    const made = newField(doc, view);
    setChosen(made.id);
  };
  if (!field)
    return (
      <EmptyPlace
        title="No field yet"
        says="A field blends loops by speed and turn, so that one stick plays them all. It begins with the walks and jogs that are there."
      >
        <Button variant="contained" size="large" onClick={add}>
          Make a field
        </Button>
      </EmptyPlace>
    );
  return <Field key={field.id} doc={doc} field={field} view={view} onChoose={setChosen} onAdd={add} />;
}

/** A field of the loops and arcs with steps that the set has. */
function newField(doc: SetDoc, { traits }: SetView): FieldDoc {
  const clips = [...traits]
    .filter(([, own]) => (own.kind === 'loop' || own.kind === 'arc') && own.direction?.startsWith('forward'))
    .map(([id]) => id);
  const isTaken = (name: string) => doc.fields.some((own) => own.name === name);
  let name = 'field';
  for (let n = 2; isTaken(name); n++) name = `field ${n}`;
  const made = { id: crypto.randomUUID(), ...fieldSchema.parse({ name, clips }) };
  editSet(doc, { fields: [...doc.fields, made] });
  return made;
}

interface Props {
  readonly doc: SetDoc;
  readonly field: FieldDoc;
  readonly view: SetView;
  readonly onChoose: (id: string) => void;
  readonly onAdd: () => void;
}

function Field({ doc, field, view, onChoose, onAdd }: Props) {
  const open = useField(field, view.members);
  const middle = useMemo(() => middleOf(open), [open]);
  const [moved, setMoved] = useState<readonly number[] | null>(null);
  const at = moved ?? middle;
  const [wake, setWake] = useState<readonly (readonly [number, number])[]>([]);
  const [depth, setDepth] = useState<Depth>('slide');
  const place = placeAt(field, at);
  const live = useLiveField(open.view, place);
  const move = (next: readonly number[]) => {
    setWake((known) => [...known, placeAt(field, moved ?? middle)].slice(-WAKE));
    setMoved(next);
  };
  const latest = useRef({ at, move });
  useEffect(() => {
    latest.current = { at, move };
  });
  useGamepad((x, y) => {
    const { at: now, move: to } = latest.current;
    const [speed, second = 0] = now;
    to(
      field.inputs[1] === 'turn'
        ? [Math.max(0.1, speed - y * 0.03), second - x * 1.6]
        : field.inputs.length > 1
          ? [Math.max(0.1, speed - y * 0.03), second - x * 2]
          : [Math.max(0.1, speed - y * 0.03)],
    );
  });
  const sounding = useSoundingAt(field, open, at);
  const put = (change: Partial<FieldDoc>) =>
    editSet(doc, { fields: doc.fields.map((own) => (own.id === field.id ? { ...own, ...change } : own)) });
  const left = (
    <Box sx={{ height: '100%', display: 'grid', gridTemplateColumns: 'minmax(0, 1fr)', gridTemplateRows: 'auto auto minmax(0, 1fr) auto' }}>
      <FieldHead doc={doc} field={field} onChoose={onChoose} onAdd={onAdd} put={put} view={view} open={open} />
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, px: 2, pt: 0.4 }}>
        <Typography variant="h2" noWrap>
          by {[...field.inputs].reverse().join(' and ')}
        </Typography>
        <Box sx={{ display: 'flex', flex: 1, alignItems: 'center', gap: 0.5, minWidth: 0 }}>
          <Choose
            label="depths"
            value={depth}
            options={
              Object.fromEntries(DEPTHS.map((own) => [own, `${DEPTH_WORDS[own].title}, ${DEPTH_WORDS[own].unit}`])) as Record<Depth, string>
            }
            onChange={setDepth}
          />
        </Box>
        <DepthKey depth={depth} />
      </Box>
      <Box sx={{ minHeight: 0, position: 'relative', px: 0.5 }}>
        {open.view ? (
          <SeaChart
            field={field}
            view={open.view}
            open={open}
            depth={depth}
            at={at}
            weights={live?.weights ?? {}}
            wake={wake}
            onMove={move}
          />
        ) : (
          <Notice open={open} count={field.clips.length} />
        )}
      </Box>
      <Shallows doc={doc} field={field} open={open} />
    </Box>
  );
  return (
    <>
      <Commands
        place="set"
        commands={[
          { id: 'new-field', label: 'Make another field', run: onAdd },
          {
            id: 'hold-feet',
            label: `${field.holdFeet ? 'Let go of' : 'Hold'} the feet of the field`,
            run: () => put({ holdFeet: !field.holdFeet }),
          },
        ]}
      />
      <Split
        id="set-fields"
        parts={[
          { id: 'chart', name: 'The chart', size: '50%', least: '35%', content: left },
          {
            id: 'play',
            name: 'The field as it plays',
            size: '50%',
            least: '30%',
            content: (
              <Split
                id="set-field-play"
                vertical
                parts={[
                  {
                    id: 'stage',
                    name: 'The stage',
                    size: '52%',
                    least: '25%',
                    content: <FieldStage live={live} character={doc.character} words={words(field, at)} />,
                  },
                  {
                    id: 'figures',
                    name: 'The figures',
                    size: '48%',
                    least: '20%',
                    content: (
                      <Box sx={{ height: '100%', overflow: 'auto' }}>
                        {open.view && live && <PhaseStrips view={open.view} weights={live.weights} phase={live.phase} />}
                        <AskedAndComes field={field} at={at} sounding={sounding} onMove={move} put={put} />
                      </Box>
                    ),
                  },
                ]}
              />
            ),
          },
        ]}
      />
    </>
  );
}

/** Where the puck is to begin with: in the middle of the clips. */
function middleOf({ view }: OpenField): readonly number[] {
  if (!view || view.points.length === 0) return [1, 0];
  return view.points[0].at.map((_, k) => view.points.reduce((sum, { at }) => sum + at[k], 0) / view.points.length);
}

/** The field at the puck, measured; the last one stays until the next is there. */
function useSoundingAt(field: FieldDoc, { asked, view }: OpenField, at: readonly number[]): Sounding | null {
  const rounded = at.map((value) => Number(value.toFixed(2)));
  const { data } = useQuery({
    queryKey: ['set-sounding', JSON.stringify([fieldSchema.parse({ ...field, name: 'x' }), asked, rounded])],
    enabled: view !== null,
    staleTime: Infinity,
    gcTime: 60_000,
    placeholderData: keepPreviousData,
    queryFn: async () => {
      const found = await core().setSoundings({ ...fieldSchema.parse(field), name: '' }, asked, [rounded]);
      return 'problem' in found ? null : (found[0] ?? null);
    },
  });
  return data ?? null;
}

function Notice({ open, count }: { open: OpenField; count: number }) {
  return (
    <Box sx={{ height: '100%', display: 'grid', placeItems: 'center', p: 4, textAlign: 'center' }}>
      {open.error ? (
        <Typography role="alert">▲ {open.error}</Typography>
      ) : open.isPending ? (
        <CircularProgress aria-label="Opening the field" />
      ) : (
        <Typography color="text.secondary">
          {count === 0
            ? 'Choose the loops that this field blends.'
            : 'None of its clips has steps that could be brought into step: choose others.'}
        </Typography>
      )}
    </Box>
  );
}

function FieldHead({
  doc,
  field,
  view,
  open,
  onChoose,
  onAdd,
  put,
}: Props & { put: (change: Partial<FieldDoc>) => void; open: OpenField }) {
  const [clips, setClips] = useState<HTMLElement | null>(null);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const { traits, members } = view;
  const loops = members.filter(({ doc: { id } }) => traits.get(id)?.figures.loop && traits.get(id)?.kind !== 'idle');
  const why = new Map(open.view?.left.map(({ id, why: text }) => [id, text]));
  const found = [...open.soundings.values()];
  const half = found.length > 0 ? [...found].map(({ slideMm }) => slideMm).sort((a, b) => a - b)[found.length >> 1] : null;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, px: 2, borderBottom: `1px solid ${chart('rule')}`, minWidth: 0 }}>
      <Tabs
        value={field.id}
        onChange={(_, id: string) => onChoose(id)}
        aria-label="Fields"
        textColor="inherit"
        variant="scrollable"
        scrollButtons={false}
        sx={{ minHeight: 36, minWidth: 0, '& .MuiTab-root': { minHeight: 36, textTransform: 'none', px: 1.2, minWidth: 0 } }}
      >
        {doc.fields.map(({ id, name }) => (
          <Tab key={id} value={id} label={name} disableRipple />
        ))}
      </Tabs>
      <Sign name="Make another field" onClick={onAdd}>
        <AddIcon />
      </Sign>
      <Box sx={{ flex: 1 }} />
      <Typography variant="body2" color="text.secondary" noWrap role="status">
        {open.isDone && half !== null
          ? `half of it under ${half.toFixed(1)} mm`
          : open.grid.length > 0
            ? `${open.soundings.size} of ${open.grid.length} soundings`
            : ''}
      </Typography>
      <Small name={`Clips of ${field.name}`} onClick={(event) => setClips(event.currentTarget)}>
        {field.clips.length} clips
      </Small>
      <Small name={`More about ${field.name}`} onClick={(event) => setMenu(event.currentTarget)}>
        more
      </Small>
      <Popover
        open={clips !== null}
        anchorEl={clips}
        onClose={() => setClips(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
      >
        <Box sx={{ p: 1.5, display: 'grid', maxHeight: 360, overflow: 'auto' }} role="group" aria-label="Clips of the field">
          {loops.map(({ doc: { id, name } }) => (
            <FormControlLabel
              key={id}
              label={
                <span>
                  {name}
                  {why.has(id) && (
                    <Typography component="span" variant="caption" sx={{ ml: 1 }}>
                      ▲ {why.get(id)}
                    </Typography>
                  )}
                </span>
              }
              control={
                <Checkbox
                  size="small"
                  color="default"
                  checked={field.clips.includes(id)}
                  onChange={(_, on) => put({ clips: on ? [...field.clips, id] : field.clips.filter((own) => own !== id) })}
                  sx={{ p: 0.4 }}
                />
              }
            />
          ))}
        </Box>
      </Popover>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
        <Box sx={{ px: 2, py: 0.5, width: 220 }}>
          <TypedText
            key={field.name}
            label="Name"
            value={field.name}
            read={(text) => text.trim() || null}
            onChange={(name) => put({ name })}
          />
        </Box>
        {([['speed'], ['speed', 'turn'], ['speed', 'direction']] as const).map((inputs) => (
          <MenuItem
            key={inputs.join()}
            dense
            selected={inputs.join() === field.inputs.join()}
            onClick={() => {
              setMenu(null);
              put({ inputs: [...inputs] as FieldDoc['inputs'] });
            }}
          >
            by {inputs.join(' and ')}
          </MenuItem>
        ))}
        <MenuItem
          dense
          onClick={() => {
            setMenu(null);
            editSet(doc, { fields: doc.fields.filter(({ id }) => id !== field.id) });
          }}
        >
          Remove “{field.name}”
        </MenuItem>
      </Menu>
    </Box>
  );
}

/** Where the field is out of bounds, and which clip would help. */
function Shallows({ doc, field, open: { grid, soundings, isDone } }: { doc: SetDoc; field: FieldDoc; open: OpenField }) {
  const { enqueueSnackbar } = useSnackbar();
  const shallows = shallowsOf(grid, soundings);
  const lines = shallows.map(({ sounding }) => ({ text: shotFor(sounding, field), sounding }));
  const capture = (texts: readonly string[]) => {
    const added = addShots(doc, texts);
    enqueueSnackbar(
      added === 0 ? 'It is on the shot list already.' : `${added} ${added === 1 ? 'line is' : 'lines are'} on the shot list.`,
    );
  };
  return (
    <Box
      component="section"
      aria-label="Shallows"
      sx={{ borderTop: `1px solid ${chart('rule')}`, px: 2, py: 0.6, maxHeight: 150, overflow: 'auto' }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {shallows.length === 0
            ? isDone
              ? 'No shallows: all of it is in bounds'
              : 'Sounding'
            : `${shallows.length} ${shallows.length === 1 ? 'shallow' : 'shallows'}, out of bounds`}
        </Typography>
        {shallows.length > 0 && (
          <Button variant="contained" onClick={() => capture(lines.map(({ text }) => text))} sx={{ fontWeight: 700 }}>
            Put {shallows.length === 1 ? 'it' : shallows.length === 2 ? 'both' : `all ${shallows.length}`} on the shot list
          </Button>
        )}
      </Box>
      {lines.map(({ text, sounding }) => {
        const worst = worstOf(sounding);
        return (
          <Box key={text} sx={{ display: 'flex', alignItems: 'center', gap: 1.5, borderTop: `1px solid ${chart('rule')}` }}>
            <Typography variant="body2" sx={{ width: 170 }}>
              ▲ {words(field, sounding.at)}
            </Typography>
            <Typography variant="body2" sx={{ width: 110, fontWeight: 700 }}>
              {worst} {DEPTH_WORDS[worst].of(sounding).toFixed(1)} {DEPTH_WORDS[worst].unit}
            </Typography>
            <Typography variant="body2" noWrap sx={{ flex: 1, minWidth: 0 }}>
              put {clipFor(sounding.at, field.inputs)} here
            </Typography>
            <Small name={`Capture ${clipFor(sounding.at, field.inputs)}`} onClick={() => capture([text])}>
              to the shot list
            </Small>
          </Box>
        );
      })}
    </Box>
  );
}

const shotFor = ({ at }: Sounding, { inputs, name }: FieldDoc): string => `For ${name}: ${clipFor(at, inputs)}, four good strides.`;
