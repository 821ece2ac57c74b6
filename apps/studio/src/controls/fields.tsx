'use client';
import { Box, MenuItem, Select, Slider, Typography } from '@mui/material';
import { useState, type ReactNode } from 'react';
import { chart } from './theme';

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

/** A share from 0 to some most, dragged; it takes effect when let go. */
export function Share({
  label,
  name,
  value,
  most = 1,
  onChange,
}: {
  label: string;
  name: string;
  value: number;
  most?: number;
  onChange: (value: number) => void;
}) {
  const [dragged, setDragged] = useState<number | null>(null);
  const words = (v: number) => `${Math.round(v * 100)} %`;
  return (
    <>
      <Label>{label}</Label>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, pl: 1 }}>
        <Slider
          size="small"
          min={0}
          max={most}
          step={0.05}
          value={dragged ?? value}
          aria-label={name}
          color="secondary"
          getAriaValueText={words}
          onChange={(_, v) => setDragged(v)}
          onChangeCommitted={(_, v) => {
            setDragged(null);
            onChange(v);
          }}
          sx={{ color: chart('ink') }}
        />
        <Typography variant="body2" sx={{ whiteSpace: 'nowrap', minWidth: 40, textAlign: 'right' }}>
          {words(dragged ?? value)}
        </Typography>
      </Box>
    </>
  );
}
