import type { ClipReport, Report } from '@/http/shipment';

/** A figure of a clip in two shipments. */
export interface FigureChange {
  readonly figure: string;
  readonly unit: string;
  readonly digits: number;
  readonly before: number | null;
  readonly after: number | null;
}

/** A clip in two shipments: what of it is another. */
export interface ClipChange {
  readonly name: string;
  readonly state: 'new' | 'gone' | 'changed' | 'same';
  readonly changes: readonly FigureChange[];
}

const FIGURES: readonly { figure: string; unit: string; digits: number; of: (clip: ClipReport) => number | null | undefined }[] = [
  { figure: 'length', unit: 's', digits: 2, of: ({ seconds }) => seconds },
  { figure: 'speed', unit: 'm/s', digits: 2, of: ({ speedMps }) => speedMps },
  { figure: 'turn', unit: '°/s', digits: 1, of: ({ turnDegS }) => turnDegS },
  { figure: 'seam', unit: 'cm', digits: 2, of: ({ loop, seam }) => (loop ? seam?.poseCm : null) },
  { figure: 'tick', unit: '', digits: 2, of: ({ loop, tick }) => (loop ? tick : null) },
  { figure: 'slide', unit: 'cm', digits: 2, of: ({ slideCm }) => slideCm },
  { figure: 'sink', unit: 'cm', digits: 1, of: ({ sinkCm }) => sinkCm },
  { figure: 'key error', unit: 'mm', digits: 2, of: ({ keys }) => keys?.worstMm },
  { figure: 'off home', unit: 'cm', digits: 1, of: ({ homeCm }) => homeCm },
  { figure: 'size', unit: 'KB', digits: 0, of: ({ keys }) => (keys ? keys.bytes / 1000 : null) },
];

/** What is another from one shipment to a later one, clip by clip; a figure that is written alike is the same. */
export function compareReports(before: Pick<Report, 'clips'>, after: Pick<Report, 'clips'>): ClipChange[] {
  const then = new Map(before.clips.map((clip) => [clip.name, clip]));
  const now = new Map(after.clips.map((clip) => [clip.name, clip]));
  const changes = [...now].map(([name, clip]): ClipChange => {
    const old = then.get(name);
    if (!old) return { name, state: 'new', changes: [] };
    const found = FIGURES.flatMap(({ of, ...figure }): FigureChange[] => {
      const [a, b] = [of(old) ?? null, of(clip) ?? null];
      const text = (value: number | null) => (value === null ? '' : value.toFixed(figure.digits));
      return text(a) === text(b) ? [] : [{ ...figure, before: a, after: b }];
    });
    return { name, state: found.length > 0 ? 'changed' : 'same', changes: found };
  });
  const gone = [...then.keys()].filter((name) => !now.has(name)).map((name): ClipChange => ({ name, state: 'gone', changes: [] }));
  const rank = { changed: 0, new: 1, gone: 2, same: 3 };
  return [...changes, ...gone].sort((a, b) => rank[a.state] - rank[b.state]);
}
