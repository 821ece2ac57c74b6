'use client';
import { DndContext, DragOverlay, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import type { JoinPiece } from '@lantern/motion';
import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { useParams } from 'next/navigation';
import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { EmptyPlace } from '@/controls/EmptyPlace';
import { Split } from '@/controls/Split';
import { chart } from '@/controls/theme';
import { useClips } from '@/data/clips-store';
import { useJoins } from '@/data/joins-store';
import { useProjectData, useProjectInfo, type TakeInfo } from '@/data/project';
import { Trouble } from '@/controls/Trouble';
import { ClipList } from './ClipList';
import { indexOf, movePiece, newPiece, type PieceOf } from './join-edits';
import { JoinDeck, type DropPlace } from './JoinDeck';
import { JoinSide } from './JoinSide';
import { JoinStage } from './JoinStage';
import { placeFor } from './layout';
import { characterOf } from '@/data/sources';
import { useBakeJoin } from './use-bake-join';
import { useJoinery, type Joinery } from './use-joinery';
import { useJoinKeys } from './use-join-keys';

/** Joins: clips end to end become one motion. */
export function Joins() {
  const open = useParams<{ join?: string[] }>().join?.[0] ?? null;
  const { data, error, isPending, refetch } = useProjectData();
  if (isPending) return <LinearProgress aria-label="Loading the joins" />;
  if (error) return <Trouble message={error.message} onRetry={() => void refetch()} />;
  return <Work takes={data.takes} open={open} />;
}

function Work({ takes, open }: { takes: readonly TakeInfo[]; open: string | null }) {
  const joins = useJoins((state) => state.docs);
  const doc = joins.find(({ id }) => id === open) ?? (open ? null : (joins[0] ?? null));
  const joinery = useJoinery(doc, takes);
  const { bake, isBaking } = useBakeJoin(joinery.doc, joinery.seen, takes);
  useJoinKeys(joinery, bake);
  useAddress(open === null ? doc?.id : undefined, joinery);
  const nameOf = useNames(joinery.sources.all);
  const character = useCharacterOf(joinery);
  if (!doc) return <Nothing isGone={open !== null} hasTakes={takes.length > 0} onNew={() => joinery.places.create()} />;
  return <Table joinery={joinery} nameOf={nameOf} character={character} bake={bake} isBaking={isBaking} />;
}

interface Laid {
  readonly joinery: Joinery;
  readonly nameOf: (piece: JoinPiece) => string;
  readonly character: string | null;
  readonly bake: () => void;
  readonly isBaking: boolean;
}

/** The list, the stage, the deck and the column; what is dragged from the one is dropped on the other. */
function Table({ joinery, nameOf, character, bake, isBaking }: Laid) {
  const { doc, laid, edit, setChosen, acts } = joinery;
  const under = useRef<((x: number, y: number) => number | null) | null>(null);
  const pointer = usePointer();
  const [drop, setDrop] = useState<DropPlace | null>(null);
  const [held, setHeld] = useState<string | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  // Where the pointer is now: what the drag says of itself may be a moment old, and a quick drop would be lost.
  const dropPlace = (): DropPlace | null => {
    const at = under.current?.(pointer.current.x, pointer.current.y) ?? null;
    if (at === null) return null;
    const index = placeFor(laid.placed, at);
    const before = laid.placed[index - 1];
    return { index, frame: laid.placed[index]?.from ?? before?.to ?? 0 };
  };
  const end = ({ active }: DragEndEvent) => {
    const place = dropPlace();
    const { of, piece } = (active.data.current ?? {}) as { of?: PieceOf; piece?: string };
    setDrop(null);
    setHeld(null);
    if (!place || !doc) return;
    if (of) acts.add(newPiece(of), place.index);
    else if (piece && indexOf(doc, piece) >= 0) {
      edit(movePiece(doc, piece, place.index));
      setChosen({ kind: 'piece', id: piece });
    }
  };
  // While something is dragged the deck comes first; all else follows as soon as there is time.
  const calm = useDeferredValue(joinery);
  const calmBake = useDeferredValue(bake);
  const list = useMemo(() => <ClipList joinery={calm} />, [calm]);
  const stage = useMemo(
    () =>
      calm.doc?.pieces.length ? (
        <JoinStage joinery={calm} character={character} />
      ) : (
        <EmptyPlace title="Nothing is joined yet" says="Drop clips on the deck below, or double-click them in the list.">
          {null}
        </EmptyPlace>
      ),
    [calm, character],
  );
  const side = useMemo(
    () => <JoinSide joinery={calm} nameOf={nameOf} bake={calmBake} isBaking={isBaking} />,
    [calm, nameOf, calmBake, isBaking],
  );
  const above = (
    <Split
      id="joins-above"
      parts={[
        { id: 'list', name: 'The list of clips', size: '22%', least: '150px', content: list },
        { id: 'stage', name: 'The stage', size: '78%', least: '40%', content: <Box sx={{ height: '100%' }}>{stage}</Box> },
      ]}
    />
  );
  const work = (
    <Split
      id="joins-work"
      vertical
      parts={[
        { id: 'above', name: 'The list and the stage', size: '52%', least: '25%', content: above },
        {
          id: 'deck',
          name: 'The deck',
          size: '48%',
          least: '34%',
          content: <JoinDeck joinery={joinery} nameOf={nameOf} drop={drop} under={under} />,
        },
      ]}
    />
  );
  return (
    <DndContext
      sensors={sensors}
      onDragStart={({ active }) => setHeld((active.data.current as { name?: string } | undefined)?.name ?? '')}
      onDragMove={() => setDrop(dropPlace())}
      onDragEnd={end}
      onDragCancel={() => {
        setDrop(null);
        setHeld(null);
      }}
      autoScroll={false}
      accessibility={{ restoreFocus: false }}
    >
      <Split
        id="joins"
        parts={[
          { id: 'work', name: 'The stage and the deck', size: '71%', least: '45%', content: work },
          { id: 'side', name: 'The column of what is chosen', size: '29%', least: '330px', content: side },
        ]}
      />
      <DragOverlay dropAnimation={null}>
        {held !== null && (
          <Typography
            variant="body2"
            noWrap
            sx={{
              display: 'inline-block',
              px: 1.2,
              py: 0.4,
              bgcolor: chart('lampSoft'),
              border: `1.5px solid ${chart('lamp')}`,
              borderRadius: 1,
              fontWeight: 700,
            }}
          >
            {held}
          </Typography>
        )}
      </DragOverlay>
    </DndContext>
  );
}

/** Where the pointer is in the window. */
function usePointer() {
  const pointer = useRef({ x: 0, y: 0 });
  useEffect(() => {
    const follow = ({ clientX, clientY }: PointerEvent) => (pointer.current = { x: clientX, y: clientY });
    const kinds = ['pointerdown', 'pointermove', 'pointerup'] as const;
    for (const kind of kinds) window.addEventListener(kind, follow, true);
    return () => {
      for (const kind of kinds) window.removeEventListener(kind, follow, true);
    };
  }, []);
  return pointer;
}

/** What each piece is called. */
function useNames(takes: readonly TakeInfo[]): (piece: JoinPiece) => string {
  const docs = useClips((state) => state.docs);
  return useCallback(
    (piece) =>
      ('clip' in piece ? docs.find(({ id }) => id === piece.clip)?.name : takes.find(({ id }) => id === piece.take)?.name) ??
      'not there any more',
    [docs, takes],
  );
}

/** Whom the clips of the join are fitted to. */
function useCharacterOf({ doc, sources }: Joinery): string | null {
  const join = sources.all.find(({ id }) => id === doc?.id);
  return join ? characterOf(join) : null;
}

/** What is opened by itself stands in the address too. */
function useAddress(implied: string | undefined, { places }: Joinery): void {
  useEffect(() => {
    if (implied) places.open(implied);
  }, [implied, places]);
}

/** The place without a join: says why, and what to do. */
function Nothing({ isGone, hasTakes, onNew }: { isGone: boolean; hasTakes: boolean; onNew: () => void }) {
  const project = useProjectInfo();
  if (!hasTakes)
    return (
      <EmptyPlace title="Nothing to join yet" says="Bring a take in first; clips are cut from takes, and joined here.">
        <Button variant="contained" size="large" href={`/${project.id}/takes`}>
          Go to the takes
        </Button>
      </EmptyPlace>
    );
  return (
    <EmptyPlace
      title={isGone ? 'This join is not in the project any more' : 'Clips end to end'}
      says={
        isGone
          ? 'It may have been removed; undo brings it back if that was here.'
          : 'Three strolls and a jog, a walk and a hop onto a box: make a join, and drop clips on it one after the other.'
      }
    >
      <Button variant="contained" size="large" onClick={onNew}>
        Make a join
      </Button>
    </EmptyPlace>
  );
}
