'use client';
import { Sign } from '@/controls/Sign';
import CloseIcon from '@mui/icons-material/Close';
import type { SuitSettings } from '@lantern/capture';
import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { useEffect, useState } from 'react';
import { answerAs, fetchAs, fetchJson, RequestError } from '@/data/fetch-json';
import { useProjectInfo } from '@/data/project';
import { chart, DUSK } from '@/controls/theme';
import { StageFrame } from '@/stage/StageFrame';
import { core } from '@/worker/core';
import { clock, DeskStep, Fault, Sensors } from './CaptureParts';
import { KeepRecording } from './KeepRecording';
import { TypedNumber } from '@/controls/TypedNumber';
import { wornSchema, type Worn } from '@/http/suit';
import { useLive } from './use-live';

const SCRIPTS: readonly [SuitSettings['script'], string, number | null][] = [
  ['walk', 'walk along the quay', 1.3],
  ['jog', 'jog along the quay', 2.8],
  ['hush', 'hush-walk, crouched', 0.7],
  ['turn', 'round the post, then on the spot', null],
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

const USUAL: SuitSettings = { stature: 1.78, script: 'walk', seconds: 30, speed: null, jitter: 1, drift: 4, floorCm: 2, dropped: 0 };

/** The capture desk: connect the suit, measure, calibrate, record, name, keep or discard, and again. */
export function CaptureDesk() {
  const project = useProjectInfo();
  const router = useRouter();
  const { enqueueSnackbar } = useSnackbar();
  const [settings, setSettings] = useState<SuitSettings>(USUAL);
  const [suit, setSuit] = useState<Worn | null>(null);
  const [isBusy, setBusy] = useState(false);
  const { status, motion, isLost } = useLive(suit);
  const skeleton = suit?.skeleton;
  const { data: looks } = useQuery({
    queryKey: ['figure', settings.stature, skeleton === undefined],
    enabled: skeleton !== undefined,
    queryFn: () => (skeleton ? core().figure(skeleton) : null),
  });
  const say = (error: unknown) => enqueueSnackbar(error instanceof RequestError ? error.message : 'The suit does not answer.');
  const run = async (work: () => Promise<void>) => {
    setBusy(true);
    try {
      await work();
    } catch (error) {
      say(error);
    } finally {
      setBusy(false);
    }
  };
  const post = (body: object) => fetchJson(`/api/suit/${suit?.id}`, { method: 'POST', body: JSON.stringify(body) });
  const connect = () =>
    run(async () => setSuit(await fetchAs(wornSchema, '/api/suit', { method: 'POST', body: JSON.stringify(settings) })));
  const change = (patch: Partial<SuitSettings>) => {
    const next = { ...settings, ...patch };
    setSettings(next);
    if (suit)
      void run(async () =>
        setSuit({ ...answerAs(wornSchema.omit({ id: true }), await post({ action: 'settings', settings: next })), id: suit.id }),
      );
  };
  const command = (action: 'calibrate' | 'record' | 'stop' | 'discard') => void run(async () => void (await post({ action })));
  const isRecording = status?.phase === 'recording';
  // The performer has done the script: the take is over.
  const isDone = status?.isDone ?? false;
  useEffect(() => {
    if (isDone && suit)
      void fetchJson(`/api/suit/${suit.id}`, { method: 'POST', body: JSON.stringify({ action: 'stop' }) }).catch(() => {});
  }, [isDone, suit]);
  const steady = SCRIPTS.find(([name]) => name === settings.script)?.[2] ?? null;
  return (
    <Box sx={{ height: '100%', display: 'grid', gridTemplateColumns: 'minmax(340px, 30%) minmax(0, 1fr)' }}>
      <Box
        component="section"
        aria-label="Capture desk"
        sx={{ borderRight: `1px solid ${chart('rule')}`, overflow: 'auto', px: 1.8, pb: 2 }}
      >
        <Box sx={{ display: 'flex', alignItems: 'center', pt: 1 }}>
          <Typography variant="h2" component="h1" sx={{ flex: 1 }}>
            Capture desk
          </Typography>
          <Sign name="Close the capture desk" onClick={() => router.push(`/${project.id}/takes`)}>
            <CloseIcon />
          </Sign>
        </Box>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
          A simulated suit with eighteen sensors, sixty frames a second.
        </Typography>
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
        <DeskStep n={2} title="Calibrate" isDone={status?.calibratedSeconds != null} isOff={!suit}>
          <Typography variant="body2" color="text.secondary">
            Stand upright, arms down, and hold still. The countdown leaves five seconds to get there.
          </Typography>
          <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
            <Button
              variant={status && status.calibratedSeconds === null ? 'contained' : 'outlined'}
              color={status && status.calibratedSeconds === null ? 'primary' : 'inherit'}
              disabled={!suit || isRecording || status?.phase === 'countdown' || status?.phase === 'stopped'}
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
        <DeskStep n={3} title="Record" isDone={false} isOff={status?.calibratedSeconds == null}>
          <Box sx={{ display: 'flex', gap: 1 }}>
            <TextField
              select
              label="The performer is to"
              value={settings.script}
              disabled={isRecording}
              onChange={(event) => change({ script: event.target.value as SuitSettings['script'], speed: null })}
              sx={{ flex: 1 }}
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
          </Box>
          {status?.phase === 'stopped' && suit ? (
            <KeepRecording
              key={status.recordedSeconds}
              suit={suit.id}
              script={settings.script}
              seconds={status.recordedSeconds}
              onSay={say}
              onDiscard={() => command('discard')}
            />
          ) : isRecording ? (
            <Button variant="contained" size="large" onClick={() => command('stop')} sx={{ fontWeight: 700 }}>
              Stop
            </Button>
          ) : (
            <Button
              variant="contained"
              size="large"
              disabled={status?.calibratedSeconds == null || status.phase !== 'waiting' || isBusy}
              onClick={() => command('record')}
              sx={{ fontWeight: 700 }}
            >
              Record
            </Button>
          )}
        </DeskStep>
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
        {status && <Sensors status={status} />}
      </Box>
      <Box sx={{ position: 'relative', minHeight: 0 }}>
        <StageFrame
          isLive
          stage={suit && motion && looks ? { motion, mesh: looks.mesh, markers: looks.markers, floor: 0 } : null}
          notice={suit ? undefined : <Typography>Connect the suit to see the performer here.</Typography>}
        />
        {status?.phase === 'countdown' && (
          <Box
            role="timer"
            aria-live="assertive"
            sx={{ position: 'absolute', inset: 0, display: 'grid', placeItems: 'center', pointerEvents: 'none', color: DUSK.warm }}
          >
            <Typography sx={{ fontFamily: 'Alegreya', fontSize: 220, lineHeight: 1, textShadow: '0 0 40px #0E1D21' }}>
              {status.countdown}
            </Typography>
          </Box>
        )}
        {isRecording && (
          <Box
            role="status"
            aria-label="Recording"
            sx={{
              position: 'absolute',
              top: 46,
              left: 16,
              display: 'flex',
              alignItems: 'center',
              gap: 1,
              color: DUSK.text,
              bgcolor: 'rgba(14,29,33,0.8)',
              px: 1.4,
              py: 0.5,
              borderRadius: 1,
            }}
          >
            <Box component="span" aria-hidden sx={{ width: 14, height: 14, bgcolor: '#d0342c', borderRadius: '50%' }} />
            <Typography sx={{ fontSize: 20, fontWeight: 700 }}>{clock(status.recordedSeconds)}</Typography>
          </Box>
        )}
      </Box>
    </Box>
  );
}
