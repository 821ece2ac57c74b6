'use client';
import type { ContractLine } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { PLAIN, TICK, TOOLTIP } from '@/controls/chart-look';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import { ensureOpen } from '@/data/use-open-take';
import { core } from '@/worker/core';
import type { SetMember } from '@/data/set-view';

interface Props {
  readonly lines: readonly ContractLine[];
  readonly chosen: ContractLine | null;
  readonly onChoose: (clip: string) => void;
  readonly members: readonly SetMember[];
  readonly nameOf: (clip: string | null) => string;
  /** Speed as it is asked, over so many seconds. */
  readonly asked: (line: ContractLine, seconds: number, fps: number) => Float64Array | null;
}

/** Speed over time of starts and stops: as it is asked, as it was captured, and as the clip's steps make it. */
export function SpeedChart({ lines, chosen, onChoose, members, nameOf, asked }: Props) {
  const member = members.find((own) => own.doc.id === chosen?.clip);
  const { data } = useQuery({
    queryKey: ['set-course', member?.asked.take, JSON.stringify(member?.asked.recipe)],
    enabled: member !== undefined,
    staleTime: Infinity,
    queryFn: async () => {
      if (!member) throw new Error('no clip');
      await ensureOpen(member.take);
      const cut = { ...member.asked, recipe: { ...member.asked.recipe, steps: [] } };
      return { captured: await core().setCourse(cut), after: await core().setCourse(member.asked) };
    },
  });
  if (!chosen)
    return (
      <Box sx={{ p: 2 }}>
        <Typography color="text.secondary">The set has no start and no stop yet, whose speed over time could be shown.</Typography>
      </Box>
    );
  const fps = data?.after?.fps ?? data?.captured?.fps ?? 60;
  const frames = Math.max(data?.captured?.mps.length ?? 0, data?.after?.mps.length ?? 0);
  const wish = asked(chosen, frames / fps, fps);
  const rows = Array.from({ length: frames }, (_, f) => ({
    t: f / fps,
    asked: wish?.[f] ?? null,
    captured: data?.captured?.mps[f] ?? null,
    after: data?.after?.mps[f] ?? null,
  }));
  const fastest = Math.max(0.5, ...rows.map((row) => Math.max(row.asked ?? 0, row.captured ?? 0, row.after ?? 0)));
  return (
    <Box
      component="section"
      aria-label="Speed over time"
      sx={{ height: '100%', display: 'flex', flexDirection: 'column', bgcolor: chart('card'), px: 2, pt: 0.8 }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1.5, flexWrap: 'wrap' }}>
        <Typography variant="h2">Speed over time</Typography>
        {lines.map(({ id, clip }) => (
          <Small key={`${id} ${clip}`} pressed={clip === chosen.clip} onClick={() => clip && onChoose(clip)}>
            {nameOf(clip)}
          </Small>
        ))}
        <Box sx={{ flex: 1 }} />
        <Key dash="5 4">asked</Key>
        <Key faint>captured</Key>
        <Key>after its steps</Key>
      </Box>
      <Box sx={{ flex: 1, minHeight: 0 }} role="img" aria-label={`Speed over time of ${nameOf(chosen.clip)}`}>
        <ResponsiveContainer>
          <LineChart data={rows} margin={{ top: 8, right: 14, bottom: 4, left: 0 }}>
            <CartesianGrid stroke={chart('rule')} vertical={false} />
            <XAxis
              dataKey="t"
              type="number"
              domain={[0, 'dataMax']}
              tick={TICK}
              ticks={ticksUpTo((frames - 1) / fps, 0.5)}
              tickFormatter={(t: number) => `${t.toFixed(1)} s`}
              stroke={chart('rule')}
            />
            <YAxis
              tick={TICK}
              width={54}
              domain={[0, fastest]}
              ticks={ticksUpTo(fastest, 0.5)}
              tickFormatter={(v: number) => `${v.toFixed(1)} m/s`}
              stroke={chart('rule')}
            />
            <Tooltip
              {...TOOLTIP}
              formatter={(value) => `${Number(value).toFixed(2)} m/s`}
              labelFormatter={(t) => `${Number(t).toFixed(2)} s`}
            />
            <Line {...PLAIN} dataKey="asked" stroke={chart('ink')} strokeDasharray="5 4" strokeWidth={1.2} connectNulls={false} />
            <Line {...PLAIN} dataKey="captured" stroke={chart('faint')} strokeWidth={1.2} />
            <Line {...PLAIN} dataKey="after" stroke={chart('lamp')} strokeWidth={2.4} />
          </LineChart>
        </ResponsiveContainer>
      </Box>
    </Box>
  );
}

function Key({ children, dash, faint = false }: { children: string; dash?: string; faint?: boolean }) {
  return (
    <Typography variant="body2" component="span" sx={{ display: 'inline-flex', alignItems: 'center', gap: 0.6 }}>
      <svg width={22} height={6} aria-hidden>
        <line
          x2={22}
          y1={3}
          y2={3}
          stroke={chart(dash ? 'ink' : faint ? 'faint' : 'lamp')}
          strokeDasharray={dash}
          strokeWidth={dash || faint ? 1.2 : 2.4}
        />
      </svg>
      {children}
    </Typography>
  );
}

/** Round numbers for an axis: multiples of `step` from 0 up to `most`. */
function ticksUpTo(most: number, step: number): number[] {
  return Array.from({ length: Math.floor(Math.max(0, most) / step + 1e-6) + 1 }, (_, i) => i * step);
}
