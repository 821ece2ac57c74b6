'use client';
'use no memo';
import type { SetPlayer } from '@lantern/drive';
import { CAPSULE, type Finding, type PlayScript } from '@lantern/motion';
import { Box, Button, CircularProgress, LinearProgress, Typography } from '@mui/material';
import { useParams, useRouter } from 'next/navigation';
import { useEffect, useMemo, useRef, useState } from 'react';
import { EmptyPlace } from '@/controls/EmptyPlace';
import { numeral } from '@/controls/Figure';
import { DUSK } from '@/controls/theme';
import { useClips } from '@/data/clips-store';
import { usePlayer } from '@/data/player';
import { usePlay } from '@/data/play-view';
import { useProjectData, useProjectInfo, type TakeInfo } from '@/data/project';
import { useReplay } from '@/data/replay';
import { useSets, type SetDoc } from '@/data/sets-store';
import { useMembers } from '@/data/set-view';
import { keepRecording } from '@/data/weather';
import { Trouble } from '@/controls/Trouble';
import { Commands } from '@/shell/Commands';
import type { Camera } from '@/stage/quay/DriveStage';
import type { PlayView } from '@/worker/core.worker';
import { Bodies } from './Bodies';
import { Compass } from './Compass';
import { fittedTo } from './fitted-to';
import { AlsoDriven, OtherInputs } from './HelmWords';
import { Keys } from './Keys';
import { RecordWords } from './RecordWords';
import { SmallGraph } from './SmallGraph';
import { Staffs } from './Staffs';
import type { Helm } from './steering';
import { TopBar, Word } from './TopBar';
import { useDrive } from './use-drive';
import { useHelm } from './use-helm';
import { WeatherPanel } from './WeatherPanel';

/** Drive: the set as a game plays it. */
export function DrivePlace() {
  const { data, error, isPending, refetch } = useProjectData();
  const project = useSets((state) => state.project);
  const docs = useSets((state) => state.docs);
  const params = useParams<{ set?: string[] }>();
  if (error) return <Trouble message={error.message} onRetry={() => void refetch()} />;
  if (isPending || project === null) return <LinearProgress aria-label="Loading the set" />;
  const doc = docs.find(({ id }) => id === params.set?.[0]) ?? docs[0];
  if (!doc) return <NothingToDrive />;
  return <Open key={doc.id} doc={doc} takes={data.takes} characters={data.characters} />;
}

function NothingToDrive() {
  const project = useProjectInfo();
  const router = useRouter();
  return (
    <EmptyPlace title="Nothing to drive yet" says="What is driven is a set: begin one in Set, from a ready list.">
      <Button variant="contained" size="large" onClick={() => router.push(`/${project.id}/set`)}>
        To Set
      </Button>
    </EmptyPlace>
  );
}

interface OpenProps {
  readonly doc: SetDoc;
  readonly takes: readonly TakeInfo[];
  readonly characters: readonly { readonly id: string; readonly name: string }[];
}

function Open({ doc, takes, characters }: OpenProps) {
  const project = useProjectInfo();
  const router = useRouter();
  const members = useMembers(doc, takes);
  const own = usePlay(doc, members);
  const wanted = useReplay((state) => (state.wanted?.set === doc.id ? state.wanted : null));
  const [led, setLed] = useState<PlayScript['led']>(wanted?.script.led ?? 'root');
  const [camera, setCamera] = useState<Camera>('follow');
  const [also, setAlso] = useState<string | null>(null);
  // The other one is driven instead of him.
  const [isAlone, setAlone] = useState(false);
  const fitted = useMemo(() => (also === null ? [] : fittedTo(members, also)), [members, also]);
  const other = usePlay(also === null ? null : doc, fitted);
  const instead = isAlone && also !== null && other.view !== null;
  const play = instead ? other : own;
  const view = play.view;
  const drive = useDrive(view, also === null || instead ? null : other.view, led);
  const [helm, setHelm] = useState<Helm>({ x: 0, y: 0 });
  const { playing, speed } = usePlayer();
  const clips = useClips((state) => state.docs);
  const hold = (next: Helm) => {
    setHelm(next);
    drive?.hold(next);
  };
  const presses = view?.graph.inputs.filter(({ kind }) => kind === 'press').map(({ name }) => name) ?? [];
  const { held, pad } = useHelm({ onHelm: hold, onPress: (k) => presses[k] && drive?.press(presses[k]) });
  // What somebody wants to see is played again as soon as the set is there, led as it was.
  const shown = useRef<unknown>(null);
  useEffect(() => {
    if (!wanted || !drive || !play.isReady || shown.current === wanted) return;
    if (wanted.script.led !== led) {
      setLed(wanted.script.led);
      return;
    }
    shown.current = wanted;
    drive.replay(wanted.script, wanted.step, false);
  }, [wanted, drive, led, play.isReady]);
  const openFinding = ({ script, step, from, to, figure, value }: Finding) =>
    useReplay.getState().open({ set: doc.id, script, step, says: `${figure} ${value.toFixed(1)}, ${from ? `${from} to ${to}` : to}` });
  const openBench = ({ clip, frame }: Finding) => {
    const own = clips.find(({ name }) => name === clip);
    if (!own) return;
    usePlayer.setState({ next: frame });
    router.push(`/${project.id}/bench/${own.id}`);
  };
  const stop = () => {
    const script = drive?.stop();
    if (script && script.steps > 0) keepRecording(doc.id, script);
    useReplay.getState().close();
    shown.current = null;
  };
  if (!view || !drive)
    return (
      <Box
        sx={{
          position: 'relative',
          height: '100%',
          bgcolor: DUSK.deep,
          color: DUSK.text,
          display: 'grid',
          placeItems: 'center',
          p: 4,
          textAlign: 'center',
        }}
      >
        {play.error ? (
          <Typography role="alert">▲ {play.error}</Typography>
        ) : play.isPending ? (
          <CircularProgress aria-label="Opening the set" />
        ) : (
          <Typography>Nothing of this set can be played yet: it needs somebody who waits or moves.</Typography>
        )}
      </Box>
    );
  const { player } = drive.bodies[0];
  const state = view.set.graph.states[player.state()].name;
  const asked = { speed: inputOf(view, player.inputs, 'speed'), turn: inputOf(view, player.inputs, 'turn') };
  const most = { speed: rangeOf(view, 'speed')[1], turn: rangeOf(view, 'turn')[1] };
  const [speedComes, turnComes] = drive.comes;
  return (
    <Box sx={{ position: 'relative', height: '100%', overflow: 'hidden', bgcolor: DUSK.deep }}>
      <Commands
        place="drive"
        commands={[
          {
            id: 'led',
            label: `Drive: led by ${led === 'root' ? 'a capsule' : 'the root'}`,
            run: () => setLed(led === 'root' ? 'capsule' : 'root'),
          },
          { id: 'again', label: 'Drive: begin again', run: drive.reset },
        ]}
      />
      <Bodies bodies={drive.bodies} character={instead ? also : doc.character} also={also} camera={camera} capsule={player.capsule} />
      <TopBar
        led={led}
        onLed={setLed}
        camera={camera}
        onCamera={setCamera}
        speed={speed}
        onSpeed={(next) => usePlayer.setState({ speed: next, playing: true })}
        isPlaying={playing}
        onPlay={() => usePlayer.setState({ playing: !playing })}
        onStep={drive.stepOn}
        onReset={drive.reset}
      />
      <Staffs meters={drive.meters} hasGap={led === 'capsule'} onReset={() => drive.meters.forget()} />
      <WeatherPanel play={play} set={doc.id} onOpen={openFinding} onBench={openBench} />
      <Compass
        asked={{
          x: most.turn > 0 ? -asked.turn / most.turn : helm.x,
          y: helm.y < 0 ? helm.y : most.speed > 0 ? asked.speed / most.speed : 0,
        }}
        comes={{ x: most.turn > 0 ? -turnComes / most.turn : 0, y: most.speed > 0 ? speedComes / most.speed : 0 }}
        most={most.speed}
        onHold={hold}
      />
      <Box sx={{ position: 'absolute', left: 226, bottom: 22, color: DUSK.text, display: 'flex', gap: 2.5, alignItems: 'end' }}>
        <Keys held={held} onHold={hold} />
        <Box sx={{ minWidth: 210, bgcolor: 'rgba(14,29,33,0.55)', borderRadius: 1, px: 1, py: 0.5 }}>
          <Typography variant="body2" sx={{ color: 'inherit' }}>
            {pad ? 'pad 1 ●' : 'no pad'}
            {presses.map((name, k) => (
              <Word key={name} onClick={() => drive.press(name)} name={`Press ${name}`}>
                {k === 0 ? 'space' : String(k + 1)} {name}s
              </Word>
            ))}
            <OtherInputs view={view} inputs={player.inputs} tell={drive.tell} />
          </Typography>
          <Typography variant="body2" sx={{ color: 'inherit' }}>
            asked <b>{asked.speed.toFixed(2)} m/s</b>, {turnWords(asked.turn)}
          </Typography>
          <Typography variant="body2" sx={{ color: 'inherit' }}>
            comes <b>{speedComes.toFixed(2)} m/s</b>, {turnWords(turnComes)}
          </Typography>
          <RecordWords set={doc.id} drive={drive} wanted={wanted} onStop={stop} />
          <AlsoDriven
            characters={characters.filter(({ id }) => id !== doc.character)}
            also={also}
            onAlso={(id) => {
              setAlso(id);
              setAlone(false);
            }}
            isAlone={isAlone}
            onAlone={setAlone}
            isPending={also !== null && other.isPending}
            error={also === null ? null : other.error}
          />
        </Box>
      </Box>
      {led === 'capsule' && (
        <Typography variant="body2" sx={{ position: 'absolute', left: '52%', bottom: 56, color: DUSK.text }}>
          the capsule leads by <b>{drive.meters.now[3].toFixed(0)} cm</b>, {Math.round(CAPSULE.mostMetres * 100)} at most
        </Typography>
      )}
      {drive.mode === 'replayed' && wanted && (
        <Typography
          variant="body2"
          role="status"
          sx={{
            position: 'absolute',
            left: '50%',
            top: 46,
            transform: 'translateX(-50%)',
            color: DUSK.text,
            bgcolor: 'rgba(14,29,33,0.8)',
            px: 1.4,
            borderRadius: 1,
          }}
        >
          played again: {wanted.says}, step {drive.at} of {wanted.step}
        </Typography>
      )}
      <SmallGraph
        graph={view.graph}
        state={state}
        seconds={player.elapsed()}
        led={view.transitions[player.transition()] ?? -1}
        weights={playsNow(view, player)}
        phase={player.phase()}
        onOpen={() => router.push(`/${project.id}/set/${doc.id}/graph`)}
      />
    </Box>
  );
}

/** What plays: of a field the two clips that count most, with how much. */
function playsNow({ set }: PlayView, player: SetPlayer): string {
  const { plays } = set.graph.states[player.state()];
  const field = 'field' in plays ? set.fields.find(({ name }) => name === plays.field) : undefined;
  const weights = player.weights();
  if (!weights || !field) return player.clip().name;
  return field.clips
    .map(({ name }, i) => ({ name, weight: weights[i] }))
    .filter(({ weight }) => weight > 0.02)
    .sort((a, b) => b.weight - a.weight)
    .slice(0, 2)
    .map(({ name, weight }) => `${name} ${Math.round(100 * weight)} %`)
    .join(', ');
}

const inputOf = ({ graph }: PlayView, inputs: ArrayLike<number>, name: string): number => {
  const at = graph.inputs.findIndex((own) => own.name === name);
  return at < 0 ? 0 : inputs[at];
};

const rangeOf = ({ graph }: PlayView, name: string): readonly [number, number] => {
  const own = graph.inputs.find((input) => input.name === name);
  return own?.kind === 'number' ? [own.from, own.to] : [0, 0];
};

const turnWords = (degS: number): string =>
  Math.abs(degS) < 1 ? 'straight' : `${numeral(Math.abs(degS), 0)}°/s ${degS > 0 ? 'left' : 'right'}`;
