'use client';
import { Box, Button, ButtonBase, FormControlLabel, MenuItem, Switch, TextField, Typography } from '@mui/material';
import type { TakeOverrides } from '@lantern/motion';
import { useState, type ReactNode } from 'react';
import { useProjectInfo, type TakeInfo } from '@/data/project';
import { numeral } from '@/controls/Figure';
import { chart } from '@/controls/theme';
import { TypedNumber } from '@/controls/TypedNumber';
import { rate } from './rate';

const FREE_FALL = {
  consistent: 'agrees with gravity',
  rate: 'the rate looks wrong',
  scale: 'the scale looks wrong',
  unclear: 'does not settle it',
  'no-flights': 'nobody leaves the ground',
} as const;

const UNITS: readonly [string, number][] = [
  ['mm', 0.001],
  ['cm', 0.01],
  ['inch', 0.0254],
  ['inch / 0.45', 0.0254 / 0.45],
  ['foot', 0.3048],
  ['m', 1],
];

/** What is known of a take, each line with its reason and with what overrules it; the take itself stays as it came. */
export function PassportCard({ take, onOverride }: { take: TakeInfo; onOverride: (overrides: TakeOverrides) => void }) {
  const { passport, overrides } = take;
  const project = useProjectInfo();
  const set = (change: TakeOverrides) => onOverride(withoutEmpty({ ...overrides, ...change }));
  const fall = passport.freeFall;
  const scale = Number((passport.units.metresPerUnit * 100).toPrecision(4));
  return (
    <Box component="section" aria-label="Passport">
      <Line
        label="Scale"
        value={`1 unit = ${scale} cm`}
        note={
          overrides.metresPerUnit
            ? 'set by hand'
            : passport.units.unit === 'custom'
              ? 'by stature'
              : `${passport.units.unit}, ${Math.round(passport.units.confidence * 100)} % sure`
        }
        reason={passport.units.reason}
        isSet={overrides.metresPerUnit !== undefined}
        onReset={() => set({ metresPerUnit: undefined })}
      >
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
          {UNITS.map(([name, metres]) => (
            <Button
              key={name}
              variant="outlined"
              color="inherit"
              sx={{ py: 0, minWidth: 0 }}
              onClick={() => set({ metresPerUnit: metres })}
            >
              {name}
            </Button>
          ))}
        </Box>
        <TypedNumber
          name="A unit is"
          label="A unit is"
          unit="cm"
          value={scale}
          digits={6}
          width={120}
          least={1e-6}
          most={1e6}
          onChange={(cm) => set({ metresPerUnit: cm / 100 })}
        />
        <TypedNumber
          name="The performer is tall"
          label="The performer is tall"
          unit="m"
          value={passport.statureM}
          digits={3}
          step={0.01}
          width={150}
          least={0.3}
          most={4}
          onChange={(metres) => set({ metresPerUnit: (passport.units.metresPerUnit * metres) / passport.statureM })}
        />
      </Line>
      <Line
        label="Stature"
        value={`${passport.statureM.toFixed(2)} m`}
        reason="The top of the head above the lowest point of the feet, in the rest pose if that stands, else in the standing frames."
      />
      <Line
        label="Rate"
        value={`${rate(passport.fps)} frames/s`}
        note={overrides.conform ? `from ${rate(overrides.fps ?? take.fps)}` : overrides.fps ? 'set by hand' : undefined}
        reason={passport.reasons.fps}
        isSet={overrides.fps !== undefined || overrides.conform !== undefined}
        onReset={() => set({ fps: undefined, conform: undefined })}
      >
        <TypedNumber
          name="Recorded at"
          label="Recorded at"
          unit="frames/s"
          value={overrides.fps ?? take.fps}
          digits={3}
          width={150}
          least={1}
          most={1000}
          onChange={(fps) => set({ fps })}
        />
        <Toggle
          label={`Resample to the project's ${rate(project.fps)} frames/s`}
          isOn={overrides.conform !== undefined}
          onChange={(isOn) => set({ conform: isOn ? project.fps : undefined })}
        />
      </Line>
      <Line
        label="Axes"
        value={`${passport.up.replace('+', '').replace('-', '−').toUpperCase()} up`}
        reason={passport.reasons.up}
        isSet={overrides.up !== undefined}
        onReset={() => set({ up: undefined })}
      >
        <TextField
          select
          label="Up in the file"
          value={passport.up}
          onChange={(event) => set({ up: event.target.value as TakeOverrides['up'] })}
          sx={{ minWidth: 120 }}
        >
          {['+y', '+z', '+x', '-y', '-z', '-x'].map((axis) => (
            <MenuItem key={axis} value={axis}>
              {axis.replace('+', '').replace('-', '−').toUpperCase()}
            </MenuItem>
          ))}
        </TextField>
      </Line>
      <Line
        label="Facing"
        value={`${numeral(passport.facingDeg, 0)}°`}
        note={overrides.faceForward ? 'turned ahead' : undefined}
        reason={passport.reasons.facing}
        isSet={Boolean(overrides.faceForward)}
        onReset={() => set({ faceForward: undefined })}
      >
        <Toggle
          label="Turn the take to start facing ahead"
          isOn={Boolean(overrides.faceForward)}
          onChange={(isOn) => set({ faceForward: isOn || undefined })}
        />
      </Line>
      <Line
        label="Start"
        value={overrides.startAtOrigin ? 'at the origin' : passport.reading.origin.map((v) => `${numeral(v, 2)} m`).join(', ')}
        reason={passport.reasons.origin}
        isSet={Boolean(overrides.startAtOrigin)}
        onReset={() => set({ startAtOrigin: undefined })}
      >
        <Toggle
          label="Move the take to start over the origin"
          isOn={Boolean(overrides.startAtOrigin)}
          onChange={(isOn) => set({ startAtOrigin: isOn || undefined })}
        />
      </Line>
      <Line
        label="Floor"
        value={overrides.floorToZero ? '0.0 cm' : `${numeral(passport.reading.floorM * 100, 1)} cm`}
        note={overrides.floorToZero ? `was ${numeral(passport.reading.floorM * 100, 1)} cm` : 'drawn at zero'}
        reason={passport.reasons.floor}
        isSet={Boolean(overrides.floorToZero)}
        onReset={() => set({ floorToZero: undefined })}
      >
        <Toggle
          label="Put the feet at height zero"
          isOn={Boolean(overrides.floorToZero)}
          onChange={(isOn) => set({ floorToZero: isOn || undefined })}
        />
      </Line>
      <Line
        label="Free fall"
        value={fall.medianMps2 === null ? '–' : `${fall.medianMps2.toFixed(1)} ± ${(fall.errorMps2 ?? 0).toFixed(1)} m/s²`}
        note={FREE_FALL[fall.verdict]}
        reason={fall.sentence}
      />
      <Line
        label="Joints"
        value={String(passport.joints)}
        note={passport.missing.length > 0 ? `no ${passport.missing.join(', ')}` : 'nothing missing'}
        reason={`${passport.format === 'asf-amc' ? 'ASF and AMC' : passport.format.toUpperCase()}, from ${take.file}. ${passport.jointNames.slice(0, 60).join(', ')}${passport.joints > 60 ? ' …' : ''}`}
      />
      {passport.warnings.length > 0 && (
        <Box component="ul" aria-label="Warnings" sx={{ m: 0, mt: 1, pl: 0, listStyle: 'none', display: 'grid', gap: 0.6 }}>
          {passport.warnings.map(({ code, message, line, repair, keep }) => (
            <Typography key={`${code}${line ?? ''}`} component="li" variant="body2">
              ▲ {line ? `line ${line}: ` : ''}
              {message}{' '}
              {[keep, repair].map(
                (answer) =>
                  answer && (
                    <Button
                      key={answer.label}
                      variant="outlined"
                      color="inherit"
                      sx={{ py: 0, mr: 0.5, minWidth: 0, verticalAlign: 'baseline' }}
                      onClick={() => set(answer.overrides)}
                    >
                      {answer.label}
                    </Button>
                  ),
              )}
            </Typography>
          ))}
        </Box>
      )}
    </Box>
  );
}

/** A line that opens on its reason and on what overrules it. */
function Line({
  label,
  value,
  note,
  reason,
  isSet = false,
  onReset,
  children,
}: {
  label: string;
  value: string;
  note?: string;
  reason: string;
  isSet?: boolean;
  onReset?: () => void;
  children?: ReactNode;
}) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Box sx={{ borderBottom: `1px solid ${chart('rule')}` }}>
      <ButtonBase
        disableRipple
        aria-expanded={isOpen}
        title={reason}
        onClick={() => setOpen(!isOpen)}
        sx={{
          width: '100%',
          display: 'grid',
          gridTemplateColumns: '66px auto 1fr 12px',
          gap: 1,
          py: '3px',
          textAlign: 'left',
          fontFamily: 'inherit',
          '&:hover': { bgcolor: chart('card') },
        }}
      >
        <Typography variant="body2" color="text.secondary">
          {label}
        </Typography>
        <Typography variant="body2" sx={{ fontWeight: 700, whiteSpace: 'nowrap' }}>
          {value}
        </Typography>
        <Typography variant="body2" color="text.secondary" noWrap sx={{ textAlign: 'right' }}>
          {isSet && <span aria-label="overruled">✎ </span>}
          {note}
        </Typography>
        <Box component="span" aria-hidden sx={{ color: 'text.secondary', fontSize: 10 }}>
          {isOpen ? '▾' : '▸'}
        </Box>
      </ButtonBase>
      {isOpen && (
        <Box sx={{ pb: 1, pl: '74px', display: 'grid', gap: 1.5, justifyItems: 'start' }}>
          <Typography variant="body2" color="text.secondary">
            {reason}
          </Typography>
          {children}
          {isSet && onReset && (
            <Button variant="outlined" color="inherit" sx={{ py: 0 }} onClick={onReset}>
              as found
            </Button>
          )}
        </Box>
      )}
    </Box>
  );
}

function Toggle({ label, isOn, onChange }: { label: string; isOn: boolean; onChange: (isOn: boolean) => void }) {
  return (
    <FormControlLabel
      control={<Switch size="small" checked={isOn} onChange={(_, on) => onChange(on)} />}
      label={<Typography variant="body2">{label}</Typography>}
      sx={{ ml: -0.6 }}
    />
  );
}

/** Overrides without the fields that say nothing. */
const withoutEmpty = (overrides: TakeOverrides): TakeOverrides =>
  Object.fromEntries(Object.entries(overrides).filter(([, value]) => value !== undefined && value !== false));
