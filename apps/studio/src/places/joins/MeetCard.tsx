'use client';
import type { JoinInto } from '@lantern/motion';
import BackIcon from '@mui/icons-material/ChevronLeft';
import OnIcon from '@mui/icons-material/ChevronRight';
import { Box, Slider, Typography } from '@mui/material';
import { useState } from 'react';
import { Sign } from '@/controls/Sign';
import { TypedNumber } from '@/controls/TypedNumber';
import { chart } from '@/controls/theme';
import * as edits from './join-edits';
import { Curve, Figures, Line, More, Row } from './MeetParts';
import type { Joinery } from './use-joinery';
import { WhereTheyFit } from './WhereTheyFit';

/** The chosen join: by what both are lined up, how they overlap, how good that is, and where else they fit. */
export function MeetCard({ joinery, index, names }: { joinery: Joinery; index: number; names: readonly [string, string] }) {
  const { doc, laid, view, edit, acts } = joinery;
  const [isWide, setWide] = useState(false);
  if (!doc) return null;
  const piece = doc.pieces[index];
  const id = piece.id ?? '';
  const { into } = piece;
  const meet = view?.meets[index - 1];
  const rooms = laid.rooms;
  const known = rooms.length > index;
  const most = known ? edits.mostOverlap(index, rooms) : 600;
  const set = (change: Partial<JoinInto>, isDone = true) => edit(edits.changeInto(doc, id, change), isDone);
  const fps = view?.motion.fps ?? 60;
  return (
    <Box component="section" aria-label="The chosen join" sx={{ display: 'grid', gap: 0.9, minWidth: 0 }}>
      <Box>
        <Box sx={{ display: 'flex', alignItems: 'center' }}>
          <Typography variant="body2" color="text.secondary" sx={{ flex: 1 }}>
            The chosen join, {index} of {doc.pieces.length - 1}
          </Typography>
          <Sign name="The join before" keys="[" disabled={index <= 1} onClick={() => acts.along(-1)}>
            <BackIcon />
          </Sign>
          <Sign name="The next join" keys="]" disabled={index >= doc.pieces.length - 1} onClick={() => acts.along(1)}>
            <OnIcon />
          </Sign>
        </Box>
        <Typography variant="h2" sx={{ overflowWrap: 'anywhere', lineHeight: 1.2 }}>
          {names[0]} → {names[1]}
        </Typography>
      </Box>
      <Line into={into} onChange={set} />
      <Box sx={{ display: 'grid', gridTemplateColumns: 'auto minmax(0, 1fr) auto auto', alignItems: 'center', gap: 1.2 }}>
        <Typography variant="body2">Overlap</Typography>
        <Slider
          size="small"
          min={0}
          max={Math.max(1, Math.min(most, 90))}
          value={Math.min(into.frames, 90)}
          aria-label="Overlap, frames"
          color="secondary"
          onChange={(_, frames) => set({ frames }, false)}
          onChangeCommitted={(_, frames) => set({ frames })}
          sx={{ color: chart('ink') }}
        />
        <TypedNumber
          name="Overlap, frames typed"
          value={into.frames}
          unit="frames"
          least={0}
          most={most}
          digits={0}
          width={34}
          onChange={(frames) => set({ frames })}
        />
        <Typography variant="body2" color="text.secondary">
          {(into.frames / fps).toFixed(2)} s
        </Typography>
      </Box>
      <Curve into={into} meet={meet} onChange={set} />
      <Box>
        <Row
          name="Hold planted feet"
          says={meet ? `slide ${meet.slideCm.toFixed(1)} cm` : ''}
          isOn={into.hold}
          onChange={(hold) => set({ hold })}
        />
        <Row
          name="Run in step"
          says={meet && into.inStep ? (meet.isInStep ? 'the same foot lands' : 'nobody walks here') : ''}
          isOn={into.inStep}
          onChange={(inStep) => set({ inStep })}
        />
      </Box>
      <Figures meet={meet} />
      {known && <WhereTheyFit joinery={joinery} index={index} rooms={rooms} fps={fps} isWide={isWide} onWide={setWide} />}
      <More into={into} onChange={set} />
    </Box>
  );
}
