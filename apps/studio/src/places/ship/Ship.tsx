'use client';
import { Box, Button, LinearProgress, Typography } from '@mui/material';
import Link from 'next/link';
import { useState } from 'react';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { otherSide } from '@/data/new-clip';
import { useProjectData, useProjectInfo, type ProjectData, type TakeInfo } from '@/data/project';
import { useSources } from '@/data/sources';
import { EmptyPlace } from '@/controls/EmptyPlace';
import { Trouble } from '@/places/takes/Takes';
import { Commands } from '@/shell/Commands';
import { ReadinessTable } from './ReadinessTable';
import { many, RATES, Shipment } from './Shipment';
import { useReadiness } from './use-readiness';
import { useShipping, type ShipChoice } from './use-shipping';

/** Ship: see whether the clips are ready, and take the files. */
export function Ship() {
  const { data, error, isPending, refetch } = useProjectData();
  const project = useProjectInfo();
  const docs = useClips((state) => state.docs);
  if (isPending) return <LinearProgress aria-label="Loading the clips" />;
  if (error) return <Trouble message={error.message} onRetry={() => void refetch()} />;
  if (docs.length === 0)
    return (
      <EmptyPlace title="Nothing to ship yet" says="Cut a first clip on the Bench; it will wait here with its figures.">
        <Button variant="contained" size="large" component={Link} href={`/${project.id}/bench`}>
          Go to the Bench
        </Button>
      </EmptyPlace>
    );
  return <Desk docs={docs} stored={data.takes} fits={data.fits} />;
}

/** Mirrors of clips, made as one step of undo. */
function makeOtherSides(chosen: readonly ClipDoc[]): void {
  const docs = [...useClips.getState().docs];
  for (const doc of chosen) docs.push(otherSide(doc, docs));
  useClips.setState({ docs });
}

/** The desk: what leaves, at which rate, in how many files; and every clip's figures as it would leave. */
function Desk({ docs, stored, fits }: { docs: readonly ClipDoc[]; stored: readonly TakeInfo[]; fits: ProjectData['fits'] }) {
  const takes = useSources(stored).all;
  const project = useProjectInfo();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [choice, setChoice] = useState<ShipChoice>({ fps: project.fps, oneFilePerClip: false, bvh: false });
  const readiness = useReadiness(docs, takes, choice.fps);
  const chosen = docs.filter((doc) => !left.has(doc.id));
  const shipping = useShipping(takes, fits);
  const ship = () => void shipping.ship(chosen, choice);
  return (
    <Box sx={{ height: '100%', display: 'grid', gridTemplateColumns: { xs: 'minmax(0, 1fr) 240px', lg: 'minmax(0, 1fr) 300px' } }}>
      <Box sx={{ p: 2, pb: 0, display: 'flex', flexDirection: 'column', minHeight: 0 }}>
        <Commands
          place="ship"
          commands={[
            { id: 'ship', label: `Ship ${many(chosen.length)}`, run: ship },
            { id: 'other-sides', label: 'Make the other side of the chosen clips', run: () => makeOtherSides(chosen) },
            ...RATES.map((fps) => ({
              id: `rate-${fps}`,
              label: `Ship at ${fps} frames a second`,
              run: () => setChoice({ ...choice, fps }),
            })),
          ]}
        />
        <Typography variant="h1" sx={{ mb: 0.3 }}>
          Ready to ship?
        </Typography>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
          Every clip as it would leave at {choice.fps} frames a second, worst first. A figure out of bounds is hatched; its clip is one
          click away.
        </Typography>
        <Box sx={{ flex: 1, minHeight: 0 }}>
          <ReadinessTable docs={docs} readiness={readiness} left={left} setLeft={setLeft} project={project.id} />
        </Box>
      </Box>
      <Shipment
        choice={choice}
        onChoice={setChoice}
        count={chosen.length}
        all={docs.length}
        onOtherSides={() => makeOtherSides(chosen)}
        onShip={ship}
        progress={shipping.progress}
        outcome={shipping.outcome}
      />
    </Box>
  );
}
