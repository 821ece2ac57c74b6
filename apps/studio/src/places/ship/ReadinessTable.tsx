'use client';
import { Checkbox, LinearProgress, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import Link from 'next/link';
import { BOUNDS, isOut, type Bounded } from '@/data/bounds';
import type { ClipDoc } from '@/data/clips-store';
import { FigureValue } from '@/controls/Figure';
import { PoseStrip } from '@/timeline/PoseStrip';
import type { Readiness } from './use-readiness';

/** Figures of every clip, whether it loops or not. */
const OF_ALL: readonly Bounded[] = ['tick', 'slideCm', 'sinkCm', 'hoverCm'];

/** A figure of a clip as it is judged; 0 where it is none. */
export const valueOf = ({ figures, against }: Readiness, key: Bounded): number => {
  if (!figures) return 0;
  if (key === 'kink') return against?.kink?.ratio ?? 0;
  if (key === 'likenessCm') return against?.likeness?.worstCm ?? 0;
  if (OF_ALL.includes(key)) return figures[key as 'tick' | 'slideCm' | 'sinkCm' | 'hoverCm'];
  return figures.loop ? figures.seam[key as 'poseCm' | 'headingDeg' | 'driftCm'] : 0;
};

/** Pictures and lengths give way to figures where there is little room. */
const NARROW_HIDES: readonly string[] = ['', 'Length'];
const ONLY_WIDE = { display: { xs: 'none', lg: 'table-cell' } };

/** What the short words over the columns mean. */
const TITLES: Readonly<Record<string, string>> = {
  Slide: 'Foot slide: how far a bearing foot moves',
  Sink: 'How deep a sole goes below the floor',
  Hover: 'How high a bearing foot is over its ground',
  Kink: 'Largest jerk of a knee or an elbow, over the take’s own',
  Off: 'Farthest that a joint is from the take, pose laid over pose',
};

/** Every clip with its figures against the set's bounds, worst first. */
export function ReadinessTable({
  docs,
  order,
  readiness,
  left,
  setLeft,
  project,
}: {
  docs: readonly ClipDoc[];
  order: readonly number[];
  readiness: readonly Readiness[];
  left: ReadonlySet<string>;
  setLeft: (left: ReadonlySet<string>) => void;
  project: string;
}) {
  const toggle = (id: string) => {
    const next = new Set(left);
    if (!next.delete(id)) next.add(id);
    setLeft(next);
  };
  const all = left.size === 0;
  return (
    <Table
      size="small"
      aria-label="Readiness"
      sx={{ '& .MuiTableCell-root:not(.MuiTableCell-paddingCheckbox)': { px: { xs: 0.6, lg: 1 } } }}
    >
      <TableHead>
        <TableRow>
          <TableCell padding="checkbox">
            <Checkbox
              size="small"
              color="default"
              checked={all}
              indeterminate={!all && left.size < docs.length}
              onChange={() => setLeft(all ? new Set(docs.map((d) => d.id)) : new Set())}
              slotProps={{ input: { 'aria-label': 'All clips' } }}
            />
          </TableCell>
          {['Clip', '', 'Length', 'Speed', 'Seam', 'Tick', 'Slide', 'Sink', 'Hover', 'Drift', 'Kink', 'Off'].map((label, i) => (
            <TableCell
              key={label || 'strip'}
              align={i < 2 ? 'left' : 'right'}
              title={TITLES[label]}
              sx={NARROW_HIDES.includes(label) ? ONLY_WIDE : undefined}
            >
              {label}
            </TableCell>
          ))}
        </TableRow>
      </TableHead>
      <TableBody>
        {order.map((i) => {
          const doc = docs[i];
          const { figures, against, strip, isPending, error } = readiness[i];
          const cell = (key: Bounded, unit: string, digits: number) => {
            const value = valueOf(readiness[i], key);
            const isAgainst = (key === 'kink' && against?.kink) || (key === 'likenessCm' && against?.likeness);
            const ofPose = key !== 'kink' && key !== 'likenessCm' && (figures?.loop || (key !== 'tick' && OF_ALL.includes(key)));
            const shown = figures && (isAgainst || ofPose) ? value : null;
            const out = shown !== null && isOut(key, value);
            return (
              <TableCell key={key} align="right">
                <FigureValue value={shown} unit={unit} digits={digits} out={out} todo={out ? BOUNDS[key].todo : undefined} />
              </TableCell>
            );
          };
          return (
            <TableRow key={doc.id} hover>
              <TableCell padding="checkbox">
                <Checkbox
                  size="small"
                  color="default"
                  checked={!left.has(doc.id)}
                  onChange={() => toggle(doc.id)}
                  slotProps={{ input: { 'aria-label': `Ship ${doc.name}` } }}
                />
              </TableCell>
              <TableCell>
                <Typography component={Link} href={`/${project}/bench/${doc.id}`} sx={{ color: 'text.primary', fontWeight: 500 }}>
                  {doc.name}
                </Typography>
              </TableCell>
              <TableCell sx={{ py: 0.5, ...ONLY_WIDE }}>{strip && <PoseStrip strip={strip} />}</TableCell>
              {error ? (
                <TableCell colSpan={10}>
                  <Typography variant="body2">▲ {error}</Typography>
                </TableCell>
              ) : isPending ? (
                <TableCell colSpan={10}>
                  <LinearProgress aria-label={`Measuring ${doc.name}`} />
                </TableCell>
              ) : (
                <>
                  <TableCell align="right" sx={ONLY_WIDE}>
                    <FigureValue value={figures?.seconds} unit="s" digits={2} />
                  </TableCell>
                  <TableCell align="right">
                    <FigureValue value={figures?.speedMps} unit="m/s" digits={2} />
                  </TableCell>
                  {cell('poseCm', 'cm', 2)}
                  {cell('tick', '', 2)}
                  {cell('slideCm', 'cm', 2)}
                  {cell('sinkCm', 'cm', 1)}
                  {cell('hoverCm', 'cm', 1)}
                  {cell('driftCm', 'cm', 1)}
                  {cell('kink', '×', 2)}
                  {cell('likenessCm', 'cm', 1)}
                </>
              )}
            </TableRow>
          );
        })}
      </TableBody>
    </Table>
  );
}
