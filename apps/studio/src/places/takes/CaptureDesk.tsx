'use client';
import { Box, Button, IconButton, MenuItem, Slider, TextField, Typography } from '@mui/material';
import type { Skeleton } from '@lantern/motion';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { useEffect, useMemo, useState } from 'react';
import { fetchJson, RequestError } from '@/data/fetch-json';
import { usePlayer } from '@/data/player';
import { projectKey, useProjectData, useProjectInfo, type ProjectData, type TakeInfo } from '@/data/project';
import type { SuitSettings, SuitStatus } from '@lantern/capture';
import { chart, DUSK } from '@/shell/theme';
import { StageFrame } from '@/stage/StageFrame';
import { core } from '@/worker/core';
import type { WireMotion } from '@/worker/wire';
import { NumberField } from './NumberField';

const SCRIPTS: readonly [SuitSettings['script'], string, number | null][] = [
  ['walk', 'walk along the quay', 1.3],
  ['jog', 'jog along the quay', 2.8],
  ['hush', 'hush-walk, crouched', 0.7],
  ['turn', 'round the post, then on the spot', null],
  ['start-stop', 'start and stop, twice', null],
  ['hop', 'hop over the mooring rope', null],
  ['kerb', 'up the kerb and down again', null],
  ['sideways', 'sideways along the wall', 0.5],
  ['backwards', 'backwards along the quay', 0.9],
  ['idle', 'wait', null],
  ['rounds', 'the whole rounds', null],
];

const USUAL: SuitSettings = { stature: 1.78, script: 'walk', seconds: 30, speed: null, jitter: 1, drift: 4, floorCm: 2, dropped: 0 };

interface Worn {
  readonly id: string;
  readonly skeleton: Skeleton;
}

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
  const post = <T,>(body: object) => fetchJson<T>(`/api/suit/${suit?.id}`, { method: 'POST', body: JSON.stringify(body) });
  const connect = () => run(async () => setSuit(await fetchJson<Worn>('/api/suit', { method: 'POST', body: JSON.stringify(settings) })));
  const change = (patch: Partial<SuitSettings>) => {
    const next = { ...settings, ...patch };
    setSettings(next);
    if (suit) void run(async () => setSuit({ ...(await post<Omit<Worn, 'id'>>({ action: 'settings', settings: next })), id: suit.id }));
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
          <IconButton aria-label="Close the capture desk" onClick={() => router.push(`/${project.id}/takes`)}>
            ×
          </IconButton>
        </Box>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
          A simulated suit with eighteen sensors, sixty frames a second.
        </Typography>
        <Stage n={1} title="Performer" isDone={suit !== null}>
          <NumberField
            label="Stature"
            unit="m"
            value={settings.stature}
            least={1}
            most={2.3}
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
        </Stage>
        <Stage n={2} title="Calibrate" isDone={status?.calibratedSeconds != null} isOff={!suit}>
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
        </Stage>
        <Stage n={3} title="Record" isDone={false} isOff={status?.calibratedSeconds == null}>
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
              <NumberField
                label="at"
                unit="m/s"
                width={110}
                value={settings.speed ?? steady}
                least={0.2}
                most={4.5}
                onChange={(speed) => change({ speed })}
              />
            )}
          </Box>
          {status?.phase === 'stopped' && suit ? (
            <Keep
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
        </Stage>
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

const clock = (seconds: number) =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}.${Math.floor((seconds * 10) % 10)}`;

function Stage({
  n,
  title,
  isDone,
  isOff = false,
  children,
}: {
  n: number;
  title: string;
  isDone: boolean;
  isOff?: boolean;
  children: React.ReactNode;
}) {
  return (
    <Box component="section" aria-label={title} sx={{ borderTop: `1px solid ${chart('rule')}`, py: 1.2, opacity: isOff ? 0.55 : 1 }}>
      <Typography variant="h3" sx={{ mb: 0.8, fontWeight: 700 }}>
        <Box component="span" sx={{ color: 'text.secondary', mr: 1, fontWeight: 400 }}>
          {isDone ? '✓' : n}
        </Box>
        {title}
      </Typography>
      <Box sx={{ display: 'grid', gap: 1.1, justifyItems: 'start', '& > *': { maxWidth: '100%' } }}>{children}</Box>
    </Box>
  );
}

function Fault({
  label,
  value,
  most,
  step,
  unit,
  disabled,
  onChange,
}: {
  label: string;
  value: number;
  most: number;
  step: number;
  unit: string;
  disabled: boolean;
  onChange: (value: number) => void;
}) {
  const [held, setHeld] = useState<number | null>(null);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '110px 1fr 70px', alignItems: 'center', gap: 1.5 }}>
      <Typography variant="body2">{label}</Typography>
      <Slider
        size="small"
        aria-label={label}
        value={held ?? value}
        min={0}
        max={most}
        step={step}
        disabled={disabled}
        onChange={(_, v) => setHeld(v as number)}
        onChangeCommitted={(_, v) => {
          setHeld(null);
          onChange(v as number);
        }}
        sx={{ color: 'text.primary' }}
      />
      <Typography variant="body2" sx={{ textAlign: 'right' }}>
        {held ?? value} {unit}
      </Typography>
    </Box>
  );
}

function Sensors({ status }: { status: SuitStatus }) {
  const lost = status.sensors.filter(({ isHeard }) => !isHeard);
  return (
    <Box sx={{ mt: 1.5 }}>
      <Typography variant="body2" sx={{ fontWeight: 700 }} role="status">
        {lost.length === 0 ? `All ${status.sensors.length} sensors are heard` : `▲ ${lost.map(({ name }) => name).join(', ')} not heard`}
      </Typography>
      <Box
        component="ul"
        aria-label="Sensors"
        sx={{ m: 0, mt: 0.5, p: 0, listStyle: 'none', display: 'grid', gridTemplateColumns: 'repeat(3, 1fr)', columnGap: 1 }}
      >
        {status.sensors.map(({ name, isHeard }) => (
          <Typography key={name} component="li" variant="caption" noWrap sx={{ fontWeight: isHeard ? 400 : 700 }}>
            <span aria-hidden>{isHeard ? '● ' : '▲ '}</span>
            {name}
            {!isHeard && ' lost'}
          </Typography>
        ))}
      </Box>
    </Box>
  );
}

/** After a recording: a name, and whether it is kept. */
function Keep({
  suit,
  script,
  seconds,
  onSay,
  onDiscard,
}: {
  suit: string;
  script: string;
  seconds: number;
  onSay: (error: unknown) => void;
  onDiscard: () => void;
}) {
  const project = useProjectInfo();
  const client = useQueryClient();
  const { data } = useProjectData();
  const { enqueueSnackbar } = useSnackbar();
  const [name, setName] = useState(() => nextName(`wick-${script}`, data?.takes ?? []));
  const [isBusy, setBusy] = useState(false);
  const keep = async () => {
    setBusy(true);
    try {
      const take = await fetchJson<TakeInfo>(`/api/suit/${suit}`, {
        method: 'POST',
        body: JSON.stringify({ action: 'keep', project: project.id, name }),
      });
      client.setQueryData<ProjectData>(projectKey(project.id), (old) => old && { ...old, takes: [...old.takes, take] });
      enqueueSnackbar(`“${take.name}” is in the library.`);
    } catch (error) {
      onSay(error);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Box sx={{ display: 'grid', gap: 1, width: '100%' }}>
      <Typography variant="body2">
        Recorded <b>{seconds.toFixed(1)} s</b>. Keep it?
      </Typography>
      <TextField
        label="Name"
        value={name}
        autoFocus
        onChange={(event) => setName(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && void keep()}
      />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button variant="contained" disabled={isBusy || name.trim() === ''} onClick={() => void keep()} sx={{ fontWeight: 700 }}>
          Keep
        </Button>
        <Button variant="outlined" color="inherit" disabled={isBusy} onClick={onDiscard}>
          Discard
        </Button>
      </Box>
    </Box>
  );
}

function nextName(stem: string, takes: readonly TakeInfo[]): string {
  for (let n = 1; ; n++) {
    const name = `${stem}-${String(n).padStart(2, '0')}`;
    if (!takes.some((take) => take.name === name)) return name;
  }
}

/** The suit's events: one frame of motion that is written over thirty times a second, and the state. */
function useLive(suit: Worn | null): { status: SuitStatus | null; motion: WireMotion | null; isLost: boolean } {
  const [status, setStatus] = useState<SuitStatus | null>(null);
  const [isLost, setLost] = useState(false);
  const skeleton = suit?.skeleton;
  const motion = useMemo<WireMotion | null>(
    () =>
      skeleton
        ? {
            skeleton,
            fps: 60,
            frames: 1,
            rotations: new Float32Array(skeleton.joints.length * 4).map((_, i) => (i % 4 === 3 ? 1 : 0)),
            rootPositions: new Float32Array(skeleton.joints[0].offset),
          }
        : null,
    [skeleton],
  );
  const id = suit?.id;
  useEffect(() => {
    if (!id || !motion) return;
    usePlayer.getState().load(1, 60, 0);
    const source = new EventSource(`/api/suit/${id}/stream`);
    source.addEventListener('pose', (event: MessageEvent<string>) => {
      const bytes = Uint8Array.from(atob(event.data), (c) => c.charCodeAt(0));
      const row = new Float32Array(bytes.buffer);
      motion.rootPositions.set(row.subarray(0, 3));
      motion.rotations.set(row.subarray(3, 3 + motion.rotations.length));
      usePlayer.setState({ frame: 0 });
    });
    source.addEventListener('status', (event: MessageEvent<string>) => {
      setStatus(JSON.parse(event.data) as SuitStatus);
      setLost(false);
    });
    source.onerror = () => setLost(true);
    return () => source.close();
  }, [id, motion]);
  useEffect(() => {
    if (!id) return;
    return () => void fetch(`/api/suit/${id}`, { method: 'DELETE', keepalive: true }).catch(() => {});
  }, [id]);
  return { status, motion, isLost };
}
