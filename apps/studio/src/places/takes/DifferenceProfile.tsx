'use client';
import { Box, Typography } from '@mui/material';
import { Area, AreaChart, ReferenceArea, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { chart } from '@/controls/theme';
import { TICK, TOOLTIP } from '@/controls/chart-look';

/** At the top of the picture, cm. */
const MOST = 12;

/** How far the poses of two deliveries are apart along the old one; ruled where the new one has nothing. */
export function DifferenceProfile({ values, seconds }: { values: Float32Array; seconds: number }) {
  const at = (i: number) => (i / Math.max(1, values.length - 1)) * seconds;
  const points = [...values].map((cm, i) => ({ at: at(i), cm: Number.isFinite(cm) ? cm : null }));
  return (
    <Box sx={{ my: 1 }} role="img" aria-label="Distance of the poses along the old take">
      <Typography variant="caption" color="text.secondary" component="div">
        distance of the poses along the old take, cm over seconds
      </Typography>
      <ResponsiveContainer width="100%" height={86}>
        <AreaChart data={points} margin={{ top: 4, right: 12, bottom: 0, left: 0 }}>
          <XAxis
            dataKey="at"
            type="number"
            domain={[0, seconds]}
            tick={TICK}
            stroke={chart('rule')}
            tickFormatter={(s: number) => s.toFixed(0)}
          />
          <YAxis domain={[0, MOST]} ticks={[0, MOST / 2, MOST]} allowDataOverflow width={26} tick={TICK} stroke={chart('rule')} />
          <Tooltip
            {...TOOLTIP}
            labelFormatter={(s) => `at ${Number(s).toFixed(2)} s`}
            formatter={(cm) => [`${Number(cm).toFixed(1)} cm`, 'apart']}
          />
          <defs>
            <pattern id="no-motion" width={6} height={6} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <line y2={6} stroke={chart('ink')} strokeWidth={1} opacity={0.4} />
            </pattern>
          </defs>
          {missing(points).map(([from, to]) => (
            <ReferenceArea key={from} x1={from} x2={to} fill="url(#no-motion)" fillOpacity={1} />
          ))}
          <Area dataKey="cm" stroke={chart('ink')} fill={chart('ink')} fillOpacity={0.35} strokeWidth={1} isAnimationActive={false} />
        </AreaChart>
      </ResponsiveContainer>
    </Box>
  );
}

/** Stretches without a value, from the last point before to the first after. */
function missing(points: readonly { at: number; cm: number | null }[]): [number, number][] {
  const out: [number, number][] = [];
  for (let i = 0; i < points.length; i++) {
    if (points[i].cm !== null) continue;
    const from = i;
    while (i < points.length && points[i].cm === null) i++;
    out.push([points[Math.max(0, from - 1)].at, points[Math.min(points.length - 1, i)].at]);
  }
  return out;
}
