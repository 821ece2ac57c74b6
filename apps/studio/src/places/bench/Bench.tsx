'use client';
import { Box, LinearProgress } from '@mui/material';
import { useParams, useSearchParams } from 'next/navigation';
import { Split } from '@/controls/Split';
import { useProjectData, useProjectInfo, type TakeInfo } from '@/data/project';
import { useSources } from '@/data/sources';
import { Trouble } from '@/controls/Trouble';
import { BenchDeck } from './BenchDeck';
import { BenchSide } from './BenchSide';
import { BenchWindow } from './BenchWindow';
import { Nothing } from './Nothing';
import { useWorkbench } from './use-workbench';

/** Bench: cut, loop, travel. */
export function Bench() {
  const open = useParams<{ clip?: string[] }>().clip?.[0] ?? null;
  const { data, error, isPending, refetch } = useProjectData();
  const wanted = useSearchParams().get('take');
  if (isPending) return <LinearProgress aria-label="Loading the bench" />;
  if (error) return <Trouble message={error.message} onRetry={() => void refetch()} />;
  return <Work stored={data.takes} clip={open} wantedTake={wanted} />;
}

function Work({ stored, clip, wantedTake }: { stored: readonly TakeInfo[]; clip: string | null; wantedTake: string | null }) {
  const project = useProjectInfo();
  const takes = useSources(stored).all;
  const bench = useWorkbench(takes, clip, wantedTake);
  const { take } = bench;
  if (!take) return <Nothing gone={bench.doc ? 'source' : clip ? 'clip' : null} takes={takes.length} project={project.id} />;
  const window = (
    <Box sx={{ position: 'relative', height: '100%' }}>
      <BenchWindow bench={bench} />
    </Box>
  );
  const work = (
    <Split
      id="bench-work"
      vertical
      parts={[
        { id: 'stage', name: 'The stage', size: '56%', least: '25%', content: window },
        { id: 'deck', name: 'The deck', size: '44%', least: '30%', content: <BenchDeck bench={bench} take={take} /> },
      ]}
    />
  );
  return (
    <Split
      id="bench"
      parts={[
        { id: 'work', name: 'The stage and the deck', size: '70%', least: '45%', content: work },
        { id: 'recipe', name: 'The column of the clip', size: '30%', least: '300px', content: <BenchSide bench={bench} take={take} /> },
      ]}
    />
  );
}
