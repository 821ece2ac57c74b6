'use client';
import { CHUNK_FRAMES, type FitOverrides, type FitReport } from '@lantern/motion';
import { Box, CircularProgress, LinearProgress, Typography } from '@mui/material';
import { useState, type ReactNode } from 'react';
import { usePlayer } from '@/data/player';
import type { ProjectData, TakeInfo } from '@/data/project';
import { numeral } from '@/controls/Figure';
import { Split } from '@/controls/Split';
import { Choice } from '@/stage/Choice';
import { AtFrame, StageFrame } from '@/stage/StageFrame';
import { TakeDeck } from '@/timeline/TakeDeck';
import type { FitView } from '@/worker/core.worker';
import type { WireMotion } from '@/worker/wire';
import { DayPanel } from './DayPanel';
import { LimbsPanel } from './LimbsPanel';
import { MinuteMenu } from './Minute';
import { PartsPanel } from './PartsPanel';
import { ReferencePanel } from './ReferencePanel';
import { usePair, usePairStage, type Panel } from './use-pair';

const NO_TRACES: readonly never[] = [];

interface Props {
  readonly data: ProjectData;
  readonly take: TakeInfo;
  readonly character: string | null;
  readonly panel: Panel;
  readonly head: readonly ReactNode[];
  /** A frame of the take to go to. */
  readonly at: number | null;
  readonly onOpen: (take: string, character: string | undefined, frame?: number) => void;
}

/** A take and a character: seen in step, and what is settled for them. */
export function Pair(props: Props) {
  const { data, take, panel, head, onOpen } = props;
  const pair = usePair(props);
  const { opened, view, fitted, stretch } = pair;
  const [overlaid, setOverlaid] = useState(false);
  const inReference = panel === 'reference';
  const stage = usePairStage(pair, panel, overlaid);
  const report = fitted.data?.report ?? null;
  const window = (
    <Box sx={{ display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto', height: '100%', minHeight: 0 }}>
      <Box sx={{ position: 'relative', minHeight: 0 }}>
        <StageFrame
          stage={stage}
          notice={
            pair.trouble ? (
              <Typography role="alert">{pair.trouble.message}</Typography>
            ) : !stage ? (
              <CircularProgress aria-label="Loading the take" />
            ) : undefined
          }
          footer={
            <>
              <AtFrame>
                {(frame) => (inReference ? 'the poses that count as the same' : `frame ${frame} of ${opened?.motion.frames ?? 0}`)}
              </AtFrame>
              <Box sx={{ flex: 1 }} />
              {(fitted.isFetching || view.isFetching) && <CircularProgress size={14} color="inherit" aria-label="Fitting the take" />}
              {report && !inReference && <FitFigures report={report} />}
              <Choice label="side by side" isOn={!overlaid} onClick={() => setOverlaid(false)} />
              <Choice
                label="overlaid"
                isOn={overlaid}
                title="Over each other, the character drawn as large as the performer"
                onClick={() => setOverlaid(true)}
              />
            </>
          }
        />
      </Box>
      {opened && (
        <TakeDeck
          take={opened}
          traces={NO_TRACES}
          markers={take.markers}
          onMarkers={() => {}}
          menu={stretch ? <MinuteMenu take={take} minute={pair.minute} onMinute={pair.setMinute} /> : null}
        />
      )}
    </Box>
  );
  const side = (
    <Box sx={{ height: '100%', display: 'grid', gridTemplateRows: 'auto auto minmax(0, 1fr)' }}>
      {head[0]}
      {head[1]}
      <Box sx={{ minHeight: 0 }}>
        {panel === 'day' ? <DayPanel data={data} onOpen={onOpen} /> : <SidePanel pair={pair} panel={panel} take={take} />}
      </Box>
    </Box>
  );
  return (
    <Split
      id="fit"
      parts={[
        { id: 'fit-stage', name: 'The stage', size: '62%', least: '40%', content: window },
        { id: 'fit-panel', name: 'The panel of the fit', size: '38%', least: '28%', content: side },
      ]}
    />
  );
}

/** What is settled for the pair: who is mapped to whom, the reference, what limbs keep. */
function SidePanel({ pair, panel, take }: { pair: ReturnType<typeof usePair>; panel: Panel; take: TakeInfo }) {
  const { opened, view, fitted, settings, change, stretch } = pair;
  const first = (stretch?.from ?? 0) * CHUNK_FRAMES;
  if (!view.data)
    return (
      <Box sx={{ p: 2 }}>
        {pair.trouble ? <Typography>{pair.trouble.message}</Typography> : <LinearProgress aria-label="Finding the parts" />}
      </Box>
    );
  if (panel === 'parts')
    return <PartsPanel view={view.data} settings={settings} chosen={pair.chosen} onChoose={pair.setChosen} onChange={change} />;
  if (panel === 'reference')
    return (
      <ReferencePanel
        view={view.data}
        settings={pair.draft ?? settings}
        hand={pair.hand}
        onHand={pair.setHand}
        onChange={change}
        onTakePose={() => opened && change(withPose(settings, opened.motion, take.name, first))}
      />
    );
  return (
    <LimbsPanel
      settings={settings}
      legRatio={view.data.legRatio}
      joints={movableOf(view.data)}
      props={take.props}
      report={fitted.data?.report ?? null}
      onChange={change}
      onGo={(frame) => usePlayer.getState().seek(frame)}
    />
  );
}

/** The figures of the fit in a line, those that are out of bounds marked. */
function FitFigures({ report }: { report: FitReport }) {
  return (
    <Typography variant="body2" component="span" noWrap role="status" aria-label="Figures of the fit">
      {report.slideCm > 0.2 && '▲ '}slide {report.slideCm.toFixed(2)} cm · sink {report.sinkCm.toFixed(2)} · hover{' '}
      {report.hoverCm.toFixed(2)} cm
      {report.seatCm > 1 && ` · ▲ seat ${report.seatCm.toFixed(0)} cm in the floor`}
      {report.kink && report.kink.ratio > 2 && ` · ▲ ${report.kink.hinge} × ${report.kink.ratio.toFixed(1)}`}
      {report.reachCm > 0.05 && ` · hands ${report.reachCm.toFixed(1)} cm off`}
      {report.limits[0] && ` · ▲ joints by ${numeral(report.limits[0].degrees, 0)}°`}
    </Typography>
  );
}

/** Joints of the character whose translation may come from the take. */
const movableOf = ({ target }: FitView): string[] =>
  Object.values(target.parts).flatMap(({ joints }) => joints.filter((j) => j > 0).map((j) => target.names[j]));

/** The settings with the pose at the playhead as the reference of the take. @param first frame of the motion in the whole take */
function withPose(settings: FitOverrides, motion: WireMotion, name: string, first: number): FitOverrides {
  const frame = Math.round(usePlayer.getState().frame);
  const { joints } = motion.skeleton;
  const at = (j: number) => {
    const k = (frame * joints.length + j) * 4;
    return [...motion.rotations.subarray(k, k + 4)] as [number, number, number, number];
  };
  const rotations = Object.fromEntries(joints.map(({ name: joint }, j) => [joint, at(j)]));
  const before = settings.reference ?? { target: 'T' as const, turns: { source: {}, target: {} } };
  return { ...settings, reference: { ...before, source: { label: `frame ${frame + first} of ${name}`, rotations } } };
}
