'use client';
import CompareArrowsIcon from '@mui/icons-material/CompareArrows';
import DownloadIcon from '@mui/icons-material/Download';
import StopIcon from '@mui/icons-material/StopOutlined';
import UndoIcon from '@mui/icons-material/Undo';
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { Sign } from '@/controls/Sign';
import { chart } from '@/controls/theme';
import { download } from '@/data/keep-file';
import type { ShipmentRow } from '@/http/shipment';
import { CompareShipments } from './CompareShipments';
import { isOnItsWay, zipOf } from './use-shipments';
import { summaryOf, whenOf } from './words';

interface Props {
  readonly shipments: readonly ShipmentRow[];
  readonly onStop: (id: string) => void;
  readonly onTakeBack: (id: string) => void;
}

/** What is on its way, and what shipped so far: what of it was written again and why, to be had again, compared, or taken back. */
export function ShipmentsSoFar({ shipments, onStop, onTakeBack }: Props) {
  const [compared, setCompared] = useState<string | null>(null);
  const underWay = shipments.filter(isOnItsWay);
  const past = shipments.filter((own) => !isOnItsWay(own));
  return (
    <Box component="section" aria-label="Shipments so far" sx={{ minHeight: 0 }}>
      <Typography variant="h3">Shipments so far</Typography>
      {shipments.length === 0 && (
        <Typography variant="body2" color="text.secondary">
          None yet. What ships is kept here, to be had again.
        </Typography>
      )}
      {underWay.map((own) => (
        <UnderWay key={own.id} shipment={own} onStop={() => onStop(own.id)} />
      ))}
      <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {past.map((own, i) => (
          <Box
            component="li"
            key={own.id}
            aria-label={`Shipment of ${whenOf(own)}`}
            sx={{
              position: 'relative',
              pl: 2.2,
              pb: 1,
              '&::before': {
                content: '""',
                position: 'absolute',
                left: 3,
                top: 7,
                width: 7,
                height: 7,
                borderRadius: '50%',
                border: `1.5px solid ${chart('ink')}`,
              },
              '&::after':
                i < past.length - 1
                  ? { content: '""', position: 'absolute', left: 7.5, top: 18, bottom: -3, width: '1px', bgcolor: chart('lamp') }
                  : undefined,
              '& .acts': { opacity: 0.55 },
              '&:hover .acts, &:focus-within .acts': { opacity: 1 },
            }}
          >
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
              <Typography sx={{ fontSize: 14.5, fontWeight: 700, whiteSpace: 'nowrap' }}>{whenOf(own)}</Typography>
              <Box className="acts" sx={{ display: 'flex', ml: 'auto' }}>
                {own.state === 'done' && (
                  <Sign name={`Download the shipment of ${whenOf(own)} again`} size={16} onClick={() => download(zipOf(own.id))}>
                    <DownloadIcon />
                  </Sign>
                )}
                {own.state === 'done' && (
                  <Sign name={`Compare the shipment of ${whenOf(own)} with another`} size={16} onClick={() => setCompared(own.id)}>
                    <CompareArrowsIcon />
                  </Sign>
                )}
                <Sign name={`Take the shipment of ${whenOf(own)} back`} size={16} onClick={() => onTakeBack(own.id)}>
                  <UndoIcon />
                </Sign>
              </Box>
            </Box>
            <Typography variant="body2" color="text.secondary" sx={{ lineHeight: 1.25 }}>
              {summaryOf(own)}
            </Typography>
          </Box>
        ))}
      </Box>
      {compared && (
        <CompareShipments shipments={past.filter(({ state }) => state === 'done')} first={compared} onClose={() => setCompared(null)} />
      )}
    </Box>
  );
}

/** Dashes of a shipment that is on its way. */
const DASHES = 14;

function UnderWay({ shipment, onStop }: { shipment: ShipmentRow; onStop: () => void }) {
  const { done, failed, of, state, ship } = shipment;
  const made = state === 'packing' ? of : done + failed;
  const lit = (DASHES * made) / Math.max(1, of);
  return (
    <Box role="status" sx={{ border: `1px solid ${chart('rule')}`, borderRadius: 1, bgcolor: chart('card'), px: 1.2, py: 0.8, my: 0.8 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1, fontSize: 14.5 }}>
        <b>now</b>
        <Box component="span" sx={{ flex: 1, minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis' }}>
          {state === 'packing' ? 'putting clips into files' : ship.glb}
        </Box>
        <b>
          {made} of {of}
        </b>
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
        <Box
          role="progressbar"
          aria-label="Shipping"
          aria-valuemin={0}
          aria-valuemax={of}
          aria-valuenow={made}
          sx={{ display: 'flex', gap: '4px', flex: 1 }}
        >
          {Array.from({ length: DASHES }, (_, i) => (
            <Box key={i} sx={{ flex: 1, height: 5, borderRadius: 1, bgcolor: i < lit ? chart('ink') : chart('rule') }} />
          ))}
        </Box>
        <Button size="small" color="inherit" startIcon={<StopIcon />} onClick={onStop} sx={{ fontWeight: 700, minWidth: 0, py: 0 }}>
          stop
        </Button>
      </Box>
    </Box>
  );
}
