'use client';
import { Box, Checkbox, FormControlLabel, MenuItem, Popover, TextField, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { columnOf, useJointWays } from '@/data/joint-ways';
import type { TakeInfo } from '@/data/project';
import { Small } from '@/controls/Small';
import type { TraceLine } from '@/timeline/TraceRow';
import type { OpenTake } from '@/worker/core.worker';

/** `speed`, `heading`, `height`, or a joint and what of it: `LeftFoot y`. */
type TraceId = string;

const OWN: readonly [TraceId, string][] = [
  ['speed', 'speed'],
  ['heading', 'heading'],
  ['height', 'hip height'],
];
const OF_JOINT = [
  ['y', 'height, cm'],
  ['x', 'place across, cm'],
  ['z', 'place along, cm'],
  ['turn', 'turned from rest, °'],
] as const;
type OfJoint = (typeof OF_JOINT)[number][0];
const MOST = 5;

const useChosenTraces = create<{ readonly ids: readonly TraceId[] }>()(
  persist((): { ids: readonly TraceId[] } => ({ ids: ['speed', 'height'] }), { name: 'old-lantern.traces' }),
);

/** The chosen traces of a take, and the distance to what it is compared with. */
export function useTraces(info: TakeInfo | null, take: OpenTake | undefined, distance: Float32Array | null): TraceLine[] {
  const ids = useChosenTraces((state) => state.ids);
  const ofJoints = useMemo(() => ids.filter((id) => !OWN.some(([own]) => own === id)), [ids]);
  const ways = useJointWays(
    info,
    take,
    useMemo(() => ofJoints.map((id) => split(id)[0]), [ofJoints]),
  );
  const floor = take?.floor ?? 0;
  const columns = useMemo(
    () =>
      ways.map((way, i) => {
        const column = ['x', 'y', 'z', 'turn'].indexOf(split(ofJoints[i])[1]);
        return way && (column === 3 ? columnOf(way, 3) : columnOf(way, column, 100, column === 1 ? floor : 0));
      }),
    [ways, ofJoints, floor],
  );
  const radians = ids.includes('heading') ? take?.heading : undefined;
  const degrees = useMemo(() => radians?.map((v) => (v * 180) / Math.PI), [radians]);
  if (!take) return [];
  const lines = ids.flatMap((id): TraceLine[] => {
    if (id === 'speed') return [{ id, label: 'speed', unit: 'm/s', digits: 2, values: take.speed }];
    if (id === 'heading') return degrees ? [{ id, label: 'heading', unit: '°', digits: 1, values: degrees }] : [];
    if (id === 'height') return [{ id, label: 'hip height', unit: 'm', digits: 3, values: take.hipHeight }];
    const values = columns[ofJoints.indexOf(id)];
    const [joint, what] = split(id);
    return values ? [{ id, label: `${joint} ${what === 'turn' ? '↻' : what}`, unit: what === 'turn' ? '°' : 'cm', digits: 1, values }] : [];
  });
  if (distance) lines.push({ id: 'distance', label: 'distance', unit: 'cm', digits: 1, values: distance });
  return lines;
}

function split(id: TraceId): [string, OfJoint] {
  const at = id.lastIndexOf(' ');
  const what = OF_JOINT.find(([name]) => name === id.slice(at + 1))?.[0] ?? 'y';
  return [id.slice(0, at), what];
}

/** Which traces the deck draws. */
export function TraceMenu({ take }: { take: OpenTake }) {
  const ids = useChosenTraces((state) => state.ids);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [joint, setJoint] = useState('');
  const [what, setWhat] = useState<OfJoint>('y');
  const names = take.motion.skeleton.joints.map(({ name }) => name);
  const set = (next: readonly TraceId[]) => useChosenTraces.setState({ ids: next.slice(0, MOST) });
  const toggle = (id: TraceId) => set(ids.includes(id) ? ids.filter((other) => other !== id) : [...ids, id]);
  const row = (id: TraceId, label: string) => (
    <FormControlLabel
      key={id}
      sx={{ display: 'flex', ml: 0 }}
      disabled={!ids.includes(id) && ids.length >= MOST}
      control={<Checkbox size="small" sx={{ p: 0.3, mr: 0.5 }} checked={ids.includes(id)} onChange={() => toggle(id)} />}
      label={<Typography variant="body2">{label}</Typography>}
    />
  );
  return (
    <>
      <Small onClick={(event) => setAnchor(event.currentTarget)}>traces ▾</Small>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'top', horizontal: 'left' }}
        transformOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{ paper: { sx: { p: 1.5, width: 270 }, role: 'dialog', 'aria-label': 'Traces' } }}
      >
        {OWN.map(([id, label]) => row(id, label))}
        {ids.filter((id) => !OWN.some(([own]) => own === id)).map((id) => row(id, id.replace(/ turn$/, ', turned')))}
        <Box sx={{ display: 'grid', gap: 1, mt: 1.2 }}>
          <TextField select label="Joint" value={names.includes(joint) ? joint : ''} onChange={(event) => setJoint(event.target.value)}>
            {names.map((name) => (
              <MenuItem key={name} value={name}>
                {name}
              </MenuItem>
            ))}
          </TextField>
          <TextField select label="What of it" value={what} onChange={(event) => setWhat(event.target.value as OfJoint)}>
            {OF_JOINT.map(([id, label]) => (
              <MenuItem key={id} value={id}>
                {label}
              </MenuItem>
            ))}
          </TextField>
          <Box>
            <Small onClick={() => joint && !ids.includes(`${joint} ${what}`) && set([...ids, `${joint} ${what}`])}>draw it</Small>
            {ids.length >= MOST && (
              <Typography variant="caption" color="text.secondary">
                {MOST} at a time
              </Typography>
            )}
          </Box>
        </Box>
      </Popover>
    </>
  );
}
