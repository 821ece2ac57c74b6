'use client';
import type { AgainstSource, ClipFigures, Seam } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { isOut } from '@/data/bounds';
import { Figure } from '@/controls/Figure';

/** The cut as captured, and the clip as it ships: before and after, side by side. */
export function SeamFigures({ seam, figures, against }: { seam: Seam | null; figures: ClipFigures | null; against: AgainstSource | null }) {
  return (
    <Box component="section" aria-label="Figures" sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 2 }}>
      <Box data-figures="captured">
        <Typography variant="caption" color="text.secondary">
          seam as captured
        </Typography>
        <Figure label="pose" value={seam?.poseCm} unit="cm" />
        <Figure label="rotation" value={seam?.worstDeg} unit="°" />
        <Figure label="velocity" value={seam?.velocityCmS} unit="cm/s" digits={0} />
        <Figure label="heading" value={seam?.headingDeg} unit="°" />
        <Figure label="height" value={seam?.heightCm} unit="cm" />
        <Figure label="drift" value={seam?.driftCm} unit="cm" />
      </Box>
      <Box data-figures="finished">
        <Typography variant="caption" color="text.secondary">
          clip as it is now
        </Typography>
        <Figure label="pose" value={figures?.loop ? figures.seam.poseCm : null} unit="cm" digits={2} bound="poseCm" />
        <Figure label="tick" value={figures?.loop ? figures.tick : null} unit="" digits={2} bound="tick" />
        <Figure label="speed" value={figures?.speedMps} unit="m/s" digits={2} />
        <Figure label="turn" value={figures?.turnDegS} unit="°/s" />
        <Figure label="foot slide" value={figures?.slideCm} unit="cm" digits={2} bound="slideCm" />
        <Figure label="sink" value={figures?.sinkCm} unit="cm" digits={2} bound="sinkCm" />
        <Figure label="hover" value={figures?.hoverCm} unit="cm" digits={2} bound="hoverCm" />
      </Box>
      {seam && (
        <Typography variant="caption" color="text.secondary" sx={{ gridColumn: '1 / -1', mt: 0.3 }}>
          worst joint {seam.worstJoint}, {seam.worstCm.toFixed(1)} cm
        </Typography>
      )}
      <BesideTake likeness={against?.likeness ?? null} kink={against?.kink ?? null} />
    </Box>
  );
}

/**
 * How far the body is from what was captured, pose laid over pose, and where a knee or an elbow jerks most over what it did. Its line is there before it
 * is measured, so that nothing below it moves.
 */
function BesideTake({ likeness, kink }: AgainstSource) {
  const off = likeness && (isOut('likenessCm', likeness.worstCm) ? '▲ ' : '') + `${likeness.worstPart} ${likeness.worstCm.toFixed(1)} cm`;
  const jerk = kink && (isOut('kink', kink.ratio) ? '▲ ' : '') + `${kink.hinge} × ${kink.ratio.toFixed(2)}`;
  return (
    <Typography
      variant="caption"
      color="text.secondary"
      aria-label="Beside the take"
      title={`Farthest at frame ${likeness?.worstFrame ?? 0}; the largest jerk at frame ${kink?.frame ?? 0}`}
      noWrap
      sx={{ gridColumn: '1 / -1' }}
    >
      {likeness ? `off the take ${likeness.medianCm.toFixed(1)} cm, ${off ?? ''}` : 'off the take –'}
      {jerk && ` · kink ${jerk}`}
    </Typography>
  );
}
