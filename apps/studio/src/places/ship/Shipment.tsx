'use client';
import { Box, Button, Typography } from '@mui/material';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import type { ShipmentRow } from '@/http/shipment';
import { ShipmentsSoFar } from './ShipmentsSoFar';
import { ShipOptions } from './ShipOptions';
import { TripWires } from './TripWires';
import type { ShipChoice } from './use-desk';
import type { ReadyClip } from './use-readiness';
import { useShipmentReport } from './use-shipments';
import { many, sizeOf } from './words';

interface Props {
  readonly choice: ShipChoice;
  readonly onChoice: (choice: ShipChoice | null) => void;
  /** Null where nothing has shipped yet. */
  readonly isAsLastTime: boolean | null;
  readonly clips: readonly ReadyClip[];
  readonly chosen: readonly ReadyClip[];
  /** Clips that are still measured. */
  readonly open: number;
  readonly shipments: readonly ShipmentRow[];
  readonly isBusy: boolean;
  readonly onShip: () => void;
  readonly onStop: (id: string) => void;
  readonly onTakeBack: (id: string) => void;
}

/** What leaves, and how; what is promised of it; what shipped so far; and the act itself. */
export function Shipment({ choice, onChoice, isAsLastTime, clips, chosen, open, shipments, isBusy, onShip, onStop, onTakeBack }: Props) {
  const report = useShipmentReport(shipments.find(({ state }) => state === 'done')?.id ?? null);
  const seconds = chosen.reduce((sum, { row }) => sum + (row.about?.figures.seconds ?? 0), 0);
  const bytes = chosen.reduce((sum, { row }) => sum + (row.about?.keys.bytes ?? 0), 0);
  const behind = clips.length - chosen.length - open;
  return (
    <Box
      component="aside"
      aria-label="Shipment"
      sx={{ borderLeft: `1px solid ${chart('rule')}`, display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto', minHeight: 0 }}
    >
      <Box sx={{ p: 2, pb: 1, overflow: 'auto', display: 'flex', flexDirection: 'column', gap: 1.6 }}>
        <Box>
          <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', mb: 0.8 }}>
            <Typography variant="h2">Shipment</Typography>
            {isAsLastTime !== null &&
              (isAsLastTime ? (
                <Typography sx={{ fontSize: 13.5, fontWeight: 700, color: chart('lampText') }}>as last time</Typography>
              ) : (
                <Small onClick={() => onChoice(null)}>as last time</Small>
              ))}
          </Box>
          <ShipOptions choice={choice} onChoice={onChoice} clips={chosen} />
        </Box>
        {report?.guarantees && <TripWires all={report.guarantees} />}
        <ShipmentsSoFar shipments={shipments} onStop={onStop} onTakeBack={onTakeBack} />
      </Box>
      <Box sx={{ px: 2, py: 1.2, borderTop: `1px solid ${chart('rule')}` }}>
        <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1, fontSize: 14, mb: 0.8 }}>
          <Box component="span" sx={{ fontWeight: 500, overflow: 'hidden', textOverflow: 'ellipsis' }}>
            {choice.glb}
          </Box>
          <Box component="span" sx={{ color: 'text.secondary', whiteSpace: 'nowrap' }}>
            {chosen.length > 0 && `${many(chosen.length)}, ${seconds.toFixed(1)} s, ${sizeOf(bytes)} of keys`}
          </Box>
        </Box>
        <Button
          fullWidth
          variant="contained"
          size="large"
          disabled={chosen.length === 0 || isBusy}
          onClick={onShip}
          sx={{ fontWeight: 700, py: 1.1 }}
        >
          Ship {many(chosen.length)}
        </Button>
        <Typography variant="body2" color="text.secondary" sx={{ textAlign: 'center', minHeight: 20, mt: 0.4 }}>
          {open > 0
            ? `${many(open)} still being measured`
            : behind > 0
              ? behind === 1
                ? 'the other one stays behind'
                : `the ${behind} others stay behind`
              : ''}
        </Typography>
      </Box>
    </Box>
  );
}
