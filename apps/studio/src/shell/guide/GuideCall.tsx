'use client';
import { Box } from '@mui/material';
import { chart } from '@/controls/theme';
import { useProjectData } from '@/data/project';
import { isThrough, leaveGuide, takeUpGuide, useGuide } from './guide-state';
import { GUIDE } from './guide-steps';

/** At the foot of the rail, until it was gone through: whoever is new here begins there. */
export function GuideCall() {
  const { isOpen, done } = useGuide();
  const { data } = useProjectData();
  // Where nothing was captured yet there is nothing to be shown round.
  if (isThrough({ done }) || !data?.takes.length) return null;
  return (
    <Box
      component="button"
      type="button"
      aria-expanded={isOpen}
      onClick={() => (isOpen ? leaveGuide() : takeUpGuide())}
      sx={{
        width: '100%',
        mt: 1,
        py: 0.8,
        px: 0.5,
        border: 0,
        borderTop: `1px solid ${chart('rule')}`,
        bgcolor: 'transparent',
        color: chart('lampText'),
        font: 'inherit',
        fontSize: 13,
        lineHeight: 1.25,
        cursor: 'pointer',
        '&:hover': { bgcolor: 'action.hover' },
      }}
    >
      First steps
      <br />
      {done.length} of {GUIDE.length}
    </Box>
  );
}
