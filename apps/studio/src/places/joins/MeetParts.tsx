'use client';
import { LINE_UPS, type JoinCurve, type JoinInto } from '@lantern/motion';
import { Box, ButtonBase, Switch, Typography } from '@mui/material';
import { Figure } from '@/controls/Figure';
import { Section } from '@/controls/folds';
import { Small } from '@/controls/Small';
import { TypedNumber } from '@/controls/TypedNumber';
import { chart } from '@/controls/theme';
import { usePlayer } from '@/data/player';
import type { MeetView } from '@/worker/core.worker';
import { CurvePicture, FIRST_HANDLES } from './CurvePicture';
import { FootMark } from './Plaques';

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

export interface Part {
  readonly into: JoinInto;
  readonly onChange: (change: Partial<JoinInto>, isDone?: boolean) => void;
}

export function Line({ into, onChange }: Part) {
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

export function Curve({ into, meet, onChange }: Part & { meet: MeetView | undefined }) {
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

export function Row({
  name,
  says = '',
  isOn,
  onChange,
}: {
  name: string;
  says?: string;
  isOn: boolean;
  onChange: (isOn: boolean) => void;
}) {
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
export function More({ into, onChange }: Part) {
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

const BY_HAND = [
  { key: 'x', name: 'By hand, to the left', label: 'x', unit: 'm', most: 100, step: 0.05, digits: 2 },
  { key: 'z', name: 'By hand, ahead', label: 'z', unit: 'm', most: 100, step: 0.05, digits: 2 },
  { key: 'turnDeg', name: 'By hand, turned', label: 'turned', unit: '°', most: 360, step: 1, digits: 1 },
] as const;

function ByHand({ by, onChange }: { by: NonNullable<JoinInto['by']>; onChange: (by: NonNullable<JoinInto['by']>) => void }) {
  return (
    <Box sx={{ display: 'flex', gap: 2 }}>
      {BY_HAND.map(({ key, most, ...field }) => (
        <TypedNumber
          key={key}
          {...field}
          value={by[key]}
          least={-most}
          most={most}
          onChange={(value) => onChange({ ...by, [key]: value })}
        />
      ))}
    </Box>
  );
}

export function Figures({ meet }: { meet: MeetView | undefined }) {
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
