'use client';
import DarkModeIcon from '@mui/icons-material/DarkModeOutlined';
import LightModeIcon from '@mui/icons-material/LightModeOutlined';
import RedoIcon from '@mui/icons-material/Redo';
import UndoIcon from '@mui/icons-material/Undo';
import { Box, Button, LinearProgress, Typography, useColorScheme } from '@mui/material';
import { useRouter } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { useState, type ReactNode } from 'react';
import { useDropzone } from 'react-dropzone';
import { EmptyPlace } from '@/controls/EmptyPlace';
import { lazily } from '@/controls/lazily';
import { Sign } from '@/controls/Sign';
import { chart } from '@/controls/theme';
import { useKeys } from '@/controls/use-keys';
import { download } from '@/data/keep-file';
import { KEPT_DAYS, useProjectActs, useProjects, type ProjectRow } from '@/data/projects';
import { LanternMark } from '@/shell/LanternMark';
import { ComingCard } from './ComingCard';
import { ProjectCard } from './ProjectCard';
import { useComings } from './use-comings';
import { whenOf } from './words';

const AboutProject = lazily(async () => (await import('./AboutProject')).AboutProject);

/** All projects: open, begin, rename, duplicate, keep, remove and bring back. */
export function Projects() {
  const { projects, removed, error, isPending } = useProjects();
  const acts = useProjectActs();
  const router = useRouter();
  const { enqueueSnackbar } = useSnackbar();
  const [isNew, setNew] = useState(false);
  const [renamed, setRenamed] = useState<ProjectRow | null>(null);
  const { comings, drop, bringIn, bringDemo, captureDay } = useComings((id) => void acts.came(id));
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({ onDrop: bringIn, noClick: true, noKeyboard: true });
  useKeys('mod+z', () => void acts.undo());
  useKeys('mod+shift+z', () => void acts.redo());
  useKeys('n', () => setNew(true));

  const remove = (project: ProjectRow) => {
    acts.remove(project);
    enqueueSnackbar(`${project.name} is removed. It is kept for ${KEPT_DAYS} days.`, {
      action: (
        <Button color="inherit" onClick={() => acts.bringBack(project)}>
          undo
        </Button>
      ),
    });
  };
  const openNew = (input: Parameters<typeof acts.begin>[0]) =>
    void acts.begin(input).then(
      ({ id }) => router.push(`/${id}/takes`),
      () => {},
    );
  const waysIn = (
    <Box sx={{ display: 'flex', gap: 1, justifyContent: 'center' }}>
      <Button variant="contained" onClick={() => setNew(true)}>
        New project
      </Button>
      <Button variant="outlined" color="inherit" onClick={open}>
        Bring an archive in
      </Button>
      <Button variant="outlined" color="inherit" onClick={bringDemo}>
        Bring the demo in
      </Button>
      <Button variant="outlined" color="inherit" onClick={captureDay}>
        Capture a day
      </Button>
    </Box>
  );
  return (
    <Box {...getRootProps()} sx={{ height: '100dvh', display: 'grid', gridTemplateRows: '46px minmax(0, 1fr)' }}>
      <input {...getInputProps({ 'aria-label': 'Archives of projects', accept: '.zip' })} />
      <Bar {...acts} />
      <Box
        component="main"
        sx={{ overflow: 'auto', px: 3, py: 2, outline: isDragActive ? `4px solid ${chart('lamp')}` : 'none', outlineOffset: '-4px' }}
      >
        {isPending && <LinearProgress aria-label="Looking for projects" />}
        {error && projects.length === 0 && (
          <EmptyPlace role="alert" says={error.message}>
            {null}
          </EmptyPlace>
        )}
        {!isPending && !error && projects.length + comings.length === 0 && (
          <EmptyPlace
            title="No project yet"
            says="A project holds takes, the clips cut from them, and the sets that ship. Begin one, or look at the demo."
          >
            {waysIn}
          </EmptyPlace>
        )}
        {projects.length + comings.length > 0 && (
          <>
            <Box sx={{ display: 'flex', alignItems: 'center', flexWrap: 'wrap', gap: 2, mb: 2 }}>
              <Typography variant="h1" sx={{ flex: 1 }}>
                Projects
              </Typography>
              {waysIn}
            </Box>
            <Sheets>
              {comings.map((coming) => (
                <ComingCard key={coming.id} coming={coming} onDrop={() => drop(coming.id)} />
              ))}
              {projects.map((project) => (
                <ProjectCard
                  key={project.id}
                  project={project}
                  hasNamesake={projects.some(({ id, name }) => id !== project.id && name === project.name)}
                  onRename={() => setRenamed(project)}
                  onCopy={() => void acts.copy(project.id).catch(() => {})}
                  onArchive={() => download(`/api/projects/${project.id}/archive`)}
                  onRemove={() => remove(project)}
                />
              ))}
            </Sheets>
          </>
        )}
        {removed.length > 0 && <Removed projects={removed} onBack={acts.bringBack} />}
      </Box>
      {isNew && <AboutProject isBusy={acts.isBeginning} onDone={openNew} onClose={() => setNew(false)} />}
      {renamed && (
        <AboutProject
          known={renamed}
          isBusy={false}
          onDone={({ name, character }) => {
            acts.rename(renamed, { name, character });
            setRenamed(null);
          }}
          onClose={() => setRenamed(null)}
        />
      )}
    </Box>
  );
}

const Sheets = ({ children }: { children: ReactNode }) => (
  <Box
    component="ul"
    aria-label="Projects"
    sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid', gap: 2, gridTemplateColumns: 'repeat(auto-fill, minmax(280px, 1fr))' }}
  >
    {children}
  </Box>
);

function Bar({ undo, redo, canUndo, canRedo }: Pick<ReturnType<typeof useProjectActs>, 'undo' | 'redo' | 'canUndo' | 'canRedo'>) {
  const { mode, setMode } = useColorScheme();
  return (
    <Box component="header" sx={{ display: 'flex', alignItems: 'center', gap: 1.2, px: 2, borderBottom: `1px solid ${chart('rule')}` }}>
      <LanternMark />
      <Typography variant="h1" component="span" sx={{ flex: 1 }}>
        Old Lantern
      </Typography>
      <Sign name="Undo" keys="Ctrl Z" size={21} disabled={!canUndo} onClick={() => void undo()}>
        <UndoIcon />
      </Sign>
      <Sign name="Redo" keys="Ctrl Shift Z" size={21} disabled={!canRedo} onClick={() => void redo()}>
        <RedoIcon />
      </Sign>
      <Sign name={mode === 'dark' ? 'Day chart' : 'Night chart'} size={21} onClick={() => setMode(mode === 'dark' ? 'light' : 'dark')}>
        {mode === 'dark' ? <LightModeIcon /> : <DarkModeIcon />}
      </Sign>
    </Box>
  );
}

/** What was removed and can still be brought back. */
function Removed({ projects, onBack }: { projects: readonly ProjectRow[]; onBack: (project: ProjectRow) => void }) {
  return (
    <Box component="section" aria-label="Removed projects" sx={{ mt: 4 }}>
      <Typography variant="h3">Removed in the last {KEPT_DAYS} days</Typography>
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {projects.map((project) => (
          <Box component="li" key={project.id} sx={{ display: 'flex', alignItems: 'baseline', gap: 2 }}>
            <Typography noWrap>{project.name}</Typography>
            <Typography variant="body2" color="text.secondary" noWrap>
              removed {project.removed && whenOf(project.removed)}
            </Typography>
            <Button color="inherit" size="small" onClick={() => onBack(project)} aria-label={`Bring ${project.name} back`}>
              bring it back
            </Button>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
