'use client';
import { SHIP_RATES } from '@lantern/motion';
import { Box, Collapse, FormControlLabel, Link as Words, MenuItem, Select, Switch, TextField, Typography } from '@mui/material';
import { useState, type ReactNode } from 'react';
import { TypedNumber } from '@/controls/TypedNumber';
import { chart } from '@/controls/theme';
import { Segments } from './Segments';
import type { ReadyClip } from './use-readiness';
import { sizeOf } from './words';
import type { ShipChoice } from './use-desk';

const RATES = SHIP_RATES.map((rate) => [rate, String(rate)] as const);

/** How it ships: files, body, rate, keys; what goes beside it; and, folded away, what few engines ask for. */
export function ShipOptions({
  choice,
  onChoice,
  clips,
}: {
  choice: ShipChoice;
  onChoice: (choice: ShipChoice) => void;
  clips: readonly ReadyClip[];
}) {
  const [isOpen, setOpen] = useState(false);
  const change = (own: Partial<ShipChoice>) => onChoice({ ...choice, ...own });
  const bytes = (key: 'bytes' | 'denseBytes') => clips.reduce((sum, { row }) => sum + (row.about?.keys[key] ?? 0), 0);
  return (
    <Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '58px minmax(0, 1fr)', rowGap: 0.6, alignItems: 'center' }}>
        <Segments
          label="GLB"
          value={choice.oneFilePerClip ? 'each' : 'one'}
          options={[
            ['one', 'one file'],
            ['each', 'one each'],
          ]}
          onChange={(own) => change({ oneFilePerClip: own === 'each' })}
        />
        <Segments
          label="Body"
          value={choice.body ?? 'with'}
          options={[
            ['with', 'its own'],
            ['plain', 'plain'],
            ['without', 'none'],
          ]}
          onChange={(body) => change({ body })}
        />
        <Segments label="Rate" value={choice.fps} options={RATES} onChange={(fps) => change({ fps })} />
        <Segments
          label="Keys"
          value={choice.thin ? (choice.thin.joining ?? 'smooth') : 'all'}
          options={[
            ['smooth', 'curves'],
            ['straight', 'straight'],
            ['all', 'every frame'],
          ]}
          onChange={(own) => change({ thin: own === 'all' ? undefined : { ...choice.thin, joining: own } })}
        />
      </Box>
      {choice.thin && (
        <Box sx={{ display: 'flex', alignItems: 'baseline', flexWrap: 'wrap', columnGap: 1, pl: '66px', fontSize: 14.5, mt: 0.3 }}>
          within
          <TypedNumber
            name="How far thinned keys may be from the motion"
            value={choice.thin.boundMm ?? 0.5}
            unit="mm"
            least={0.01}
            most={50}
            step={0.1}
            digits={2}
            width={34}
            onChange={(boundMm) => change({ thin: { ...choice.thin, boundMm } })}
          />
          <Typography component="span" color="text.secondary" sx={{ fontSize: 14, ml: 'auto', whiteSpace: 'nowrap' }}>
            {clips.length > 0 && (
              <>
                {sizeOf(bytes('denseBytes'))} → <b>{sizeOf(bytes('bytes'))}</b>
              </>
            )}
          </Typography>
        </Box>
      )}
      <Box
        sx={{
          display: 'flex',
          flexWrap: 'wrap',
          alignItems: 'center',
          columnGap: 1.2,
          mt: 1,
          pt: 0.6,
          borderTop: `1px solid ${chart('rule')}`,
        }}
      >
        <Typography component="span" color="text.secondary" sx={{ fontSize: 15 }}>
          and
        </Typography>
        <Toggle label="BVH" on={choice.bvh ?? false} onChange={(bvh) => change({ bvh })} />
        <Toggle label="CSV of travel" on={choice.csv ?? false} onChange={(csv) => change({ csv })} />
        <Toggle label="manifest" on={choice.manifest ?? true} onChange={(manifest) => change({ manifest })} />
      </Box>
      <Words
        component="button"
        type="button"
        underline="hover"
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
        sx={{ fontFamily: 'inherit', fontSize: 14, color: 'text.secondary', mt: 0.3 }}
      >
        {isOpen ? 'less' : 'for engines that ask for more'}
      </Words>
      <Collapse in={isOpen} unmountOnExit>
        <MoreOptions choice={choice} change={change} clips={clips} />
      </Collapse>
    </Box>
  );
}

const Toggle = ({ label, on, onChange }: { label: ReactNode; on: boolean; onChange: (on: boolean) => void }) => (
  <FormControlLabel
    control={<Switch size="small" color="default" checked={on} onChange={(_, checked) => onChange(checked)} />}
    label={label}
    sx={{ mx: 0, gap: 0.3, '& .MuiFormControlLabel-label': { fontSize: 14.5 } }}
  />
);

function MoreOptions({
  choice,
  change,
  clips,
}: {
  choice: ShipChoice;
  change: (own: Partial<ShipChoice>) => void;
  clips: readonly ReadyClip[];
}) {
  const { differences } = choice;
  const own = clips.filter(({ row }) => row.kind === 'clip');
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '82px minmax(0, 1fr)', rowGap: 0.5, alignItems: 'center', pt: 0.5 }}>
      <Segments
        label="Travel"
        value={choice.rootMotion ?? 'root'}
        options={[
          ['root', 'on the root'],
          ['table', 'in the CSV only'],
        ]}
        onChange={(rootMotion) => change({ rootMotion })}
      />
      <Segments
        label="Last key"
        value={choice.lastKey ?? 'kept'}
        options={[
          ['kept', 'is the first'],
          ['left out', 'left out'],
        ]}
        onChange={(lastKey) => change({ lastKey })}
      />
      <Segments
        label="BVH up"
        value={choice.bvhUp ?? '+y'}
        options={[
          ['+y', 'Y'],
          ['+z', 'Z'],
        ]}
        onChange={(bvhUp) => change({ bvhUp })}
      />
      <Segments
        label="BVH in"
        value={choice.bvhUnit ?? 'cm'}
        options={[
          ['cm', 'centimetres'],
          ['m', 'metres'],
        ]}
        onChange={(bvhUnit) => change({ bvhUnit })}
      />
      <Typography color="text.secondary" sx={{ fontSize: 15 }}>
        Prefix
      </Typography>
      <TextField
        variant="standard"
        value={choice.prefix ?? ''}
        slotProps={{ htmlInput: { 'aria-label': 'Text before every animation’s name', maxLength: 60 } }}
        onChange={({ target }) => change({ prefix: target.value.replace(/[/\\:*?"<>|]/g, '') })}
      />
      <Box sx={{ gridColumn: '1 / -1', display: 'flex', flexDirection: 'column', alignItems: 'flex-start' }}>
        <Toggle label="joints that go where hands and feet go" on={choice.targets ?? false} onChange={(targets) => change({ targets })} />
        <Toggle
          label="speed, turn and next footfall frame by frame"
          on={choice.curves ?? false}
          onChange={(curves) => change({ curves })}
        />
        {choice.thin && (
          <Toggle
            label="rotations in 16 bits, feet excepted"
            on={choice.thin.quantised ?? false}
            onChange={(quantised) => change({ thin: { ...choice.thin, quantised } })}
          />
        )}
        <Toggle
          label="clips as differences from a pose"
          on={differences !== undefined}
          onChange={(on) => change({ differences: on && own[0] ? { clip: own[0].id, frame: 0, of: [own[0].id] } : undefined })}
        />
      </Box>
      {differences && (
        <Box sx={{ gridColumn: '1 / -1', display: 'flex', flexWrap: 'wrap', gap: 0.6, alignItems: 'center', fontSize: 14.5, pl: 2 }}>
          over
          <ClipSelect
            name="Clip of the base pose"
            value={[differences.clip]}
            clips={own}
            onChange={([clip]) => clip && change({ differences: { ...differences, clip } })}
          />
          frame
          <TypedNumber
            name="Frame of the base pose"
            value={differences.frame ?? 0}
            least={0}
            most={1e6}
            digits={0}
            width={34}
            onChange={(frame) => change({ differences: { ...differences, frame } })}
          />
          of
          <ClipSelect
            name="Clips that ship as differences too"
            several
            value={differences.of}
            clips={own}
            onChange={(of) => of.length > 0 && change({ differences: { ...differences, of } })}
          />
        </Box>
      )}
    </Box>
  );
}

function ClipSelect({
  name,
  value,
  several,
  clips,
  onChange,
}: {
  name: string;
  value: readonly string[];
  several?: boolean;
  clips: readonly ReadyClip[];
  onChange: (ids: string[]) => void;
}) {
  return (
    <Select
      variant="standard"
      multiple={several}
      value={several ? [...value] : (value[0] ?? '')}
      inputProps={{ 'aria-label': name }}
      onChange={({ target }) => onChange([target.value].flat() as string[])}
      sx={{ fontSize: 14.5, maxWidth: 150 }}
    >
      {clips.map(({ id, name: own }) => (
        <MenuItem key={id} value={id} dense>
          {own}
        </MenuItem>
      ))}
    </Select>
  );
}
