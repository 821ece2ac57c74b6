'use client';
import { Box, ButtonBase, Typography } from '@mui/material';
import { Choose, Seconds } from '@/controls/fields';
import { StepCard } from '@/controls/StepCard';
import { chart } from '@/controls/theme';
import { SideMark } from '@/timeline/Ribbon';
import type { ContactSlide } from '@/worker/core.worker';
import type { CardProps } from './card-props';
import { SetByHand } from './SetByHand';

const NO_CONTACTS: readonly ContactSlide[] = [];

/** Feet that bear stay where they came down; every contact with how far it slid before and slides now, worst first. */
export function FootLockCard({ step, about, onChange }: CardProps<'foot-lock'>) {
  const contacts = about.measured?.contacts ?? NO_CONTACTS;
  const now = (c: ContactSlide) => c.heldCm ?? c.slideCm;
  const worst = [...contacts].sort((a, b) => now(b) - now(a));
  return (
    <StepCard step={step} onChange={onChange}>
      <Seconds
        label="let go over"
        name="Blend of the foot lock"
        value={step.blend}
        least={0.05}
        most={0.6}
        onChange={(blend) => onChange({ ...step, blend })}
      />
      <Choose
        label="hips"
        value={step.hips ? 'lower' : 'keep'}
        options={{ lower: 'come down where a leg is short', keep: 'stay as captured' }}
        onChange={(hips) => onChange({ ...step, hips: hips === 'lower' })}
      />
      <Choose
        label="height"
        value={step.level ? 'level' : 'keep'}
        options={{ level: 'soles on their ground', keep: 'as captured' }}
        onChange={(level) => onChange({ ...step, level: level === 'level' })}
      />
      <Box sx={{ gridColumn: '1 / -1', mt: 0.5 }} role="list" aria-label="Contacts">
        {worst.slice(0, 6).map((contact) => (
          <ButtonBase
            key={`${contact.side} ${contact.from}`}
            role="listitem"
            disableRipple
            onClick={() => about.onGo(Math.floor((contact.from + contact.to) / 2))}
            aria-label={`${contact.side} contact from ${contact.from} to ${contact.to}, slide ${now(contact).toFixed(2)} cm`}
            sx={{
              display: 'grid',
              gridTemplateColumns: '34px 1fr auto',
              width: '100%',
              alignItems: 'center',
              textAlign: 'left',
              borderTop: `1px solid ${chart('rule')}`,
              py: 0.15,
              '&:hover': { bgcolor: 'action.hover' },
            }}
          >
            <svg width={30} height={14} aria-hidden>
              <SideMark side={contact.side} x={0} y={7} />
            </svg>
            <Typography variant="body2" color="text.secondary">
              {contact.from}–{contact.to}
            </Typography>
            <Typography variant="body2">
              {contact.slideCm.toFixed(2)}
              {contact.heldCm !== null && (
                <>
                  {' → '}
                  <strong>{contact.heldCm.toFixed(2)}</strong>
                </>
              )}
              {' cm'}
            </Typography>
          </ButtonBase>
        ))}
        {step.contacts && <SetByHand onFind={() => onChange({ ...step, contacts: undefined })} />}
      </Box>
    </StepCard>
  );
}
