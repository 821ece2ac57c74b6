'use client';
'use no memo';
import { METERS, NO_ANSWER, type PlayMeters } from '@lantern/drive';
import { PLAY_BOUNDS } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { DUSK } from '@/controls/theme';

interface Staff {
  readonly title: string;
  readonly meter: (typeof METERS)[number];
  readonly unit: string;
  readonly digits: number;
  /** Of the top of the staff. */
  readonly most: number;
  readonly step: number;
}

const STAFFS: readonly Staff[] = [
  { title: 'slide', meter: 'slide', unit: 'cm', digits: 1, most: 1, step: 0.5 },
  { title: 'pop', meter: 'pop', unit: 'cm', digits: 1, most: 4, step: 1 },
  { title: 'answer', meter: 'answer', unit: 'frames', digits: 0, most: 24, step: 6 },
];
const GAP: Staff = { title: 'gap', meter: 'gap', unit: 'cm', digits: 0, most: 30, step: 10 };

const [TALL, WIDE] = [250, 66];
const PAPER = '#e9e2cf',
  INK = '#16252a';

/** Staffs like tide gauges: the water is at what is now, the flag stays at the worst until it is reset. */
export function Staffs({ meters, hasGap, onReset }: { meters: PlayMeters; hasGap: boolean; onReset: () => void }) {
  const all = hasGap ? [...STAFFS, GAP] : STAFFS;
  return (
    <Box
      component="section"
      aria-label="Meters"
      // In a narrow window the bar above has a second line.
      sx={{ position: 'absolute', left: 16, top: 56, '@media (max-width: 1200px)': { top: 74 }, color: DUSK.text }}
    >
      <Box sx={{ display: 'flex', gap: 0.5 }}>
        {all.map((staff) => (
          <Gauge key={staff.meter} staff={staff} meters={meters} />
        ))}
      </Box>
      <Box
        component="button"
        onClick={onReset}
        sx={{
          mt: 0.5,
          border: 0,
          background: 'none',
          color: DUSK.line,
          font: 'inherit',
          fontSize: 13.5,
          cursor: 'pointer',
          p: 0,
          '&:hover': { color: DUSK.text },
        }}
      >
        take the flags down
      </Box>
    </Box>
  );
}

function Gauge({ staff: { title, meter, unit, digits, most, step }, meters }: { staff: Staff; meters: PlayMeters }) {
  const k = METERS.indexOf(meter);
  const [now, worst] = [meters.now[k], meters.worst[k]];
  const bound = PLAY_BOUNDS[meter];
  const y = (value: number) => TALL - (Math.min(most, value) / most) * (TALL - 8);
  const marks = Array.from({ length: Math.round(most / step) + 1 }, (_, i) => i * step);
  const said = (value: number) => (meter === 'answer' && value >= NO_ANSWER ? 'none came' : value.toFixed(digits));
  return (
    <Box sx={{ width: WIDE, textAlign: 'center' }} role="group" aria-label={`${title}: ${said(now)} ${unit}, worst ${said(worst)}`}>
      <Typography variant="body2" aria-hidden>
        {title}
      </Typography>
      <svg width={WIDE} height={TALL + 6} viewBox={`0 0 ${WIDE} ${TALL + 6}`} aria-hidden>
        <defs>
          <pattern id={`hatch-${meter}`} width={6} height={6} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width={6} height={6} fill={PAPER} />
            <line x1={0} x2={0} y1={0} y2={6} stroke={INK} strokeWidth={1.6} />
          </pattern>
        </defs>
        <rect x={24} y={y(most)} width={14} height={y(0) - y(most)} fill={PAPER} stroke={INK} />
        <rect x={24} y={y(most)} width={14} height={Math.max(0, y(bound) - y(most))} fill={`url(#hatch-${meter})`} stroke={INK} />
        {Array.from({ length: 20 }, (_, i) => {
          const top = y(0) - ((i + 1) * (y(0) - y(bound))) / 20;
          return i % 2 === 0 ? (
            <rect key={i} x={i % 4 === 0 ? 24 : 31} y={top} width={7} height={(y(0) - y(bound)) / 20} fill={INK} />
          ) : null;
        })}
        {marks.map((value) => (
          <text key={value} x={20} y={y(value) + 4} textAnchor="end" fontSize={11.5} fill={DUSK.text}>
            {value.toFixed(step % 1 === 0 ? 0 : 1)}
          </text>
        ))}
        <rect x={42} y={y(most)} width={9} height={y(0) - y(most)} rx={3} fill="none" stroke={DUSK.line} />
        <rect x={43} y={y(now)} width={7} height={Math.max(0, y(0) - y(now))} rx={2} fill="#6fb3ad" />
        {worst > 0 && (
          <g transform={`translate(52 ${y(worst)})`}>
            <line x1={0} x2={0} y1={-6} y2={6} stroke={PAPER} strokeWidth={1.4} />
            <path d="M0 -6L10 -2.500L0 1Z" fill={PAPER} />
          </g>
        )}
      </svg>
      <Typography variant="body2" sx={{ fontWeight: 700, lineHeight: 1.1 }} aria-hidden>
        {worst > bound && '▲ '}
        {said(now)} {meter === 'answer' && now >= NO_ANSWER ? '' : unit}
      </Typography>
      <Typography variant="caption" aria-hidden>
        worst {said(worst)}
      </Typography>
    </Box>
  );
}
