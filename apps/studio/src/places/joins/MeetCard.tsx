'use client';
import { LINE_UPS, type Fitting, type JoinCurve, type JoinInto } from '@lantern/motion';
import BackIcon from '@mui/icons-material/ChevronLeft';
import OnIcon from '@mui/icons-material/ChevronRight';
import { Box, ButtonBase, Slider, Switch, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Figure } from '@/controls/Figure';
import { Section } from '@/controls/folds';
import { Sign } from '@/controls/Sign';
import { Small } from '@/controls/Small';
import { TypedNumber } from '@/controls/TypedNumber';
import { chart } from '@/controls/theme';
import { usePlayer } from '@/data/player';
import { core } from '@/worker/core';
import type { FitsAsked, MeetView, PieceRoom } from '@/worker/core.worker';
import { CurvePicture, FIRST_HANDLES } from './CurvePicture';
import * as edits from './join-edits';
import { PairMap } from './PairMap';
import { FootMark } from './Plaques';
import type { Joinery } from './use-joinery';

/** Instants so far before the end of the one, and behind the beginning of the other, are on the map; seconds. */
const MAP_BACK = 1.2;
const MAP_ON = 0.4;

const LINES: Readonly<Record<JoinInto['line'], string>> = {
  planted: 'planted foot',
  'left foot': 'left foot',
  'right foot': 'right foot',
  hips: 'hips',
};
const CURVES: readonly (readonly [string, JoinCurve | 'drawn'])[] = [
  ['smooth', 'smooth'],
  ['straight', 'straight'],
  ['sudden', 'sudden'],
  ['drawn', 'drawn'],
];

/** The chosen join: by what both are lined up, how they overlap, how good that is, and where else they fit. */
export function MeetCard({ joinery, index, names }: { joinery: Joinery; index: number; names: readonly [string, string] }) {
  const { doc, laid, view, edit, acts } = joinery;
  const [isWide, setWide] = useState(false);
  if (!doc) return null;
  const piece = doc.pieces[index];
  const id = piece.id ?? '';
  const { into } = piece;
  const meet = view?.meets[index - 1];
  const rooms = laid.rooms;
  const known = rooms.length > index;
  const most = known ? edits.mostOverlap(index, rooms) : 600;
  const set = (change: Partial<JoinInto>, isDone = true) => edit(edits.changeInto(doc, id, change), isDone);
  const fps = view?.motion.fps ?? 60;
  return (
    <Box component="section" aria-label="The chosen join" sx={{ display: 'grid', gap: 0.9, minWidth: 0 }}>
      <Box>
        <Box sx={{ display: 'flex', alignItems: 'center' }}>
          <Typography variant="body2" color="text.secondary" sx={{ flex: 1 }}>
            The chosen join, {index} of {doc.pieces.length - 1}
          </Typography>
          <Sign name="The join before" keys="[" disabled={index <= 1} onClick={() => acts.along(-1)}>
            <BackIcon />
          </Sign>
          <Sign name="The next join" keys="]" disabled={index >= doc.pieces.length - 1} onClick={() => acts.along(1)}>
            <OnIcon />
          </Sign>
        </Box>
        <Typography variant="h2" sx={{ overflowWrap: 'anywhere', lineHeight: 1.2 }}>
          {names[0]} → {names[1]}
        </Typography>
      </Box>
      <Line into={into} onChange={set} />
      <Box sx={{ display: 'grid', gridTemplateColumns: 'auto minmax(0, 1fr) auto auto', alignItems: 'center', gap: 1.2 }}>
        <Typography variant="body2">Overlap</Typography>
        <Slider
          size="small"
          min={0}
          max={Math.max(1, Math.min(most, 90))}
          value={Math.min(into.frames, 90)}
          aria-label="Overlap, frames"
          color="secondary"
          onChange={(_, frames) => set({ frames }, false)}
          onChangeCommitted={(_, frames) => set({ frames })}
          sx={{ color: chart('ink') }}
        />
        <TypedNumber
          name="Overlap, frames typed"
          value={into.frames}
          unit="frames"
          least={0}
          most={most}
          digits={0}
          width={34}
          onChange={(frames) => set({ frames })}
        />
        <Typography variant="body2" color="text.secondary">
          {(into.frames / fps).toFixed(2)} s
        </Typography>
      </Box>
      <Curve into={into} meet={meet} onChange={set} />
      <Box>
        <Row
          name="Hold planted feet"
          says={meet ? `slide ${meet.slideCm.toFixed(1)} cm` : ''}
          isOn={into.hold}
          onChange={(hold) => set({ hold })}
        />
        <Row
          name="Run in step"
          says={meet && into.inStep ? (meet.isInStep ? 'the same foot lands' : 'nobody walks here') : ''}
          isOn={into.inStep}
          onChange={(inStep) => set({ inStep })}
        />
      </Box>
      <Figures meet={meet} />
      {known && <WhereTheyFit joinery={joinery} index={index} rooms={rooms} fps={fps} isWide={isWide} onWide={setWide} />}
      <More into={into} onChange={set} />
    </Box>
  );
}

interface Part {
  readonly into: JoinInto;
  readonly onChange: (change: Partial<JoinInto>, isDone?: boolean) => void;
}

function Line({ into, onChange }: Part) {
  return (
    <Box>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 0.4 }}>
        Lined up by
      </Typography>
      <Box
        role="group"
        aria-label="Lined up by"
        sx={{ display: 'flex', border: `1px solid ${chart('rule')}`, borderRadius: 1, overflow: 'hidden' }}
      >
        {LINE_UPS.map((line) => {
          const isOn = into.line === line;
          return (
            <ButtonBase
              key={line}
              disableRipple
              aria-pressed={isOn}
              onClick={() => onChange({ line })}
              sx={{
                flex: '1 1 auto',
                gap: 0.5,
                py: 0.5,
                px: 0.4,
                fontFamily: 'inherit',
                fontSize: 13.5,
                fontWeight: isOn ? 700 : 400,
                bgcolor: isOn ? chart('lampSoft') : 'transparent',
                boxShadow: isOn ? `inset 0 0 0 1.5px ${chart('lamp')}` : 'none',
                borderRight: `1px solid ${chart('rule')}`,
                '&:last-of-type': { borderRight: 0 },
              }}
            >
              {line !== 'planted' && <FootMark by={line} />}
              {LINES[line]}
            </ButtonBase>
          );
        })}
      </Box>
    </Box>
  );
}

function Curve({ into, meet, onChange }: Part & { meet: MeetView | undefined }) {
  const now = usePlayer((state) => {
    if (!meet || meet.to <= meet.from) return null;
    const share = (Math.round(state.frame) - meet.from) / (meet.to - meet.from);
    return share >= 0 && share <= 1 ? share : null;
  });
  const isDrawn = typeof into.curve !== 'string';
  return (
    <Box>
      <Box sx={{ display: 'flex', gap: 1 }}>
        <CurvePicture
          curve={into.curve}
          leaving={into.leaving ?? into.curve}
          now={now}
          onDraw={(curve, isDone) => onChange({ curve }, isDone)}
        />
        <Box
          role="group"
          aria-label="Curve of the coming piece"
          sx={{ flex: 1, display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 0.5, alignContent: 'start' }}
        >
          {CURVES.map(([word, curve]) => (
            <CurveButton
              key={word}
              word={word}
              isOn={curve === 'drawn' ? isDrawn : into.curve === curve}
              onClick={() => onChange({ curve: curve === 'drawn' ? [...FIRST_HANDLES] : curve })}
            />
          ))}
        </Box>
      </Box>
    </Box>
  );
}

const CurveButton = ({ word, isOn, onClick }: { word: string; isOn: boolean; onClick: () => void }) => (
  <ButtonBase
    disableRipple
    aria-pressed={isOn}
    onClick={onClick}
    sx={{
      py: 0.45,
      fontFamily: 'inherit',
      fontSize: 13.5,
      fontWeight: isOn ? 700 : 400,
      borderRadius: 1,
      border: `1px solid ${chart(isOn ? 'lamp' : 'rule')}`,
      bgcolor: isOn ? chart('lampSoft') : 'transparent',
    }}
  >
    {word}
  </ButtonBase>
);

function Row({ name, says = '', isOn, onChange }: { name: string; says?: string; isOn: boolean; onChange: (isOn: boolean) => void }) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', borderTop: `1px solid ${chart('rule')}`, minHeight: 27 }}>
      <Typography variant="body2" sx={{ flex: 1 }}>
        {name}
      </Typography>
      <Typography variant="caption" color="text.secondary" noWrap>
        {says}
      </Typography>
      <Switch
        size="small"
        color="default"
        checked={isOn}
        onChange={(_, next) => onChange(next)}
        slotProps={{ input: { 'aria-label': name } }}
      />
    </Box>
  );
}

/** What is seldom wanted. */
function More({ into, onChange }: Part) {
  const isLinked = into.leaving === undefined;
  return (
    <Section id="join more" title="More" isOpen={false}>
      <Row
        name="Carry the difference over"
        says="instead of blending both"
        isOn={into.how === 'carry'}
        onChange={(is) => onChange({ how: is ? 'carry' : 'fade' })}
      />
      <Row name="Curves of both linked" isOn={isLinked} onChange={(is) => onChange({ leaving: is ? undefined : into.curve })} />
      {!isLinked && (
        <Typography variant="caption" color="text.secondary" component="div">
          the leaving piece goes{' '}
          {(['smooth', 'straight', 'sudden'] as const).map((curve) => (
            <Small
              key={curve}
              name={`the leaving piece: ${curve}`}
              pressed={into.leaving === curve}
              onClick={() => onChange({ leaving: curve })}
            >
              {curve}
            </Small>
          ))}
        </Typography>
      )}
      <Row name="Meet in height too" isOn={into.height} onChange={(height) => onChange({ height })} />
      <Row
        name="Placed by hand"
        isOn={into.by !== undefined}
        onChange={(is) => onChange({ by: is ? { x: 0, z: 0, turnDeg: 0 } : undefined })}
      />
      {into.by && <ByHand by={into.by} onChange={(by) => onChange({ by })} />}
    </Section>
  );
}

function ByHand({ by, onChange }: { by: NonNullable<JoinInto['by']>; onChange: (by: NonNullable<JoinInto['by']>) => void }) {
  return (
    <Box sx={{ display: 'flex', gap: 2 }}>
      <TypedNumber
        name="By hand, to the left"
        label="x"
        value={by.x}
        unit="m"
        least={-100}
        most={100}
        step={0.05}
        onChange={(x) => onChange({ ...by, x })}
      />
      <TypedNumber
        name="By hand, ahead"
        label="z"
        value={by.z}
        unit="m"
        least={-100}
        most={100}
        step={0.05}
        onChange={(z) => onChange({ ...by, z })}
      />
      <TypedNumber
        name="By hand, turned"
        label="turned"
        value={by.turnDeg}
        unit="°"
        least={-360}
        most={360}
        step={1}
        digits={1}
        onChange={(turnDeg) => onChange({ ...by, turnDeg })}
      />
    </Box>
  );
}

function Figures({ meet }: { meet: MeetView | undefined }) {
  const { before, through, after } = meet?.speedMps ?? {};
  const speeds = [before, through, after].map((v) => (v === undefined ? '–' : v.toFixed(2))).join(' → ');
  return (
    <Box aria-label="Figures of the join" role="group">
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, auto)', columnGap: 1.6 }}>
        <Figure label="slide" value={meet?.slideCm} unit="cm" />
        <span title={meet && `at frame ${meet.popFrame}, ${meet.popJoint}`}>
          <Figure label="pop" value={meet?.popCm} unit="cm" />
        </span>
        <Figure label="sinks" value={meet?.sinkCm} unit="cm" />
      </Box>
      <Typography variant="caption" color="text.secondary">
        {meet ? meet.to - meet.from : '–'} frames · {speeds} m/s
      </Typography>
    </Box>
  );
}

function WhereTheyFit({
  joinery,
  index,
  rooms,
  fps,
  isWide,
  onWide,
}: {
  joinery: Joinery;
  index: number;
  rooms: readonly PieceRoom[];
  fps: number;
  isWide: boolean;
  onWide: (isWide: boolean) => void;
}) {
  const { doc, seen, edit } = joinery;
  const [held, setHeld] = useState<{ readonly window: FitsAsked; readonly isWide: boolean } | null>(null);
  const [a, b] = [rooms[index - 1], rooms[index]];
  const near = useMemo(() => windowOf(a, b, fps, isWide), [a, b, fps, isWide]);
  const met = doc ? edits.metAt(doc, index, rooms) : { a: 0, b: 0 };
  // The map stands still for as long as the ring is on it.
  const window = held && held.isWide === isWide && isOn(held.window, met) ? held.window : near;
  const key = seen && JSON.stringify([seen.asked.pieces.slice(index - 1, index + 1), window]);
  const { data, isFetching } = useQuery({
    queryKey: ['join-fits', key],
    enabled: seen !== null,
    staleTime: Infinity,
    gcTime: 60_000,
    placeholderData: (before) => before,
    queryFn: async () => (seen ? core().joinFits(seen.asked, index - 1, inside(window)) : []),
  });
  const fits: readonly Fitting[] = data && !('problem' in data) ? data.slice(0, 3) : [];
  if (!doc || !seen || seen.asked.pieces.length <= index) return null;
  const take = (x: number, y: number, isDone = true, frames?: number) => {
    setHeld({ window, isWide });
    edit(edits.meetAt(doc, index, rooms, x, y, frames), isDone);
  };
  return (
    <Box component="section" aria-label="Where they fit">
      <Box sx={{ display: 'flex', alignItems: 'baseline', mb: 0.5 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Where they fit
        </Typography>
        <Small pressed={isWide} onClick={() => onWide(!isWide)}>
          all of both
        </Small>
        <Typography variant="caption" color="text.secondary">
          {isFetching ? 'looking…' : 'dark is alike'}
        </Typography>
      </Box>
      <Box sx={{ display: 'flex', gap: 1 }}>
        <PairMap asked={seen.asked} index={index - 1} window={window} fits={fits} met={met} onMeet={take} />
        <Box component="ol" aria-label="Proposals" sx={{ m: 0, p: 0, flex: 1, minWidth: 0, listStyle: 'none' }}>
          {fits.map((fit, i) => {
            const isTaken = fit.a === met.a && fit.b === met.b;
            return (
              <li key={`${fit.a} ${fit.b}`}>
                <ButtonBase
                  disableRipple
                  aria-pressed={isTaken}
                  aria-label={`Proposal ${i + 1}: frame ${fit.a} to ${fit.b}, pose ${fit.poseCm.toFixed(1)}, slide ${fit.slideCm.toFixed(1)}, pop ${fit.popCm.toFixed(1)} cm`}
                  onClick={() => take(fit.a, fit.b, true, fit.frames)}
                  sx={{
                    display: 'block',
                    width: '100%',
                    textAlign: 'left',
                    px: 0.9,
                    py: 0.45,
                    fontFamily: 'inherit',
                    borderLeft: `3px solid ${isTaken ? chart('lamp') : 'transparent'}`,
                    bgcolor: isTaken ? chart('lampSoft') : 'transparent',
                    borderBottom: `1px solid ${chart('rule')}`,
                    '&:hover': { bgcolor: isTaken ? undefined : chart('card') },
                  }}
                >
                  <Typography variant="caption" component="div" noWrap sx={{ fontWeight: 700, lineHeight: 1.35 }}>
                    {i + 1} · {fit.a} → {fit.b}
                  </Typography>
                  <Typography variant="caption" component="div" color="text.secondary" noWrap sx={{ lineHeight: 1.35 }}>
                    pose {fit.poseCm.toFixed(1)} cm{fit.frames !== doc.pieces[index].into.frames && `, ${fit.frames} f`}
                  </Typography>
                  <Typography variant="caption" component="div" color="text.secondary" noWrap sx={{ lineHeight: 1.35 }}>
                    slide {fit.slideCm.toFixed(1)} · pop {fit.popCm.toFixed(1)}
                  </Typography>
                </ButtonBase>
              </li>
            );
          })}
          {fits.length === 0 && !isFetching && (
            <Typography variant="caption" color="text.secondary">
              {data && 'problem' in data ? data.problem : 'Nothing fits here.'}
            </Typography>
          )}
        </Box>
      </Box>
    </Box>
  );
}

/** Whether a pair of instants is on the map. */
const isOn = ({ rows, columns }: FitsAsked, { a, b }: { readonly a: number; readonly b: number }): boolean =>
  a >= rows[0] && a <= rows[1] && b >= columns[0] && b <= columns[1];

/** What is proposed lies within the map, not on its edge. */
const inside = ({ rows, columns }: FitsAsked): FitsAsked => {
  const within = ([from, to]: readonly [number, number]): readonly [number, number] => {
    const edge = Math.round(0.05 * (to - from));
    return [from + edge, to - edge];
  };
  return { rows: within(rows), columns: within(columns) };
};

/** What the map shows: the end of the one and the beginning of the other, or all of both, as far as there is motion. */
function windowOf(a: PieceRoom, b: PieceRoom, fps: number, isWide: boolean): FitsAsked {
  const beyond = (most: number) => Math.min(most, Math.round(0.5 * fps));
  const [back, on] = [Math.round(MAP_BACK * fps), Math.round(MAP_ON * fps)];
  const end = edits.endOf(a);
  const last = edits.endOf(b);
  if (isWide)
    return { rows: [a.from - beyond(a.before), end + beyond(a.after)], columns: [b.from - beyond(b.before), last + beyond(b.after)] };
  return {
    rows: [Math.max(a.from - beyond(a.before), end - back), end + Math.min(on, beyond(a.after))],
    columns: [b.from - Math.min(on, beyond(b.before)), Math.min(last + beyond(b.after), b.from + back)],
  };
}
