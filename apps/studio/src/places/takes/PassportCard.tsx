'use client';
import type { TakeOverrides } from '@lantern/motion';
import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { numeral } from '@/controls/Figure';
import { TypedNumber } from '@/controls/TypedNumber';
import { fetchJson } from '@/data/fetch-json';
import { projectKey, useProjectData, useProjectInfo, type TakeInfo } from '@/data/project';
import { Line, Toggle } from './PassportLine';
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

interface Lines {
  readonly take: TakeInfo;
  /** Overrules something; what is undefined is as found again. */
  readonly set: (change: TakeOverrides) => void;
}

/** What is known of a take, each line with its reason and with what overrules it; the take itself stays as it came. */
export function PassportCard({ take, onOverride }: { take: TakeInfo; onOverride: (overrides: TakeOverrides) => void }) {
  const { passport, overrides } = take;
  const set = (change: TakeOverrides) => onOverride(withoutEmpty({ ...overrides, ...change }));
  const fall = passport.freeFall;
  const isByProportion = passport.reasons.stature?.startsWith('From legs') ?? false;
  const about = isByProportion ? ` ± ${(passport.staturePlusMinusM ?? 0).toFixed(2)}` : '';
  return (
    <Box component="section" aria-label="Passport">
      <ScaleLine take={take} set={set} />
      <Line
        label="Stature"
        value={`${passport.statureM.toFixed(2)}${about} m`}
        note={isByProportion ? 'from legs and shoulders' : undefined}
        reason={passport.reasons.stature ?? 'The top of the head above the lowest point of the feet.'}
      />
      <RateLine take={take} set={set} />
      <AxesLine take={take} set={set} />
      <PlaceLines take={take} set={set} />
      <FloorLine take={take} set={set} />
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
      {passport.warnings.length > 0 && <Warnings warnings={passport.warnings} onTake={set} />}
    </Box>
  );
}

/** A unit in the unit that it is nearest to: `2.54 cm`, `1 m`, `1 mm`. */
function unitInWords(metres: number): string {
  const short = (value: number) => String(Number(value.toPrecision(4)));
  if (metres >= 0.995) return `${short(metres)} m`;
  return metres >= 0.00995 ? `${short(metres * 100)} cm` : `${short(metres * 1000)} mm`;
}

function ScaleLine({ take: { passport, overrides }, set }: Lines) {
  const scale = Number((passport.units.metresPerUnit * 100).toPrecision(7));
  return (
    <Line
      label="Scale"
      value={`1 unit = ${unitInWords(passport.units.metresPerUnit)}`}
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
          <Button key={name} variant="outlined" color="inherit" sx={{ py: 0, minWidth: 0 }} onClick={() => set({ metresPerUnit: metres })}>
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
  );
}

function RateLine({ take, set }: Lines) {
  const { passport, overrides } = take;
  const project = useProjectInfo();
  return (
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
  );
}

function AxesLine({ take: { passport, overrides }, set }: Lines) {
  return (
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
  );
}

/** Where the take starts, and where it faces there. */
function PlaceLines({ take: { passport, overrides }, set }: Lines) {
  return (
    <>
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
    </>
  );
}

/** The floor, and whether the project puts it right by itself. */
function FloorLine({ take: { passport, overrides }, set }: Lines) {
  const client = useQueryClient();
  const { id } = useProjectInfo();
  const { data } = useProjectData();
  const settles = data?.project.settlesFloor ?? true;
  const choose = useMutation({
    mutationFn: (settlesFloor: boolean) => fetchJson(`/api/projects/${id}`, { method: 'PATCH', body: JSON.stringify({ settlesFloor }) }),
    onSettled: () => client.refetchQueries({ queryKey: projectKey(id) }),
  });
  const found = `${numeral(passport.reading.floorM * 100, 1)} cm`;
  return (
    <Line
      label="Floor"
      value={overrides.floorToZero ? '0.0 cm' : found}
      note={overrides.floorToZero ? `put at zero, was ${found}` : 'as found'}
      reason={passport.reasons.floor}
      isSet={Boolean(overrides.floorToZero)}
      onReset={() => set({ floorToZero: undefined })}
    >
      <Toggle
        label="Put the feet at height zero"
        isOn={Boolean(overrides.floorToZero)}
        onChange={(isOn) => set({ floorToZero: isOn || undefined })}
      />
      <Toggle label="So with every take that comes into this project" isOn={settles} onChange={(isOn) => choose.mutate(isOn)} />
    </Line>
  );
}

/** What is odd about the take, each with what mends it at a click. */
function Warnings({ warnings, onTake }: { warnings: TakeInfo['passport']['warnings']; onTake: (overrides: TakeOverrides) => void }) {
  return (
    <Box component="ul" aria-label="Warnings" sx={{ m: 0, mt: 1, pl: 0, listStyle: 'none', display: 'grid', gap: 0.6 }}>
      {warnings.map(({ code, message, line, repair, keep }) => (
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
                  onClick={() => onTake(answer.overrides)}
                >
                  {answer.label}
                </Button>
              ),
          )}
        </Typography>
      ))}
    </Box>
  );
}

/** Overrides without the fields that say nothing. */
const withoutEmpty = (overrides: TakeOverrides): TakeOverrides =>
  Object.fromEntries(Object.entries(overrides).filter(([, value]) => value !== undefined && value !== false));
