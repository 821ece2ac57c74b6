'use client';
'use no memo';
import { PLAY_BOUNDS, removeState, type Graph } from '@lantern/motion';
import { Box, Button, CircularProgress, Typography } from '@mui/material';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { EmptyPlace } from '@/controls/EmptyPlace';
import { Split } from '@/controls/Split';
import { chart } from '@/controls/theme';
import { useKeys } from '@/controls/use-keys';
import { useClips } from '@/data/clips-store';
import { usePlayer } from '@/data/player';
import { useProjectInfo } from '@/data/project';
import { useGraphWarnings, usePlay } from '@/data/play-view';
import { useReplay } from '@/data/replay';
import { editSet, type SetDoc } from '@/data/sets-store';
import type { SetView } from '@/data/set-view';
import { Commands } from '@/shell/Commands';
import type { Chosen } from './chart-shared';
import { GraphChart } from './GraphChart';
import { GraphFoot } from './GraphFoot';
import { Warnings } from './Warnings';
import { addState, addTransition, EMPTY, pinned, putGraph } from './graph-edits';
import { GraphTable } from './GraphTable';
import { InputsColumn } from './InputsColumn';
import { StatePanel } from './StatePanel';
import { TransitionPanel } from './TransitionPanel';
import { useLiveGraph } from './use-live-graph';
import { useOverlapPicture, useStatePictures } from './use-pose-pictures';
import { useTried } from './use-tried';

/** Graph: how a game gets from one motion to the next. */
export function GraphPage({ doc, view }: { doc: SetDoc; view: SetView }) {
  const play = usePlay(doc, view.members);
  const graph = doc.graph ?? play.view?.graph ?? null;
  if (view.members.length === 0)
    return (
      <EmptyPlace title="No clips yet" says="A graph leads from clip to clip. Cut some first: somebody who waits, a walk, a jog.">
        <></>
      </EmptyPlace>
    );
  if (!graph) {
    if (play.isPending || view.done < view.members.length)
      return (
        <Box sx={{ height: '100%', display: 'grid', placeItems: 'center' }}>
          <CircularProgress aria-label="Reading the clips" />
        </Box>
      );
    return (
      <EmptyPlace
        title="No graph yet"
        says={play.error ?? 'None of the clips waits, moves, stops, hops or turns, so no graph could be made of them.'}
      >
        <Button variant="contained" size="large" onClick={() => editSet(doc, { graph: addState(EMPTY).graph })}>
          Begin an empty graph
        </Button>
      </EmptyPlace>
    );
  }
  return <Open doc={doc} view={view} graph={graph} play={play} />;
}

function Open({ doc, view, graph, play }: { doc: SetDoc; view: SetView; graph: Graph; play: ReturnType<typeof usePlay> }) {
  const project = useProjectInfo();
  const router = useRouter();
  const [wanted, setChosen] = useState<Chosen>(graph.transitions.length > 0 ? { transition: 0 } : null);
  const [isTable, setTable] = useState(false);
  const chosen = stillThere(graph, wanted);
  const put = (next: Graph) => putGraph(doc, next);
  const tried = useTried(graph, play);
  const warnings = useGraphWarnings(graph, doc, view);
  const live = useLiveGraph(play.view);
  const isPlaying = usePlayer((state) => state.playing);
  const lit = live && play.view ? play.view.set.graph.states[live.player.state()].name : null;
  const led = live && play.view ? (play.view.transitions[live.player.transition()] ?? -1) : -1;
  const pictures = useStatePictures(play.view, doc.character);
  const sounded = chosen && 'transition' in chosen ? tried[chosen.transition] : null;
  const overlap = chosen && 'transition' in chosen ? graph.transitions[chosen.transition].overlap : 0;
  const medallion = useOverlapPicture(play.view, doc.character, sounded?.worst ?? null, overlap);
  const clips = useClips((state) => state.docs);
  const plays = useMemo(() => {
    const said = new Map(
      graph.states.map(({ name, plays: own }) => {
        if (!own) return [name, 'plays nothing yet'];
        if ('field' in own) return [name, `the field of ${doc.fields.find(({ id }) => id === own.field)?.name ?? 'nothing'}`];
        return [name, `plays ${clips.find(({ id }) => id === own.clip)?.name ?? 'what is not there'}, ${own.loop ? 'round' : 'once'}`];
      }),
    );
    return (name: string) => said.get(name) ?? '';
  }, [graph, doc.fields, clips]);
  const remove = (what: NonNullable<Chosen>) => {
    setChosen(null);
    put(
      'state' in what
        ? removeState(graph, what.state)
        : { ...graph, transitions: graph.transitions.filter((_, i) => i !== what.transition) },
    );
  };
  const replay = useReplay((state) => state.open);
  const toWorst = (where: 'bench' | 'drive') => {
    const worst = sounded?.worst;
    if (!worst || !play.view || !chosen || !('transition' in chosen)) return;
    const { from, to } = graph.transitions[chosen.transition];
    if (where === 'drive') {
      replay({
        set: doc.id,
        script: worst.script,
        step: worst.step,
        says: `${from ?? 'anything'} to ${to}, phase ${worst.phase.toFixed(2)}`,
      });
      router.push(`/${project.id}/drive/${doc.id}`);
      return;
    }
    const target = graph.states.find(({ name }) => name === to)?.plays;
    const clip =
      target && 'clip' in target ? target.clip : doc.fields.find(({ id }) => target && 'field' in target && id === target.field)?.clips[0];
    if (clip) router.push(`/${project.id}/bench/${clip}`);
  };
  const addOne = (at?: { x: number; y: number }) => {
    const made = addState(graph, at);
    put(made.graph);
    setChosen({ state: made.name });
  };
  useKeys('space', () => usePlayer.getState().toggle());
  return (
    <>
      <Commands
        place="set"
        commands={[
          { id: 'add-state', label: 'Graph: add a state', run: () => addOne() },
          { id: 'graph-table', label: `Graph: as ${isTable ? 'a picture' : 'a table'}`, run: () => setTable(!isTable) },
        ]}
      />
      <Split
        id="set-graph"
        parts={[
          {
            id: 'inputs',
            name: 'The inputs',
            size: '15%',
            least: '13%',
            content: (
              <InputsColumn
                graph={graph}
                live={live}
                lit={lit}
                isPlaying={isPlaying}
                onPlay={(on) => usePlayer.setState({ playing: on })}
                put={put}
              />
            ),
          },
          {
            id: 'chart',
            name: 'The graph',
            size: '58%',
            least: '35%',
            content: (
              <Box sx={{ height: '100%', display: 'grid', gridTemplateRows: 'minmax(0, 1fr) 34px' }}>
                {isTable ? (
                  <GraphTable graph={graph} chosen={chosen} plays={plays} tried={tried} lit={lit} onChoose={setChosen} />
                ) : (
                  <GraphChart
                    graph={graph}
                    chosen={chosen}
                    onChoose={setChosen}
                    lit={lit}
                    led={led}
                    tried={tried}
                    popBound={PLAY_BOUNDS.pop}
                    pictures={pictures}
                    medallion={medallion}
                    plays={plays}
                    warnings={warnings}
                    onMove={(name, at) => {
                      const whole = pinned(graph);
                      put({ ...whole, states: whole.states.map((own) => (own.name === name ? { ...own, at } : own)) });
                    }}
                    onLink={(from, to) => {
                      put(addTransition(graph, from, to));
                      setChosen({ transition: graph.transitions.length });
                    }}
                    onRemove={remove}
                    onAdd={addOne}
                    onComment={(index, change) =>
                      put({
                        ...graph,
                        comments: graph.comments.flatMap((own, i) =>
                          i !== index ? [own] : change === null ? [] : [{ ...own, ...change }],
                        ),
                      })
                    }
                  />
                )}
                <GraphFoot
                  doc={doc}
                  graph={graph}
                  put={put}
                  isTable={isTable}
                  onTable={() => setTable(!isTable)}
                  onAdd={() => addOne()}
                  tried={tried}
                  hasOwn={doc.graph !== undefined}
                />
              </Box>
            ),
          },
          {
            id: 'about',
            name: 'What is chosen',
            size: '27%',
            least: '20%',
            content: (
              <Box sx={{ height: '100%', overflow: 'auto', borderLeft: `1px solid ${chart('rule')}` }}>
                {chosen && 'transition' in chosen ? (
                  <TransitionPanel
                    key={chosen.transition}
                    graph={graph}
                    index={chosen.transition}
                    sounded={sounded}
                    put={put}
                    onChoose={(transition) => setChosen(transition === null ? null : { transition })}
                    onWorst={toWorst}
                  />
                ) : chosen ? (
                  <StateOf
                    graph={graph}
                    name={chosen.state}
                    doc={doc}
                    view={view}
                    put={put}
                    onState={(name) => setChosen(name === null ? null : { state: name })}
                    onTransition={(transition) => setChosen({ transition })}
                    onPlay={() => {
                      const index = play.view?.set.graph.states.findIndex(({ name }) => name === chosen.state) ?? -1;
                      if (live && index >= 0) live.player.reset(index);
                    }}
                  />
                ) : (
                  <Box sx={{ px: 2, py: 1.4 }}>
                    <Typography variant="h1">{doc.graph ? 'The graph' : 'A graph of what there is'}</Typography>
                    <Typography color="text.secondary" sx={{ mt: 0.5 }}>
                      {doc.graph ? '' : 'It is made anew as the set changes, until you change it yourself. '}
                      Choose a state or a channel. A double click on the water makes a state; from the ring under a card one draws a channel
                      to another.
                    </Typography>
                  </Box>
                )}
                <Warnings warnings={warnings} left={play.view?.left ?? []} onGo={setChosen} put={put} />
              </Box>
            ),
          },
        ]}
      />
    </>
  );
}

function StateOf({ name, graph, ...rest }: { name: string } & Omit<Parameters<typeof StatePanel>[0], 'state'>) {
  const state = graph.states.find((own) => own.name === name);
  return state ? <StatePanel key={name} graph={graph} state={state} {...rest} /> : null;
}

/** What is chosen, as long as it is there. */
function stillThere({ states, transitions }: Graph, chosen: Chosen): Chosen {
  if (chosen && 'state' in chosen) return states.some(({ name }) => name === chosen.state) ? chosen : null;
  if (chosen) return transitions[chosen.transition] ? chosen : null;
  return null;
}
