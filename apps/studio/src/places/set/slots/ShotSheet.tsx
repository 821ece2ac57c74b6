'use client';
import type { Shot } from '@lantern/motion';
import { Box, Button, Dialog, DialogActions, DialogContent, GlobalStyles, Typography } from '@mui/material';
import type { SetDoc } from '@/data/sets-store';
import { Sketch } from '@/controls/Sketch';

/** The shot list on paper, to be pinned up at the floor: one shot a line, large, with boxes to tick. */
export function ShotSheet({ doc, shots, onClose }: { doc: SetDoc; shots: readonly Shot[]; onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="sheet-title">
      <GlobalStyles
        styles={{
          '@media print': {
            'body *': { visibility: 'hidden' },
            '#shot-sheet, #shot-sheet *': { visibility: 'visible' },
            '#shot-sheet': { position: 'fixed', inset: 0, background: '#fff', color: '#000' },
          },
        }}
      />
      <DialogContent>
        <Box id="shot-sheet" sx={{ p: 2 }}>
          <Typography id="sheet-title" sx={{ fontFamily: 'Alegreya', fontSize: 26 }}>
            Shot list, {doc.name}
          </Typography>
          <Typography color="text.secondary" sx={{ mb: 1.5 }}>
            {shots.length} {shots.length === 1 ? 'shot' : 'shots'}. Calibrate first; stand still a second before and after each.
          </Typography>
          {shots.map(({ id, number, text, gives, sketch, done }) => (
            <Box
              key={id}
              sx={{
                display: 'grid',
                gridTemplateColumns: '28px 34px 1fr 190px',
                gap: 1.5,
                alignItems: 'center',
                borderTop: '1px solid',
                borderColor: 'divider',
                py: 1,
              }}
            >
              <Box sx={{ width: 20, height: 20, border: '1.5px solid currentColor', textAlign: 'center', lineHeight: '18px' }}>
                {done ? '✓' : ''}
              </Box>
              <Typography sx={{ fontWeight: 700, fontSize: 20 }}>{number}</Typography>
              <Box>
                <Typography sx={{ fontSize: 18, lineHeight: 1.25 }}>{text}</Typography>
                {gives && (
                  <Typography variant="caption" color="text.secondary">
                    {gives}
                  </Typography>
                )}
              </Box>
              <Box>{sketch && <Sketch sketch={sketch} width={190} height={52} />}</Box>
            </Box>
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
        <Button variant="contained" onClick={() => window.print()} autoFocus>
          Print the sheet
        </Button>
      </DialogActions>
    </Dialog>
  );
}
