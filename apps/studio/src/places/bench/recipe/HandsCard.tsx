'use client';
import { Box } from '@mui/material';
import { Choose, Label, Share } from '@/controls/fields';
import { Small } from '@/controls/Small';
import { StepCard } from '@/controls/StepCard';
import { TypedNumber } from '@/controls/TypedNumber';
import type { CardProps } from './card-props';
import { Troubles } from './Troubles';

const FRAME = { least: -1e6, most: 1e6, digits: 0, width: 42 } as const;

/** Which pose the fingers have, and when. */
export function HandsCard({ step, about, onChange }: CardProps<'hands'>) {
  const isPart = step.from !== undefined || step.to !== undefined;
  return (
    <StepCard step={step} onChange={onChange}>
      <Choose
        label="of"
        value={step.side}
        options={{ both: 'both hands', left: 'the left hand', right: 'the right hand' }}
        onChange={(side) => onChange({ ...step, side })}
      />
      <Choose
        label="fingers"
        value={step.pose}
        options={{ neutral: 'at ease', flat: 'flat', hook: 'round a handle', fist: 'a fist', frame: 'as in one frame' }}
        onChange={(pose) => onChange({ ...step, pose, ...(pose === 'frame' && { frame: about.frameNow() }) })}
      />
      {step.pose === 'frame' && (
        <>
          <Label>the frame</Label>
          <TypedNumber
            {...FRAME}
            name="Frame whose fingers all have"
            value={step.frame}
            onChange={(frame) => onChange({ ...step, frame })}
          />
        </>
      )}
      <Share
        label="wrist straight"
        name="How straight the wrist is"
        value={step.wrist}
        onChange={(wrist) => onChange({ ...step, wrist })}
      />
      <Label>in</Label>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end', alignItems: 'baseline', gap: 0.6 }}>
        {isPart && (
          <>
            <TypedNumber {...FRAME} name="First frame" value={step.from ?? 0} onChange={(from) => onChange({ ...step, from })} />
            <TypedNumber {...FRAME} name="Last frame" value={step.to ?? about.cycle ?? 0} onChange={(to) => onChange({ ...step, to })} />
          </>
        )}
        <Small
          name={isPart ? 'In all frames' : 'From the playhead on'}
          onClick={() =>
            onChange(
              isPart
                ? { ...step, from: undefined, to: undefined }
                : { ...step, from: about.frameNow(), to: about.cycle ?? about.frameNow() },
            )
          }
        >
          {isPart ? 'in all' : 'all frames'}
        </Small>
      </Box>
      <Troubles of={about.measured?.steps[step.id]} />
    </StepCard>
  );
}
