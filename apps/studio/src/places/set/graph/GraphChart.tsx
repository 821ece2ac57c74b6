'use client';
import {
  BaseEdge,
  EdgeLabelRenderer,
  Handle,
  Position,
  ReactFlow,
  ReactFlowProvider,
  useInternalNode,
  useReactFlow,
  type Connection,
  type Edge,
  type EdgeProps,
  type Node,
  type NodeChange,
  type NodeProps,
} from '@xyflow/react';
import '@xyflow/react/dist/base.css';
import { whenText, wayText, type Graph, type GraphWarning } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { createContext, memo, useContext, useEffect, useMemo, useState } from 'react';
import { chart } from '@/controls/theme';
import { LanternMark } from '@/shell/LanternMark';
import { channelWay, type Box as Rect } from './channel-way';
import { ANYWHERE, CARD, placesOf } from './layout';
import type { Sounded } from './use-tried';

export type Chosen = { readonly state: string } | { readonly transition: number } | null;

export interface GraphChartProps {
  readonly graph: Graph;
  readonly chosen: Chosen;
  readonly onChoose: (chosen: Chosen) => void;
  /** The state that plays, and the transition that led there. */
  readonly lit: string | null;
  readonly led: number;
  readonly tried: readonly (Sounded | null)[];
  readonly popBound: number;
  readonly pictures: ReadonlyMap<string, string>;
  readonly medallion: string | null;
  readonly plays: (state: string) => string;
  readonly warnings: readonly GraphWarning[];
  readonly onMove: (name: string, at: { x: number; y: number }) => void;
  readonly onLink: (from: string | null, to: string) => void;
  readonly onRemove: (chosen: NonNullable<Chosen>) => void;
  readonly onAdd: (at: { x: number; y: number }) => void;
  /** A comment changed, moved, or taken out. */
  readonly onComment: (index: number, change: { text?: string; at?: { x: number; y: number } } | null) => void;
}

/** How ids of comments begin. */
const COMMENT = 'comment ';

/** What states and channels read of the chart; the library gives them little of their own. */
const Shared = createContext<GraphChartProps | null>(null);
const useShared = () => {
  const found = useContext(Shared);
  if (!found) throw new Error('outside of the chart');
  return found;
};

/** The graph as a chart of waters: states as cards, transitions as channels with soundings. */
export function GraphChart(props: GraphChartProps) {
  return (
    <ReactFlowProvider>
      <Shared.Provider value={props}>
        <Chart {...props} />
      </Shared.Provider>
    </ReactFlowProvider>
  );
}

function Chart({ graph, onChoose, chosen, onMove, onLink, onRemove, onAdd, onComment }: GraphChartProps) {
  const places = useMemo(() => placesOf(graph), [graph]);
  // What is dragged stands where the pointer has it, until it is let go.
  const [dragged, setDragged] = useState<{ id: string; x: number; y: number } | null>(null);
  const nodes = useMemo<Node[]>(
    () => [
      ...graph.comments.map(({ at }, i) => ({
        id: `${COMMENT}${i}`,
        type: 'comment',
        position: dragged?.id === `${COMMENT}${i}` ? { x: dragged.x, y: dragged.y } : at,
        data: {},
        ariaLabel: 'Comment',
      })),
      ...[...places].map(([id, place]) => ({
        id,
        type: id === ANYWHERE ? 'anywhere' : 'state',
        position: dragged?.id === id ? { x: dragged.x, y: dragged.y } : place,
        data: {},
        width: id === ANYWHERE ? 120 : CARD.width,
        height: id === ANYWHERE ? 34 : CARD.height,
        draggable: id !== ANYWHERE,
        selectable: id !== ANYWHERE,
        selected: chosen !== null && 'state' in chosen && chosen.state === id,
        ariaLabel: id === ANYWHERE ? 'Anything' : `State ${id}`,
      })),
    ],
    [places, dragged, chosen, graph.comments],
  );
  const edges = useMemo<Edge[]>(
    () =>
      graph.transitions.map(({ from, to }, i) => ({
        id: String(i),
        type: 'channel',
        source: from ?? ANYWHERE,
        target: to,
        data: { lane: graph.transitions.slice(0, i).filter((own) => own.from === from && own.to === to).length },
        selected: chosen !== null && 'transition' in chosen && chosen.transition === i,
        ariaLabel: `Channel ${i + 1}: ${wayText({ from, to })}, ${whenText(graph, graph.transitions[i])}`,
      })),
    [graph, chosen],
  );
  const flow = useReactFlow();
  const count = graph.states.length;
  useEffect(() => {
    const timer = setTimeout(() => void flow.fitView({ padding: 0.13, maxZoom: 1 }), 30);
    return () => clearTimeout(timer);
  }, [flow, count]);
  const changed = (changes: NodeChange[]) => {
    for (const change of changes) {
      if (change.type !== 'position' || !change.position) continue;
      setDragged({ id: change.id, ...change.position });
      if (change.dragging) continue;
      setDragged(null);
      const at = { x: Math.round(change.position.x), y: Math.round(change.position.y) };
      if (change.id.startsWith(COMMENT)) onComment(Number(change.id.slice(COMMENT.length)), { at });
      else onMove(change.id, at);
    }
  };
  return (
    <Box
      sx={{
        height: '100%',
        position: 'relative',
        '& .react-flow__node': { cursor: 'pointer' },
        '& .react-flow__handle': {
          width: 11,
          height: 11,
          border: `1.5px solid ${chart('ink')}`,
          bgcolor: chart('card'),
          borderRadius: '50%',
          opacity: 0,
        },
        '& .react-flow__node:hover .react-flow__handle.source, & .react-flow__node:focus-within .react-flow__handle.source': { opacity: 1 },
        '& .react-flow__connection-path': { stroke: chart('lamp'), strokeWidth: 3 },
        '& .react-flow__edge': { cursor: 'pointer' },
      }}
    >
      <Rhumbs />
      <ReactFlow
        nodes={nodes}
        edges={edges}
        nodeTypes={NODES}
        edgeTypes={EDGES}
        onNodesChange={changed}
        onNodeClick={(_, { id }) => id !== ANYWHERE && !id.startsWith(COMMENT) && onChoose({ state: id })}
        onEdgeClick={(_, { id }) => onChoose({ transition: Number(id) })}
        onPaneClick={(event) => {
          if (event.detail === 2)
            onAdd(flow.screenToFlowPosition({ x: event.clientX - CARD.width / 2, y: event.clientY - CARD.height / 2 }));
          else onChoose(null);
        }}
        onConnect={({ source, target }: Connection) => source !== target && onLink(source === ANYWHERE ? null : source, target)}
        onKeyDown={(event) => {
          const isTyping = (event.target as HTMLElement).closest('input, textarea') !== null;
          if ((event.key === 'Delete' || event.key === 'Backspace') && chosen && !isTyping) onRemove(chosen);
          const focused = (event.target as HTMLElement).closest<HTMLElement>('.react-flow__node, .react-flow__edge');
          const id = focused?.dataset.id;
          if (event.key !== 'Enter' || !focused || !id || id === ANYWHERE || id.startsWith(COMMENT)) return;
          onChoose(focused.classList.contains('react-flow__edge') ? { transition: Number(id) } : { state: id });
        }}
        connectionRadius={110}
        deleteKeyCode={null}
        zoomOnDoubleClick={false}
        minZoom={0.3}
        maxZoom={1.6}
        nodesFocusable
        edgesFocusable
        proOptions={{ hideAttribution: true }}
      />
    </Box>
  );
}

/** The paper's rays. */
function Rhumbs() {
  return (
    <svg width="100%" height="100%" style={{ position: 'absolute', inset: 0 }} aria-hidden>
      {Array.from({ length: 16 }, (_, i) => {
        const angle = (i * Math.PI) / 8;
        return (
          <line
            key={i}
            x1="88%"
            y1="88%"
            x2={`${88 + 140 * Math.cos(angle)}%`}
            y2={`${88 + 140 * Math.sin(angle)}%`}
            stroke={chart('rule')}
            strokeWidth={0.7}
            opacity={0.6}
          />
        );
      })}
    </svg>
  );
}

const StateCard = memo(function StateCard({ id }: NodeProps) {
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

/** Words that somebody has written into the picture; they go when they are emptied. */
function Comment({ id }: NodeProps) {
  const { graph, onComment } = useShared();
  const index = Number(id.slice(COMMENT.length));
  const text = graph.comments[index]?.text ?? '';
  const [draft, setDraft] = useState<string | null>(null);
  const finish = () => {
    if (draft !== null && draft !== text) onComment(index, draft.trim() === '' ? null : { text: draft.trim().slice(0, 500) });
    setDraft(null);
  };
  return (
    <textarea
      aria-label="Comment in the picture"
      rows={Math.max(1, Math.ceil((draft ?? text).length / 24))}
      value={draft ?? text}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={finish}
      style={{
        width: 190,
        border: 0,
        background: 'transparent',
        font: 'italic 15px Alegreya',
        color: chart('faint'),
        resize: 'none',
        outlineOffset: 3,
      }}
    />
  );
}

function Anywhere() {
  return (
    <Box
      sx={{
        width: 120,
        height: 34,
        display: 'grid',
        placeItems: 'center',
        border: `1px dashed ${chart('faint')}`,
        borderRadius: 4,
        bgcolor: chart('paper'),
      }}
    >
      <Typography variant="body2" sx={{ fontStyle: 'italic' }}>
        from anywhere
      </Typography>
      <Handle type="source" position={Position.Bottom} />
      <Handle type="target" position={Position.Top} style={{ visibility: 'hidden' }} />
    </Box>
  );
}

const rectOf = (node: ReturnType<typeof useInternalNode>): Rect | null =>
  node
    ? {
        ...node.internals.positionAbsolute,
        width: node.measured.width ?? node.width ?? 0,
        height: node.measured.height ?? node.height ?? 0,
      }
    : null;

/** A channel: its two banks, the way in the middle, a boat at its end, its sounding, and what it asks for. */
const Channel = memo(function Channel({ id, source, target, data }: EdgeProps) {
  const { graph, chosen, led, tried, popBound, medallion, onChoose, warnings } = useShared();
  const [from, to] = [rectOf(useInternalNode(source)), rectOf(useInternalNode(target))];
  const index = Number(id);
  const transition = graph.transitions[index];
  if (!from || !to || !transition) return null;
  const way = channelWay(from, to, Number(data?.lane ?? 0));
  const isChosen = chosen !== null && 'transition' in chosen && chosen.transition === index;
  const isLed = led === index;
  const sounding = tried[index];
  const isShallow = (sounding?.popCm ?? 0) > popBound;
  const warned = warnings.some(({ about }) => about !== null && 'transition' in about && about.transition === index);
  const [mx, my] = way.middle;
  const text = whenText(graph, transition);
  const right = to.x + to.width / 2 >= from.x + from.width / 2;
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
            ...(isShallow && { backgroundImage: `repeating-linear-gradient(135deg, ${chart('rule')} 0 2px, transparent 2px 6px)` }),
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
            transform: `translate(${right ? '0' : '-100%'}, -50%) translate(${mx + (right ? 20 : -20)}px, ${my}px)`,
            pointerEvents: 'all',
            cursor: 'pointer',
            maxWidth: 130,
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
          {isShallow && (
            <Box component="span" sx={{ display: 'block', fontStyle: 'italic', fontSize: 12 }}>
              ▲ shallow: overlap longer
            </Box>
          )}
        </Box>
        {isChosen && medallion && (
          <Box
            sx={{
              position: 'absolute',
              transform: `translate(-50%, -50%) translate(${mx + (right ? -64 : 64)}px, ${my + 40}px)`,
              pointerEvents: 'none',
              textAlign: 'center',
              width: 90,
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

const NODES = { state: StateCard, anywhere: Anywhere, comment: Comment };
const EDGES = { channel: Channel };
