'use client';
import type { SuitSettings } from '@lantern/capture';
import { Box, Button, Checkbox, FormControlLabel, MenuItem, TextField, Typography } from '@mui/material';
import { TypedNumber } from '@/controls/TypedNumber';
import type { TakeInfo } from '@/data/project';
import { clock, DeskStep, Fault } from './CaptureParts';
import { KeepRecording } from './KeepRecording';
import type { Suit } from './use-suit';

const SCRIPTS: readonly [SuitSettings['script'], string, number | null][] = [
  ['walk', 'walk along the quay', 1.3],
  ['jog', 'jog along the quay', 2.8],
  ['hush', 'hush-walk, crouched', 0.7],
  ['turn', 'round the post, then on the spot', null],
  ['turns', 'turns on the spot, to either side', null],
  ['start-stop', 'start and stop, twice', null],
  ['hop', 'hop over the mooring rope', null],
  ['kerb', 'up the kerb and down again', null],
  ['stairs', 'four stairs up to the quay', null],
  ['lean', 'waits, hands on the rail', null],
  ['sideways', 'sideways along the wall', 0.5],
  ['backwards', 'backwards along the quay', 0.9],
  ['idle', 'wait', null],
  ['rounds', 'the whole rounds', null],
];

const MOODS = ['tired', 'brisk', 'wary'] as const satisfies readonly SuitSettings['mood'][];

/** Who wears the suit. */
export function PerformerStep({ desk: { suit, settings, status, isLost, isBusy, change, connect } }: { desk: Suit }) {
  return (
    <DeskStep n={1} title="Performer" isDone={suit !== null}>
      <TypedNumber
        name="Stature"
        label="Stature"
        unit="m"
        value={settings.stature}
        least={1}
        most={2.3}
        step={0.01}
        width={130}
        onChange={(stature) => change({ stature })}
      />
      <Typography variant="body2" color="text.secondary">
        leg {(settings.stature * 0.488).toFixed(2)} m, arm {(settings.stature * 0.315).toFixed(2)} m to the wrist
      </Typography>
      <FormControlLabel
        label="gloves: record the fingers too"
        disabled={isBusy || status?.phase === 'recording'}
        control={<Checkbox size="small" checked={settings.gloves} onChange={(_, gloves) => change({ gloves })} />}
        sx={{ my: -0.75 }}
      />
      {suit ? (
        <Typography variant="body2" role="status">
          {isLost ? '▲ The suit is not heard; trying again.' : 'The suit is connected.'}
        </Typography>
      ) : (
        <Button variant="contained" disabled={isBusy} onClick={() => void connect()} sx={{ fontWeight: 700 }}>
          Connect the suit
        </Button>
      )}
    </DeskStep>
  );
}

/** The pose that the suit takes for upright. */
export function CalibrateStep({ desk: { suit, status, command } }: { desk: Suit }) {
  const isOpen = status !== null && status.phase === 'waiting';
  const isFirst = status !== null && status.calibratedSeconds === null;
  return (
    <DeskStep n={2} title="Calibrate" isDone={status?.calibratedSeconds != null} isOff={!suit}>
      <Typography variant="body2" color="text.secondary">
        Stand upright, arms down, and hold still. The countdown leaves five seconds to get there.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
        <Button
          variant={isFirst ? 'contained' : 'outlined'}
          color={isFirst ? 'primary' : 'inherit'}
          disabled={!suit || !isOpen}
          onClick={() => command('calibrate')}
        >
          {status?.calibratedSeconds == null ? 'Calibrate' : 'Calibrate again'}
        </Button>
        {status?.calibratedSeconds != null && (
          <Typography variant="body2">
            {clock(status.calibratedSeconds)} ago, heading off by <b>{status.driftDeg.toFixed(1)}°</b>
          </Typography>
        )}
      </Box>
    </DeskStep>
  );
}

/** What the performer is to do, and the recording of it. */
export function RecordStep({ desk, onKept }: { desk: Suit; onKept: (take: TakeInfo) => void }) {
  const { settings, status, change } = desk;
  const isRecording = status?.phase === 'recording';
  const steady = SCRIPTS.find(([name]) => name === settings.script)?.[2] ?? null;
  return (
    <DeskStep n={3} title="Record" isDone={false} isOff={status?.calibratedSeconds == null}>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
        <TextField
          select
          label="The performer is to"
          value={settings.script}
          disabled={isRecording}
          onChange={(event) => change({ script: event.target.value as SuitSettings['script'], speed: null })}
          sx={{ flex: '1 1 100%' }}
        >
          {SCRIPTS.map(([name, words]) => (
            <MenuItem key={name} value={name}>
              {words}
            </MenuItem>
          ))}
        </TextField>
        {steady !== null && (
          <TypedNumber
            name="at"
            label="at"
            unit="m/s"
            step={0.1}
            width={110}
            value={settings.speed ?? steady}
            least={0.2}
            most={4.5}
            onChange={(speed) => change({ speed })}
          />
        )}
        <TextField
          select
          label="mood"
          value={settings.mood ?? ''}
          disabled={isRecording}
          onChange={(event) => change({ mood: MOODS.find((mood) => mood === event.target.value) ?? null })}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          sx={{ width: 110 }}
        >
          <MenuItem value="">as usual</MenuItem>
          {MOODS.map((mood) => (
            <MenuItem key={mood} value={mood}>
              {mood}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <RecordButtons desk={desk} onKept={onKept} />
    </DeskStep>
  );
}

function RecordButtons({
  desk: { suit, settings, status, isBusy, say, command },
  onKept,
}: {
  desk: Suit;
  onKept: (take: TakeInfo) => void;
}) {
  if (status?.phase === 'stopped' && suit) {
    return (
      <KeepRecording
        key={status.recordedSeconds}
        suit={suit.id}
        script={settings.script}
        seconds={status.recordedSeconds}
        onSay={say}
        onKept={onKept}
        onDiscard={() => command('discard')}
      />
    );
  }
  const isRecording = status?.phase === 'recording';
  const isReady = status?.calibratedSeconds != null && status.phase === 'waiting' && !isBusy;
  return (
    <Button
      variant="contained"
      size="large"
      disabled={!isRecording && !isReady}
      onClick={() => command(isRecording ? 'stop' : 'record')}
      sx={{ fontWeight: 700 }}
    >
      {isRecording ? 'Stop' : 'Record'}
    </Button>
  );
}

/** What the suit gets wrong, to see what cleaning has to do. */
export function Faults({ desk: { settings, status, change } }: { desk: Suit }) {
  const isRecording = status?.phase === 'recording';
  return (
    <Box component="details" sx={{ mt: 1.5 }}>
      <Typography component="summary" variant="body2" sx={{ cursor: 'pointer', fontWeight: 700 }}>
        What the suit gets wrong
      </Typography>
      <Fault
        label="Jitter"
        value={settings.jitter}
        most={5}
        step={0.5}
        unit="×"
        disabled={isRecording}
        onChange={(jitter) => change({ jitter })}
      />
      <Fault
        label="Heading drift"
        value={settings.drift}
        most={30}
        step={1}
        unit="°/min"
        disabled={isRecording}
        onChange={(drift) => change({ drift })}
      />
      <Fault
        label="Floor off by"
        value={settings.floorCm}
        most={10}
        step={0.5}
        unit="cm"
        disabled={isRecording}
        onChange={(floorCm) => change({ floorCm })}
      />
      <Fault
        label="Sensors lost"
        value={settings.dropped}
        most={20}
        step={1}
        unit="/min"
        disabled={isRecording}
        onChange={(dropped) => change({ dropped })}
      />
    </Box>
  );
}
