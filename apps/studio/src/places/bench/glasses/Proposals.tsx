'use client';
import { NAME_PATTERN, type Proposal } from '@lantern/motion';
import {
  Box,
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  TextField,
  Typography,
} from '@mui/material';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { fetchJson } from '@/data/fetch-json';
import { offeredNames } from '@/data/new-clip';
import { projectKey, useProjectData, useProjectInfo } from '@/data/project';
import { wordsOf } from '../deck/SegmentBand';

/** The clips that a take offers, to tick and make. */
export function Proposals({
  proposals,
  docs,
  fps,
  onMake,
  onClose,
}: {
  proposals: readonly Proposal[];
  docs: readonly ClipDoc[];
  fps: number;
  onMake: (chosen: readonly Proposal[], pattern: string) => void;
  onClose: () => void;
}) {
  const isMade = ({ from, to }: Proposal) => docs.some((doc) => Math.abs(doc.source.from - from) < 3 && Math.abs(doc.source.to - to) < 3);
  const open = proposals.filter((proposal) => !isMade(proposal));
  const project = useProjectInfo();
  const client = useQueryClient();
  const { data } = useProjectData();
  const kept = data?.project.namePattern ?? project.namePattern;
  const [pattern, setPattern] = useState(kept);
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const chosen = open.filter(({ from }) => !left.has(from));
  const names = offeredNames(open, pattern || NAME_PATTERN, project.character, docs);
  const make = () => {
    if (pattern.trim() && pattern !== kept) {
      // A pattern is the project's: the next take's clips are named after it too.
      void fetchJson(`/api/projects/${project.id}`, { method: 'PATCH', body: JSON.stringify({ namePattern: pattern }) })
        .then(() => client.invalidateQueries({ queryKey: projectKey(project.id) }))
        .catch(() => undefined);
    }
    onMake(chosen, pattern || NAME_PATTERN);
  };
  const toggle = (from: number) => {
    const next = new Set(left);
    if (!next.delete(from)) next.add(from);
    setLeft(next);
  };
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="proposals-title">
      <DialogTitle id="proposals-title" sx={{ fontFamily: 'Alegreya', pb: 0 }}>
        What this take offers
      </DialogTitle>
      <DialogContent>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
          {open.length === 0
            ? proposals.length === 0
              ? 'Nothing in this take is a gait, a turn, a start or a stop. Cut it by hand.'
              : 'All that it offers is cut already.'
            : 'The best cycle of every gait, and starts, stops and turns as they are. Untick what you do not need.'}
        </Typography>
        {open.length > 0 && (
          <TextField
            fullWidth
            label="Names"
            value={pattern}
            onChange={(event) => setPattern(event.target.value)}
            helperText="{character}, {gait}, {direction} and {number} stand for what they say"
            sx={{ mb: 1, mt: 0.5 }}
          />
        )}
        <Box role="list" aria-label="Proposed clips">
          {open.map((proposal, i) => (
            <Box
              key={proposal.from}
              role="listitem"
              sx={{ display: 'grid', gridTemplateColumns: '1fr auto auto', alignItems: 'center', gap: 2 }}
            >
              <FormControlLabel
                control={<Checkbox size="small" checked={!left.has(proposal.from)} onChange={() => toggle(proposal.from)} />}
                label={names[i]}
              />
              <Typography variant="body2" color="text.secondary">
                {proposal.isLoop ? 'loop' : 'once'}, {wordsOf(proposal.segment)}
              </Typography>
              <Typography variant="body2">{((proposal.to - proposal.from) / fps).toFixed(2)} s</Typography>
            </Box>
          ))}
        </Box>
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
        {open.length > 0 && (
          <Button variant="contained" disabled={chosen.length === 0} onClick={make}>
            Make {chosen.length} {chosen.length === 1 ? 'clip' : 'clips'}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
