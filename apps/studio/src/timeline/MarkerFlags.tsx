'use client';
import { Box, ButtonBase, Button, Popover, TextField } from '@mui/material';
import { useState } from 'react';
import type { Marker } from '@lantern/motion';
import { chart } from '@/controls/theme';

/** Named instants as small flags over the ruler: a click goes there, a second one names it or takes it away. */
export function MarkerFlags({
  markers,
  x,
  from,
  to,
  bottom = 0,
  at,
  onGo,
  onMarkers,
}: {
  markers: readonly Marker[];
  x: (frame: number) => number;
  from: number;
  to: number;
  /** Pixels from the lower edge of what they lie over. */
  bottom?: number;
  /** The frame of the take that is shown, and what shows one. */
  at: () => number;
  onGo: (frame: number) => void;
  onMarkers: (markers: readonly Marker[]) => void;
}) {
  const [open, setOpen] = useState<{ frame: number; anchor: HTMLElement } | null>(null);
  const marker = markers.find(({ frame }) => frame === open?.frame);
  return (
    <>
      {markers
        .filter(({ frame }) => x(frame) >= from - 1 && x(frame) <= to + 1)
        .map(({ frame, name }) => (
          <ButtonBase
            key={frame}
            disableRipple
            aria-label={`Marker ${name}, frame ${frame}`}
            onClick={(event) => {
              const { currentTarget } = event;
              if (Math.round(at()) === frame) setOpen({ frame, anchor: currentTarget });
              else onGo(frame);
            }}
            sx={{
              position: 'absolute',
              left: x(frame),
              bottom,
              height: 16,
              maxWidth: 120,
              px: 0.6,
              fontFamily: 'inherit',
              fontSize: 12,
              bgcolor: chart('card'),
              border: `1px solid ${chart('ink')}`,
              borderLeftWidth: 2,
              color: 'text.primary',
            }}
          >
            <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
              {name}
            </Box>
          </ButtonBase>
        ))}
      <Popover
        open={marker !== undefined}
        anchorEl={open?.anchor}
        onClose={() => setOpen(null)}
        slotProps={{ paper: { sx: { p: 1.5, display: 'flex', gap: 1 } } }}
      >
        {marker && (
          <>
            <TextField
              autoFocus
              label="Marker"
              defaultValue={marker.name}
              onKeyDown={(event) => {
                if (event.key !== 'Enter' || !(event.target instanceof HTMLInputElement)) return;
                // The flag has the focus again at once: the same stroke would press it.
                event.preventDefault();
                const name = event.target.value.trim().slice(0, 60);
                if (name) onMarkers(markers.map((m) => (m.frame === marker.frame ? { ...m, name } : m)));
                setOpen(null);
              }}
            />
            <Button
              color="inherit"
              onClick={() => {
                onMarkers(markers.filter((m) => m.frame !== marker.frame));
                setOpen(null);
              }}
            >
              take away
            </Button>
          </>
        )}
      </Popover>
    </>
  );
}
