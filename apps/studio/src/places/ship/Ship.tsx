'use client';
import { Box, Button, FormControlLabel, LinearProgress, MenuItem, Radio, RadioGroup, Switch, TextField, Typography } from '@mui/material';
import { proxy } from 'comlink';
import Link from 'next/link';
import { useState } from 'react';
import { BOUNDS, isOut, type Bounded } from '@/data/bounds';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { otherSide } from '@/data/new-clip';
import { useProjectData, useProjectInfo, type ProjectData, type TakeInfo } from '@/data/project';
import { ensureOpen, takeKey } from '@/data/use-open-take';
import { Trouble } from '@/places/takes/Takes';
import { chart } from '@/controls/theme';
import { Commands } from '@/shell/Commands';
import { core } from '@/worker/core';
import { download } from './download';
import { keyOf, useReadiness } from './use-readiness';
import { ReadinessTable, valueOf } from './ReadinessTable';

const RATES = [24, 30, 60, 120] as const;

type Progress = { readonly done: number; readonly of: number; readonly name: string };
type Outcome = { readonly text: string; readonly isProblem: boolean };

/** Ship: see whether the clips are ready, and take the files. */
export function Ship() {
  const { data, error, isPending, refetch } = useProjectData();
  const project = useProjectInfo();
  const docs = useClips((state) => state.docs);
  if (isPending) return <LinearProgress aria-label="Loading the clips" />;
  if (error) return <Trouble message={error.message} onRetry={() => void refetch()} />;
  if (docs.length === 0) return <Empty project={project.id} />;
  return <Desk docs={docs} takes={data.takes} fits={data.fits} />;
}

/** Mirrors of clips, made as one step of undo. */
function makeOtherSides(chosen: readonly ClipDoc[]): void {
  const docs = [...useClips.getState().docs];
  for (const doc of chosen) docs.push(otherSide(doc, docs));
  useClips.setState({ docs });
}

function Desk({ docs, takes, fits }: { docs: readonly ClipDoc[]; takes: readonly TakeInfo[]; fits: ProjectData['fits'] }) {
  const project = useProjectInfo();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [fps, setFps] = useState(project.fps);
  const [oneEach, setOneEach] = useState(false);
  const [bvh, setBvh] = useState(false);
  const [progress, setProgress] = useState<Progress | null>(null);
  const [outcome, setOutcome] = useState<Outcome | null>(null);
  const readiness = useReadiness(docs, takes, fps);
  const chosen = docs.filter((doc) => !left.has(doc.id));
  const worst = (i: number) =>
    readiness[i].figures && Object.keys(BOUNDS).filter((key) => isOut(key as Bounded, valueOf(readiness[i], key as Bounded))).length;
  const order = docs.map((_, i) => i).sort((a, b) => (worst(b) ?? 0) - (worst(a) ?? 0));

  const ship = async () => {
    setOutcome(null);
    setProgress({ done: 0, of: chosen.length, name: '' });
    try {
      for (const id of new Set(chosen.map((doc) => doc.source.take))) {
        const take = takes.find((t) => t.id === id);
        if (take) await ensureOpen(take);
      }
      const shipment = {
        fps: project.fps,
        clips: chosen.map((doc) => ({
          ...doc,
          name: fileSafe(doc.name),
          source: { ...doc.source, take: keyOf(takes, doc.source.take) },
        })),
        fits: fits.map(({ source, character, settings }) => ({ source, character, ...settings })),
        ship: { glb: `${fileSafe(project.character.toLowerCase())}.glb`, fps, oneFilePerClip: oneEach, bvh },
      };
      const made = await core().ship(
        shipment,
        proxy((done: number, of: number, name: string) => setProgress({ done, of, name })),
      );
      if ('problem' in made) setOutcome({ text: made.problem, isProblem: true });
      else {
        // A report is for people and programs elsewhere: takes by their names.
        const nameOf = new Map(takes.map((take) => [takeKey(take), take.name]));
        const report = { ...made.report, clips: made.report.clips.map((clip) => ({ ...clip, take: nameOf.get(clip.take) ?? clip.take })) };
        const manifest = { path: 'report.json', bytes: new TextEncoder().encode(JSON.stringify(report, null, 1)) };
        const saved = download(
          made.files.length > 1 ? [...made.files, manifest] : made.files,
          `${project.id}-${project.character.toLowerCase()}.zip`,
        );
        const { failed } = made.report;
        const text = [
          `${saved.name}, ${(saved.bytes / 1e6).toFixed(2)} MB, is in your downloads.`,
          ...failed.map(({ name, message }) => `Not in it: ${name}. ${message}`),
        ].join(' ');
        setOutcome({ text, isProblem: failed.length > 0 });
      }
    } catch (error) {
      setOutcome({ text: error instanceof Error ? error.message : 'The files could not be made.', isProblem: true });
    }
    setProgress(null);
  };

  return (
    <Box sx={{ height: '100%', display: 'grid', gridTemplateColumns: { xs: 'minmax(0, 1fr) 240px', lg: 'minmax(0, 1fr) 300px' } }}>
      <Box sx={{ overflow: 'auto', p: 2 }}>
        <Commands
          place="ship"
          commands={[
            { id: 'ship', label: `Ship ${chosen.length} ${chosen.length === 1 ? 'clip' : 'clips'}`, run: () => void ship() },
            { id: 'other-sides', label: 'Make the other side of the chosen clips', run: () => makeOtherSides(chosen) },
            ...RATES.map((rate) => ({ id: `rate-${rate}`, label: `Ship at ${rate} frames a second`, run: () => setFps(rate) })),
          ]}
        />
        <Typography variant="h1" sx={{ mb: 0.3 }}>
          Ready to ship?
        </Typography>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1.5 }}>
          Every clip as it would leave at {fps} frames a second, worst first. A figure out of bounds is hatched; its clip is one click away.
        </Typography>
        <ReadinessTable docs={docs} order={order} readiness={readiness} left={left} setLeft={setLeft} project={project.id} />
      </Box>
      <Box
        component="aside"
        aria-label="Shipment"
        sx={{ borderLeft: `1px solid ${chart('rule')}`, p: 2, display: 'flex', flexDirection: 'column', gap: 1.5, overflow: 'auto' }}
      >
        <Typography variant="h2">Shipment</Typography>
        <TextField select label="Rate" value={fps} onChange={(event) => setFps(Number(event.target.value))}>
          {RATES.map((value) => (
            <MenuItem key={value} value={value}>
              {value} frames a second
            </MenuItem>
          ))}
        </TextField>
        <RadioGroup value={oneEach ? 'each' : 'one'} onChange={(_, value) => setOneEach(value === 'each')} aria-label="Files">
          <FormControlLabel value="one" control={<Radio size="small" color="default" />} label="One GLB with all clips" />
          <FormControlLabel value="each" control={<Radio size="small" color="default" />} label="One GLB for each clip" />
        </RadioGroup>
        <FormControlLabel
          control={<Switch size="small" checked={bvh} onChange={(_, on) => setBvh(on)} color="default" />}
          label="BVH of each clip too"
          sx={{ ml: -0.5, gap: 0.5 }}
        />
        <Typography variant="body2" color="text.secondary">
          One root joint above the hips, keys on whole frames, a loop’s last key equal to its first, a skin in the file.
        </Typography>
        <Button
          color="inherit"
          sx={{ alignSelf: 'flex-start', ml: -1 }}
          disabled={chosen.length === 0}
          aria-label={`Make the other side of ${chosen.length} ${chosen.length === 1 ? 'clip' : 'clips'}`}
          onClick={() => makeOtherSides(chosen)}
        >
          make the other side of {chosen.length === docs.length ? 'all' : `these ${chosen.length}`}
        </Button>
        <Box sx={{ flex: 1 }} />
        {progress && (
          <Box role="status">
            <Typography variant="body2" noWrap>
              {progress.name ? `${progress.done + 1} of ${progress.of}: ${progress.name}` : 'Opening the takes'}
            </Typography>
            <LinearProgress
              variant={progress.of > 1 ? 'determinate' : 'indeterminate'}
              value={(100 * progress.done) / Math.max(1, progress.of)}
              aria-label="Shipping"
            />
          </Box>
        )}
        {outcome && (
          <Typography variant="body2" role={outcome.isProblem ? 'alert' : 'status'} sx={{ fontWeight: 500 }}>
            {outcome.isProblem && '▲ '}
            {outcome.text}
          </Typography>
        )}
        <Button
          variant="contained"
          size="large"
          disabled={chosen.length === 0 || progress !== null}
          onClick={() => void ship()}
          sx={{ fontWeight: 700 }}
        >
          Ship {chosen.length} {chosen.length === 1 ? 'clip' : 'clips'}
        </Button>
      </Box>
    </Box>
  );
}

/** A name without what file systems refuse. */
const fileSafe = (name: string) => name.replace(/[/\\:*?"<>|\u0000-\u001f]/g, '-');

function Empty({ project }: { project: string }) {
  return (
    <Box sx={{ height: '100%', display: 'grid', placeItems: 'center', textAlign: 'center' }}>
      <Box>
        <Typography variant="h1" sx={{ mb: 1 }}>
          Nothing to ship yet
        </Typography>
        <Typography color="text.secondary" sx={{ mb: 2 }}>
          Cut a first clip on the Bench; it will wait here with its figures.
        </Typography>
        <Button variant="contained" size="large" component={Link} href={`/${project}/bench`}>
          Go to the Bench
        </Button>
      </Box>
    </Box>
  );
}
