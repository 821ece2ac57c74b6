import { fieldSchema, type Sounding } from '@lantern/motion';
import { Box, CircularProgress, Typography } from '@mui/material';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Choose } from '@/controls/fields';
import { Split } from '@/controls/Split';
import { Commands } from '@/shell/Commands';
import { editSet, type FieldDoc } from '@/data/sets-store';
import { core } from '@/worker/core';
import { AskedAndComes } from './AskedAndComes';
import { DEPTH_WORDS, DEPTHS, type Depth } from './depths';
import { FieldHead, type FieldOfSet } from './FieldHead';
import { FieldStage } from './FieldStage';
import { PhaseStrips } from './PhaseStrips';
import { DepthKey } from './sea/DepthKey';
import { SeaChart } from './sea/SeaChart';
import { words } from './sea/words';
import { Shallows } from './Shallows';
import { useGamepad } from './use-gamepad';
import { placeAt, useField, type OpenField } from './use-field';
import { useLiveField } from './use-live-field';

/** Places of the puck that its wake remembers. */
const WAKE = 40;

/** One field: its chart, and how it plays where the puck is. */
export function OpenFieldPage({ doc, field, view, onChoose, onAdd }: FieldOfSet) {
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
