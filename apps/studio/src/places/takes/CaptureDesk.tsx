'use client';
import CloseIcon from '@mui/icons-material/Close';
import { Box, Typography } from '@mui/material';
import { useRouter, useSearchParams } from 'next/navigation';
import { Sign } from '@/controls/Sign';
import { chart } from '@/controls/theme';
import { useProjectInfo } from '@/data/project';
import { Sensors } from './CaptureParts';
import { CalibrateStep, Faults, PerformerStep, RecordStep } from './CaptureSteps';
import { CaptureWindow } from './CaptureWindow';
import { DeskShots } from './DeskShots';
import { useDeskShots } from './use-desk-shots';
import { useSuit } from './use-suit';

/** The capture desk: connect the suit, measure, calibrate, record, name, keep or discard, and again. */
export function CaptureDesk() {
  const project = useProjectInfo();
  const router = useRouter();
  const desk = useSuit();
  const shots = useDeskShots(useSearchParams().get('capture'));
  return (
    <Box sx={{ height: '100%', display: 'grid', gridTemplateColumns: 'minmax(340px, 30%) minmax(0, 1fr)' }}>
      <Box
        component="section"
        aria-label="Capture desk"
        sx={{ borderRight: `1px solid ${chart('rule')}`, overflow: 'auto', px: 1.8, pb: 2 }}
      >
        <Box sx={{ display: 'flex', alignItems: 'center', pt: 1 }}>
          <Typography variant="h2" component="h1" sx={{ flex: 1 }}>
            Capture desk
          </Typography>
          <Sign name="Close the capture desk" onClick={() => router.push(`/${project.id}/takes`)}>
            <CloseIcon />
          </Sign>
        </Box>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
          A simulated suit with eighteen sensors, sixty frames a second.
        </Typography>
        <PerformerStep desk={desk} />
        <CalibrateStep desk={desk} />
        <RecordStep desk={desk} onKept={shots.land} />
        <Faults desk={desk} />
        {desk.status && <Sensors status={desk.status} />}
      </Box>
      <CaptureWindow desk={desk}>
        <DeskShots desk={desk} shots={shots} />
      </CaptureWindow>
    </Box>
  );
}
