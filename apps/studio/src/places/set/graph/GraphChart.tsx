'use client';
import {
  getViewportForBounds,
  ReactFlow,
  ReactFlowProvider,
  useReactFlow,
  useStore,
  useStoreApi,
  type Connection,
  type Node,
  type NodeChange,
} from '@xyflow/react';
import '@xyflow/react/dist/base.css';
import { whenText, wayText } from '@lantern/motion';
import { Box } from '@mui/material';
import { useEffect, useMemo, useRef, useState } from 'react';
import { chart } from '@/controls/theme';
import { Channel, type ChannelEdge } from './Channel';
import { laneOf, wordsOf } from './chart-words';
import { COMMENT, isShallow, Shared, type GraphChartProps } from './chart-shared';
import { ANYWHERE, CARD, placesOf, sizeOf } from './layout';
import { Anywhere, Comment } from './OtherNodes';
import { StateCard } from './StateCard';

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

function Chart({ graph, tried, popBound, onChoose, chosen, onMove, onLink, onRemove, onAdd, onComment }: GraphChartProps) {
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
        ...sizeOf(id),
        draggable: id !== ANYWHERE,
        selectable: id !== ANYWHERE,
        selected: chosen !== null && 'state' in chosen && chosen.state === id,
        ariaLabel: id === ANYWHERE ? 'Anything' : `State ${id}`,
      })),
    ],
    [places, dragged, chosen, graph.comments],
  );
  // Words stay where they are on their ways while a card is dragged, and look for room when it is let go.
  const shallow = graph.transitions.flatMap((_, i) => (isShallow(tried[i], popBound) ? [i] : [])).join(' ');
  const { labels, bounds } = useMemo(
    () => wordsOf(graph, places, new Set(shallow.split(' ').filter(Boolean).map(Number))),
    [graph, places, shallow],
  );
  const edges = useMemo<ChannelEdge[]>(
    () =>
      graph.transitions.map(({ from, to }, i) => ({
        id: String(i),
        type: 'channel',
        source: from ?? ANYWHERE,
        target: to,
        data: { lane: laneOf(graph, i), label: labels[i] },
        selected: chosen !== null && 'transition' in chosen && chosen.transition === i,
        ariaLabel: `Channel ${i + 1}: ${wayText({ from, to })}, ${whenText(graph, graph.transitions[i])}`,
      })),
    [graph, chosen, labels],
  );
  const flow = useReactFlow();
  const store = useStoreApi();
  const isReady = useStore(({ panZoom, width, height }) => panZoom !== null && width > 0 && height > 0);
  const count = graph.states.length;
  const latest = useRef(bounds);
  useEffect(() => {
    latest.current = bounds;
  });
  useEffect(() => {
    if (!isReady) return;
    const { width, height } = store.getState();
    void flow.setViewport(getViewportForBounds(latest.current, width, height, LEAST_ZOOM, 1, 0.06));
  }, [flow, store, count, isReady]);
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
        minZoom={LEAST_ZOOM}
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

/** How small the picture may be made. */
const LEAST_ZOOM = 0.3;

const NODES = { state: StateCard, anywhere: Anywhere, comment: Comment };
const EDGES = { channel: Channel };
