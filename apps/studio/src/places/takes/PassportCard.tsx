'use client';
import { Box, Button, Typography } from '@mui/material';
import type { TakeInfo } from '@/data/project';
import { numeral } from '@/shell/Figure';
import { chart } from '@/shell/theme';
import { rate } from './TakeTable';

const FREE_FALL = {
  consistent: 'agrees with gravity',
  rate: 'the rate looks wrong',
  scale: 'the scale looks wrong',
  unclear: 'does not settle it',
  'no-flights': 'no flights to check',
} as const;

/** What is known of the take: units, rate, axes, free fall, joints, warnings. */
export function PassportCard({
  take,
  floor,
  onCut,
  onRemove,
}: {
  take: TakeInfo;
  floor: number | null;
  onCut: () => void;
  onRemove: () => void;
}) {
  const { passport } = take;
  const fall = passport.freeFall;
  const rows: [string, string, string?][] = [
    ['Length', `${passport.seconds.toFixed(2)} s`, `${passport.frames} frames`],
    ['Rate', `${rate(passport.fps)} frames/s`],
    ['Stature', `${passport.statureM.toFixed(2)} m`],
    [
      'Scale',
      `1 unit = ${Number((passport.units.metresPerUnit * 100).toPrecision(4))} cm`,
      passport.units.unit === 'custom' ? 'by stature' : `${passport.units.unit}, ${Math.round(passport.units.confidence * 100)} % sure`,
    ],
    ['Axes', `${passport.up.replace('+', '').replace('-', '−').toUpperCase()} up`, `faces ${numeral(passport.facingDeg, 0)}°`],
    ['Floor', floor === null ? '…' : `${numeral(floor * 100, 1)} cm`, 'drawn at zero'],
    [
      'Free fall',
      fall.medianMps2 === null ? '–' : `${fall.medianMps2.toFixed(2)} m/s²`,
      `${fall.flights > 0 ? `${fall.flights} flights, ` : ''}${FREE_FALL[fall.verdict]}`,
    ],
    ['Joints', String(passport.joints)],
  ];
  return (
    <Box
      component="section"
      aria-label="Passport"
      sx={{ borderTop: `1px solid ${chart('rule')}`, p: 1.5, overflow: 'auto', flexShrink: 0, maxHeight: '58%' }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1, mb: 0.5 }}>
        <Typography variant="h2" noWrap sx={{ flex: 1 }}>
          {take.name}
        </Typography>
        <Button sx={{ color: 'text.secondary', minWidth: 0 }} onClick={onRemove}>
          remove
        </Button>
      </Box>
      <Box component="dl" sx={{ m: 0, display: 'grid', gridTemplateColumns: 'auto auto 1fr' }}>
        {rows.map(([label, value, note]) => (
          <Box key={label} sx={{ display: 'contents', '& > *': { borderBottom: `1px solid ${chart('rule')}`, py: '2.5px', pr: '14px' } }}>
            <Typography component="dt" variant="body2" color="text.secondary">
              {label}
            </Typography>
            <Typography component="dd" variant="body2" sx={{ m: 0, fontWeight: 700, whiteSpace: 'nowrap' }}>
              {value}
            </Typography>
            <Typography component="dd" variant="body2" color="text.secondary" noWrap sx={{ m: 0, '&&': { pr: 0 }, textAlign: 'right' }}>
              {note}
            </Typography>
          </Box>
        ))}
      </Box>
      {passport.warnings.length > 0 && (
        <Box component="ul" aria-label="Warnings" sx={{ m: 0, mt: 1, pl: 0, listStyle: 'none' }}>
          {passport.warnings.map(({ code, message, line }) => (
            <Typography key={`${code}${line ?? ''}`} component="li" variant="body2">
              ▲ {line ? `line ${line}: ` : ''}
              {message}
            </Typography>
          ))}
        </Box>
      )}
      <Button fullWidth variant="contained" size="medium" sx={{ mt: 1.5, fontWeight: 700 }} onClick={onCut}>
        Cut a clip on the Bench
      </Button>
    </Box>
  );
}
