'use client';
import { fitTrouble, partName } from '@lantern/motion';
import { Link } from '@mui/material';
import type { GridColDef } from '@mui/x-data-grid';
import { useMemo } from 'react';
import type { ProjectData } from '@/data/project';
import { DataTable } from '@/controls/DataTable';
import type { FitJobInfo } from '@/http/fit-run';

interface Props {
  readonly jobs: readonly FitJobInfo[];
  readonly data: Pick<ProjectData, 'takes' | 'characters'>;
  readonly onOpen: (take: string, character: string, frame?: number) => void;
}

interface JobRow {
  readonly id: string;
  readonly name: string;
  /** The name its file is saved under. */
  readonly file: string;
  readonly job: FitJobInfo;
}

/** What came of each fit of a run, the worst first; a row opens its fit at the frame in which a foot slides most. */
export function FitReport({ jobs, data, onOpen }: Props) {
  const rows = useMemo(() => {
    const takeName = new Map(data.takes.map(({ id, name }) => [id, name]));
    const characterName = new Map(data.characters.map(({ id, name }) => [id, name]));
    return [...jobs]
      .sort((a, b) => trouble(b) - trouble(a))
      .map((job): JobRow => {
        const take = takeName.get(job.take);
        const name = `${take ?? 'a removed take'}, ${characterName.get(job.character) ?? job.character}`;
        return { id: job.id, name, file: `${take ?? 'take'}-${job.character}.glb`, job };
      });
  }, [jobs, data]);
  return (
    <DataTable
      label="Report of the fits"
      rows={rows}
      columns={COLUMNS}
      rowHeight={29}
      onOpen={({ job }) => onOpen(job.take, job.character, job.report?.slideFrame)}
    />
  );
}

const trouble = ({ state, report }: FitJobInfo) => (state === 'failed' ? Infinity : report ? fitTrouble(report) : -1);

const STATES: Readonly<Record<Exclude<FitJobInfo['state'], 'failed'>, string>> = {
  waiting: 'waiting',
  running: 'at work',
  stopped: 'stopped',
  done: '',
};

/** A figure in centimetres, with a mark where it is over what a good fit has. */
function centimetres(
  field: string,
  head: string,
  of: (report: NonNullable<FitJobInfo['report']>) => number,
  most: number,
): GridColDef<JobRow> {
  return {
    field,
    headerName: head,
    type: 'number',
    width: 62,
    valueGetter: (_, { job }) => (job.report ? of(job.report) : null),
    valueFormatter: (value: number | null) => (value === null ? '' : `${value > most ? '▲ ' : ''}${value.toFixed(2)}`),
  };
}

const slide = centimetres('slide', 'slide cm', (report) => report.slideCm, 0.2);

const COLUMNS: readonly GridColDef<JobRow>[] = [
  { field: 'name', headerName: 'take, character', flex: 1, minWidth: 120 },
  {
    ...slide,
    width: 68,
    // A fit without a report says why across all figures.
    colSpan: (_, { job }) => (job.report ? 1 : 7),
    renderCell: ({ row: { job }, formattedValue }) =>
      job.report ? formattedValue : job.state === 'failed' ? `▲ ${job.message}` : STATES[job.state],
  },
  centimetres('sink', 'sink', (report) => report.sinkCm, 0.5),
  centimetres('hover', 'hover', (report) => report.hoverCm ?? 0, 1.5),
  {
    field: 'off',
    headerName: 'off',
    description: 'Farthest that a joint is from the take’s, made as large',
    type: 'number',
    width: 48,
    valueGetter: (_, { job }) => job.report?.likeness?.worstCm ?? null,
    renderCell: ({ row: { job }, value }: { row: JobRow; value?: number | null }) => (
      <span title={job.report?.likeness ? `${job.report.likeness.worstPart}, frame ${job.report.likeness.worstFrame}` : undefined}>
        {typeof value === 'number' ? value.toFixed(1) : '–'}
      </span>
    ),
  },
  centimetres('reach', 'reach', (report) => report.reachCm, 1),
  {
    field: 'joints',
    headerName: 'joints',
    type: 'number',
    width: 62,
    valueGetter: (_, { job }) => job.report?.limits[0]?.degrees ?? 0,
    renderCell: ({ row: { job } }) => {
      const limit = job.report?.limits[0];
      return (
        <span title={limit && `${partName(limit.part)}, frame ${limit.frame}`}>{limit ? `▲ ${limit.degrees.toFixed(0)}°` : 'within'}</span>
      );
    },
  },
  {
    field: 'file',
    headerName: 'file',
    sortable: false,
    width: 52,
    renderCell: ({ row: { job, file } }) =>
      job.hasFile && (
        <Link href={`/api/fit-jobs/${job.id}`} download={file} color="inherit" onClick={(event) => event.stopPropagation()}>
          GLB
        </Link>
      ),
  },
];
