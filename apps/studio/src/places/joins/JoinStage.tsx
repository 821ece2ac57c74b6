'use client';
import { overlapWeights, type JoinInto } from '@lantern/motion';
import { Box, CircularProgress, Typography } from '@mui/material';
import { useMemo, useState } from 'react';
import { DUSK } from '@/controls/theme';
import { useCharacter } from '@/data/fits';
import { useFigure } from '@/data/use-figure';
import { Choice } from '@/stage/Choice';
import { AtFrame, StageFrame } from '@/stage/StageFrame';
import type { Through } from '@/stage/SeenThrough';
import type { JoinView, MeetView } from '@/worker/core.worker';
import type { WireMotion } from '@/worker/wire';
import type { Joinery } from './use-joinery';

/** The two pieces of an overlap, and in which colour each is seen through the figure. */
const SIDES = [
  { name: 'going out', hue: '#8fd0cb', title: 'The piece that goes, where two overlap', of: ({ leaving }: MeetView) => leaving },
  { name: 'coming in', hue: DUSK.warm, title: 'The piece that comes, where two overlap', of: ({ coming }: MeetView) => coming },
] as const;
type Side = (typeof SIDES)[number]['name'];

/** The join as it plays; in an overlap both of its pieces as ghosts, and the point by which both were lined up. */
export function JoinStage({ joinery, character }: { joinery: Joinery; character: string | null }) {
  const { view, problem, isBusy, doc } = joinery;
  const [seen, setSeen] = useState<readonly Side[]>(SIDES.map(({ name }) => name));
  const { data: skin } = useCharacter(character);
  const through = useMemo(
    () => SIDES.filter(({ name }) => seen.includes(name)).map(({ hue, of }) => ({ hue, parts: partsOf(view, of) })),
    [view, seen],
  );
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
        through,
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
          {SIDES.map(({ name, title }) => (
            <Choice
              key={name}
              label={name}
              title={title}
              isOn={seen.includes(name)}
              onClick={() => setSeen(seen.includes(name) ? seen.filter((own) => own !== name) : [...seen, name])}
            />
          ))}
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

/** One of both pieces in every overlap, from where that begins; of a cut there is nothing to see. */
const partsOf = (view: JoinView | null, of: (meet: MeetView) => WireMotion): Through['parts'] =>
  view?.meets.filter(({ from, to }) => to > from).map((meet) => ({ from: meet.from, motion: of(meet) })) ?? [];
