'use client';
import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { useParams, useRouter, useSearchParams } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { useEffect, useState } from 'react';
import { useProjectData, useProjectInfo, type TakeInfo } from '@/data/project';
import { useTakeEdits } from '@/data/take-edits';
import { EmptyPlace } from '@/controls/EmptyPlace';
import { Split } from '@/controls/Split';
import { lazily } from '@/controls/lazily';
import { Trouble } from '@/controls/Trouble';
import { BrokenRows } from '@/shell/BrokenRows';
import { Commands } from '@/shell/Commands';
import { useImportDesk } from '../../shell/ImportDesk';
import { useRedelivery } from './use-redelivery';
import { NewDeliveries } from './NewDeliveries';
import { SeveralTakes } from './SeveralTakes';
import { TakeCard } from './TakeCard';
import { TakeTable } from './TakeTable';
import { RAW } from './raw';
import { useStar } from './use-star';

const CaptureDesk = lazily(async () => (await import('./CaptureDesk')).CaptureDesk, 'the capture desk');
const DraftDialog = lazily(async () => (await import('../draft/DraftDialog')).DraftDialog);
const TakeView = lazily(async () => (await import('./TakeView')).TakeView, 'the stage');

/** Takes: the library, what is known of a take, and the take on the stage. */
export function Takes() {
  const { data, error, isPending, refetch } = useProjectData();
  const project = useProjectInfo();
  const router = useRouter();
  const { browse } = useImportDesk();
  const capture = useSearchParams().has('capture');
  const [isDraft, setDraft] = useState(false);
  if (isPending) return <LinearProgress aria-label="Loading the takes" />;
  if (error) return <Trouble message={error.message} onRetry={() => void refetch()} />;
  if (capture) return <CaptureDesk />;
  const toCapture = () => router.push(`/${project.id}/takes?capture`);
  if (data.takes.length === 0 && data.broken.length === 0) return <Empty onBrowse={browse} onCapture={toCapture} />;
  return (
    <>
      <Library takes={data.takes} onBrowse={browse} onCapture={toCapture} onDraft={() => setDraft(true)} />
      {isDraft && <DraftDialog onClose={() => setDraft(false)} />}
    </>
  );
}

interface Doors {
  readonly takes: readonly TakeInfo[];
  readonly onBrowse: () => void;
  readonly onCapture: () => void;
  readonly onDraft: () => void;
}

function Library({ takes, onBrowse, onCapture, onDraft }: Doors) {
  const inUrl = useParams<{ take?: string[] }>().take?.[0] ?? null;
  // What was asked for is shown before the address has caught up.
  const [asked, setAsked] = useState<string | null>(null);
  useEffect(() => setAsked(null), [inUrl]);
  const open = asked ?? inUrl;
  const redelivery = useRedelivery(takes);
  const [other, setOther] = useState<string | null>(null);
  const remove = useRemoval();
  const take = takes.find((t) => t.id === open) ?? null;
  const isGone = open !== null && !take;
  const shown = take ?? (isGone ? null : takes[0]);
  const list = (
    <TakesList
      takes={takes}
      open={shown?.id ?? null}
      onOpen={setAsked}
      onCompare={setOther}
      onBrowse={onBrowse}
      onCapture={onCapture}
      onDraft={onDraft}
    />
  );
  const card = shown && (
    <TakeCard
      key={shown.id}
      take={shown}
      takes={takes}
      onRemove={remove}
      onCompare={() => setOther(RAW)}
      onRedeliver={() => redelivery.choose(shown)}
    />
  );
  const library = (
    <Split
      id="takes-library"
      vertical
      parts={[
        { id: 'takes-list', name: 'The list of takes', size: '46%', least: '20%', content: list },
        { id: 'take-card', name: 'The take’s card', size: '54%', least: '20%', content: card },
      ]}
    />
  );
  const stage = (
    <Box sx={{ display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto', minHeight: 0, height: '100%' }}>
      <TakeView take={shown} isGone={isGone} other={other} onCompare={setOther} />
      {redelivery.dialog}
      <TakeCommands
        take={shown}
        onBrowse={onBrowse}
        onCapture={onCapture}
        onDraft={onDraft}
        onRemove={remove}
        onCompare={() => setOther(RAW)}
        onRedeliver={redelivery.choose}
      />
    </Box>
  );
  return (
    <Split
      id="takes"
      parts={[
        { id: 'library', name: 'The library', size: '36%', least: '25%', content: library },
        { id: 'take-stage', name: 'The stage', size: '64%', least: '35%', content: stage },
      ]}
    />
  );
}

/** Words that stay on one line. */
const UNBROKEN = { whiteSpace: 'nowrap', minWidth: 0 } as const;

/** The list of takes, and what is done to several of them. */
function TakesList({
  takes,
  open,
  onOpen,
  onCompare,
  onBrowse,
  onCapture,
  onDraft,
}: Doors & { open: string | null; onOpen: (id: string) => void; onCompare: (other: string) => void }) {
  const project = useProjectInfo();
  const router = useRouter();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const remove = useRemoval();
  const star = useStar();
  const picked = takes.filter((t) => chosen.has(t.id));
  const compare = () => {
    router.push(`/${project.id}/takes/${picked[0].id}`);
    onCompare(picked[1].id);
  };
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%' }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', px: 1.5, pt: 1, pb: 0.6, gap: 1 }}>
        <Typography variant="h2" component="h1" sx={{ flex: 1 }}>
          Takes
        </Typography>
        <Button variant="outlined" color="inherit" onClick={onBrowse} sx={UNBROKEN} title="Files may be dropped anywhere, too">
          bring in…
        </Button>
        <Button variant="outlined" color="inherit" onClick={onCapture} sx={UNBROKEN}>
          capture…
        </Button>
        <Button variant="outlined" color="inherit" onClick={onDraft} sx={UNBROKEN}>
          draft the set…
        </Button>
      </Box>
      <BrokenRows kinds={['take', 'fit']} />
      <NewDeliveries takes={takes} />
      {picked.length > 1 && (
        <SeveralTakes
          takes={picked}
          all={takes}
          onStar={star}
          onRemove={remove}
          onDone={() => setChosen(new Set())}
          onCompare={picked.length === 2 ? compare : undefined}
        />
      )}
      <Box sx={{ flex: 1, minHeight: 0 }}>
        <TakeTable
          takes={takes}
          open={open}
          chosen={chosen}
          onOpen={(id) => {
            onOpen(id);
            router.push(`/${project.id}/takes/${id}`);
          }}
          onChoose={setChosen}
          onRemove={remove}
        />
      </Box>
    </Box>
  );
}

/** Every act of the place and of the take that is shown, for the command finder. */
function TakeCommands({
  take,
  onBrowse,
  onCapture,
  onDraft,
  onRemove,
  onCompare,
  onRedeliver,
}: Omit<Doors, 'takes'> & {
  take: TakeInfo | null;
  onRemove: (takes: readonly TakeInfo[]) => void;
  onCompare: () => void;
  onRedeliver: (take: TakeInfo) => void;
}) {
  const project = useProjectInfo();
  const router = useRouter();
  const star = useStar();
  const own = take
    ? [
        { id: 'star-take', label: `${take.star ? 'Take the star from' : 'Star'} this take`, keys: '*', run: () => star([take]) },
        { id: 'compare-take', label: 'Compare this take with what its file says', run: onCompare },
        { id: 'redeliver-take', label: 'Redeliver this take: a better solve of it', run: () => onRedeliver(take) },
        { id: 'cut-take', label: 'Cut a clip of this take on the Bench', run: () => router.push(`/${project.id}/bench?take=${take.id}`) },
        { id: 'fit-take', label: 'Fit this take to a character', run: () => router.push(`/${project.id}/fit/${take.id}`) },
        { id: 'remove-take', label: 'Remove this take', keys: 'Del', run: () => onRemove([take]) },
      ]
    : [];
  const place = [
    { id: 'bring-in', label: 'Bring in files', run: onBrowse },
    { id: 'capture', label: 'Capture desk: record in the simulated suit', run: onCapture },
    { id: 'draft', label: 'Draft a set from all takes', run: onDraft },
  ];
  return <Commands place="takes" commands={[...place, ...own]} />;
}

/** Removes takes, with undo; those that clips are cut from stay, and it is said. */
function useRemoval() {
  const { edit, undo } = useTakeEdits();
  const project = useProjectInfo();
  const router = useRouter();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  return (takes: readonly TakeInfo[]) =>
    void edit(
      takes.length === 1 ? `“${takes[0].name}” removed` : `${takes.length} takes removed`,
      takes.map(({ id }) => ({ id, before: { removed: false }, after: { removed: true } })),
    ).then((isDone) => {
      if (!isDone) return;
      router.push(`/${project.id}/takes`);
      enqueueSnackbar(takes.length === 1 ? `“${takes[0].name}” is removed.` : `${takes.length} takes are removed.`, {
        // Long enough to be found again on a slow machine.
        autoHideDuration: 30_000,
        action: (key) => (
          <Button
            color="inherit"
            onClick={() => {
              void undo();
              closeSnackbar(key);
            }}
          >
            bring back
          </Button>
        ),
      });
    });
}

function Empty({ onBrowse, onCapture }: { onBrowse: () => void; onCapture: () => void }) {
  return (
    <EmptyPlace
      title="No takes yet"
      says="Drop BVH, glTF, GLB, or ASF and AMC files anywhere in this window, or record in the simulated suit."
    >
      <Button variant="contained" size="large" onClick={onBrowse}>
        Choose files…
      </Button>{' '}
      <Button variant="outlined" color="inherit" size="large" onClick={onCapture}>
        Capture…
      </Button>
    </EmptyPlace>
  );
}
