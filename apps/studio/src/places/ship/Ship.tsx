'use client';
import { Box, Button, LinearProgress } from '@mui/material';
import Link from 'next/link';
import { useEffect, useMemo, useState } from 'react';
import { SHIP_RATES, type SetBounds } from '@lantern/motion';
import { EmptyPlace } from '@/controls/EmptyPlace';
import { Small } from '@/controls/Small';
import { useClips } from '@/data/clips-store';
import { keepFile } from '@/data/keep-file';
import { otherSide } from '@/data/new-clip';
import { useProjectData, useProjectInfo } from '@/data/project';
import { useSets } from '@/data/sets-store';
import { Trouble } from '@/controls/Trouble';
import { Commands } from '@/shell/Commands';
import { readyCsv } from './ready-csv';
import { isShown, ReadyHead, type ReadyFilter } from './ReadyHead';
import { ReadyTable } from './ReadyTable';
import { Retime } from './Retime';
import { Shipment } from './Shipment';
import { firstChoice, openDesk, useDesk, type ShipChoice } from './use-desk';
import { FIRST_BOUNDS, useReadiness } from './use-readiness';
import { useShipments } from './use-shipments';
import { many } from './words';

/** Ship: see whether the clips are ready, and let them leave. */
export function Ship() {
  const { error, isPending, refetch } = useProjectData();
  const project = useProjectInfo();
  const hasClips = useClips((state) => state.docs.length > 0);
  const isOpen = useDesk((state) => state.project === project.id);
  useEffect(() => openDesk(project.id), [project.id]);
  if (isPending || !isOpen) return <LinearProgress aria-label="Loading the clips" />;
  if (error) return <Trouble message={error.message} onRetry={() => void refetch()} />;
  if (!hasClips)
    return (
      <EmptyPlace title="Nothing to ship yet" says="Cut a first clip on the Bench; it will wait here with its figures.">
        <Button variant="contained" size="large" component={Link} href={`/${project.id}/bench`}>
          Go to the Bench
        </Button>
      </EmptyPlace>
    );
  return <Desk />;
}

/** Mirrors of clips, made as one step of undo. */
function makeOtherSides(ids: readonly string[]): void {
  const docs = [...useClips.getState().docs];
  for (const doc of useClips.getState().docs) if (ids.includes(doc.id)) docs.push(otherSide(doc, docs));
  useClips.setState({ docs });
}

/** Bounds of the sets whose clips are shown: they are one row over the table. One step of undo. */
const changeBounds = (ids: ReadonlySet<string>, change: Partial<SetBounds>): void =>
  useSets.setState(({ docs }) => ({
    docs: docs.map((doc) => (ids.has(doc.id) ? { ...doc, bounds: { ...doc.bounds, ...change } } : doc)),
  }));

/** The desk: every clip's figures as it would leave, what leaves and how, and what shipped so far. */
function Desk() {
  const project = useProjectInfo();
  const { choice: own, picked } = useDesk();
  const ships = useShipments();
  const sets = useSets((state) => state.docs);
  const [filter, setFilter] = useState<ReadyFilter>({ kind: 'all' });
  const [retimed, setRetimed] = useState<readonly string[] | null>(null);
  const last = ships.shipments[0]?.ship;
  const lastTime = useMemo(
    (): ShipChoice | null => (last ? { ...last, fps: last.fps ?? project.fps, without: [] } : null),
    [last, project.fps],
  );
  const choice = own ?? lastTime ?? firstChoice(project);
  const ready = useReadiness(choice);
  const { clips } = ready;
  const chosen = clips.filter(({ id, isReady, row }) => row.state === 'done' && (picked[id] ?? isReady));
  const ids = new Set(chosen.map(({ id }) => id));
  const behind = clips.filter(({ id }) => !ids.has(id));
  const ship = () => ships.start({ ...choice, without: behind.map(({ id }) => id) });
  const pick = (wanted: ReadonlySet<string>) =>
    useDesk.setState({
      picked: {
        ...picked,
        ...Object.fromEntries(clips.filter(({ id }) => wanted.has(id) !== ids.has(id)).map(({ id }) => [id, wanted.has(id)])),
      },
    });
  const shown = useMemo(() => clips.filter((clip) => isShown(filter, clip)), [clips, filter]);
  const held = useMemo(() => sets.filter(({ character }) => shown.some(({ row }) => row.character === character)), [sets, shown]);
  const onBounds = useMemo(
    () => (held.length > 0 ? (change: Partial<SetBounds>) => changeBounds(new Set(held.map(({ id }) => id)), change) : null),
    [held],
  );
  const ofClips = chosen.filter(({ row }) => row.kind === 'clip').map(({ id }) => id);
  const acts = useMemo(() => ({ onMirror: makeOtherSides, onRetime: setRetimed }), []);
  const keepTable = () => keepFile(`${project.id}-readiness.csv`, readyCsv(shown), 'text/csv');
  const setChoice = (choice_: ShipChoice | null) => useDesk.setState({ choice: choice_ });
  if (ready.isPending) return <LinearProgress aria-label="Measuring the clips" />;
  if (ready.error && clips.length === 0) return <Trouble message={ready.error.message} onRetry={ready.retry} />;
  return (
    <Box sx={{ height: '100%', display: 'grid', gridTemplateColumns: { xs: 'minmax(0, 1fr) 300px', lg: 'minmax(0, 1fr) 336px' } }}>
      <Box sx={{ p: 2, pb: 0, display: 'flex', flexDirection: 'column', minHeight: 0, minWidth: 0 }}>
        <Commands
          place="ship"
          commands={[
            { id: 'ship', label: `Ship ${many(chosen.length)}`, run: ship },
            { id: 'other-sides', label: 'Make the other side of the chosen clips', run: () => makeOtherSides(ofClips) },
            { id: 'retime', label: 'Let time go slower or quicker in the chosen clips', run: () => setRetimed(ofClips) },
            { id: 'table', label: 'Keep the table of readiness as CSV', run: keepTable },
            ...SHIP_RATES.map((fps) => ({
              id: `rate-${fps}`,
              label: `Ship at ${fps} frames a second`,
              run: () => setChoice({ ...choice, fps }),
            })),
          ]}
        />
        <ReadyHead clips={clips} open={ready.open} fps={choice.fps} filter={filter} onFilter={setFilter} />
        <Box sx={{ display: 'flex', alignItems: 'center', ml: -0.8, mt: 0.3 }}>
          <Small onClick={() => makeOtherSides(ofClips)} name={`Make the other side of ${many(ofClips.length)}`}>
            make other sides
          </Small>
          <Small onClick={() => setRetimed(ofClips)} name={`Let time go slower or quicker in ${many(ofClips.length)}`}>
            change time
          </Small>
          {behind.some(({ row }) => row.state === 'done') && (
            <Small onClick={() => pick(new Set(clips.filter(({ row }) => row.state === 'done').map(({ id }) => id)))}>
              ship the others too
            </Small>
          )}
          {Object.keys(picked).length > 0 && <Small onClick={() => useDesk.setState({ picked: {} })}>ship what is ready</Small>}
          <Box sx={{ flex: 1 }} />
          <Small onClick={keepTable}>keep as CSV</Small>
        </Box>
        <Box sx={{ flex: 1, minHeight: 0 }}>
          <ReadyTable
            clips={shown}
            bounds={held[0]?.bounds ?? FIRST_BOUNDS}
            onBounds={onBounds}
            shipped={ids}
            onShipped={pick}
            project={project.id}
            {...acts}
          />
        </Box>
      </Box>
      <Shipment
        choice={choice}
        onChoice={setChoice}
        isAsLastTime={lastTime && (own === null || sameChoice(own, lastTime))}
        clips={clips}
        chosen={chosen}
        open={ready.open}
        shipments={ships.shipments}
        isBusy={ships.isStarting || ships.shipments.some(({ state }) => state === 'making' || state === 'packing')}
        onShip={ship}
        onStop={ships.stop}
        onTakeBack={ships.takeBack}
      />
      {retimed && <Retime ids={retimed} onClose={() => setRetimed(null)} />}
    </Box>
  );
}

/** Whether two say the same, whatever of it is left to defaults. */
function sameChoice(a: ShipChoice, b: ShipChoice): boolean {
  const text = (choice: ShipChoice) => JSON.stringify(Object.entries({ ...choice, without: [] }).sort(([x], [y]) => (x < y ? -1 : 1)));
  return text(a) === text(b);
}
