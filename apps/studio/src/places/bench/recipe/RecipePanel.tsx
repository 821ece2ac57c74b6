'use client';
import type { ClipFigures, RecipeStep } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { STEP_ORDER, withStep } from '@/data/new-clip';
import { Small } from '@/controls/Small';
import { FloorCard, FootLockCard } from './FeetCards';
import { FitCard } from './FitCard';
import { LoopCard } from './LoopCard';
import { RetimeCard } from '../retime/RetimeCard';
import { SpeedCard } from './SpeedCard';
import { StepRemoval } from '../../../controls/StepCard';
import { TravelCard } from './TravelCard';
import { TypicalCycleCard } from './TypicalCycleCard';
import type { AboutRecipe } from './use-about-recipe';
import { EvenOutCard, ExtendCard, MirrorCard, PathCard } from './WayCards';

const NAMES: Record<RecipeStep['kind'], string> = {
  fit: 'fit to a character',
  floor: 'floor',
  'typical-cycle': 'typical cycle',
  mirror: 'mirror',
  loop: 'loop',
  'even-out': 'even out',
  extend: 'walk on',
  path: 'path',
  speed: 'speed',
  'foot-lock': 'foot lock',
  travel: 'travel',
  retime: 'retime',
};

/** The recipe as a column of step cards, each switched, changed, measured and removed in its place. */
export function RecipePanel({ doc, about, onChange }: { doc: ClipDoc; about: AboutRecipe; onChange: (doc: ClipDoc) => void }) {
  const missing = STEP_ORDER.filter((kind) => !doc.steps.some((step) => step.kind === kind));
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <StepRemoval value={(kind) => onChange({ ...doc, steps: doc.steps.filter((step) => step.kind !== kind) })}>
        {doc.steps.map((step, index) => (
          <Box key={step.kind}>
            {cardOf(step, about, (next) => onChange({ ...doc, steps: doc.steps.map((s, i) => (i === index ? next : s)) }))}
          </Box>
        ))}
      </StepRemoval>
      {missing.length > 0 && (
        <Box role="group" aria-label="Add a step" sx={{ display: 'flex', alignItems: 'center', flexWrap: 'wrap' }}>
          <Typography variant="body2" color="text.secondary">
            add a step:
          </Typography>
          {missing.map((kind) => (
            <Small key={kind} onClick={() => onChange({ ...doc, steps: withStep(doc.steps, kind, about.measured?.figures?.speedMps) })}>
              {NAMES[kind]}
            </Small>
          ))}
        </Box>
      )}
    </Box>
  );
}

const NO_CONTACTS: readonly never[] = [];

function cardOf(step: RecipeStep, about: AboutRecipe, put: (step: RecipeStep) => void): ReactNode {
  const figures: ClipFigures | null = about.measured?.figures ?? null;
  switch (step.kind) {
    case 'fit':
      return <FitCard step={step} frameNow={about.frameNow} fps={about.fps} onChange={put} />;
    case 'floor':
      return <FloorCard step={step} figures={figures} onChange={put} />;
    case 'typical-cycle':
      return (
        <TypicalCycleCard
          step={step}
          traces={about.traces}
          joints={about.joints}
          joint={about.joint}
          onJoint={about.onJoint}
          onChange={put}
        />
      );
    case 'mirror':
      return <MirrorCard step={step} unsure={about.unsure} pairs={about.pairs} onChange={put} />;
    case 'loop':
      return <LoopCard step={step} figures={figures} closings={about.closings} onChange={put} frameNow={about.frameNow} />;
    case 'even-out':
      return <EvenOutCard step={step} asymmetryCm={figures?.asymmetryCm} onChange={put} />;
    case 'extend':
      return <ExtendCard step={step} metres={figures?.distanceM} onChange={put} />;
    case 'path':
      return <PathCard step={step} turnDegS={figures?.turnDegS} isDrawing={about.isDrawing} onDraw={about.onDraw} onChange={put} />;
    case 'speed':
      return <SpeedCard step={step} about={about.measured?.speed ?? null} gait={about.measured?.gait ?? null} onChange={put} />;
    case 'foot-lock':
      return <FootLockCard step={step} contacts={about.measured?.contacts ?? NO_CONTACTS} onChange={put} onGo={about.onGo} />;
    case 'travel':
      return <TravelCard step={step} figures={figures} traces={about.measured?.traces ?? null} onChange={put} />;
    case 'retime':
      return (
        <RetimeCard
          step={step}
          untimed={about.measured?.untimed ?? null}
          frames={about.cycle}
          fps={about.fps}
          others={about.others}
          sourceNow={about.sourceNow}
          onInStep={(id) => about.onInStep(id, step, put)}
          onChange={put}
        />
      );
  }
}
