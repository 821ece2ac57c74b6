'use client';
import {
  BREAK_OFF_WORDS,
  changeTransition,
  ENTRY_WORDS,
  moveTransition,
  PLAY_BOUNDS,
  type Condition,
  type Graph,
  type Transition,
} from '@lantern/motion';
import { BREAK_OFFS, ENTRIES } from '@lantern/drive';
import { Box, FormControlLabel, Switch, Typography } from '@mui/material';
import { lazily } from '@/controls/lazily';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import { TypedNumber } from '@/controls/TypedNumber';
import { conditionFor } from './graph-edits';
import { Pick } from './Pick';
import { LinkButton } from './LinkButton';
import type { Sounded } from './use-tried';

// Charts are read when they are shown.
const TriedChart = lazily(async () => (await import('./TriedChart')).TriedChart);

interface Props {
  readonly graph: Graph;
  readonly index: number;
  readonly sounded: Sounded | null;
  readonly put: (graph: Graph) => void;
  readonly onChoose: (transition: number | null) => void;
  readonly onWorst: (where: 'bench' | 'drive') => void;
}

/** Overlaps are spoken of in frames of a game's usual rate. */
const FPS = 60;

/** A transition as a sentence whose words can be changed, and what came of trying it. */
export function TransitionPanel({ graph, index, sounded, put, onChoose, onWorst }: Props) {
  const own = graph.transitions[index];
  const siblings = graph.transitions.filter(({ from }) => from === own.from);
  const change = (next: Partial<Transition>) => put(changeTransition(graph, index, next));
  const move = (by: -1 | 1) => {
    const next = moveTransition(graph, index, by);
    if (next === graph) return;
    put(next);
    onChoose(next.transitions.indexOf(own));
  };
  const states = graph.states.map(({ name }) => [name, name] as const);
  return (
    <Box sx={{ px: 2, py: 1.4, display: 'grid', gap: 1.6 }} component="section" aria-label="Transition">
      <Box>
        <Typography variant="h1">
          From {own.from ?? 'anything'} to {own.to}
        </Typography>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
          <Typography variant="body2" color="text.secondary" sx={{ flex: 1 }}>
            channel {index + 1} of {graph.transitions.length}, tried {ordinal(siblings.indexOf(own) + 1)} out of {own.from ?? 'anything'}
          </Typography>
          <Small name="Try it earlier" onClick={() => move(-1)}>
            earlier
          </Small>
          <Small name="Try it later" onClick={() => move(1)}>
            later
          </Small>
        </Box>
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.7, alignItems: 'center', lineHeight: 2 }}>
        <span>From</span>
        <Pick
          name="From"
          value={own.from ?? ''}
          options={[['', 'anything'], ...states]}
          onChange={(from) => from !== own.to && change({ from: from || null })}
        />
        <span>to</span>
        <Pick name="To" value={own.to} options={states} onChange={(to) => to !== own.from && change({ to })} />
        <span>{own.when.length === 0 ? 'at any time' : 'when'}</span>
        {own.when.map((condition, i) => (
          <ConditionWords
            key={i}
            graph={graph}
            condition={condition}
            isFirst={i === 0}
            onChange={(next) => change({ when: own.when.map((old, k) => (k === i ? next : old)) })}
            onRemove={() => change({ when: own.when.filter((_, k) => k !== i) })}
          />
        ))}
        <Break />
        <span>leave</span>
        <LeaveWords own={own} change={change} />
        <Break />
        <span>overlap</span>
        <TypedNumber
          name="Overlap"
          value={Math.round(own.overlap * FPS)}
          unit="frames"
          least={0}
          most={180}
          digits={0}
          onChange={(frames) => change({ overlap: frames / FPS })}
        />
        <span>starting</span>
        <Pick
          name="Starting"
          value={own.entry}
          options={ENTRIES.map((entry) => [entry, ENTRY_WORDS[entry]] as const)}
          onChange={(entry) => change({ entry })}
        />
        <Break />
        <span>may be broken off by</span>
        <Pick
          name="May be broken off by"
          value={own.breakOff}
          options={BREAK_OFFS.map((by) => [by, BREAK_OFF_WORDS[by]] as const)}
          onChange={(breakOff) => change({ breakOff })}
        />
      </Box>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
        {graph.inputs.length > 0 && (
          <LinkButton onClick={() => change({ when: [...own.when, conditionFor(graph.inputs[0])] })}>and when …</LinkButton>
        )}
        <LinkButton
          onClick={() => {
            const transitions = [...graph.transitions];
            transitions.splice(index + 1, 0, { ...own });
            put({ ...graph, transitions });
            onChoose(index + 1);
          }}
        >
          or when …
        </LinkButton>
        <LinkButton
          onClick={() => {
            onChoose(null);
            put({ ...graph, transitions: graph.transitions.filter((_, i) => i !== index) });
          }}
        >
          remove it
        </LinkButton>
      </Box>
      <Box sx={{ display: 'flex', gap: 2 }}>
        <Toggle label="it is urgent" on={own.urgent} onChange={(urgent) => change({ urgent })} />
        <Toggle label="fade the two instead" on={own.fade} onChange={(fade) => change({ fade })} />
      </Box>
      <Box sx={{ borderTop: `1px solid ${chart('rule')}`, pt: 1.2 }}>
        <TriedChart
          sounded={sounded}
          popBound={PLAY_BOUNDS.pop}
          slideBound={PLAY_BOUNDS.slide}
          answerBound={PLAY_BOUNDS.answer}
          onWorst={onWorst}
        />
      </Box>
    </Box>
  );
}

/** What comes goes on a line of its own. */
const Break = () => <Box sx={{ flexBasis: '100%', height: 0 }} />;

const ordinal = (n: number): string => ['first', 'second', 'third', 'fourth', 'fifth'][n - 1] ?? `${n}th`;

function Toggle({ label, on, onChange }: { label: string; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <FormControlLabel
      control={<Switch size="small" color="default" checked={on} onChange={(_, next) => onChange(next)} />}
      label={<Typography variant="body2">{label}</Typography>}
    />
  );
}

function ConditionWords({
  graph,
  condition,
  isFirst,
  onChange,
  onRemove,
}: {
  graph: Graph;
  condition: Condition;
  isFirst: boolean;
  onChange: (next: Condition) => void;
  onRemove: () => void;
}) {
  const input = graph.inputs.find(({ name }) => name === condition.input);
  const words: readonly (readonly [string, string])[] =
    input?.kind === 'press'
      ? [['pressed', 'pressed']]
      : input?.kind === 'switch'
        ? [
            ['on', 'on'],
            ['off', 'off'],
          ]
        : [
            ['above', 'above'],
            ['below', 'below'],
          ];
  return (
    <>
      {!isFirst && <span>and</span>}
      <Pick
        name="Input"
        value={condition.input}
        options={graph.inputs.map(({ name }) => [name, name] as const)}
        onChange={(name) => {
          const next = graph.inputs.find((own) => own.name === name);
          if (next) onChange(conditionFor(next));
        }}
      />
      <span>is</span>
      <Pick
        name="Is"
        value={condition.is}
        options={words as readonly (readonly [Condition['is'], string])[]}
        onChange={(is) => onChange({ ...condition, is } as Condition)}
      />
      {'value' in condition && (
        <TypedNumber
          name={`${condition.input} ${condition.is}`}
          value={condition.value}
          unit={input?.kind === 'number' ? input.unit : ''}
          least={-1e6}
          most={1e6}
          step={input?.kind === 'number' && input.to - input.from > 20 ? 5 : 0.1}
          onChange={(value) => onChange({ ...condition, value })}
        />
      )}
      <Small name={`Without ${condition.input}`} onClick={onRemove}>
        ×
      </Small>
    </>
  );
}

function LeaveWords({ own, change }: { own: Transition; change: (next: Partial<Transition>) => void }) {
  const { leaveAfter } = own;
  const kind = leaveAfter === null ? 'now' : 'share' in leaveAfter ? 'share' : leaveAfter.landing;
  return (
    <>
      <Pick
        name="Leave"
        value={kind}
        options={[
          ['now', 'at once'],
          ['share', 'once'],
          ['left', 'on the left foot'],
          ['right', 'on the right foot'],
        ]}
        onChange={(next) => change({ leaveAfter: next === 'now' ? null : next === 'share' ? { share: 0.9 } : { landing: next } })}
      />
      {leaveAfter && 'share' in leaveAfter && (
        <>
          <TypedNumber
            name="Share played"
            value={Math.round(leaveAfter.share * 100)}
            unit="%"
            least={0}
            most={100}
            digits={0}
            onChange={(share) => change({ leaveAfter: { share: share / 100 } })}
          />
          <span>is played</span>
        </>
      )}
    </>
  );
}
