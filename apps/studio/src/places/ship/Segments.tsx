'use client';
import { Box, ButtonBase } from '@mui/material';
import type { ReactNode } from 'react';
import { chart } from '@/controls/theme';

/** A few words of which one holds; the one that holds is lit. */
export function Segments<Value extends string | number>({
  label,
  value,
  options,
  onChange,
  children,
}: {
  label: string;
  value: Value;
  options: readonly (readonly [Value, string])[];
  onChange: (value: Value) => void;
  /** What stands behind the words. */
  children?: ReactNode;
}) {
  return (
    <>
      <Box component="span" sx={{ color: 'text.secondary', fontSize: 15 }}>
        {label}
      </Box>
      <Box
        role="radiogroup"
        aria-label={label}
        sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 0.3, minWidth: 0 }}
      >
        {options.map(([own, words]) => {
          const isOn = own === value;
          return (
            <ButtonBase
              key={own}
              role="radio"
              aria-checked={isOn}
              disableRipple
              onClick={() => onChange(own)}
              sx={{
                fontFamily: 'inherit',
                fontSize: 15,
                px: 1,
                py: 0.3,
                borderRadius: 1,
                border: `1px solid ${isOn ? chart('lamp') : 'transparent'}`,
                bgcolor: isOn ? chart('lampSoft') : undefined,
                fontWeight: isOn ? 700 : 400,
                color: isOn ? 'text.primary' : 'text.secondary',
                '&:hover': { color: 'text.primary' },
              }}
            >
              {words}
            </ButtonBase>
          );
        })}
        {children}
      </Box>
    </>
  );
}
