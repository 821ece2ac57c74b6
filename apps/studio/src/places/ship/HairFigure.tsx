'use client';
import type { HeldFigure } from '@lantern/motion';
import { memo, type CSSProperties } from 'react';
import { numeral } from '@/controls/Figure';
import { chart } from '@/controls/theme';

/** A figure over a hair-thin bar that ends where its bound is; out of bounds it is boxed, hatched and marked. */
export const HairFigure = memo(function HairFigure({ held, digits }: { held: HeldFigure; digits: number }) {
  const { value, counts, bound, isOut } = held;
  const share = counts === null || bound === null ? null : Math.min(1, counts / Math.max(1e-9, bound));
  return (
    <div style={isOut ? OUT : FIGURE}>
      <span style={isOut ? BOLD : NUMERAL}>
        {isOut && <span aria-label="out of bounds">▲ </span>}
        {value === null ? '–' : numeral(value, digits)}
      </span>
      <div aria-hidden style={share === null ? NO_BAR : BAR}>
        <div style={{ ...HAIR, left: 0, height: 2, width: `${100 * (share ?? 0)}%`, backgroundColor: chart('ink') }} />
        <div style={{ ...HAIR, right: 0, height: 5, width: 1, backgroundColor: chart('faint') }} />
      </div>
    </div>
  );
});

// Plain styles: a table has nine of these in every row.
const FIGURE: CSSProperties = { display: 'flex', flexDirection: 'column', alignItems: 'flex-end' };
const OUT: CSSProperties = {
  ...FIGURE,
  padding: '0 5px',
  marginRight: -5,
  borderRadius: 4,
  border: `1.5px solid ${chart('ink')}`,
  backgroundImage: `repeating-linear-gradient(135deg, transparent 0 4px, ${chart('rule')} 4px 5px)`,
};
const NUMERAL: CSSProperties = { lineHeight: '22px', fontVariantNumeric: 'lining-nums tabular-nums', whiteSpace: 'nowrap' };
const BOLD: CSSProperties = { ...NUMERAL, fontWeight: 700 };
const BAR: CSSProperties = { width: 38, height: 5, position: 'relative', borderBottom: `1px solid ${chart('rule')}` };
const NO_BAR: CSSProperties = { ...BAR, visibility: 'hidden' };
const HAIR: CSSProperties = { position: 'absolute', bottom: -1 };
