'use client';
import type { ClipFigures, RecipeStep } from '@lantern/motion';
import { Box, MenuItem, Select, Slider, Switch, Typography } from '@mui/material';
import { useState, type ReactNode } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { FigureValue } from '@/shell/Figure';
import { BOUNDS, isOut } from '@/data/bounds';
import { chart } from '@/shell/theme';

type LoopStep = Extract<RecipeStep, { kind: 'loop' }>;
type TravelStep = Extract<RecipeStep, { kind: 'travel' }>;

/** The recipe as a column of step cards, each switched, changed and measured in its place. */
export function RecipePanel({ doc, figures, onChange }: { doc: ClipDoc; figures: ClipFigures | null; onChange: (doc: ClipDoc) => void }) {
  const put = (index: number, step: RecipeStep) => onChange({ ...doc, steps: doc.steps.map((s, i) => (i === index ? step : s)) });
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {doc.steps.map((step, index) => {
        switch (step.kind) {
          case 'loop':
            return <LoopCard key={step.kind} step={step} figures={figures} onChange={(s) => put(index, s)} />;
          case 'travel':
            return <TravelCard key={step.kind} step={step} figures={figures} onChange={(s) => put(index, s)} />;
        }
      })}
    </Box>
  );
}

function Card({
  title,
  step,
  figure,
  onChange,
  children,
}: {
  title: string;
  step: RecipeStep;
  figure: ReactNode;
  onChange: (off: boolean) => void;
  children: ReactNode;
}) {
  return (
    <Box
      component="section"
      aria-label={`${title} step`}
      sx={{ border: `1px solid ${chart('rule')}`, borderRadius: 1, bgcolor: chart('card'), px: 1.2, py: 0.6 }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.6 }}>
        <Switch
          size="small"
          checked={!step.off}
          onChange={(_, on) => onChange(!on)}
          slotProps={{ input: { 'aria-label': `${title} step on` } }}
          color="default"
          sx={{ ml: -1 }}
        />
        <Typography variant="h3" sx={{ flex: 1, opacity: step.off ? 0.6 : 1 }}>
          {title}
        </Typography>
        {step.off ? (
          <Typography variant="body2" color="text.secondary">
            off
          </Typography>
        ) : (
          figure
        )}
      </Box>
      {!step.off && (
        <Box sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', alignItems: 'center', columnGap: 1.5, pl: 0.5, pb: 0.3 }}>
          {children}
        </Box>
      )}
    </Box>
  );
}

function LoopCard({ step, figures, onChange }: { step: LoopStep; figures: ClipFigures | null; onChange: (step: LoopStep) => void }) {
  const [seconds, setSeconds] = useState<number | null>(null);
  const out = figures !== null && isOut('tick', figures.tick);
  return (
    <Card
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
      <Label>over</Label>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, pl: 1 }}>
        <Slider
          size="small"
          min={0.1}
          max={0.8}
          step={0.05}
          value={seconds ?? step.seconds}
          aria-label="Length of the blend"
          color="secondary"
          getAriaValueText={(v) => `${v.toFixed(2)} seconds`}
          onChange={(_, v) => setSeconds(v)}
          onChangeCommitted={(_, v) => {
            setSeconds(null);
            onChange({ ...step, seconds: v });
          }}
          sx={{ color: chart('ink') }}
        />
        <Typography variant="body2" sx={{ whiteSpace: 'nowrap' }}>
          {(seconds ?? step.seconds).toFixed(2)} s
        </Typography>
      </Box>
      <Choose
        label="heading"
        value={step.heading}
        options={{ auto: 'straight when it turns little', straight: 'straight', captured: 'as captured' }}
        onChange={(heading) => onChange({ ...step, heading })}
      />
    </Card>
  );
}

const WHERE = { root: 'to the root', body: 'stays in the body', drop: 'dropped' } as const;

function TravelCard({ step, figures, onChange }: { step: TravelStep; figures: ClipFigures | null; onChange: (step: TravelStep) => void }) {
  return (
    <Card
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
    </Card>
  );
}

const Label = ({ children }: { children: ReactNode }) => (
  <Typography variant="body2" color="text.secondary">
    {children}
  </Typography>
);

function Choose<Value extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: Value;
  options: Readonly<Record<Value, string>>;
  onChange: (value: Value) => void;
}) {
  const values = Object.keys(options) as Value[];
  return (
    <>
      <Label>{label}</Label>
      <Select<Value>
        variant="standard"
        disableUnderline
        value={value}
        onChange={(event) => onChange(event.target.value as Value)}
        inputProps={{ 'aria-label': label }}
        sx={{ fontSize: '0.9rem', justifySelf: 'end', textAlign: 'right', '& .MuiSelect-select': { py: 0.1 } }}
      >
        {values.map((v) => (
          <MenuItem key={v} value={v} dense>
            {options[v]}
          </MenuItem>
        ))}
      </Select>
    </>
  );
}
