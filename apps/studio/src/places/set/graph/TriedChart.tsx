'use client';
import { Box, Typography } from '@mui/material';
import { Bar, CartesianGrid, ComposedChart, Line, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { FigureValue } from '@/controls/Figure';
import { chart } from '@/controls/theme';
import { LinkButton } from './LinkButton';
import type { Sounded } from './use-tried';

/** A transition tried from every phase: bars of pop, a line of slide, the bound hatched. */
export function TriedChart({
  sounded,
  popBound,
  answerBound,
  slideBound,
  onWorst,
}: {
  sounded: Sounded | null;
  popBound: number;
  answerBound: number;
  slideBound: number;
  onWorst: (where: 'bench' | 'drive') => void;
}) {
  if (!sounded) return <Typography color="text.secondary">Being tried from every phase …</Typography>;
  const rows = sounded.tried
    .filter(({ isMissing }) => !isMissing)
    .map(({ phase, popCm, slideCm }) => ({ phase, pop: popCm, slide: slideCm }));
  const top = Math.max(popBound * 1.15, sounded.popCm * 1.1);
  return (
    <Box component="section" aria-label="Tried">
      <Typography variant="h2">Tried from {sounded.tried.length} phases</Typography>
      <Box
        sx={{ height: 140, mt: 0.5 }}
        role="img"
        aria-label={`Pop and slide by phase; the worst pop ${sounded.popCm.toFixed(1)} cm at phase ${sounded.worst?.phase.toFixed(2)}`}
      >
        <ResponsiveContainer width="100%" height="100%">
          <ComposedChart data={rows} margin={{ top: 8, right: 6, bottom: 0, left: -22 }}>
            <CartesianGrid vertical={false} stroke={chart('rule')} />
            <XAxis
              dataKey="phase"
              type="number"
              domain={[0, 1]}
              ticks={[0, 0.25, 0.5, 0.75, 1]}
              tick={{ fontSize: 12, fill: chart('ink') }}
              stroke={chart('ink')}
            />
            <YAxis
              domain={[0, Number(top.toFixed(1))]}
              tickCount={4}
              tick={{ fontSize: 12, fill: chart('ink') }}
              stroke={chart('ink')}
              unit=""
            />
            <ReferenceLine y={popBound} stroke={chart('ink')} strokeDasharray="4 3" />
            <Tooltip
              formatter={(value, name) => [`${Number(value).toFixed(2)} cm`, name]}
              labelFormatter={(phase) => `phase ${Number(phase).toFixed(2)}`}
              contentStyle={{ background: chart('card'), border: `1px solid ${chart('rule')}`, fontSize: 13 }}
              isAnimationActive={false}
            />
            <Bar dataKey="pop" fill={chart('faint')} barSize={6} isAnimationActive={false} />
            <Line dataKey="slide" stroke={chart('ink')} strokeWidth={1.8} dot={false} isAnimationActive={false} />
          </ComposedChart>
        </ResponsiveContainer>
      </Box>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', mt: 0.5 }}>
        <Typography variant="body2">
          worst pop <FigureValue value={sounded.popCm} unit="cm" digits={1} out={sounded.popCm > popBound} />
        </Typography>
        <Typography variant="body2">
          slide <FigureValue value={sounded.slideCm} unit="cm" digits={1} out={sounded.slideCm > slideBound} />
        </Typography>
        {sounded.answer > 0 && (
          <Typography variant="body2">
            answers after <FigureValue value={sounded.answer} unit="frames" digits={0} out={sounded.answer > answerBound} />
          </Typography>
        )}
      </Box>
      <Box sx={{ display: 'flex', gap: 2 }}>
        <LinkButton onClick={() => onWorst('drive')}>the worst, in Drive</LinkButton>
        <LinkButton onClick={() => onWorst('bench')}>its clip, on the Bench</LinkButton>
      </Box>
    </Box>
  );
}
