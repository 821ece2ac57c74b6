'use client';
import type { ClipFigures, RecipeStep } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import type { ClipDoc } from '@/data/clips-store';
import { STEP_ORDER, withStep } from '@/data/new-clip';
import { FigureValue } from '@/shell/Figure';
import { Small } from '@/shell/Small';
import type { ContactSlide } from '@/worker/core.worker';
import { FloorCard, FootLockCard } from './FeetCards';
import { LoopCard } from './LoopCard';
import { Choose, StepCard } from './StepCard';
import { TypicalCycleCard } from './TypicalCycleCard';
import type { AboutRecipe } from './use-about-recipe';

type TravelStep = Extract<RecipeStep, { kind: 'travel' }>;

const NAMES: Record<RecipeStep['kind'], string> = {
  floor: 'floor',
  'typical-cycle': 'typical cycle',
  loop: 'loop',
  'foot-lock': 'foot lock',
  travel: 'travel',
};

/** The recipe as a column of step cards, each switched, changed and measured in its place. */
export function RecipePanel({
  doc,
  figures,
  contacts,
  about,
  onChange,
  onGo,
}: {
  doc: ClipDoc;
  figures: ClipFigures | null;
  contacts: readonly ContactSlide[];
  about: AboutRecipe;
  onChange: (doc: ClipDoc) => void;
  /** Shows a frame of the clip. */
  onGo: (frame: number) => void;
}) {
  const put = (index: number, step: RecipeStep) => onChange({ ...doc, steps: doc.steps.map((s, i) => (i === index ? step : s)) });
  const missing = STEP_ORDER.filter((kind) => !doc.steps.some((step) => step.kind === kind));
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {doc.steps.map((step, index) => {
        switch (step.kind) {
          case 'floor':
            return <FloorCard key={step.kind} step={step} figures={figures} onChange={(s) => put(index, s)} />;
          case 'typical-cycle':
            return (
              <TypicalCycleCard
                key={step.kind}
                step={step}
                traces={about.traces}
                joints={about.joints}
                joint={about.joint}
                onJoint={about.onJoint}
                onChange={(s) => put(index, s)}
              />
            );
          case 'loop':
            return (
              <LoopCard
                key={step.kind}
                step={step}
                figures={figures}
                closings={about.closings}
                onChange={(s) => put(index, s)}
                frameNow={about.frameNow}
              />
            );
          case 'foot-lock':
            return <FootLockCard key={step.kind} step={step} contacts={contacts} onChange={(s) => put(index, s)} onGo={onGo} />;
          case 'travel':
            return <TravelCard key={step.kind} step={step} figures={figures} onChange={(s) => put(index, s)} />;
        }
      })}
      {missing.length > 0 && (
        <Box role="group" aria-label="Add a step" sx={{ display: 'flex', alignItems: 'center' }}>
          <Typography variant="body2" color="text.secondary">
            add a step:
          </Typography>
          {missing.map((kind) => (
            <Small key={kind} onClick={() => onChange({ ...doc, steps: withStep(doc.steps, kind) })}>
              {NAMES[kind]}
            </Small>
          ))}
        </Box>
      )}
    </Box>
  );
}

const WHERE = { root: 'to the root', body: 'stays in the body', drop: 'dropped' } as const;

function TravelCard({ step, figures, onChange }: { step: TravelStep; figures: ClipFigures | null; onChange: (step: TravelStep) => void }) {
  return (
    <StepCard
      title="Travel"
      step={step}
      onChange={(off) => onChange({ ...step, off: off || undefined })}
      figure={<FigureValue value={figures?.speedMps} unit="m/s" digits={2} />}
    >
      {(['forward', 'sideways', 'heading', 'height'] as const).map((part) => (
        <Choose key={part} label={part} value={step[part]} options={WHERE} onChange={(value) => onChange({ ...step, [part]: value })} />
      ))}
      <Choose
        label="starts"
        value={step.start}
        options={{ origin: 'at the origin, facing forward', captured: 'where it was captured' }}
        onChange={(start) => onChange({ ...step, start })}
      />
    </StepCard>
  );
}
