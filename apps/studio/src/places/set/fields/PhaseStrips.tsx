'use client';
import { strideTable, type PlayClip } from '@lantern/drive';
import { Box, Typography } from '@mui/material';
import { chart } from '@/controls/theme';
import type { FieldView } from '@/worker/core.worker';

interface Props {
  readonly view: FieldView;
  readonly weights: Readonly<Record<string, number>>;
  readonly phase: number;
}

interface Strip {
  readonly name: string;
  readonly note: string;
  /** From and to in the stride, of each foot. */
  readonly left: readonly (readonly [number, number])[];
  readonly right: readonly (readonly [number, number])[];
}

/** When the feet bear in the clips that count, by phase, and in the blend of them: equal phase means that the same foot lands. */
export function PhaseStrips({ view, weights, phase }: Props) {
  const counted = view.points
    .map(({ name }, i) => ({ clip: view.field.clips[i], w: weights[name] ?? 0 }))
    .filter(({ w }) => w > 0.01)
    .sort((a, b) => b.w - a.w)
    .slice(0, 3);
  const strips = counted.flatMap(({ clip, w }) => stripOf(clip, w) ?? []);
  if (strips.length === 0) return null;
  const total = counted.reduce((sum, { w }) => sum + w, 0);
  const mean = (of: (strip: Strip) => readonly (readonly [number, number])[]): (readonly [number, number])[] =>
    of(strips[0]).map(
      (_, k) =>
        [0, 1].map((end) => strips.reduce((sum, strip, i) => sum + (counted[i].w / total) * (of(strip)[k]?.[end] ?? 0), 0)) as [
          number,
          number,
        ],
    );
  const frames = counted.reduce((sum, { clip, w }) => sum + (w / total) * Math.log(clip.frames - 1), 0);
  const all: Strip[] =
    strips.length > 1
      ? [
          ...strips,
          {
            name: 'the blend',
            note: `${Math.exp(frames).toFixed(0)} frames`,
            left: mean(({ left }) => left),
            right: mean(({ right }) => right),
          },
        ]
      : strips;
  return (
    <Box component="section" aria-label="Phase" sx={{ px: 2, py: 0.6 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '130px 1fr', alignItems: 'center' }}>
        <Typography variant="body2" color="text.secondary">
          phase {phase.toFixed(2)}
        </Typography>
        <svg viewBox="0 0 400 16" width="100%" height={16} preserveAspectRatio="none" aria-hidden>
          {[0, 0.25, 0.5, 0.75, 1].map((v) => (
            <line key={v} x1={v * 396 + 2} x2={v * 396 + 2} y1={6} y2={16} stroke={chart('ink')} />
          ))}
          <line x1={2} x2={398} y1={15} y2={15} stroke={chart('ink')} />
        </svg>
        {all.map((strip) => (
          <Row key={strip.name} strip={strip} phase={phase} />
        ))}
      </Box>
    </Box>
  );
}

function Row({ strip: { name, note, left, right }, phase }: { strip: Strip; phase: number }) {
  const bar = ([from, to]: readonly [number, number], y: number, colour: string, key: string) =>
    // What goes beyond the stride comes round at its beginning.
    [
      [from, Math.min(1, to)],
      [0, to - 1],
    ]
      .filter(([a, b]) => b > a)
      .map(([a, b], i) => <rect key={`${key} ${i}`} x={a * 396 + 2} width={(b - a) * 396} y={y} height={8} rx={4} fill={colour} />);
  return (
    <>
      <Box sx={{ minWidth: 0, pr: 1 }}>
        <Typography variant="body2" noWrap sx={{ fontWeight: name === 'the blend' ? 700 : 500, lineHeight: 1.15 }}>
          {name}
        </Typography>
        <Typography variant="caption" color="text.secondary" sx={{ lineHeight: 1.1, display: 'block' }}>
          {note}
        </Typography>
      </Box>
      <svg viewBox="0 0 400 32" width="100%" height={32} preserveAspectRatio="none" role="img" aria-label={`${name}: when the feet bear`}>
        {left.flatMap((own, i) => bar(own, 4, chart('port'), `l${i}`))}
        {right.flatMap((own, i) => bar(own, 18, chart('starboard'), `r${i}`))}
        <line x1={phase * 396 + 2} x2={phase * 396 + 2} y2={32} stroke={chart('ink')} strokeWidth={1.6} />
      </svg>
    </>
  );
}

/** The stances of a clip's first stride, by phase. */
function stripOf(clip: PlayClip, w: number): Strip | null {
  const table = strideTable(clip);
  if ('why' in table) return null;
  const { lengths, stances } = table;
  const until = (k: number) =>
    (stances[k] <= lengths[k] ? stances[k] / lengths[k] : 1 + (stances[k] - lengths[k]) / lengths[(k + 1) % lengths.length]) / 2;
  return {
    name: clip.name,
    note: `${Math.round(w * 100)} %, ${clip.frames - 1} frames`,
    left: [[0, until(0)]],
    right: [[0.5, 0.5 + until(1)]],
  };
}
