'use client';
import { Box, Dialog, DialogContent, DialogTitle, Typography } from '@mui/material';
import { KEYS } from '../controls/keys';

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="keys-title">
      <DialogTitle id="keys-title" sx={{ fontFamily: 'Alegreya' }}>
        Keys
      </DialogTitle>
      <DialogContent>
        {KEYS.map(({ where, keys }) => (
          <Box key={where} sx={{ mb: 2 }}>
            <Typography variant="h3" sx={{ mb: 0.5 }}>
              {where}
            </Typography>
            <Box component="dl" sx={{ m: 0, display: 'grid', gridTemplateColumns: '170px 1fr', rowGap: 0.4 }}>
              {keys.map(([key, does]) => [
                <Typography key={key} component="dt" variant="body2" sx={{ fontWeight: 700 }}>
                  {key}
                </Typography>,
                <Typography key={does} component="dd" variant="body2" sx={{ m: 0 }}>
                  {does}
                </Typography>,
              ])}
            </Box>
          </Box>
        ))}
      </DialogContent>
    </Dialog>
  );
}
