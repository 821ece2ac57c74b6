'use client';
import { changeState, leading, whenText, type Graph, type GraphState } from '@lantern/motion';
import { Box, FormControlLabel, Switch, Typography } from '@mui/material';
import { chart } from '@/controls/theme';
import { TypedText } from '@/controls/TypedText';
import type { SetDoc } from '@/data/sets-store';
import type { SetView } from '@/data/set-view';
import { addTransition } from './graph-edits';
import { Pick } from './Pick';
import { LinkButton } from './LinkButton';

interface Props {
  readonly graph: Graph;
  readonly state: GraphState;
  readonly doc: SetDoc;
  readonly view: SetView;
  readonly put: (graph: Graph) => void;
  readonly onState: (name: string | null) => void;
  readonly onTransition: (index: number) => void;
  readonly onPlay: () => void;
}

/** A state: what it is called, what it plays, and where it leads. */
export function StatePanel({ graph, state, doc, view, put, onState, onTransition, onPlay }: Props) {
  const { name, plays } = state;
  const change = (next: Partial<GraphState>) => put(changeState(graph, name, next));
  const numbers = graph.inputs.filter(({ kind }) => kind === 'number');
  const value = plays ? ('clip' in plays ? `clip ${plays.clip}` : `field ${plays.field}`) : '';
  const members = view.members.filter(({ doc: { id } }) => !doc.without.includes(id));
  const isThere =
    plays === null ||
    ('clip' in plays ? members.some(({ doc: { id } }) => id === plays.clip) : doc.fields.some(({ id }) => id === plays.field));
  const choose = (next: string) => {
    const [kind, id] = [next.slice(0, next.indexOf(' ')), next.slice(next.indexOf(' ') + 1)];
    if (kind === 'clip') {
      const clip = members.find(({ doc: own }) => own.id === id);
      change({ plays: { clip: id, loop: clip?.doc.steps.some((step) => step.kind === 'loop') ?? true } });
    } else {
      const field = doc.fields.find((own) => own.id === id);
      if (!field) return;
      // Inputs of the same names steer it; else whatever numbers there are.
      const inputs = field.inputs.map(
        (own, i) => numbers.find((number) => number.name === own)?.name ?? numbers[i]?.name ?? numbers[0]?.name ?? 'speed',
      );
      change({ plays: { field: id, inputs } });
    }
  };
  const leads = leading(graph, name);
  return (
    <Box sx={{ px: 2, py: 1.4, display: 'grid', gap: 1.4 }} component="section" aria-label="State">
      <TypedText
        key={name}
        label="State"
        value={name}
        isTitle
        read={(text) => text.trim().slice(0, 60) || null}
        refuse={(text) => (graph.states.some((own) => own.name === text.trim() && own !== state) ? 'Another state is called so.' : null)}
        onChange={(next) => {
          put(changeState(graph, name, { name: next }));
          onState(next);
        }}
      />
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.7, alignItems: 'center' }}>
        <span>plays</span>
        <Pick
          name="Plays"
          value={isThere ? value : ''}
          options={[
            ['', plays && !isThere ? '▲ what is not there' : 'nothing yet'],
            ...doc.fields.map((own) => [`field ${own.id}`, `the field of ${own.name}`] as const),
            ...members.map(({ doc: own }) => [`clip ${own.id}`, own.name] as const),
          ]}
          onChange={(next) => (next === '' ? change({ plays: null }) : choose(next))}
        />
        {plays && 'field' in plays && (
          <>
            <span>, steered by</span>
            {plays.inputs.map((input, i) => (
              <Pick
                key={i}
                name={`Steered by, ${i + 1}`}
                value={input}
                options={numbers.map((own) => [own.name, own.name] as const)}
                onChange={(next) => change({ plays: { ...plays, inputs: plays.inputs.map((old, k) => (k === i ? next : old)) } })}
              />
            ))}
          </>
        )}
      </Box>
      {plays && 'clip' in plays && (
        <FormControlLabel
          control={
            <Switch size="small" color="default" checked={plays.loop} onChange={(_, loop) => change({ plays: { ...plays, loop } })} />
          }
          label={<Typography variant="body2">round and round</Typography>}
        />
      )}
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
        {graph.initial !== name && <LinkButton onClick={() => put({ ...graph, initial: name })}>begin here</LinkButton>}
        <LinkButton onClick={onPlay}>play from here</LinkButton>
        <LinkButton
          onClick={() => {
            onState(null);
            put({
              ...graph,
              initial: graph.initial === name ? (graph.states.find((own) => own !== state)?.name ?? '') : graph.initial,
              states: graph.states.filter((own) => own !== state),
              transitions: graph.transitions.filter(({ from, to }) => from !== name && to !== name),
            });
          }}
        >
          remove it
        </LinkButton>
      </Box>
      <Box sx={{ borderTop: `1px solid ${chart('rule')}`, pt: 1 }}>
        <Typography variant="h2">Leads to</Typography>
        {leads.length === 0 && <Typography color="text.secondary">nowhere</Typography>}
        {leads.map((own, i) => (
          <Box
            key={i}
            sx={{
              display: 'grid',
              gridTemplateColumns: '18px 1fr',
              gap: 0.5,
              borderTop: i > 0 ? `1px solid ${chart('rule')}` : undefined,
              py: 0.3,
            }}
          >
            <Typography variant="body2" color="text.secondary">
              {i + 1}
            </Typography>
            <Box>
              <LinkButton onClick={() => onTransition(graph.transitions.indexOf(own))}>{own.to}</LinkButton>
              <Typography variant="body2">{whenText(graph, own)}</Typography>
            </Box>
          </Box>
        ))}
        <Box sx={{ display: 'flex', gap: 0.7, alignItems: 'center', mt: 1 }}>
          <span>lead to</span>
          <Pick
            name="Lead to another state"
            value=""
            options={[['', 'another state …'], ...graph.states.filter((own) => own !== state).map((own) => [own.name, own.name] as const)]}
            onChange={(to) => {
              if (to === '') return;
              put(addTransition(graph, name, to));
              onTransition(graph.transitions.length);
            }}
          />
        </Box>
      </Box>
    </Box>
  );
}
