'use client';
import type { LoopCandidate } from '@lantern/motion';
import { Button, ButtonBase, Skeleton, Typography } from '@mui/material';
import { Section } from '@/controls/folds';
import { chart } from '@/controls/theme';
import { SideMark } from '@/timeline/Ribbon';
import type { Cut } from '../use-bench';

/** The best loops of the take, and the one button that takes the first. */
export function CandidateList({
  candidates,
  isSearching,
  cut,
  onTake,
}: {
  candidates: readonly LoopCandidate[];
  isSearching: boolean;
  cut: Cut | null;
  onTake: (candidate: LoopCandidate) => void;
}) {
  const best = candidates[0];
  const isBest = best && cut?.from === best.from && cut.to === best.to;
  return (
    <Section
      id="bench loops"
      title="Where it repeats"
      aside={
        <Typography variant="caption" color="text.secondary" noWrap>
          {isSearching ? 'searching…' : candidates.length > 0 ? `best of ${candidates.length}` : ''}
        </Typography>
      }
    >
      {isSearching && <Skeleton height={90} />}
      {!isSearching && candidates.length === 0 && (
        <Typography variant="body2" color="text.secondary" sx={{ py: 1 }}>
          Nothing in this take comes round again. Set the posts by hand.
        </Typography>
      )}
      {candidates.slice(0, 4).map((candidate, i) => {
        const isTaken = cut?.from === candidate.from && cut.to === candidate.to;
        return (
          <ButtonBase
            key={`${candidate.from}-${candidate.to}`}
            disableRipple
            aria-pressed={isTaken}
            onClick={() => onTake(candidate)}
            sx={{
              display: 'grid',
              gridTemplateColumns: '16px 40px 1fr auto auto',
              gap: 1,
              width: '100%',
              py: 0.35,
              px: 0.5,
              textAlign: 'left',
              alignItems: 'center',
              borderBottom: `1px solid ${chart('rule')}`,
              bgcolor: isTaken ? chart('lampSoft') : 'transparent',
              '&:hover': { bgcolor: isTaken ? undefined : 'action.hover' },
            }}
          >
            <Typography variant="caption" color="text.secondary">
              {i + 1}
            </Typography>
            <svg width={30} height={16} aria-label={candidate.startsOn ? `starts on the ${candidate.startsOn} foot` : 'standing'}>
              {candidate.startsOn && <SideMark side={candidate.startsOn} x={0} y={8} />}
            </svg>
            <Typography variant="body2" noWrap>
              {candidate.seconds.toFixed(2)} s ·{' '}
              {candidate.strides ? `${candidate.strides} ${candidate.strides === 1 ? 'stride' : 'strides'}` : 'standing'}
            </Typography>
            <Typography variant="body2" sx={{ fontWeight: 700 }}>
              {candidate.seam.poseCm.toFixed(1)} cm
            </Typography>
            <Typography variant="body2" sx={{ fontWeight: 700, width: 62, textAlign: 'right' }}>
              {candidate.seam.velocityCmS.toFixed(0)} cm/s
            </Typography>
          </ButtonBase>
        );
      })}
      {best && !isBest && (
        <Button fullWidth variant="contained" size="medium" sx={{ mt: 1.2, fontWeight: 700 }} onClick={() => onTake(best)}>
          Take the best loop
        </Button>
      )}
    </Section>
  );
}
