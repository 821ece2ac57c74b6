'use client';
import { FIELD_BOUNDS, type Sounding } from '@lantern/motion';
import { Box, FormControlLabel, Switch, Typography } from '@mui/material';
import { FigureValue } from '@/controls/Figure';
import { chart } from '@/controls/theme';
import { TypedNumber } from '@/controls/TypedNumber';
import type { FieldDoc } from '@/data/sets-store';

interface Props {
  readonly field: FieldDoc;
  readonly at: readonly number[];
  readonly sounding: Sounding | null;
  readonly onMove: (at: readonly number[]) => void;
  readonly put: (change: Partial<FieldDoc>) => void;
}

/** What is asked of the field, what comes, and how it is made to come. */
export function AskedAndComes({ field, at, sounding, onMove, put }: Props) {
  const [speed, second = 0] = at;
  const isTurn = field.inputs[1] === 'turn';
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1.5fr) minmax(0, 1fr)', borderTop: `1px solid ${chart('rule')}` }}>
      <Box component="section" aria-label="Asked and comes" sx={{ px: 2, py: 0.8, borderRight: `1px solid ${chart('rule')}` }}>
        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline' }}>
          <Typography variant="h2" sx={{ flex: 1 }}>
            Asked and comes
          </Typography>
          <Typography variant="caption">▽ asked ▼ comes</Typography>
        </Box>
        <Gauge
          name="speed"
          asked={speed}
          comes={sounding?.got[0] ?? null}
          unit="m/s"
          digits={2}
          span={0.12}
          bound={FIELD_BOUNDS.speed * speed}
          onAsk={(value) => onMove([value, ...at.slice(1)])}
          least={0.05}
          most={15}
        />
        {isTurn && (
          <Gauge
            name="turn"
            asked={second}
            comes={sounding?.got[1] ?? null}
            unit="°/s"
            digits={1}
            span={4}
            bound={FIELD_BOUNDS.turnDegS}
            onAsk={(value) => onMove([speed, value])}
            least={-360}
            most={360}
          />
        )}
        {field.inputs[1] === 'direction' && (
          <Gauge
            name="direction"
            asked={second}
            comes={null}
            unit="°"
            digits={0}
            span={10}
            bound={Infinity}
            onAsk={(value) => onMove([speed, value])}
            least={-180}
            most={180}
          />
        )}
        <Typography variant="body2" sx={{ mt: 0.6 }}>
          slide of the worst contact{' '}
          <FigureValue value={sounding?.slideMm ?? null} unit="mm" digits={1} out={(sounding?.slideMm ?? 0) > FIELD_BOUNDS.slideMm} />,
          knees{' '}
          <FigureValue value={sounding?.kink ?? null} unit="× the clips’ own" digits={2} out={(sounding?.kink ?? 0) > FIELD_BOUNDS.kink} />
        </Typography>
      </Box>
      <Box sx={{ px: 1.5, py: 0.8, display: 'grid', alignContent: 'start', gap: 0.4 }}>
        <Choice label="feet held" about="they stay where they came down" on={field.holdFeet} onChange={(holdFeet) => put({ holdFeet })} />
        <Choice
          label="speed made up"
          about={`by pace, up to ${Math.round((field.pace || 0.06) * 100)} %`}
          on={field.pace > 0}
          onChange={(on) => put({ pace: on ? 0.06 : 0 })}
        />
        <Typography variant="caption" color="text.secondary">
          Clips are always in step: equal phase means that the same foot lands.
        </Typography>
      </Box>
    </Box>
  );
}

function Choice({ label, about, on, onChange }: { label: string; about: string; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <FormControlLabel
      control={
        <Switch
          size="small"
          color="default"
          checked={on}
          onChange={(_, next) => onChange(next)}
          slotProps={{ input: { 'aria-label': label } }}
        />
      }
      label={
        <span>
          {label}
          <Typography variant="caption" color="text.secondary" sx={{ display: 'block', lineHeight: 1.1 }}>
            {about}
          </Typography>
        </span>
      }
      sx={{ ml: 0, gap: 1, '& .MuiFormControlLabel-label': { lineHeight: 1.15 } }}
    />
  );
}

interface GaugeProps {
  readonly name: string;
  readonly asked: number;
  readonly comes: number | null;
  readonly unit: string;
  readonly digits: number;
  /** To either side of what is asked. */
  readonly span: number;
  readonly bound: number;
  readonly least: number;
  readonly most: number;
  readonly onAsk: (value: number) => void;
}

/** A ruler about what is asked, with what comes on it. */
function Gauge({ name, asked, comes, unit, digits, span, bound, least, most, onAsk }: GaugeProps) {
  const x = (value: number) => 70 + Math.max(-1, Math.min(1, (value - asked) / span)) * 62;
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: '52px 88px minmax(36px, 1fr) 76px',
        alignItems: 'center',
        borderTop: `1px solid ${chart('rule')}`,
        minHeight: 32,
      }}
    >
      <Typography variant="body2">{name}</Typography>
      <TypedNumber
        name={`Asked: ${name}`}
        value={asked}
        unit={unit}
        least={least}
        most={most}
        step={digits === 2 ? 0.05 : 1}
        digits={digits}
        onChange={onAsk}
      />
      <svg viewBox="0 0 140 22" width="100%" height={22} aria-hidden>
        <line x1={6} x2={134} y1={15} y2={15} stroke={chart('ink')} />
        {Array.from({ length: 13 }, (_, i) => (
          <line key={i} x1={8 + i * 10.33} x2={8 + i * 10.33} y1={15} y2={i % 3 === 0 ? 21 : 18} stroke={chart('ink')} strokeWidth={0.8} />
        ))}
        <path d="M65 4h10l-5 9z" fill={chart('card')} stroke={chart('ink')} />
        {comes !== null && <path d={`M${x(comes) - 5} 4h10l-5 9z`} fill={chart('ink')} />}
      </svg>
      <Box sx={{ textAlign: 'right' }}>
        <FigureValue value={comes} unit={unit} digits={digits} out={comes !== null && Math.abs(comes - asked) > bound} />
      </Box>
    </Box>
  );
}
