'use client';
import { Menu, MenuItem } from '@mui/material';
import { useState } from 'react';
import { Small } from '@/controls/Small';
import { RULER_UNITS, type RulerUnit } from './ruler';

/** What the ruler counts in. */
export function RulerMenu({ unit, onUnit, hasStrides }: { unit: RulerUnit; onUnit: (unit: RulerUnit) => void; hasStrides: boolean }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Small onClick={(event) => setAnchor(event.currentTarget)}>ruler: {unit} ▾</Small>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {RULER_UNITS.map((name) => (
          <MenuItem
            key={name}
            selected={unit === name}
            disabled={name === 'strides' && !hasStrides}
            onClick={() => {
              onUnit(name);
              setAnchor(null);
            }}
          >
            {name}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
