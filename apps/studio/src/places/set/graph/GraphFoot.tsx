'use client';
import { graphSchema, PLAY_BOUNDS, type Graph } from '@lantern/motion';
import { Box, Menu, MenuItem, Typography } from '@mui/material';
import { useState } from 'react';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import { useClips } from '@/data/clips-store';
import { editSet, useSets, type SetDoc } from '@/data/sets-store';
import { addState, copied, EMPTY } from './graph-edits';
import { laidOut } from './layout';
import type { Sounded } from './use-tried';

interface FootProps {
  readonly doc: SetDoc;
  readonly graph: Graph;
  readonly put: (graph: Graph) => void;
  readonly isTable: boolean;
  readonly onTable: () => void;
  readonly onAdd: () => void;
  readonly tried: readonly (Sounded | null)[];
  readonly hasOwn: boolean;
}
/** How the graph does as a whole, and what can be done with all of it. */
export function GraphFoot({ doc, graph, put, isTable, onTable, onAdd, tried, hasOwn }: FootProps) {
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const sets = useSets((state) => state.docs);
  const clips = useClips((state) => state.docs);
  const others = sets.filter((own) => own.id !== doc.id && own.graph);
  const known = tried.filter((own) => own !== null);
  const shallow = known.filter(({ popCm }) => popCm > PLAY_BOUNDS.pop).length;
  const done = (run: () => void) => () => {
    setMenu(null);
    run();
  };
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, px: 1.5, borderTop: `1px solid ${chart('rule')}`, minWidth: 0 }}>
      <Typography variant="body2" noWrap sx={{ flex: 1, minWidth: 0 }} role="status">
        {graph.states.length} states, {graph.transitions.length} channels
        {known.length < graph.transitions.length
          ? `, ${known.length} tried`
          : `: ${known.length - shallow} hold${shallow > 0 ? `, ${shallow} ${shallow === 1 ? 'is' : 'are'} shallow` : ''}`}
      </Typography>
      {!isTable && (
        <Typography variant="caption" color="text.secondary" noWrap sx={{ fontStyle: 'italic', display: { xs: 'none', lg: 'block' } }}>
          figure on a channel: worst pop in cm, tenths small
        </Typography>
      )}
      <Small name="Add a state" onClick={onAdd}>
        add a state
      </Small>
      <Small name={isTable ? 'As a picture' : 'As a table'} pressed={isTable} onClick={onTable}>
        table
      </Small>
      <Small name="More about the graph" onClick={(event) => setMenu(event.currentTarget)}>
        more
      </Small>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
        <MenuItem dense onClick={done(() => put(relaid(graph)))}>
          Lay it out by itself
        </MenuItem>
        <MenuItem
          dense
          onClick={done(() =>
            put({ ...graph, comments: [...graph.comments, { text: 'a comment', at: { x: 20, y: -70 - 30 * graph.comments.length } }] }),
          )}
        >
          Write into the picture
        </MenuItem>
        {hasOwn && (
          <MenuItem dense onClick={done(() => editSet(doc, { graph: undefined }))}>
            Begin again with a ready graph
          </MenuItem>
        )}
        <MenuItem dense onClick={done(() => put(addState(EMPTY).graph))}>
          Begin again with an empty one
        </MenuItem>
        {others.map((own) => (
          <MenuItem
            key={own.id}
            dense
            onClick={done(() => {
              if (!own.graph) return;
              put(
                copied(
                  graphSchema.parse(own.graph),
                  {
                    clipOf: (id) => clips.find((clip) => clip.id === id)?.name,
                    fieldOf: (id) => own.fields.find((field) => field.id === id)?.name,
                  },
                  {
                    clips: new Map(clips.map(({ id, name }) => [name, id])),
                    fields: new Map(doc.fields.map(({ id, name }) => [name, id])),
                  },
                ),
              );
            })}
          >
            Copy the graph of {own.name}
          </MenuItem>
        ))}
      </Menu>
    </Box>
  );
}

function relaid(graph: Graph): Graph {
  const places = laidOut(graph);
  return { ...graph, states: graph.states.map((own) => ({ ...own, at: places.get(own.name) })) };
}
