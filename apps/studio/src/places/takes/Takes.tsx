'use client';
import { Box, Button, CircularProgress, LinearProgress, Typography } from '@mui/material';
import { useQueryClient } from '@tanstack/react-query';
import { useParams, useRouter } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { useEffect } from 'react';
import { fetchJson, RequestError } from '@/data/fetch-json';
import { usePlayer } from '@/data/player';
import { projectKey, useProjectData, useProjectInfo, type ProjectData, type TakeInfo } from '@/data/project';
import { useOpenTake } from '@/data/use-open-take';
import { chart } from '@/shell/theme';
import { AtFrame, StageFrame } from '@/stage/StageFrame';
import { Scrubber } from '@/timeline/Scrubber';
import { useBrowse } from './ImportDesk';
import { PassportCard } from './PassportCard';
import { TakeTable } from './TakeTable';

/** Takes: bring them in, look at them. */
export function Takes() {
  const open = useParams<{ take?: string[] }>().take?.[0] ?? null;
  const { data, error, isPending, refetch } = useProjectData();
  const project = useProjectInfo();
  const router = useRouter();
  const browse = useBrowse();
  if (isPending) return <LinearProgress aria-label="Loading the takes" />;
  if (error) return <Trouble message={error.message} onRetry={() => void refetch()} />;
  if (data.takes.length === 0) return <Empty onBrowse={browse} />;
  const take = data.takes.find((t) => t.id === open) ?? null;
  const isGone = open !== null && !take;
  const shown = take ?? (isGone ? null : data.takes[0]);
  return (
    <Box sx={{ height: '100%', display: 'grid', gridTemplateColumns: 'minmax(380px, 34%) minmax(0, 1fr)' }}>
      <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, borderRight: `1px solid ${chart('rule')}` }}>
        <Box sx={{ display: 'flex', alignItems: 'baseline', px: 1.5, pt: 1.2, pb: 0.5 }}>
          <Typography variant="h2" component="h1" sx={{ flex: 1 }}>
            Takes
          </Typography>
          <Typography variant="caption" color="text.secondary" sx={{ mr: 1 }}>
            drop BVH files anywhere, or
          </Typography>
          <Button variant="outlined" color="inherit" onClick={browse}>
            bring in…
          </Button>
        </Box>
        <TakeTable takes={data.takes} open={shown?.id ?? null} onOpen={(id) => router.push(`/${project.id}/takes/${id}`)} />
        {shown && <Passport take={shown} />}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto', minHeight: 0 }}>
        <TakeStage take={shown} isGone={isGone} />
      </Box>
    </Box>
  );
}

function Passport({ take }: { take: TakeInfo }) {
  const { data: opened } = useOpenTake(take);
  const project = useProjectInfo();
  const client = useQueryClient();
  const router = useRouter();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const setTakes = (change: (takes: readonly TakeInfo[]) => readonly TakeInfo[]) =>
    client.setQueryData<ProjectData>(projectKey(project.id), (data) => data && { ...data, takes: change(data.takes) });
  const remove = async () => {
    try {
      await fetchJson(`/api/takes/${take.id}`, { method: 'DELETE' });
    } catch (error) {
      enqueueSnackbar(error instanceof RequestError ? error.message : 'The take could not be removed.');
      return;
    }
    setTakes((takes) => takes.filter((t) => t.id !== take.id));
    router.push(`/${project.id}/takes`);
    enqueueSnackbar(`“${take.name}” is removed.`, {
      action: (key) => (
        <Button
          color="inherit"
          onClick={async () => {
            await fetchJson(`/api/takes/${take.id}`, { method: 'PUT' });
            setTakes((takes) => [...takes, take].sort((a, b) => (a.created < b.created ? -1 : 1)));
            closeSnackbar(key);
          }}
        >
          bring it back
        </Button>
      ),
    });
  };
  return (
    <PassportCard
      take={take}
      floor={opened ? opened.floor : null}
      onCut={() => router.push(`/${project.id}/bench?take=${take.id}`)}
      onRemove={() => void remove()}
    />
  );
}

function TakeStage({ take, isGone }: { take: TakeInfo | null; isGone: boolean }) {
  const { data: opened, error, isFetching } = useOpenTake(take);
  const load = usePlayer((state) => state.load);
  useEffect(() => {
    if (opened) load(opened.motion.frames, opened.motion.fps, 0);
  }, [opened, load]);
  return (
    <>
      <StageFrame
        stage={
          opened
            ? { motion: opened.motion, mesh: opened.mesh, markers: opened.markers, floor: opened.floor, heading: opened.heading }
            : null
        }
        notice={
          isGone ? (
            <Typography>This take is not in the project any more.</Typography>
          ) : error ? (
            <Typography role="alert">{error.message}</Typography>
          ) : isFetching && !opened ? (
            <CircularProgress aria-label="Loading the take" />
          ) : undefined
        }
        footer={
          opened && (
            <>
              <AtFrame>{(frame) => `frame ${frame} of ${opened.motion.frames}`}</AtFrame>
              <AtFrame>{(frame) => `${(frame / opened.motion.fps).toFixed(2)} s`}</AtFrame>
              <AtFrame>{(frame) => `${(opened.speed[frame] ?? 0).toFixed(2)} m/s`}</AtFrame>
              <AtFrame>{(frame) => `hips ${((opened.hipHeight[frame] ?? 0) * 100).toFixed(1)} cm`}</AtFrame>
            </>
          )
        }
      />
      {opened && <Scrubber take={opened} />}
    </>
  );
}

function Empty({ onBrowse }: { onBrowse: () => void }) {
  return (
    <Box sx={{ height: '100%', display: 'grid', placeItems: 'center', textAlign: 'center' }}>
      <Box>
        <Typography variant="h1" sx={{ mb: 1 }}>
          No takes yet
        </Typography>
        <Typography color="text.secondary" sx={{ mb: 2 }}>
          Drop BVH files anywhere in this window to bring the first ones in.
        </Typography>
        <Button variant="contained" size="large" onClick={onBrowse}>
          Choose files…
        </Button>
      </Box>
    </Box>
  );
}

export function Trouble({ message, onRetry }: { message: string; onRetry: () => void }) {
  return (
    <Box role="alert" sx={{ height: '100%', display: 'grid', placeItems: 'center', textAlign: 'center' }}>
      <Box>
        <Typography sx={{ mb: 1.5 }}>{message}</Typography>
        <Button variant="outlined" color="inherit" onClick={onRetry}>
          Try again
        </Button>
      </Box>
    </Box>
  );
}
