'use client';
import { BaseEdge, EdgeLabelRenderer, useInternalNode, type Edge, type EdgeProps } from '@xyflow/react';
import { whenText } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { memo } from 'react';
import { chart } from '@/controls/theme';
import { BESIDE, PICTURE, WIDEST, type PlacedLabel } from './channel-labels';
import { channelWay, type Box as Rect } from './channel-way';
import { isShallow, SHALLOW, useShared } from './chart-shared';

/** A transition in the picture: which of several that lead the same way, and where its words stand. */
export type ChannelEdge = Edge<{ readonly lane: number; readonly label: PlacedLabel }, 'channel'>;

const rectOf = (node: ReturnType<typeof useInternalNode>): Rect | null =>
  node
    ? {
        ...node.internals.positionAbsolute,
        width: node.measured.width ?? node.width ?? 0,
        height: node.measured.height ?? node.height ?? 0,
      }
    : null;

/** A channel: its two banks, the way in the middle, a boat at its end, its sounding, and what it asks for. */
export const Channel = memo(function Channel({ id, source, target, data }: EdgeProps<ChannelEdge>) {
  const { graph, chosen, led, tried, popBound, medallion, onChoose, warnings } = useShared();
  const [from, to] = [rectOf(useInternalNode(source)), rectOf(useInternalNode(target))];
  const index = Number(id);
  const transition = graph.transitions[index];
  if (!from || !to || !transition) return null;
  const way = channelWay(from, to, data?.lane ?? 0);
  const isChosen = chosen !== null && 'transition' in chosen && chosen.transition === index;
  const isLed = led === index;
  const sounding = tried[index];
  const shallow = isShallow(sounding, popBound);
  const warned = warnings.some(({ about }) => about !== null && 'transition' in about && about.transition === index);
  const { share, isRight: right, picture } = data?.label ?? { share: 0.5, isRight: true, picture: [64, 40] };
  const [mx, my] = way.along(share);
  const text = whenText(graph, transition);
  return (
    <>
      <path d={way.path} fill="none" stroke={chart('faint')} strokeWidth={15} strokeDasharray="7 5" opacity={isChosen ? 1 : 0.8} />
      <path d={way.path} fill="none" stroke={isChosen ? chart('lampSoft') : chart('paper')} strokeWidth={13} />
      {!isChosen && <path d={way.path} fill="none" stroke={chart('rule')} strokeWidth={13} opacity={isLed ? 0.9 : 0.35} />}
      <BaseEdge
        id={id}
        path={way.path}
        style={{ stroke: isChosen || isLed ? chart('lamp') : chart('faint'), strokeWidth: isChosen ? 3 : 1.4 }}
        interactionWidth={26}
      />
      <circle
        cx={way.start[0]}
        cy={way.start[1]}
        r={4.2}
        fill={chart('card')}
        stroke={isChosen ? chart('lamp') : chart('ink')}
        strokeWidth={1.4}
      />
      <g transform={`translate(${way.boat}) rotate(${way.boatTurn})`}>
        <path d="M-11 -5H4Q11 -3 14 0Q11 3 4 5H-11Z" fill={chart('ink')} />
        <path d="M-8 -2.4H3Q6 -1.2 8 0Q6 1.2 3 2.4H-8Z" fill={chart('paper')} />
      </g>
      <EdgeLabelRenderer>
        <Box
          className="nodrag nopan"
          onClick={() => onChoose({ transition: index })}
          sx={{
            position: 'absolute',
            transform: `translate(-50%, -50%) translate(${mx}px, ${my}px)`,
            pointerEvents: 'all',
            cursor: 'pointer',
            minWidth: 28,
            height: 22,
            px: 0.5,
            borderRadius: 11,
            border: `1px solid ${isChosen ? chart('lamp') : chart('faint')}`,
            bgcolor: chart('card'),
            display: 'grid',
            placeItems: 'center',
            fontFamily: 'Alegreya',
            fontStyle: 'italic',
            fontSize: 15,
            fontWeight: 600,
            lineHeight: 1,
            ...(shallow && { backgroundImage: `repeating-linear-gradient(135deg, ${chart('rule')} 0 2px, transparent 2px 6px)` }),
          }}
          title={sounding ? `pops by ${sounding.popCm.toFixed(1)} cm at the most` : 'being tried'}
        >
          <span>{sounding ? sub(sounding.popCm) : '·'}</span>
        </Box>
        <Box
          className="nodrag nopan"
          onClick={() => onChoose({ transition: index })}
          sx={{
            position: 'absolute',
            transform: `translate(${right ? '0' : '-100%'}, -50%) translate(${mx + (right ? BESIDE : -BESIDE)}px, ${my}px)`,
            pointerEvents: 'all',
            cursor: 'pointer',
            width: 'max-content',
            maxWidth: WIDEST,
            textAlign: right ? 'left' : 'right',
            fontWeight: isChosen ? 700 : 400,
            fontSize: 13,
            lineHeight: 1.15,
            color: chart('ink'),
            textShadow: `0 0 3px ${chart('paper')}, 0 0 3px ${chart('paper')}, 0 0 5px ${chart('paper')}`,
          }}
        >
          {warned && '▲ '}
          {text}
          {shallow && (
            <Box component="span" sx={{ display: 'block', fontStyle: 'italic', fontSize: 12 }}>
              {SHALLOW}
            </Box>
          )}
        </Box>
        {isChosen && medallion && (
          <Box
            sx={{
              position: 'absolute',
              transform: `translate(-50%, -50%) translate(${mx + picture[0]}px, ${my + picture[1]}px)`,
              pointerEvents: 'none',
              textAlign: 'center',
              width: PICTURE.width,
            }}
          >
            <Box
              sx={{
                width: 72,
                height: 72,
                mx: 'auto',
                borderRadius: '50%',
                border: `2px solid ${chart('lamp')}`,
                bgcolor: chart('card'),
                overflow: 'hidden',
              }}
            >
              <img src={medallion} width={72} height={72} alt="Half-way through the overlap" />
            </Box>
            <Typography variant="caption">half-way over</Typography>
          </Box>
        )}
      </EdgeLabelRenderer>
    </>
  );
});

/** Centimetres as soundings are written: whole ones, the tenths small and low. */
function sub(cm: number) {
  const [whole, tenth] = cm.toFixed(1).split('.');
  return (
    <>
      {whole}
      <span style={{ fontSize: 10, verticalAlign: 'sub' }}>{tenth}</span>
    </>
  );
}
