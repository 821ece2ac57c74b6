'use client';
import CheckIcon from '@mui/icons-material/Check';
import CloseIcon from '@mui/icons-material/Close';
import { Box, Button, Paper, Typography } from '@mui/material';
import { usePathname, useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { useClips } from '@/data/clips-store';
import { useProjectData, useProjectInfo } from '@/data/project';
import { Sign } from '@/controls/Sign';
import { chart } from '@/controls/theme';
import { finishStep, goToStep, leaveGuide, useGuide } from './guide-state';
import { GUIDE, type GuideStep } from './guide-steps';

/** The first way through the program: a card that stays while one does what it says. */
export function Guide() {
  const { isOpen, step, done } = useGuide();
  useEffect(() => void useGuide.persist.rehydrate(), []);
  const path = usePathname();
  const router = useRouter();
  const { id } = useProjectInfo();
  const address = useAddress();
  if (!isOpen) return null;
  const own = GUIDE[Math.min(step, GUIDE.length - 1)];
  // A place without a name in its address shows what it has first.
  const isHere = path.startsWith(address(own)) || path === `/${id}/${own.place}`;
  const isLast = done.filter((k) => k !== step).length >= GUIDE.length - 1;
  return (
    <Paper
      component="section"
      aria-label="First steps"
      elevation={6}
      sx={{
        position: 'fixed',
        left: 84,
        bottom: 16,
        width: 320,
        p: 2,
        zIndex: 'drawer',
        borderTop: '3px solid',
        borderColor: chart('lamp'),
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'start', gap: 1 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {own.title}
        </Typography>
        <Sign name="Leave the guide" size={26} onClick={leaveGuide}>
          <CloseIcon />
        </Sign>
      </Box>
      <Typography variant="body2" sx={{ my: 1 }} role="status">
        {own.says}
      </Typography>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <Box component="ol" aria-label="Steps of the guide" sx={{ display: 'flex', gap: 0.5, flex: 1, listStyle: 'none', m: 0, p: 0 }}>
          {GUIDE.map(({ title }, k) => (
            <li key={title}>
              <StepDot k={k} title={title} isDone={done.includes(k)} isOn={k === step} />
            </li>
          ))}
        </Box>
        {!isHere && (
          <Button variant="contained" onClick={() => router.push(address(own))}>
            Take me there
          </Button>
        )}
        {isHere && (
          <Button variant="contained" onClick={() => finishStep(step)}>
            {isLast ? 'Done' : 'Next step'}
          </Button>
        )}
      </Box>
    </Paper>
  );
}

function StepDot({ k, title, isDone, isOn }: { k: number; title: string; isDone: boolean; isOn: boolean }) {
  return (
    <Box
      component="button"
      type="button"
      aria-label={`Step ${k + 1}: ${title}${isDone ? ', done' : ''}`}
      aria-current={isOn ? 'step' : undefined}
      onClick={() => goToStep(k)}
      sx={{
        width: 24,
        height: 24,
        p: 0,
        display: 'grid',
        placeItems: 'center',
        cursor: 'pointer',
        borderRadius: '50%',
        border: '1.5px solid',
        borderColor: isOn ? chart('lamp') : chart('rule'),
        bgcolor: isOn ? chart('lampSoft') : 'transparent',
        color: 'text.primary',
        font: 'inherit',
        fontSize: 13,
        '& svg': { fontSize: 15 },
      }}
    >
      {isDone ? <CheckIcon /> : k + 1}
    </Box>
  );
}

/** Where a step is: at its take or clip where the project has it, else at its place. */
function useAddress(): (step: GuideStep) => string {
  const { id } = useProjectInfo();
  const { data } = useProjectData();
  const clips = useClips((state) => state.docs);
  return ({ place, opens }) => {
    const all = opens?.kind === 'take' ? data?.takes : opens ? clips : [];
    const found = all?.find(({ name }) => name === opens?.name);
    return found ? `/${id}/${place}/${found.id}` : `/${id}/${place}`;
  };
}
