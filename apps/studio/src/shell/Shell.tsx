'use client';
import { Box } from '@mui/material';
import { useQueryClient } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { followActs } from '@/data/acts';
import { startAutosave } from '@/data/autosave';
import { CLIPS, useClips } from '@/data/clips-store';
import { keepHistory, openDocuments } from '@/data/history';
import { JOINS, useJoins } from '@/data/joins-store';
import { download } from '@/data/keep-file';
import { SETS, useSets } from '@/data/sets-store';
import { useTakeEdits } from '@/data/take-edits';
import { lazily } from '@/controls/lazily';
import { LAST_PROJECT, ProjectContext, projectKey, useProjectData, type ProjectInfo } from '@/data/project';
import { ImportDesk } from '@/shell/ImportDesk';
import { useOfferCommands, type Command } from './commands';
import { Guide } from './guide/Guide';
import { takeUpGuide } from './guide/guide-state';
import { OpenClip } from './OpenClip';
import { Rail } from './Rail';
import { TopBar } from './TopBar';
import { useKeys } from '../controls/use-keys';
import { useArrival } from './use-arrival';
import { useUndo } from './use-undo';

// Not to be seen at first.
const CommandFinder = lazily(async () => (await import('./CommandFinder')).CommandFinder);
const ConflictDialog = lazily(async () => (await import('./ConflictDialog')).ConflictDialog);
const DisputeDialog = lazily(async () => (await import('./DisputeDialog')).DisputeDialog);
const KeysDialog = lazily(async () => (await import('./KeysDialog')).KeysDialog);

/** Seconds. */
const YEAR = 31_536_000;

/** The frame around every place: bar, rail, and what works everywhere (undo, find, keys, dropping files, saving). */
export function Shell({ project, children }: { project: ProjectInfo; children: ReactNode }) {
  return (
    <ProjectContext value={project}>
      <Frame project={project}>{children}</Frame>
    </ProjectContext>
  );
}

function Frame({ project, children }: { project: ProjectInfo; children: ReactNode }) {
  const [isFinding, setFinding] = useState(false);
  const [showsKeys, setShowsKeys] = useState(false);
  const router = useRouter();
  const { data } = useProjectData();
  const docs = useClips((state) => state.docs);
  const joins = useJoins((state) => state.docs);
  const sets = useSets((state) => state.docs);
  useStoredClips(project.id);
  useArrival();
  useEffect(() => {
    document.cookie = `${LAST_PROJECT}=${project.id}; path=/; max-age=${YEAR}; samesite=strict`;
  }, [project.id]);

  const { undo, redo } = useUndo();
  useKeys('mod+z', undo);
  useKeys('mod+shift+z', redo);
  useKeys('mod+k', () => setFinding(true));
  useKeys('?', () => setShowsKeys(true));

  const commands = useMemo<Command[]>(
    () => [
      ...['takes', 'fit', 'bench', 'joins', 'set', 'drive', 'ship'].map((slug) => ({
        id: slug,
        label: `Go to ${slug[0].toUpperCase()}${slug.slice(1)}`,
        run: () => router.push(`/${project.id}/${slug}`),
      })),
      { id: 'projects', label: 'Go to all projects', run: () => router.push('/projects') },
      {
        id: 'archive',
        label: `Keep ${project.name} as an archive`,
        run: () => download(`/api/projects/${project.id}/archive`),
      },
      { id: 'undo', label: 'Undo', keys: 'Ctrl Z', run: undo },
      { id: 'redo', label: 'Redo', keys: 'Ctrl Shift Z', run: redo },
      { id: 'guide', label: 'First steps: the guide', run: takeUpGuide },
      { id: 'keys', label: 'Show all keys', keys: '?', run: () => setShowsKeys(true) },
      ...(data?.takes ?? []).map((take) => ({
        id: take.id,
        label: `Take: ${take.name}`,
        run: () => router.push(`/${project.id}/takes/${take.id}`),
      })),
      ...docs.map((doc) => ({ id: doc.id, label: `Clip: ${doc.name}`, run: () => router.push(`/${project.id}/bench/${doc.id}`) })),
      ...joins.map((join) => ({ id: join.id, label: `Join: ${join.name}`, run: () => router.push(`/${project.id}/joins/${join.id}`) })),
      ...sets.map((set) => ({ id: set.id, label: `Set: ${set.name}`, run: () => router.push(`/${project.id}/set/${set.id}`) })),
    ],
    [data?.takes, docs, joins, sets, project.id, project.name, redo, router, undo],
  );
  useOfferCommands('shell', commands);

  return (
    <ImportDesk>
      <Box sx={{ height: '100dvh', display: 'grid', gridTemplate: '"bar bar" 46px "rail place" minmax(0, 1fr) / 72px minmax(0, 1fr)' }}>
        <TopBar open={<OpenClip />} onFind={() => setFinding(true)} onKeys={() => setShowsKeys(true)} />
        <Rail />
        <Box component="main" sx={{ gridArea: 'place', minWidth: 0, minHeight: 0, position: 'relative' }}>
          {children}
        </Box>
      </Box>
      <Guide />
      <CommandFinder open={isFinding} onClose={() => setFinding(false)} />
      <KeysDialog open={showsKeys} onClose={() => setShowsKeys(false)} />
      <ConflictDialog />
      <DisputeDialog />
    </ImportDesk>
  );
}

/** Clips, joins and sets come from the server once a visit; after that the store is the truth, and saves itself. */
function useStoredClips(project: string): void {
  const { data } = useProjectData();
  const opened = useRef<string | null>(null);
  useEffect(() => {
    if (!data || opened.current === project) return;
    opened.current = project;
    openDocuments(CLIPS, project, data.clips);
    openDocuments(JOINS, project, data.joins);
    openDocuments(SETS, project, data.sets);
  }, [data, project]);
  // The next visit asks anew: what was known then is old, and these stores may hold another project in between.
  const client = useQueryClient();
  useEffect(() => () => client.removeQueries({ queryKey: projectKey(project) }), [client, project]);
  const isReady = data !== undefined;
  const takes = useTakeEdits();
  useEffect(() => {
    if (!isReady) return;
    const ends = [
      followActs(takes),
      ...[startAutosave(CLIPS), startAutosave(JOINS), startAutosave(SETS)],
      ...[keepHistory(CLIPS, project), keepHistory(JOINS, project), keepHistory(SETS, project)],
    ];
    return () => ends.forEach((end) => end());
  }, [isReady, project, takes]);
}
