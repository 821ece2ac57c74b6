'use client';
import { overlapWeights, type JoinInto } from '@lantern/motion';
import { Box, CircularProgress, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { useCharacter } from '@/data/fits';
import { useFigure } from '@/data/use-figure';
import { Choice } from '@/stage/Choice';
import { AtFrame, StageFrame } from '@/stage/StageFrame';
import type { SecondFigure } from '@/stage/stage-props';
import type { JoinView, MeetView } from '@/worker/core.worker';
import type { WireMotion } from '@/worker/wire';
import type { Joinery } from './use-joinery';

/** Which of the two pieces of an overlap is seen through the figure. */
type Through = 'going out' | 'coming in' | null;

/** The join as it plays; in an overlap one of its pieces as a ghost, and the point by which both were lined up. */
export function JoinStage({ joinery, character }: { joinery: Joinery; character: string | null }) {
  const { view, problem, isBusy, doc } = joinery;
  const [through, setThrough] = useState<Through>('coming in');
  const { data: skin } = useCharacter(character);
  const ghost = useMemo(() => (view && through ? ghostOf(view, through) : null), [view, through]);
  const { data: plain } = useFigure(view?.motion.skeleton ?? null);
  if (!view || !doc || !plain) {
    const notice = problem ? (
      <Typography role="alert" sx={{ maxWidth: 420 }}>
        ▲ {problem}
      </Typography>
    ) : (
      <CircularProgress aria-label="Working out the join" />
    );
    return <StageFrame stage={null} notice={notice} />;
  }
  const fits = skin && skin.skeleton.joints.length === view.motion.skeleton.joints.length;
  const mesh = fits ? skin.mesh : plain.mesh;
  return (
    <StageFrame
      stage={{
        motion: view.motion,
        mesh,
        markers: view.markers,
        floor: view.floor,
        meets: view.meets,
        props: view.platforms,
        other: ghost && { ...ghost, mesh, floor: view.floor },
      }}
      footer={
        <>
          <AtFrame>{(frame) => `frame ${frame} of ${view.motion.frames - 1}`}</AtFrame>
          <AtFrame>{(frame) => `${(frame / view.motion.fps).toFixed(2)} s`}</AtFrame>
          <AtFrame>
            {(frame) =>
              inItWords(
                view.meets,
                doc.pieces.slice(1).map(({ into }) => into),
                frame,
              )
            }
          </AtFrame>
          <Box sx={{ flex: 1 }} />
          {problem && (
            <Typography role="alert" variant="body2" noWrap title={problem}>
              ▲ {problem}
            </Typography>
          )}
          {isBusy && <CircularProgress size={14} color="inherit" aria-label="Working out the join" />}
          <Choice
            label="going out"
            title="The piece that goes, where two overlap"
            isOn={through === 'going out'}
            onClick={() => setThrough(through === 'going out' ? null : 'going out')}
          />
          <Choice
            label="coming in"
            title="The piece that comes, where two overlap"
            isOn={through === 'coming in'}
            onClick={() => setThrough(through === 'coming in' ? null : 'coming in')}
          />
        </>
      }
    />
  );
}

/** How much of which piece is in a frame. */
function inItWords(meets: readonly MeetView[], intos: readonly JoinInto[], frame: number): string {
  const i = meets.findIndex(({ from, to }) => frame > from && frame < to);
  return i < 0 ? '' : `${Math.round(100 * weightOf(meets[i], intos[i], frame))} % in`;
}

const weightOf = ({ from, to }: MeetView, { curve, leaving }: JoinInto, frame: number): number =>
  overlapWeights(to - from, curve, leaving)[frame - from] ?? 1;

/** One of both pieces in every overlap, in step with the join. */
function ghostOf(view: JoinView, through: NonNullable<Through>): Omit<SecondFigure, 'mesh' | 'floor'> {
  const shownIn = view.meets.filter(({ from, to }) => to > from);
  const motion: WireMotion = {
    ...view.motion,
    part: (frame) => {
      const meet = shownIn.find(({ from, to }) => frame >= from && frame <= to + 1);
      if (!meet) return null;
      const part = through === 'coming in' ? meet.coming : meet.leaving;
      return { motion: part, frame: Math.min(part.frames - 1, frame - meet.from) };
    },
  };
  return { motion, shift: [0, 0], shownIn };
}
