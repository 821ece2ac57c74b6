'use client';
import type { Closing, LoopParams } from '@lantern/motion';
import { Box, ButtonBase, Typography } from '@mui/material';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import type { CardProps } from './card-props';
import { Choose, Label, Seconds } from '@/controls/fields';
import { StepCard } from '@/controls/StepCard';

const WAYS: Record<LoopParams['close'], string> = { blend: 'into the take', around: 'around the seam', spread: 'over the cycle' };

const STARTS = {
  cut: 'where it is cut',
  left: 'as the left foot lands',
  right: 'as the right foot lands',
  'left-stance': 'in mid-stance, left',
  'right-stance': 'in mid-stance, right',
  frame: 'at a frame of its own',
} as const;

/** The loop: how it is closed (each way with what it comes to), what is straightened, and where the cycle begins. */
export function LoopCard({ step, about, onChange }: CardProps<'loop'>) {
  const figures = about.measured?.figures ?? null;
  const beginHere = () => {
    const cycle = figures ? figures.frames - 1 : 1;
    const before = typeof step.start === 'number' ? step.start : 0;
    onChange({ ...step, start: (before + about.frameNow()) % cycle });
  };
  return (
    <StepCard step={step} onChange={onChange}>
      <Ways chosen={step.close} closings={about.closings} onChoose={(close) => onChange({ ...step, close })} />
      <Seconds
        label="over"
        name="Length of the blend"
        value={step.seconds}
        least={0.1}
        most={0.8}
        onChange={(seconds) => onChange({ ...step, seconds })}
      />
      <Choose
        label="heading"
        value={step.heading}
        options={{ auto: 'straight when it turns little', straight: 'straight', captured: 'as captured' }}
        onChange={(heading) => onChange({ ...step, heading })}
      />
      <Choose
        label="height"
        value={step.height}
        options={{ held: 'held', captured: 'climbs as captured' }}
        onChange={(height) => onChange({ ...step, height })}
      />
      <Choose
        label="drift"
        value={step.sideways}
        options={{ captured: 'as captured', dropped: 'taken out' }}
        onChange={(sideways) => onChange({ ...step, sideways })}
      />
      <Choose
        label="begins"
        value={typeof step.start === 'number' ? 'frame' : step.start}
        options={STARTS}
        onChange={(start) => (start === 'frame' ? beginHere() : onChange({ ...step, start }))}
      />
      {typeof step.start === 'number' && (
        <>
          <Label>frame {step.start}</Label>
          <Box sx={{ justifySelf: 'end' }}>
            <Small onClick={beginHere}>begin at the playhead</Small>
          </Box>
        </>
      )}
    </StepCard>
  );
}

/** What was done in place of what was asked. */
const INSTEAD: Readonly<Record<Closing['way'], string>> = {
  around: 'The take goes elsewhere beyond the cut, so the loop is closed around its seam.',
  none: 'The cut comes round by itself; nothing is moved.',
  blend: '',
  spread: '',
};

/** The ways of closing, each with its tick, the slide of the finished clip, and how far it moved a joint. One click takes one. */
function Ways({
  chosen: asked,
  closings,
  onChoose,
}: {
  chosen: LoopParams['close'];
  closings: readonly Closing[];
  onChoose: (close: LoopParams['close']) => void;
}) {
  const known = (close: LoopParams['close']) => closings.find((way) => way.close === close);
  // Without frames beyond the cut there is nothing to blend with, and the loop is closed around its seam.
  const chosen = closings.length === 0 || known(asked) ? asked : 'around';
  const number = (value: number | undefined) => (
    <Typography variant="body2" sx={{ textAlign: 'right' }}>
      {value === undefined ? '–' : value.toFixed(2)}
    </Typography>
  );
  const columns = { display: 'grid', gridTemplateColumns: '1fr 40px 58px 66px', columnGap: 0.8, width: '100%', alignItems: 'baseline' };
  return (
    <Box role="radiogroup" aria-label="Way of closing" sx={{ gridColumn: '1 / -1', mb: 0.4 }}>
      <Box sx={{ ...columns, color: 'text.secondary', px: 0.5 }} aria-hidden>
        {['closed', 'tick', 'slide', 'moved'].map((word, i) => (
          <Typography key={word} variant="caption" sx={{ textAlign: i ? 'right' : 'left' }}>
            {word}
            {i > 1 && ' cm'}
          </Typography>
        ))}
      </Box>
      {(Object.keys(WAYS) as LoopParams['close'][])
        .filter((close) => closings.length === 0 || known(close))
        .map((close) => {
          const way = known(close);
          return (
            <ButtonBase
              key={close}
              role="radio"
              aria-checked={close === chosen}
              aria-label={`Close ${WAYS[close]}${way ? `: tick ${way.tick.toFixed(2)}, slide ${way.slideCm.toFixed(2)} cm, moved ${way.movedCm.toFixed(1)} cm` : ''}`}
              disableRipple
              onClick={() => onChoose(close)}
              sx={{
                ...columns,
                textAlign: 'left',
                px: 0.5,
                borderTop: `1px solid ${chart('rule')}`,
                bgcolor: close === chosen ? chart('lampSoft') : 'transparent',
                '&:hover': { bgcolor: close === chosen ? undefined : 'action.hover' },
              }}
            >
              <Typography variant="body2" sx={{ fontWeight: close === chosen ? 700 : 400 }}>
                {WAYS[close]}
                {way && way.way !== close && (
                  <Typography component="span" variant="caption" color="text.secondary" title={INSTEAD[way.way]} sx={{ ml: 0.5 }}>
                    {way.way === 'none' ? '(comes round)' : '(around)'}
                  </Typography>
                )}
              </Typography>
              {number(way?.tick)}
              {number(way?.slideCm)}
              {number(way?.movedCm)}
            </ButtonBase>
          );
        })}
    </Box>
  );
}
