'use client';
import { BODY_PARTS, type BodyPart } from '@lantern/motion';
import CloseIcon from '@mui/icons-material/Close';
import { Box, Switch, Typography } from '@mui/material';
import { Choose, Label } from '@/controls/fields';
import { Sign } from '@/controls/Sign';
import { Small } from '@/controls/Small';
import { StepCard } from '@/controls/StepCard';
import { TypedNumber } from '@/controls/TypedNumber';
import type { CardProps } from './card-props';
import { Troubles } from './Troubles';

const WORDS: Readonly<Partial<Record<BodyPart, string>>> = {
  all: 'the whole body',
  arms: 'both arms',
  legs: 'both legs',
  head: 'neck and head',
  trunk: 'the trunk',
};
const OPTIONS = Object.fromEntries(BODY_PARTS.map((part) => [part, WORDS[part] ?? `the ${part}`])) as Record<BodyPart, string>;
const FRAME = { least: -1e6, most: 1e6, digits: 0, width: 42 } as const;

/** Which frames are replaced by the way between two poses, and which stay in their middle. */
export function BetweenCard({ step, about, onChange }: CardProps<'between'>) {
  const { frameNow, onGo } = about;
  const put = (keys: readonly number[]) => onChange({ ...step, keys: [...new Set(keys)].sort((a, b) => a - b) });
  return (
    <StepCard step={step} onChange={onChange}>
      <Choose label="of" value={step.of} options={OPTIONS} onChange={(of) => onChange({ ...step, of })} />
      <Label>from, to</Label>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end', gap: 1 }}>
        {(['from', 'to'] as const).map((end) => (
          <Box key={end} sx={{ display: 'inline-flex', alignItems: 'baseline' }}>
            <TypedNumber
              {...FRAME}
              name={end === 'from' ? 'First frame' : 'Last frame'}
              value={step[end]}
              onChange={(frame) => onChange({ ...step, [end]: frame })}
            />
            <Small
              name={`The ${end === 'from' ? 'first' : 'last'} frame is the one under the playhead`}
              onClick={() => onChange({ ...step, [end]: frameNow() })}
            >
              here
            </Small>
          </Box>
        ))}
      </Box>
      <Box sx={{ gridColumn: '1 / -1', display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 0.6 }}>
        <Typography variant="body2" color="text.secondary">
          {step.keys.length === 0 ? 'straight from one to the other' : 'through the poses of'}
        </Typography>
        {step.keys.map((frame) => (
          <Box key={frame} sx={{ display: 'inline-flex', alignItems: 'center' }}>
            <Small name={`Go to frame ${frame}`} onClick={() => onGo(frame)}>
              {frame}
            </Small>
            <Sign name={`Leave frame ${frame} out`} onClick={() => put(step.keys.filter((own) => own !== frame))}>
              <CloseIcon />
            </Sign>
          </Box>
        ))}
        <Small name="Keep the pose under the playhead" onClick={() => put([...step.keys, frameNow()])}>
          keep this frame
        </Small>
      </Box>
      <Label>feet that bear stay</Label>
      <Switch
        size="small"
        color="default"
        checked={step.contacts}
        onChange={(_, contacts) => onChange({ ...step, contacts })}
        slotProps={{ input: { 'aria-label': 'Feet that bear stay' } }}
        sx={{ justifySelf: 'end' }}
      />
      <Troubles of={about.measured?.steps[step.id]} />
    </StepCard>
  );
}
