'use client';
import type { SlotReport } from '@lantern/motion';
import { Box, Button, Checkbox, Dialog, DialogActions, DialogContent, DialogTitle, LinearProgress, Typography } from '@mui/material';
import { useSnackbar } from 'notistack';
import { useEffect, useRef, useState } from 'react';
import { chart } from '@/controls/theme';
import { useClips } from '@/data/clips-store';
import { useWholeSteps } from '@/data/fits';
import { defaultSteps, freeName } from '@/data/new-clip';
import { offersOf, type Offer } from '@/data/offers';
import { useProjectData } from '@/data/project';
import type { SetDoc } from '@/data/sets-store';

/** Every take held against what is missing: what it offers, the best first; those that are ticked are cut. */
export function FillFromTakes({ doc, reports, onClose }: { doc: SetDoc; reports: readonly SlotReport[]; onClose: () => void }) {
  const { data } = useProjectData();
  const whole = useWholeSteps();
  const { enqueueSnackbar } = useSnackbar();
  const [offers, setOffers] = useState<readonly Offer[]>([]);
  const [at, setAt] = useState<{ readonly done: number; readonly of: number; readonly name: string } | null>({ done: 0, of: 1, name: '' });
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [problems, setProblems] = useState<readonly string[]>([]);
  const stopped = useRef(false);
  const asked = useRef({
    takes: data?.takes ?? [],
    missing: reports.filter(({ state }) => state === 'missing' || state === 'mirror'),
    doc,
    whole,
  });
  useEffect(() => {
    stopped.current = false;
    void (async () => {
      const { takes, missing, doc: set, whole: wholeSteps } = asked.current;
      const short = takes.filter(({ long }) => !long);
      const best = new Map<string, number>();
      for (const [i, take] of short.entries()) {
        setAt({ done: i, of: short.length, name: take.name });
        try {
          const wanted = { slots: missing.map(({ slot }) => slot), contract: set.contract, character: set.character, whole: wholeSteps };
          for await (const offer of offersOf(take, wanted)) {
            if (stopped.current) return;
            setOffers((known) => [...known, offer].sort((x, y) => x.slot.localeCompare(y.slot) || x.cost - y.cost));
            if (offer.cost >= (best.get(offer.slot) ?? Infinity)) continue;
            best.set(offer.slot, offer.cost);
            // The best one of each slot is ticked to begin with.
            setTicked((known) => new Set([...[...known].filter((id) => !id.endsWith(` ${offer.slot}`)), offer.id]));
          }
        } catch (error) {
          setProblems((known) => [...known, `${take.name}: ${error instanceof Error ? error.message : 'it could not be read'}`]);
        }
      }
      setAt(null);
    })();
    return () => {
      stopped.current = true;
    };
  }, []);
  const leftOut = (data?.takes ?? []).filter(({ long }) => long).length;
  const make = () => {
    const { docs } = useClips.getState();
    const made = [...docs];
    for (const { name, take, proposal } of offers.filter(({ id }) => ticked.has(id))) {
      const isTaken = made.some((own) => own.name.toLowerCase() === name.toLowerCase());
      made.push({
        id: crypto.randomUUID(),
        name: isTaken ? freeName(name, made) : name,
        source: { take: take.id, from: proposal.from, to: proposal.to },
        steps: defaultSteps(proposal.isLoop, doc.character ?? ''),
        gait: proposal.tags.gait,
        direction: proposal.tags.direction,
      });
    }
    useClips.setState({ docs: made });
    const count = made.length - docs.length;
    enqueueSnackbar(`${count} ${count === 1 ? 'clip was' : 'clips were'} cut; undo takes them back.`);
    onClose();
  };
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="fill-title">
      <DialogTitle id="fill-title" sx={{ fontFamily: 'Alegreya' }}>
        What the takes offer for the slots that are missing
      </DialogTitle>
      <DialogContent>
        {at && (
          <Box role="status" sx={{ mb: 1 }}>
            <Typography variant="body2" noWrap>
              reading take {at.done + 1} of {at.of}: {at.name}
            </Typography>
            <LinearProgress variant="determinate" value={(100 * at.done) / Math.max(1, at.of)} aria-label="Reading the takes" />
          </Box>
        )}
        {problems.map((problem) => (
          <Typography key={problem} variant="body2" role="alert">
            ▲ {problem}
          </Typography>
        ))}
        {leftOut > 0 && (
          <Typography variant="body2" color="text.secondary">
            {leftOut === 1 ? 'One take is too long to be read whole and is' : `${leftOut} takes are too long to be read whole and are`} left
            out: cut
            {leftOut === 1 ? ' it' : ' them'} on the Bench.
          </Typography>
        )}
        {!at && offers.length === 0 && (
          <Typography>None of the takes has anything for a slot that is missing: it is all on the shot list.</Typography>
        )}
        <Box component="ul" aria-label="Offers" sx={{ m: 0, p: 0, listStyle: 'none', maxHeight: 380, overflow: 'auto' }}>
          {offers.map(({ id, name, take, proposal, traits }) => (
            <Box
              component="li"
              key={id}
              sx={{
                display: 'grid',
                gridTemplateColumns: '34px 1.1fr 1.2fr 110px 90px 80px',
                alignItems: 'center',
                borderBottom: `1px solid ${chart('rule')}`,
              }}
            >
              <Checkbox
                size="small"
                color="default"
                checked={ticked.has(id)}
                onChange={(_, on) => setTicked(on ? new Set([...ticked, id]) : new Set([...ticked].filter((own) => own !== id)))}
                slotProps={{ input: { 'aria-label': `Cut ${name} from ${take.name}, frame ${proposal.from}` } }}
                sx={{ p: 0.4 }}
              />
              <Typography sx={{ fontWeight: 500 }} noWrap>
                {name}
              </Typography>
              <Typography variant="body2" color="text.secondary" noWrap>
                {take.name}, {proposal.from} to {proposal.to}
              </Typography>
              <Typography variant="body2">
                {traits.kind === 'turn' ? `${traits.turnDeg.toFixed(0)}°` : `${traits.speedMps.toFixed(2)} m/s`}
              </Typography>
              <Typography variant="body2">slide {traits.figures.slideCm.toFixed(2)}</Typography>
              <Typography variant="body2">{traits.figures.loop ? `tick ${traits.figures.tick.toFixed(1)}` : ''}</Typography>
            </Box>
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          {at ? 'Stop' : 'Close'}
        </Button>
        <Button variant="contained" disabled={ticked.size === 0} onClick={make}>
          Make {ticked.size} {ticked.size === 1 ? 'clip' : 'clips'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
