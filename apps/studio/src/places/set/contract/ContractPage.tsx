'use client';
import {
  askedCourse,
  contractCsv,
  contractSchema,
  GAITS,
  setConstants,
  stepsForContract,
  type Contract,
  type ContractLine,
} from '@lantern/motion';
import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { useSnackbar } from 'notistack';
import { useRef, useState } from 'react';
import { lazily } from '@/controls/lazily';
import { numeral } from '@/controls/Figure';
import { Small } from '@/controls/Small';
import { Split } from '@/controls/Split';
import { chart } from '@/controls/theme';
import { TypedNumber } from '@/controls/TypedNumber';
import { Commands } from '@/shell/Commands';
import type { SetDoc } from '@/data/sets-store';
import { keepFile } from '@/data/keep-file';
import { editSet } from '@/data/sets-store';
import { editClips } from '../set-edits';
import type { SetView } from '@/data/set-view';
import { withAsked } from './with-asked';

// Charts are read when they are shown.
const SpeedChart = lazily(async () => (await import('./SpeedChart')).SpeedChart);

const GRID = 'minmax(160px, 1.4fr) 130px 96px 74px 74px 74px minmax(150px, 1.6fr) 74px';

/** The game's numbers beside what the set can do, the warp that each clip needs, and where it breaks. */
export function ContractPage({ doc, view }: { doc: SetDoc; view: SetView }) {
  const { measured, members, traits } = view;
  const { enqueueSnackbar } = useSnackbar();
  const [seen, setSeen] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  if (!measured)
    return (
      <Box sx={{ p: 3 }}>
        <LinearProgress aria-label="Measuring the set" />
      </Box>
    );
  const lines = measured.contract;
  const put = (contract: Contract) => editSet(doc, { contract });
  const canApply = (line: ContractLine): boolean => {
    const found = line.clip === null ? undefined : traits.get(line.clip);
    return found !== undefined && isOff(line) && stepsForContract(line, { traits: found }, []) !== null;
  };
  const needs = lines.filter(canApply);
  const needing = new Set(needs.map(({ clip }) => clip)).size;
  const apply = (chosen: readonly ContractLine[]) => {
    let count = 0;
    editClips((own) => {
      let steps = own.steps;
      for (const line of chosen) {
        const found = traits.get(own.id);
        const next = line.clip === own.id && found ? stepsForContract(line, { traits: found }, steps) : null;
        if (next) steps = next;
      }
      if (steps === own.steps) return own;
      count++;
      return { ...own, steps };
    });
    enqueueSnackbar(`${count} ${count === 1 ? 'clip was' : 'clips were'} brought to the game’s numbers; undo takes it back.`);
  };
  const read = async (file: File) => {
    try {
      const json: unknown = JSON.parse(await file.text());
      const found = contractSchema.parse(typeof json === 'object' && json !== null && 'contract' in json ? json.contract : json);
      put(found);
      enqueueSnackbar(`The numbers of “${file.name}” are the contract now.`);
    } catch (error) {
      const why =
        error instanceof SyntaxError ? 'it is not JSON' : 'it has none of the fields of a contract, or a number that is out of range';
      enqueueSnackbar(`“${file.name}” was not taken: ${why}.`, { variant: 'error' });
    }
  };
  const nameOf = (id: string | null) => members.find((own) => own.doc.id === id)?.doc.name ?? '';
  const courses = lines.filter(({ id, clip }) => clip && /^(acceleration|deceleration)/.test(id));
  const course = courses.find(({ clip }) => clip === seen) ?? courses[0];
  const table = (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', px: 2, pt: 1 }}>
      <Commands
        place="set"
        commands={[
          { id: 'apply', label: 'Bring all clips to the game’s numbers', run: () => apply(needs) },
          { id: 'constants', label: 'Take the set’s own numbers as the contract', run: () => put(setConstants(lines)) },
        ]}
      />
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mb: 0.8 }}>
        <Typography variant="h1" sx={{ flex: 1 }}>
          The contract
        </Typography>
        <Small onClick={() => input.current?.click()}>read JSON</Small>
        <Small
          name="Save the contract as JSON"
          onClick={() => keepFile(`${doc.name}-contract.json`, `${JSON.stringify(doc.contract, null, 1)}\n`, 'application/json')}
        >
          JSON
        </Small>
        <Small name="Save the contract as CSV" onClick={() => keepFile(`${doc.name}-contract.csv`, contractCsv(lines), 'text/csv')}>
          CSV
        </Small>
        <Button color="inherit" onClick={() => put(setConstants(lines))}>
          the set’s own numbers
        </Button>
        <Button variant="contained" disabled={needs.length === 0} onClick={() => apply(needs)} sx={{ fontWeight: 700 }}>
          Apply to {needing} {needing === 1 ? 'clip' : 'clips'}
        </Button>
        <input
          ref={input}
          type="file"
          accept=".json,application/json"
          hidden
          aria-label="A contract as JSON"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            if (file) void read(file);
            event.target.value = '';
          }}
        />
      </Box>
      <Box role="table" aria-label="The contract" sx={{ flex: 1, minHeight: 0, overflow: 'auto' }}>
        <Box
          role="row"
          sx={{
            display: 'grid',
            gridTemplateColumns: GRID,
            position: 'sticky',
            top: 0,
            bgcolor: 'background.default',
            borderBottom: `1px solid ${chart('ink')}`,
            zIndex: 1,
          }}
        >
          {['', 'the game asks', 'the set does', 'time', 'strides', 'path', '', ''].map((head, i) => (
            <Typography
              key={i}
              role="columnheader"
              variant="caption"
              color="text.secondary"
              sx={{ textAlign: i > 0 && i < 6 ? 'right' : 'left', px: 0.6 }}
            >
              {head}
            </Typography>
          ))}
        </Box>
        {lines.map((line) => (
          <Line
            key={`${line.id} ${line.clip}`}
            line={line}
            name={nameOf(line.clip)}
            onAsk={(value) => put(withAsked(doc.contract, line.id, value))}
            onApply={canApply(line) ? () => apply([line]) : undefined}
            onSeen={/^(acceleration|deceleration)/.test(line.id) && line.clip ? () => setSeen(line.clip) : undefined}
          />
        ))}
      </Box>
    </Box>
  );
  return (
    <Split
      id="set-contract"
      vertical
      parts={[
        { id: 'lines', name: 'The contract', size: '66%', least: '30%', content: table },
        {
          id: 'course',
          name: 'Speed over time',
          size: '34%',
          least: '20%',
          content: (
            <SpeedChart
              lines={courses}
              chosen={course ?? null}
              onChoose={setSeen}
              members={members}
              nameOf={nameOf}
              asked={(line, seconds, fps) => askedOf(line, doc.contract, traits.get(line.clip ?? '')?.speedMps ?? 0, seconds, fps)}
            />
          ),
        },
      ]}
    />
  );
}

/** Whether a clip is not at what is asked yet, by more than half of the last digit that is shown. */
const isOff = ({ asked, measured, digits }: ContractLine): boolean =>
  asked !== null && measured !== null && Math.abs(asked - measured) > 0.5 * 10 ** -digits;

/** Speed as it is asked: evenly up to the gait's speed, or down from it. */
function askedOf({ id, asked }: ContractLine, contract: Contract, measuredMps: number, seconds: number, fps: number): Float64Array | null {
  if (asked === null) return null;
  const gait = GAITS.find((own) => own === id.split('/')[1]);
  const mps = (gait && contract.speedMps[gait]?.forward) ?? measuredMps;
  const kind = id.startsWith('acceleration') ? 'start' : 'stop';
  return askedCourse(kind, mps, asked, kind === 'start' ? 0.25 : Math.max(0, seconds - 0.25 - mps / asked), seconds, fps);
}

function Line({
  line,
  name,
  onAsk,
  onApply,
  onSeen,
}: {
  line: ContractLine;
  name: string;
  onAsk: (value: number | null) => void;
  onApply?: () => void;
  onSeen?: () => void;
}) {
  const { title, unit, digits, asked, measured, warp, breaks, reach } = line;
  const factor = (value: number | undefined) => (warp && value !== undefined && Math.abs(value - 1) > 0.004 ? `× ${value.toFixed(2)}` : '');
  const within = reach ? `${reach[0].toFixed(digits)} to ${reach[1].toFixed(digits)} ${unit}` : '';
  return (
    <Box
      role="row"
      aria-label={title}
      onClick={onSeen}
      sx={{
        display: 'grid',
        gridTemplateColumns: GRID,
        alignItems: 'center',
        borderBottom: `1px solid ${chart('rule')}`,
        minHeight: 33,
        cursor: onSeen ? 'pointer' : 'default',
      }}
    >
      <Box role="rowheader" sx={{ minWidth: 0 }}>
        <Typography noWrap sx={{ lineHeight: 1.1 }}>
          {title}
        </Typography>
        <Typography variant="caption" color="text.secondary" noWrap component="div" sx={{ lineHeight: 1.1 }}>
          {name || 'no clip'}
        </Typography>
      </Box>
      <Box role="cell" sx={{ justifySelf: 'end', display: 'flex', alignItems: 'center' }}>
        {asked === null ? (
          measured !== null && (
            <Small name={`Ask for a number: ${title}`} onClick={() => onAsk(Number(measured.toFixed(digits)))}>
              ask
            </Small>
          )
        ) : (
          <>
            <TypedNumber
              name={`The game asks: ${title}`}
              value={asked}
              unit={unit}
              least={0.01}
              most={1000}
              step={10 ** -Math.min(2, digits)}
              digits={digits}
              onChange={onAsk}
            />
            {!line.id.startsWith('turnAnglesDeg') && (
              <Small name={`Ask for nothing: ${title}`} onClick={() => onAsk(null)}>
                ×
              </Small>
            )}
          </>
        )}
      </Box>
      <Typography role="cell" variant="body2" sx={{ textAlign: 'right', fontWeight: 700 }}>
        {measured === null ? '–' : `${numeral(measured, digits)} ${unit}`}
      </Typography>
      {(['time', 'stride', 'path'] as const).map((key) => (
        <Typography role="cell" key={key} variant="body2" sx={{ textAlign: 'right' }}>
          {factor(warp?.[key])}
        </Typography>
      ))}
      <Typography role="cell" variant="body2" sx={{ pl: 1.5, lineHeight: 1.15 }} color={breaks ? 'text.primary' : 'text.secondary'}>
        {breaks ? `▲ ${breaks}` : within && `good from ${within}`}
      </Typography>
      <Box role="cell" sx={{ justifySelf: 'end' }}>
        {onApply && (
          <Small name={`Apply: ${title}`} onClick={onApply}>
            apply
          </Small>
        )}
      </Box>
    </Box>
  );
}
