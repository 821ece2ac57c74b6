'use client';
import { Handle, Position, type NodeProps } from '@xyflow/react';
import { Box, Typography } from '@mui/material';
import { memo } from 'react';
import { chart } from '@/controls/theme';
import { LanternMark } from '@/shell/LanternMark';
import { useShared } from './chart-shared';
import { CARD } from './layout';

/** A state in the picture: what it is called, poses of what it plays, and what that is; under it the ring that channels are drawn from. */
export const StateCard = memo(function StateCard({ id }: NodeProps) {
  const { graph, chosen, lit, pictures, plays, warnings } = useShared();
  const isChosen = chosen !== null && 'state' in chosen && chosen.state === id;
  const isLit = lit === id;
  const picture = pictures.get(id);
  const warned = warnings.some(({ about }) => about !== null && 'state' in about && about.state === id);
  const what = graph.states.find(({ name }) => name === id)?.plays;
  return (
    <>
      {graph.initial === id && (
        <Box sx={{ position: 'absolute', left: -12, top: -38, display: 'flex', alignItems: 'end', gap: 1, pointerEvents: 'none' }}>
          <LanternMark size={30} />
          <Typography sx={{ fontFamily: 'Alegreya', fontStyle: 'italic', fontSize: 14, pb: 0.6 }} color="text.secondary">
            begins here
          </Typography>
        </Box>
      )}
      <Box
        sx={{
          width: CARD.width,
          height: CARD.height,
          bgcolor: chart('card'),
          border: `1px solid ${isChosen || isLit ? chart('lamp') : chart('rule')}`,
          outline: `1px solid ${isChosen ? chart('lamp') : chart('rule')}`,
          outlineOffset: -5,
          borderRadius: 1,
          boxShadow: isLit ? `0 0 22px 4px ${chart('lamp')}88` : `1px 2px 4px ${chart('ink')}22`,
          px: 1.4,
          py: 1,
          display: 'grid',
          gridTemplateRows: 'auto 1fr auto',
          gap: 0.5,
        }}
      >
        <Typography sx={{ fontFamily: 'Alegreya', fontSize: 18, fontWeight: 500, lineHeight: 1.1 }} noWrap>
          {warned && '▲ '}
          {id}
        </Typography>
        <Box
          style={{ backgroundImage: picture ? `url(${picture})` : undefined }}
          sx={{
            bgcolor: chart('lampSoft'),
            minHeight: 0,
            backgroundSize: 'contain',
            backgroundPosition: 'center',
            backgroundRepeat: 'no-repeat',
            opacity: 0.95,
          }}
        />
        <Typography variant="caption" color="text.secondary" noWrap sx={{ display: 'flex', alignItems: 'center', gap: 0.7 }}>
          <svg width={15} height={12} viewBox="0 0 15 12" aria-hidden>
            {what && 'field' in what ? (
              <>
                <path d="M7.5 1 14 11H1z" fill="none" stroke={chart('ink')} />
                <circle cx={7.5} cy={8} r={1.6} fill={chart('ink')} />
              </>
            ) : (
              <rect x={1} y={2.5} width={13} height={7} rx={1.5} fill={chart('lampSoft')} stroke={chart('ink')} />
            )}
          </svg>
          {plays(id)}
        </Typography>
      </Box>
      <Handle type="source" position={Position.Bottom} aria-label={`Lead from ${id}`} />
      <Handle
        type="target"
        position={Position.Top}
        style={{
          inset: 0,
          width: '100%',
          height: '100%',
          transform: 'none',
          borderRadius: 4,
          border: 0,
          background: 'transparent',
          pointerEvents: 'none',
        }}
      />
    </>
  );
});
