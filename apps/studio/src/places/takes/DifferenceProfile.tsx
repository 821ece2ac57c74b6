'use client';
import { Box, Typography } from '@mui/material';
import { chart } from '@/controls/theme';

const WIDTH = 480;
const HEIGHT = 44;
/** At the top of the picture, cm. */
const MOST = 12;

/** How far the poses of two deliveries are apart along the old one; ruled where the new one has nothing. */
export function DifferenceProfile({ values, seconds }: { values: Float32Array; seconds: number }) {
  const part = WIDTH / values.length;
  return (
    <Box sx={{ my: 1 }}>
      <Typography variant="caption" color="text.secondary" sx={{ display: 'flex', justifyContent: 'space-between' }}>
        <span>distance of the poses along the old take, up to {MOST} cm</span>
        <span>{seconds.toFixed(1)} s</span>
      </Typography>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        preserveAspectRatio="none"
        width="100%"
        height={HEIGHT}
        role="img"
        aria-label="Distance of the poses along the old take"
        style={{ border: `1px solid ${chart('rule')}`, display: 'block' }}
      >
        <defs>
          <pattern id="no-motion" width={6} height={6} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line y2={6} stroke={chart('ink')} strokeWidth={1} opacity={0.4} />
          </pattern>
        </defs>
        {[...values].map((value, i) => {
          const height = Math.min(1, value / MOST) * HEIGHT;
          return Number.isFinite(value) ? (
            <rect key={i} x={i * part} y={HEIGHT - height} width={part + 0.3} height={height} fill={chart('ink')} opacity={0.5} />
          ) : (
            <rect key={i} x={i * part} y={0} width={part + 0.3} height={HEIGHT} fill="url(#no-motion)" />
          );
        })}
      </svg>
    </Box>
  );
}
