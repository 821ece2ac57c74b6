'use client';
import { PARTS, partName, type FitOverrides, type Part } from '@lantern/motion';
import { Autocomplete, Box, TextField, Typography } from '@mui/material';
import type { GridColDef } from '@mui/x-data-grid';
import { DataTable } from '@/controls/DataTable';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import type { FitView, MappedSide } from '@/worker/core.worker';
import { PartMark } from './PartMark';

/** Less sure than this, and it is marked. */
const SURE = 0.7;

/** The parts of the body with their joints on both sides, how sure that is and why; the chosen one is put right here or on the stage. */
export function PartsPanel({
  view,
  settings,
  chosen,
  onChoose,
  onChange,
}: {
  view: FitView;
  settings: FitOverrides;
  chosen: Part | null;
  onChoose: (part: Part | null) => void;
  onChange: (settings: FitOverrides) => void;
}) {
  const shown = PARTS.filter((part) => view.source.parts[part] || view.target.parts[part] || part === chosen);
  const absent = PARTS.filter((part) => !shown.includes(part));
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%', minHeight: 0 }}>
      {[view.source, view.target].map(
        (side, i) =>
          side.sidesSwapped && (
            <Typography key={i} variant="body2" role="alert" sx={{ px: 1.5, py: 0.5, bgcolor: chart('lampSoft') }}>
              ▲ In the {i === 0 ? 'take' : 'character'} left and right are named the other way round: its feet and knees say so. It is
              mapped by where its feet point.
            </Typography>
          ),
      )}
      <Box sx={{ flex: 1, overflow: 'auto', minHeight: 0 }}>
        <DataTable
          isWhole
          label="Parts of the body"
          rows={shown.map((part) => partRow(part, view))}
          columns={COLUMNS}
          rowHeight={27}
          open={chosen}
          onOpen={({ part }) => onChoose(part === chosen ? null : part)}
        />
        {absent.length > 0 && (
          <Typography variant="body2" color="text.secondary" component="div" sx={{ px: 1.2, py: 0.6 }}>
            on neither:{' '}
            {absent.map((part) => (
              <Small key={part} onClick={() => onChoose(part)}>
                {partName(part)}
              </Small>
            ))}
          </Typography>
        )}
        <LeftOut title="In the take no part has" side={view.source} />
        <LeftOut title="In the character no part has" side={view.target} />
      </Box>
      {chosen && <Correction key={chosen} part={chosen} view={view} settings={settings} onChange={onChange} />}
    </Box>
  );
}

interface PartRow {
  readonly id: Part;
  readonly name: string;
  readonly part: Part;
  readonly source: string;
  readonly target: string;
  /** The less sure of the two sides, or null where one has no joints for it. */
  readonly sure: number | null;
  readonly reason: string;
}

function partRow(part: Part, view: FitView): PartRow {
  const [source, target] = [view.source.parts[part], view.target.parts[part]];
  return {
    id: part,
    name: partName(part),
    part,
    source: jointsOf(source?.joints.map((j) => view.source.names[j])),
    target: jointsOf(target?.joints.map((j) => view.target.names[j])),
    sure: source && target ? Math.min(source.confidence, target.confidence) : null,
    reason: [source && `take: ${source.reason}`, target && `character: ${target.reason}`].filter(Boolean).join('\n'),
  };
}

function jointsOf(names: readonly string[] = []): string {
  if (names.length === 0) return 'follows';
  return names.length > 2 ? `${names[0]} … ${names[names.length - 1]} (${names.length})` : names.join(', ');
}

const COLUMNS: readonly GridColDef<PartRow>[] = [
  {
    field: 'name',
    headerName: 'part',
    flex: 1,
    minWidth: 120,
    renderCell: ({ row }) => (
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.8, height: '100%' }}>
        <PartMark part={row.part} />
        {row.name}
      </Box>
    ),
  },
  { field: 'source', headerName: 'take', flex: 1, minWidth: 70 },
  { field: 'target', headerName: 'character', flex: 1, minWidth: 70 },
  {
    field: 'sure',
    headerName: 'sure',
    type: 'number',
    width: 66,
    renderCell: ({ row: { sure, reason } }) => (
      <span title={reason}>{sure === null ? '–' : `${sure < SURE ? '▲ ' : ''}${Math.round(sure * 100)} %`}</span>
    ),
  },
];

function LeftOut({ title, side }: { title: string; side: MappedSide }) {
  if (side.leftOut.length === 0) return null;
  return (
    <Typography variant="body2" color="text.secondary" sx={{ px: 1.5, py: 0.4 }}>
      {title}: {side.leftOut.map(({ name, reason }) => `${name} (${reason})`).join(', ')}.
    </Typography>
  );
}

/** The joints of the chosen part, put right by name; clicks on the stage do the same. */
function Correction({
  part,
  view,
  settings,
  onChange,
}: {
  part: Part;
  view: FitView;
  settings: FitOverrides;
  onChange: (settings: FitOverrides) => void;
}) {
  const isByHand = settings.mapping?.source[part] !== undefined || settings.mapping?.target[part] !== undefined;
  const [a, b] = [view.source.parts[part], view.target.parts[part]];
  return (
    <Box
      role="group"
      aria-label={`Joints of the ${partName(part)}`}
      sx={{ borderTop: `1px solid ${chart('rule')}`, p: 1.2, display: 'grid', gap: 1 }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline' }}>
        <Typography variant="h3" sx={{ flex: 1 }}>
          {partName(part)}
        </Typography>
        {isByHand && <Small onClick={() => onChange(withMapping(settings, part, null, null))}>as found</Small>}
      </Box>
      <Typography variant="body2" color="text.secondary">
        {[a && `Take: ${a.reason}.`, b && `Character: ${b.reason}.`].filter(Boolean).join(' ') || 'Neither has it.'} Click joints on the
        stage, or choose them here.
      </Typography>
      {(['source', 'target'] as const).map((side) => (
        <Autocomplete
          key={side}
          multiple
          size="small"
          disableCloseOnSelect
          options={[...view[side].names]}
          value={(view[side].parts[part]?.joints ?? []).map((j) => view[side].names[j])}
          onChange={(_, names) => onChange(withMapping(settings, part, side, names))}
          renderInput={(params) => <TextField {...params} label={side === 'source' ? 'in the take' : 'in the character'} />}
        />
      ))}
    </Box>
  );
}

/** The settings with other joints for a part on one side; without a side, as found. */
export function withMapping(
  settings: FitOverrides,
  part: Part,
  side: 'source' | 'target' | null,
  names: readonly string[] | null,
): FitOverrides {
  const mapping = { source: { ...settings.mapping?.source }, target: { ...settings.mapping?.target } };
  if (side && names) mapping[side][part] = [...names];
  else {
    delete mapping.source[part];
    delete mapping.target[part];
  }
  return { ...settings, mapping };
}
