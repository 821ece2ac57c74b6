'use client';
import type { StageProp, StepOfKind, TouchTarget } from '@lantern/motion';
import { Box, ButtonBase, MenuItem, Select, Typography } from '@mui/material';
import { useContext } from 'react';
import { Seconds, Share } from '@/controls/fields';
import { Small } from '@/controls/Small';
import { StepCard } from '@/controls/StepCard';
import { chart } from '@/controls/theme';
import { SideMark } from '@/timeline/Ribbon';
import type { HandContact } from '@/worker/core.worker';
import { placeOf } from '../deck/HandRows';
import { CorrectionsContext } from '../layers/corrections-context';
import type { CardProps } from './card-props';
import { SetByHand } from './SetByHand';
import { Troubles } from './Troubles';

type HandLock = StepOfKind<'hand-lock'>;
const NO_CONTACTS: readonly HandContact[] = [];
const NO_PROPS: readonly StageProp[] = [];

/** Hands that rest stay where they rest: every rest with what it is on, and how far the hand slid before and slides now, worst first. */
export function HandLockCard({ step, about, onChange }: CardProps<'hand-lock'>) {
  const measured = about.measured?.steps[step.id];
  const contacts = measured?.hands?.contacts ?? NO_CONTACTS;
  const props = useContext(CorrectionsContext)?.props ?? NO_PROPS;
  const worst = [...contacts].sort((a, b) => b.slideCm - a.slideCm);
  const isKnown = props.every((prop) => step.props.some(({ id }) => id === prop.id));
  return (
    <StepCard step={step} onChange={onChange}>
      <Seconds
        label="led there over"
        name="Blend of the hand lock"
        value={step.blend}
        least={0.05}
        most={0.8}
        onChange={(blend) => onChange({ ...step, blend })}
      />
      <Share
        label="trunk gives way"
        name="How much the trunk gives way"
        value={step.give}
        most={1}
        onChange={(give) => onChange({ ...step, give })}
      />
      {!isKnown && (
        <Box sx={{ gridColumn: '1 / -1' }}>
          <Small onClick={() => onChange({ ...step, props: [...props] })}>let hands rest on the props of the take</Small>
        </Box>
      )}
      <Box sx={{ gridColumn: '1 / -1', mt: 0.5 }} role="list" aria-label="Hand contacts">
        {measured?.hands && contacts.length === 0 && (
          <Typography variant="body2" color="text.secondary">
            No hand rests. Double click on a hand’s row of the deck to put a contact there.
          </Typography>
        )}
        {worst.slice(0, 8).map((contact) => (
          <Rest
            key={`${contact.side} ${contact.from}`}
            contact={contact}
            props={props}
            onGo={about.onGo}
            onPlace={(on) => onChange({ ...step, contacts: withPlace(contacts, contact, on) })}
          />
        ))}
        {step.contacts && <SetByHand onFind={() => onChange({ ...step, contacts: undefined })} />}
      </Box>
      <Troubles of={measured} />
    </StepCard>
  );
}

/** All rests as they are, one of them on something else. */
function withPlace(contacts: readonly HandContact[], one: HandContact, on: TouchTarget | undefined): HandLock['contacts'] {
  const of = (side: HandContact['side']) =>
    contacts
      .filter((own) => own.side === side)
      .map((own) => (own === one ? { from: own.from, to: own.to, on } : { from: own.from, to: own.to, on: own.on, slide: own.slide }));
  return { left: of('left'), right: of('right') };
}

function Rest({
  contact,
  props,
  onGo,
  onPlace,
}: {
  contact: HandContact;
  props: readonly StageProp[];
  onGo: (frame: number) => void;
  onPlace: (on: TouchTarget | undefined) => void;
}) {
  const { side, from, to, on, slide, slideCm, heldCm } = contact;
  const places: Record<string, TouchTarget | undefined> = { now: on, found: undefined, floor: { to: 'floor' } };
  for (const prop of props) places[`the ${prop.kind}`] = { to: 'prop', prop };
  return (
    <Box
      role="listitem"
      sx={{
        display: 'grid',
        gridTemplateColumns: '34px auto minmax(0, 1fr) auto',
        alignItems: 'center',
        columnGap: 0.6,
        borderTop: `1px solid ${chart('rule')}`,
      }}
    >
      <svg width={30} height={14} aria-hidden>
        <SideMark side={side} x={0} y={7} isOpen />
      </svg>
      <ButtonBase
        disableRipple
        onClick={() => onGo(Math.floor((from + to) / 2))}
        aria-label={`Go to the ${side} hand contact from ${from} to ${to}`}
      >
        <Typography variant="body2" color="text.secondary">
          {from}–{to}
        </Typography>
      </ButtonBase>
      <Select
        variant="standard"
        disableUnderline
        value="now"
        onChange={(event) => onPlace(places[event.target.value])}
        inputProps={{ 'aria-label': `What the ${side} hand rests on from ${from}` }}
        sx={{ fontSize: '0.9rem', minWidth: 0, '& .MuiSelect-select': { py: 0.1 } }}
      >
        {Object.keys(places).map((key) => (
          <MenuItem key={key} value={key} dense>
            {key === 'now' ? placeOf(on, slide) : key === 'found' ? 'what is nearest' : key === 'floor' ? 'on the floor' : `on ${key}`}
          </MenuItem>
        ))}
      </Select>
      <Typography variant="body2" noWrap>
        {slideCm.toFixed(2)} → <strong>{heldCm.toFixed(2)}</strong> cm
      </Typography>
    </Box>
  );
}
