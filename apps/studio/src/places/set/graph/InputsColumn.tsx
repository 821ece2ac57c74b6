'use client';
'use no memo';
import { changeInput, removeInput, type Graph, type GraphInput } from '@lantern/motion';
import { Box, Button, Menu, MenuItem, Popover, Slider, Typography } from '@mui/material';
import { useState } from 'react';
import { numeral } from '@/controls/Figure';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import { TypedNumber } from '@/controls/TypedNumber';
import { TypedText } from '@/controls/TypedText';
import type { SetPlayer } from '@lantern/drive';
import { addInput } from './graph-edits';
import type { LiveGraph } from './use-live-graph';

interface Props {
  readonly graph: Graph;
  readonly live: LiveGraph | null;
  /** The state that plays; thresholds of what leads from it are lit. */
  readonly lit: string | null;
  readonly isPlaying: boolean;
  readonly onPlay: (isPlaying: boolean) => void;
  readonly put: (graph: Graph) => void;
}

/** What the game tells the graph, tried live, and what has been passed through. */
export function InputsColumn({ graph, live, lit, isPlaying, onPlay, put }: Props) {
  const [adding, setAdding] = useState<HTMLElement | null>(null);
  // The sliders say what the player has been told.
  const [, setTouched] = useState(0);
  const touch = () => setTouched((n) => n + 1);
  const phase = live ? live.player.phase() : NaN;
  return (
    <Box sx={{ height: '100%', overflow: 'auto', px: 2, py: 1.4, borderRight: `1px solid ${chart('rule')}` }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          Inputs
        </Typography>
        <Small name={isPlaying ? 'Stop playing' : 'Play the graph'} pressed={isPlaying} onClick={() => onPlay(!isPlaying)}>
          {isPlaying ? 'tried live' : 'stands still'}
        </Small>
      </Box>
      {graph.inputs.map((input) => (
        <InputRow key={input.name} graph={graph} input={input} player={live?.player ?? null} lit={lit} put={put} onTouch={touch} />
      ))}
      <Box sx={{ borderTop: `1px solid ${chart('rule')}`, mt: 1, pt: 0.8 }}>
        <Typography variant="caption" color="text.secondary" sx={{ fontStyle: 'italic' }}>
          from what plays
        </Typography>
        <Row name="foot down">
          {live ? [live.player.down[0] > 0 && '● left', live.player.down[1] > 0 && '◆ right'].filter(Boolean).join(' ') || 'none' : '–'}
        </Row>
        <Row name="phase">{Number.isNaN(phase) ? '–' : phase.toFixed(2)}</Row>
      </Box>
      <Button color="inherit" sx={{ mt: 0.6, px: 0, color: chart('lampText') }} onClick={(event) => setAdding(event.currentTarget)}>
        add an input
      </Button>
      <Menu anchorEl={adding} open={adding !== null} onClose={() => setAdding(null)}>
        {(
          [
            ['number', 'a number, such as a speed'],
            ['switch', 'a switch, on or off'],
            ['press', 'a press, true until it is used'],
          ] as const
        ).map(([kind, words]) => (
          <MenuItem
            key={kind}
            dense
            onClick={() => {
              setAdding(null);
              put(addInput(graph, kind));
            }}
          >
            {words}
          </MenuItem>
        ))}
      </Menu>
      <Typography variant="h2" sx={{ mt: 2 }}>
        Now
      </Typography>
      <Box
        component="ol"
        aria-label="States passed through"
        sx={{ listStyle: 'none', m: 0, p: 0, borderTop: `1px solid ${chart('rule')}`, pt: 0.5 }}
      >
        {(live?.passed ?? []).map(({ state, seconds }, i) => (
          <Box component="li" key={i} sx={{ display: 'flex', gap: 1, opacity: i === 0 ? 1 : 0.75 }}>
            <Typography variant="body2" noWrap sx={{ flex: 1, fontWeight: i === 0 ? 700 : 400 }}>
              {state}
            </Typography>
            <Typography variant="body2">{seconds.toFixed(1)} s</Typography>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

const Row = ({ name, children }: { name: string; children: React.ReactNode }) => (
  <Box sx={{ display: 'flex' }}>
    <Typography variant="body2" sx={{ flex: 1 }}>
      {name}
    </Typography>
    <Typography variant="body2" sx={{ fontWeight: 600 }}>
      {children}
    </Typography>
  </Box>
);

interface RowProps {
  readonly graph: Graph;
  readonly input: GraphInput;
  readonly player: SetPlayer | null;
  readonly lit: string | null;
  readonly put: (graph: Graph) => void;
  readonly onTouch: () => void;
}

function InputRow({ graph, input, player, lit, put, onTouch }: RowProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const index = graph.inputs.indexOf(input);
  const known = player !== null && index < player.inputs.length;
  const value = known ? player.inputs[index] : input.kind === 'press' ? 0 : Number(input.start);
  const tell = (next: number) => {
    if (!known) return;
    player.inputs[index] = next;
    onTouch();
  };
  return (
    <Box sx={{ borderTop: `1px solid ${chart('rule')}`, mt: 1, pt: 0.6 }} role="group" aria-label={`Input ${input.name}`}>
      <Box sx={{ display: 'flex', alignItems: 'center', flexWrap: 'wrap' }}>
        <Small name={`Change the input ${input.name}`} onClick={(event) => setAnchor(event.currentTarget)}>
          {input.name}
        </Small>
        <Box sx={{ flex: 1 }} />
        {input.kind === 'number' ? (
          <Typography variant="body2" sx={{ fontWeight: 700 }}>
            {numeral(value, Math.abs(input.to - input.from) > 20 ? 0 : 2)} <span style={{ fontWeight: 400 }}>{input.unit}</span>
          </Typography>
        ) : (
          <Button
            variant="outlined"
            color="inherit"
            aria-pressed={value > 0}
            onClick={() => tell(input.kind === 'press' ? 1 : 1 - value)}
            sx={{ borderRadius: 4, py: 0, px: 1, minWidth: 0, whiteSpace: 'nowrap', bgcolor: value > 0 ? chart('lampSoft') : undefined }}
          >
            {value > 0 ? '●' : '○'} {input.kind === 'press' ? (value > 0 ? 'pressed' : 'not pressed') : value > 0 ? 'on' : 'off'}
          </Button>
        )}
      </Box>
      {input.kind === 'number' && (
        <Box sx={{ position: 'relative', px: 0.6, pt: 0.8 }}>
          <Notches graph={graph} input={input} lit={lit} />
          <Slider
            size="small"
            color="secondary"
            aria-label={input.name}
            min={input.from}
            max={input.to}
            step={(input.to - input.from) / 100}
            value={value}
            onChange={(_, next) => tell(next as number)}
            onDoubleClick={() => tell(input.start)}
            sx={{ color: chart('ink'), py: 0.8, display: 'block' }}
          />
          <Box sx={{ display: 'flex', justifyContent: 'space-between', mt: -0.5 }}>
            <Typography variant="caption">{numeral(input.from, 0)}</Typography>
            <Typography variant="caption">{numeral(input.to, Math.abs(input.to) < 10 && input.to % 1 !== 0 ? 1 : 0)}</Typography>
          </Box>
        </Box>
      )}
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <Box sx={{ p: 2, display: 'grid', gap: 1, width: 230 }}>
          <TypedText
            key={input.name}
            label="Name"
            value={input.name}
            read={(text) =>
              text.trim() && !graph.inputs.some(({ name }) => name === text.trim() && name !== input.name) ? text.trim() : null
            }
            onChange={(name) => put(changeInput(graph, input.name, { ...input, name }))}
          />
          {input.kind === 'number' && (
            <>
              <TypedNumber
                name="Lowest"
                label="lowest"
                value={input.from}
                least={-1e6}
                most={input.to - 0.01}
                onChange={(from) => put(changeInput(graph, input.name, { ...input, from, start: Math.max(from, input.start) }))}
              />
              <TypedNumber
                name="Highest"
                label="highest"
                value={input.to}
                least={input.from + 0.01}
                most={1e6}
                onChange={(to) => put(changeInput(graph, input.name, { ...input, to, start: Math.min(to, input.start) }))}
              />
              <TypedText
                key={input.unit}
                label="Unit"
                value={input.unit}
                read={(text) => text.trim().slice(0, 12)}
                onChange={(unit) => put(changeInput(graph, input.name, { ...input, unit }))}
              />
            </>
          )}
          <Button color="inherit" onClick={() => put(removeInput(graph, input.name))}>
            Remove “{input.name}”
          </Button>
        </Box>
      </Popover>
    </Box>
  );
}

/** Where thresholds of transitions lie; those that lead from the present state are lit. */
function Notches({ graph, input, lit }: { graph: Graph; input: GraphInput & { kind: 'number' }; lit: string | null }) {
  const marks = graph.transitions.flatMap(({ from, to, when }) =>
    when.flatMap((own) =>
      'value' in own && own.input === input.name
        ? [{ value: own.value, is: own.is, isLit: (from === lit || from === null) && lit !== null, to }]
        : [],
    ),
  );
  return (
    <Box sx={{ position: 'absolute', left: 5, right: 5, top: 0, height: 9 }} aria-hidden>
      {marks.map(({ value, is, isLit, to }, i) => (
        <Box
          key={i}
          title={`${is} ${value}: to ${to}`}
          sx={{ position: 'absolute', left: `${(100 * (value - input.from)) / (input.to - input.from)}%`, ml: '-5px' }}
        >
          <svg width={10} height={9}>
            <path d="M0.5 1h9l-4.5 7z" fill={isLit ? chart('lamp') : chart('card')} stroke={chart('ink')} />
          </svg>
        </Box>
      ))}
    </Box>
  );
}
