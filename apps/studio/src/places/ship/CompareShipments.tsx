'use client';
import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  Select,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from '@mui/material';
import { useState } from 'react';
import { numeral } from '@/controls/Figure';
import type { ShipmentRow } from '@/http/shipment';
import { compareReports, type FigureChange } from './compare';
import { useShipmentReport } from './use-shipments';
import { whenOf } from './words';

/** Two shipments beside each other: which clips came, went or changed, each changed figure before and after. */
export function CompareShipments({ shipments, first, onClose }: { shipments: readonly ShipmentRow[]; first: string; onClose: () => void }) {
  const at = shipments.findIndex(({ id }) => id === first);
  const [after, setAfter] = useState(first);
  const [before, setBefore] = useState((shipments[at + 1] ?? shipments[at - 1] ?? shipments[at])?.id ?? first);
  const [a, b] = [useShipmentReport(before), useShipmentReport(after)];
  const changes = a && b ? compareReports(a, b) : [];
  const shown = changes.filter(({ state }) => state !== 'same');
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="compare-title">
      <DialogTitle id="compare-title" sx={{ display: 'flex', alignItems: 'baseline', gap: 1, flexWrap: 'wrap' }}>
        From
        <When name="Earlier shipment" value={before} shipments={shipments} onChange={setBefore} />
        to
        <When name="Later shipment" value={after} shipments={shipments} onChange={setAfter} />
      </DialogTitle>
      <DialogContent>
        {a && b && shown.length === 0 && <Typography>Every clip is as it was: {changes.length} alike.</Typography>}
        {shown.length > 0 && (
          <Table size="small" aria-label="What changed">
            <TableHead>
              <TableRow>
                <TableCell>clip</TableCell>
                <TableCell>what changed, before and after</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {shown.map(({ name, state, changes: own }) => (
                <TableRow key={name}>
                  <TableCell sx={{ fontWeight: 500 }}>{name}</TableCell>
                  <TableCell>
                    {state === 'changed' ? (
                      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 2.5 }}>
                        {own.map((change) => (
                          <Box component="span" key={change.figure} sx={{ whiteSpace: 'nowrap' }}>
                            {inWords(change)}
                          </Box>
                        ))}
                      </Box>
                    ) : state === 'new' ? (
                      'it is new'
                    ) : (
                      'it is not in it any more'
                    )}
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        )}
        {shown.length > 0 && (
          <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
            {changes.length - shown.length} as they were.
          </Typography>
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}

const inWords = ({ figure, unit, digits, before, after }: FigureChange): string => {
  const said = (value: number | null) => (value === null ? '–' : numeral(value, digits));
  return `${figure} ${said(before)} → ${said(after)}${unit && ` ${unit}`}`;
};

const When = ({
  name,
  value,
  shipments,
  onChange,
}: {
  name: string;
  value: string;
  shipments: readonly ShipmentRow[];
  onChange: (id: string) => void;
}) => (
  <Select
    variant="standard"
    value={value}
    onChange={({ target }) => onChange(target.value)}
    inputProps={{ 'aria-label': name }}
    sx={{ fontSize: 'inherit' }}
  >
    {shipments.map((own) => (
      <MenuItem key={own.id} value={own.id} dense>
        {whenOf(own)}
      </MenuItem>
    ))}
  </Select>
);
