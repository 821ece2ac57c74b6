'use client';
import { Sign } from '@/controls/Sign';
import CloseIcon from '@mui/icons-material/Close';
import { LIMBS, type Limb, type Placement } from '@lantern/motion';
import { Box, Link as MuiLink, Typography } from '@mui/material';
import Link from 'next/link';
import { useProjectData, useProjectInfo } from '@/data/project';
import { Small } from '@/controls/Small';
import { TypedNumber } from '@/controls/TypedNumber';
import { chart } from '@/controls/theme';
import { LIMB_NAMES } from '@/controls/limb-names';
import type { CardProps } from './card-props';
import { Choose, Label } from '@/controls/fields';
import { StepCard } from '@/controls/StepCard';

type Hold = Placement['holds'][number];

const FRESH: Placement = { weight: 0, to: 'floor', holds: [] };

/** Whom the clip is fitted to, and the stretches in which a hand or foot of this clip keeps its captured place. */
export function FitCard({ step, about: { frameNow, fps }, onChange }: CardProps<'fit'>) {
  const { data } = useProjectData();
  const project = useProjectInfo();
  const names = Object.fromEntries((data?.characters ?? []).map(({ id, name }) => [id, name]));
  if (!names[step.character]) names[step.character] = `${step.character} (not here)`;
  const holds = LIMBS.flatMap((limb) => (step.placement?.[limb]?.holds ?? []).map((hold, index) => ({ limb, hold, index })));
  const putHolds = (limb: Limb, change: (holds: readonly Hold[]) => Hold[]) => {
    const before = step.placement?.[limb] ?? FRESH;
    onChange({ ...step, placement: { ...step.placement, [limb]: { ...before, holds: change(before.holds) } } });
  };
  const add = (limb: Limb) => {
    const now = frameNow();
    const half = Math.round(0.25 * fps);
    putHolds(limb, (list) => [...list, { from: now - half, to: now + half, weight: 1, fade: 0.25 }]);
  };
  return (
    <StepCard
      step={step}
      onChange={onChange}
      figure={
        <MuiLink component={Link} href={`/${project.id}/fit`} variant="body2" color="text.secondary">
          open in Fit
        </MuiLink>
      }
    >
      <Choose label="onto" value={step.character} options={names} onChange={(character) => onChange({ ...step, character })} />
      <Label>keep the place of</Label>
      <Box sx={{ justifySelf: 'end' }}>
        {LIMBS.map((limb) => (
          <Small key={limb} name={`Keep the ${LIMB_NAMES[limb]} here`} onClick={() => add(limb)}>
            {LIMB_NAMES[limb]}
          </Small>
        ))}
      </Box>
      {holds.map(({ limb, hold, index }) => {
        const put = (next: Hold) => putHolds(limb, (list) => list.map((h, i) => (i === index ? next : h)));
        return (
          <HoldRow
            key={`${limb} ${index}`}
            limb={limb}
            hold={hold}
            onChange={put}
            onRemove={() => putHolds(limb, (list) => list.filter((_, i) => i !== index))}
          />
        );
      })}
    </StepCard>
  );
}

interface HoldProps {
  readonly limb: Limb;
  readonly hold: Hold;
  readonly onChange: (hold: Hold) => void;
  readonly onRemove: () => void;
}

const FRAME = { least: -1e5, most: 1e6, digits: 0, width: 36 } as const;

/** A stretch in which a limb keeps its captured place: from, to, how much, and how long it fades. */
function HoldRow({ limb, hold, onChange, onRemove }: HoldProps) {
  return (
    <Box
      role="group"
      aria-label={`${LIMB_NAMES[limb]} kept`}
      sx={{ gridColumn: '1 / -1', display: 'flex', alignItems: 'baseline', gap: 0.6, borderTop: `1px solid ${chart('rule')}`, py: 0.2 }}
    >
      <Typography variant="body2" sx={{ flex: 1 }} noWrap>
        {LIMB_NAMES[limb]}
      </Typography>
      <TypedNumber {...FRAME} name="Kept from frame" value={hold.from} onChange={(from) => onChange({ ...hold, from })} />
      –
      <TypedNumber {...FRAME} name="Kept to frame" value={hold.to} onChange={(to) => onChange({ ...hold, to })} />
      <TypedNumber
        name="Placement weight"
        value={hold.weight}
        least={0}
        most={1}
        step={0.1}
        width={30}
        onChange={(weight) => onChange({ ...hold, weight })}
      />
      <TypedNumber
        name="Fade in seconds"
        unit="s"
        value={hold.fade}
        least={0}
        most={5}
        step={0.05}
        width={30}
        onChange={(fade) => onChange({ ...hold, fade })}
      />
      <Sign name={`Let the ${LIMB_NAMES[limb]} go`} size={16} onClick={onRemove}>
        <CloseIcon />
      </Sign>
    </Box>
  );
}
