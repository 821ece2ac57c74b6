'use client';
import type { RecipeStep } from '@lantern/motion';
import { Box, IconButton, MenuItem, Select, Slider, Switch, Typography } from '@mui/material';
import { createContext, useContext, useState, type ReactNode } from 'react';
import { chart } from '@/controls/theme';

/** Takes a step out of the recipe; null where none can be. */
export const StepRemoval = createContext<((kind: RecipeStep['kind']) => void) | null>(null);

/** A step of the recipe: its switch, its figure, and its controls in two columns. */
export function StepCard<Step extends RecipeStep>({
  title,
  step,
  figure,
  onChange,
  children,
}: {
  title: string;
  step: Step;
  figure: ReactNode;
  /** Switched on or off. */
  onChange: (step: Step) => void;
  children: ReactNode;
}) {
  const remove = useContext(StepRemoval);
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
          onChange={(_, on) => onChange({ ...step, off: on ? undefined : true })}
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
        {remove && (
          <IconButton
            size="small"
            aria-label={`Remove the ${title.toLowerCase()} step`}
            onClick={() => remove(step.kind)}
            sx={{ fontSize: 15, width: 22, height: 22, mr: -0.6, color: 'text.secondary' }}
          >
            ×
          </IconButton>
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

export const Label = ({ children }: { children: ReactNode }) => (
  <Typography variant="body2" color="text.secondary">
    {children}
  </Typography>
);

export function Choose<Value extends string>({
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
        displayEmpty
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

/** A length of time that is dragged; it takes effect when let go. */
export function Seconds({
  label,
  name,
  value,
  least,
  most,
  onChange,
}: {
  label: string;
  name: string;
  value: number;
  least: number;
  most: number;
  onChange: (value: number) => void;
}) {
  const [dragged, setDragged] = useState<number | null>(null);
  return (
    <>
      <Label>{label}</Label>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, pl: 1 }}>
        <Slider
          size="small"
          min={least}
          max={most}
          step={0.05}
          value={dragged ?? value}
          aria-label={name}
          color="secondary"
          getAriaValueText={(v) => `${v.toFixed(2)} seconds`}
          onChange={(_, v) => setDragged(v)}
          onChangeCommitted={(_, v) => {
            setDragged(null);
            onChange(v);
          }}
          sx={{ color: chart('ink') }}
        />
        <Typography variant="body2" sx={{ whiteSpace: 'nowrap' }}>
          {(dragged ?? value).toFixed(2)} s
        </Typography>
      </Box>
    </>
  );
}
