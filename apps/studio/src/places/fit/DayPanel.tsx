'use client';
import { z } from 'zod';
import { fitJobSchema, type FitJobInfo } from '@/http/fit-run';
import { Box, Button, Checkbox, LinearProgress, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { fetchAs, fetchJson } from '@/data/fetch-json';
import { useProjectInfo, type ProjectData } from '@/data/project';
import { chart } from '@/controls/theme';
import { FitReport } from './FitReport';

/** Milliseconds between looks at a run that is under way. */
const LOOK = 700;
const isOpen = ({ state }: FitJobInfo) => state === 'waiting' || state === 'running';

/** Any number of takes onto any characters, done by the workers of the queue; what came of each, the worst first. */
export function DayPanel({ data, onOpen }: { data: ProjectData; onOpen: (take: string, character: string, frame?: number) => void }) {
  const project = useProjectInfo();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [onto, setOnto] = useState<ReadonlySet<string>>(() => new Set(data.characters.map(({ id }) => id)));
  const { jobs, start, stop } = useFitRun(project.id);
  const takes = data.takes.filter(({ id }) => !left.has(id));
  const characters = data.characters.filter(({ id }) => onto.has(id));
  const open = jobs.filter(isOpen).length;
  const toggle = (set: ReadonlySet<string>, id: string) => {
    const next = new Set(set);
    if (!next.delete(id)) next.add(id);
    return next;
  };
  const count = takes.length * characters.length;
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', minHeight: 0 }}>
      <Box sx={{ px: 1.5, pt: 1, display: 'grid', gap: 0.5 }}>
        <Box
          role="group"
          aria-label="Takes"
          sx={{
            maxHeight: 132,
            overflow: 'auto',
            columns: 2,
            columnGap: 1,
            border: `1px solid ${chart('rule')}`,
            borderRadius: 1,
            px: 0.8,
          }}
        >
          {data.takes.map(({ id, name }) => (
            <Tick key={id} label={name} checked={!left.has(id)} onChange={() => setLeft(toggle(left, id))} />
          ))}
        </Box>
        <Box role="group" aria-label="Characters" sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 2 }}>
          <Typography variant="body2" color="text.secondary">
            onto
          </Typography>
          {data.characters.map(({ id, name }) => (
            <Tick key={id} label={name} checked={onto.has(id)} onChange={() => setOnto(toggle(onto, id))} />
          ))}
        </Box>
        {open > 0 ? (
          <Under done={jobs.length - open} of={jobs.length} onStop={() => stop.mutate(jobs[0].run)} />
        ) : (
          <Button
            variant="contained"
            disabled={count === 0 || start.isPending}
            sx={{ justifySelf: 'start', fontWeight: 700 }}
            onClick={() => start.mutate({ takes: takes.map(({ id }) => id), characters: characters.map(({ id }) => id) })}
          >
            Fit {takes.length} {takes.length === 1 ? 'take' : 'takes'} onto {characters.length}{' '}
            {characters.length === 1 ? 'character' : 'characters'}
          </Button>
        )}
        {(start.error ?? stop.error) && (
          <Typography variant="body2" role="alert">
            {(start.error ?? stop.error)?.message}
          </Typography>
        )}
      </Box>
      <Box sx={{ flex: 1, overflow: 'auto', minHeight: 0, mt: 1 }}>
        {jobs.length === 0 ? (
          <Typography variant="body2" color="text.secondary" sx={{ px: 1.5 }}>
            What comes of each take is listed here, the worst first. It goes on without this page, and after a crash.
          </Typography>
        ) : (
          <FitReport jobs={jobs} data={data} onOpen={onOpen} />
        )}
      </Box>
    </Box>
  );
}

/** The run of the queue: its jobs, looked at while some are open, and how to start and stop one. */
function useFitRun(project: string) {
  const client = useQueryClient();
  const key = ['fit-run', project];
  const { data: jobs = [] } = useQuery<FitJobInfo[]>({
    queryKey: key,
    queryFn: () => fetchAs(z.array(fitJobSchema), `/api/projects/${project}/fit-runs`),
    refetchInterval: ({ state }) => (state.data?.some(isOpen) ? LOOK : false),
  });
  const start = useMutation({
    mutationFn: (input: { takes: string[]; characters: string[] }) =>
      fetchJson(`/api/projects/${project}/fit-runs`, { method: 'POST', body: JSON.stringify(input) }),
    onSettled: () => client.invalidateQueries({ queryKey: key }),
  });
  const stop = useMutation({
    mutationFn: (run: string) => fetchJson(`/api/projects/${project}/fit-runs/${run}`, { method: 'DELETE' }),
    onSettled: () => client.invalidateQueries({ queryKey: key }),
  });
  return { jobs, start, stop };
}

/** How far a run is, and how to end it. */
function Under({ done, of, onStop }: { done: number; of: number; onStop: () => void }) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
      <Box sx={{ flex: 1 }} role="status">
        <Typography variant="body2">
          {done} of {of} done
        </Typography>
        <LinearProgress variant="determinate" value={(100 * done) / Math.max(1, of)} aria-label="Fitting" />
      </Box>
      <Button variant="outlined" color="inherit" onClick={onStop}>
        Stop
      </Button>
    </Box>
  );
}

function Tick({ label, checked, onChange }: { label: string; checked: boolean; onChange: () => void }) {
  return (
    <Box component="label" sx={{ display: 'flex', alignItems: 'center', fontSize: 14.5, breakInside: 'avoid', cursor: 'pointer' }}>
      <Checkbox size="small" color="default" checked={checked} onChange={onChange} sx={{ p: 0.2, mr: 0.4 }} />
      {label}
    </Box>
  );
}
