'use client';
import type { ClipFigures, RecipeStep } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import type { ClipDoc } from '@/data/clips-store';
import { STEP_ORDER, withStep } from '@/data/new-clip';
import { FigureValue } from '@/shell/Figure';
import { BOUNDS, isOut } from '@/data/bounds';
import { Small } from '@/shell/Small';
import type { ContactSlide } from '@/worker/core.worker';
import { FloorCard, FootLockCard } from './FeetCards';
import { Choose, Seconds, StepCard } from './StepCard';

type LoopStep = Extract<RecipeStep, { kind: 'loop' }>;
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
  onChange,
  onGo,
}: {
  doc: ClipDoc;
  figures: ClipFigures | null;
  contacts: readonly ContactSlide[];
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
              <StepCard
                key={step.kind}
                title="Typical cycle"
                step={step}
                onChange={(off) => put(index, { ...step, off: off || undefined })}
                figure={null}
              >
                <Choose
                  label="left out"
                  value={step.exclude === 'auto' ? 'auto' : 'none'}
                  options={{ auto: 'strides far from the average', none: 'none' }}
                  onChange={(exclude) => put(index, { ...step, exclude: exclude === 'auto' ? 'auto' : [] })}
                />
              </StepCard>
            );
          case 'loop':
            return <LoopCard key={step.kind} step={step} figures={figures} onChange={(s) => put(index, s)} />;
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

function LoopCard({ step, figures, onChange }: { step: LoopStep; figures: ClipFigures | null; onChange: (step: LoopStep) => void }) {
  const out = figures !== null && isOut('tick', figures.tick);
  return (
    <StepCard
      title="Loop"
      step={step}
      onChange={(off) => onChange({ ...step, off: off || undefined })}
      figure={
        <>
          <Typography variant="body2" color="text.secondary">
            tick&nbsp;
          </Typography>
          <FigureValue value={figures?.loop ? figures.tick : null} unit="" digits={2} out={out} todo={out ? BOUNDS.tick.todo : undefined} />
        </>
      }
    >
      <Choose
        label="close"
        value={step.close}
        options={{ blend: 'into the take beyond the cut', spread: 'spread to both sides' }}
        onChange={(close) => onChange({ ...step, close })}
      />
      <Seconds
        label="over"
        name="Length of the blend"
        value={step.seconds}
        least={0.1}
        most={0.8}
        onChange={(seconds) => onChange({ ...step, seconds })}
      />
      <Choose
        label="heading"
        value={step.heading}
        options={{ auto: 'straight when it turns little', straight: 'straight', captured: 'as captured' }}
        onChange={(heading) => onChange({ ...step, heading })}
      />
      <Choose
        label="begins"
        value={step.start}
        options={{ cut: 'where it is cut', left: 'as the left foot lands', right: 'as the right foot lands' }}
        onChange={(start) => onChange({ ...step, start })}
      />
    </StepCard>
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
