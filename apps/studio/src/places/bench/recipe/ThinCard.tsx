'use client';
import { Box, Typography } from '@mui/material';
import { Choose, Label } from '@/controls/fields';
import { Small } from '@/controls/Small';
import { StepCard } from '@/controls/StepCard';
import { TypedNumber } from '@/controls/TypedNumber';
import { chart } from '@/controls/theme';
import type { ThinnedView } from '@/worker/core.worker';
import type { CardProps } from './card-props';

/** Within how much keys are left out, and which are left. */
export function ThinCard({ step, about, onChange }: CardProps<'thin'>) {
  const keys = about.measured?.steps[step.id]?.keys;
  return (
    <StepCard step={step} onChange={onChange}>
      <Label>within</Label>
      <TypedNumber
        name="How far any point may be off, millimetres"
        unit="mm"
        value={step.boundMm}
        least={0.01}
        most={50}
        step={0.1}
        digits={2}
        onChange={(boundMm) => onChange({ ...step, boundMm })}
      />
      <Choose
        label="joined"
        value={step.joining}
        options={{ smooth: 'smoothly, by cubics', straight: 'straight' }}
        onChange={(joining) => onChange({ ...step, joining })}
      />
      {keys && (
        <>
          <KeyStrip keys={keys} />
          <Label>furthest off</Label>
          <Box sx={{ justifySelf: 'end', minWidth: 0 }}>
            <Small name={`Go to frame ${keys.at}, where ${keys.joint} is furthest off`} onClick={() => about.onGo(keys.at)}>
              {keys.joint} {keys.worstMm.toFixed(2)} mm, frame {keys.at}
            </Small>
          </Box>
        </>
      )}
    </StepCard>
  );
}

/** Height of the strips, and the columns that they have at the most. */
const HEIGHT = 26;
const COLUMNS = 160;

/** Keys along the clip: above as captured, one on every frame, below those that are left; the taller, the more joints have one. */
function KeyStrip({ keys }: { keys: ThinnedView }) {
  const { counts, frames, tracks } = keys;
  const columns = Math.min(COLUMNS, frames);
  const shares = Array.from({ length: columns }, (_, i) => {
    const [from, to] = [Math.floor((i * frames) / columns), Math.max(1, Math.floor(((i + 1) * frames) / columns))];
    let sum = 0;
    for (let f = from; f < to; f++) sum += counts[f];
    return sum / Math.max(1, to - from) / tracks;
  });
  const mean = counts.reduce((sum, n) => sum + n, 0) / tracks;
  const tick = (i: number, top: number, height: number) => `M${(i + 0.5) * (100 / columns)} ${top}v${height}`;
  return (
    <Box
      sx={{
        gridColumn: '1 / -1',
        display: 'grid',
        gridTemplateColumns: 'minmax(0, 1fr) auto',
        alignItems: 'center',
        columnGap: 1,
        py: 0.4,
      }}
    >
      <svg
        viewBox={`0 0 100 ${HEIGHT}`}
        preserveAspectRatio="none"
        height={HEIGHT}
        width="100%"
        role="img"
        aria-label={`Of ${frames} keys a joint has ${mean.toFixed(0)} left, on the mean`}
      >
        <path d={shares.map((_, i) => tick(i, 0, 9)).join('')} stroke={chart('rule')} strokeWidth={1} vectorEffect="non-scaling-stroke" />
        <path
          d={shares.map((share, i) => (share > 0 ? tick(i, HEIGHT - 13 * Math.sqrt(share) - 1, 13 * Math.sqrt(share)) : '')).join('')}
          stroke={chart('ink')}
          strokeWidth={1}
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <Typography variant="caption" sx={{ lineHeight: 1.1, whiteSpace: 'pre', textAlign: 'right' }}>
        {`${frames} keys\n${mean.toFixed(0)} a joint`}
      </Typography>
    </Box>
  );
}
