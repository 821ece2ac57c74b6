'use client';
import { MenuItem, Select } from '@mui/material';
import { chart } from '@/controls/theme';

/** A word of a sentence that can be another. */
export function Pick<Value extends string>({
  name,
  value,
  options,
  onChange,
}: {
  name: string;
  value: Value;
  options: readonly (readonly [Value, string])[];
  onChange: (value: Value) => void;
}) {
  return (
    <Select<Value>
      variant="standard"
      disableUnderline
      value={value}
      onChange={(event) => onChange(event.target.value as Value)}
      inputProps={{ 'aria-label': name }}
      sx={{
        fontSize: '0.96rem',
        border: `1px solid ${chart('rule')}`,
        borderRadius: 1,
        bgcolor: chart('card'),
        maxWidth: 200,
        '& .MuiSelect-select': { py: 0.1, pl: 0.8 },
      }}
    >
      {options.map(([v, words]) => (
        <MenuItem key={v} value={v} dense>
          {words}
        </MenuItem>
      ))}
    </Select>
  );
}
