'use client';
import type { SlotReport } from '@lantern/motion';
import { Box, Link as Words, Popover, Typography } from '@mui/material';
import Link from 'next/link';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import { useProjectInfo } from '@/data/project';
import type { SetDoc } from '@/data/sets-store';
import { editSet } from '@/data/sets-store';
import { RunnersUp } from '../../draft/RunnersUp';
import { STATE_WORDS } from './marks';

interface Props {
  readonly doc: SetDoc;
  readonly report: SlotReport;
  readonly anchor: Element;
  readonly nameOf: (clip: string | null) => string;
  readonly shot: string | null;
  readonly onClose: () => void;
}

/** All that is known of a slot: which clip fills it and why, its ends, the loop that it meets. */
export function SlotCard({ doc, report, anchor, nameOf, shot, onClose }: Props) {
  const project = useProjectInfo();
  const { id, state, clip, others, ends, loop, isPinned } = report;
  const choice = doc.draft?.choices.find(({ slot }) => slot === id);
  const pin = (to: string | null) => {
    const { [id]: _, ...pins } = doc.pins;
    editSet(doc, { pins: to === null ? pins : { ...pins, [id]: to } });
  };
  return (
    <Popover
      open
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'center' }}
      transformOrigin={{ vertical: 'top', horizontal: 'center' }}
    >
      <Box sx={{ p: 1.6, width: 340, display: 'grid', gap: 0.8 }} role="dialog" aria-label={`Slot ${id}`}>
        <Typography variant="h2" sx={{ lineHeight: 1.15 }}>
          {id.split('/').join(' · ')}
        </Typography>
        <Typography variant="body2" color="text.secondary">
          {isPinned ? 'pinned by hand' : STATE_WORDS[state]}
        </Typography>
        {clip && (
          <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
            <Words component={Link} href={`/${project.id}/bench/${clip}`} color="inherit" sx={{ fontWeight: 700, flex: 1 }} noWrap>
              {nameOf(clip)}
            </Words>
            {state !== 'mirror' && <Small onClick={() => pin(isPinned ? null : clip)}>{isPinned ? 'unpin' : 'pin it'}</Small>}
          </Box>
        )}
        {others.map(({ clip: other, why }) => (
          <Box
            key={other}
            sx={{ display: 'grid', gridTemplateColumns: '1fr auto', columnGap: 1, borderTop: `1px solid ${chart('rule')}`, pt: 0.5 }}
          >
            <Typography variant="body2" noWrap sx={{ fontWeight: 500 }}>
              {nameOf(other)}
            </Typography>
            <Small name={`Pin ${nameOf(other)} to ${id}`} onClick={() => pin(other)}>
              take this one
            </Small>
            <Typography variant="caption" color="text.secondary" sx={{ gridColumn: '1 / -1' }}>
              {why}
            </Typography>
          </Box>
        ))}
        {choice && clip && choice.clip === clip && (
          <Box>
            <Typography variant="body2">drafted: {choice.why}</Typography>
            <RunnersUp doc={doc} choice={choice} />
          </Box>
        )}
        {ends.map(({ end, cm, worstJoint, worstDeg }) => (
          <Typography key={end} variant="body2">
            {end === 'first' ? 'begins' : 'ends'} <b>{cm.toFixed(1)} cm</b> from home, {worstJoint} turned by {worstDeg.toFixed(0)}°
          </Typography>
        ))}
        {loop && (
          <Typography variant="body2">
            {loop.end === 'last' ? 'leaves into' : 'comes from'} {nameOf(loop.loop)}
            {loop.phase !== null && <> at phase {loop.phase.toFixed(2)}</>}, <b>{loop.cm.toFixed(1)} cm</b> from it,{' '}
            {loop.endMps.toFixed(2)} m/s where that goes {loop.loopMps.toFixed(2)}
          </Typography>
        )}
        {state === 'mirror' && <Typography variant="body2">The other side of it is there; mirroring makes this one.</Typography>}
        {shot && <Typography variant="body2">{shot}</Typography>}
      </Box>
    </Popover>
  );
}
