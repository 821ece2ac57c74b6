'use client';
import EditIcon from '@mui/icons-material/EditOutlined';
import ExpandMoreIcon from '@mui/icons-material/ExpandMore';
import { Box, Button, ButtonBase, FormControlLabel, Switch, Typography } from '@mui/material';
import { useState, type ReactNode } from 'react';
import { chart } from '@/controls/theme';

/** A line that opens on its reason and on what overrules it. */
export function Line({
  label,
  value,
  note,
  reason,
  isSet = false,
  onReset,
  children,
}: {
  label: string;
  value: string;
  note?: string;
  reason: string;
  isSet?: boolean;
  onReset?: () => void;
  children?: ReactNode;
}) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Box sx={{ borderBottom: `1px solid ${chart('rule')}` }}>
      <ButtonBase
        disableRipple
        aria-expanded={isOpen}
        title={reason}
        onClick={() => setOpen(!isOpen)}
        sx={{
          width: '100%',
          display: 'grid',
          gridTemplateColumns: '66px auto 1fr 16px',
          gap: 1,
          py: '3px',
          textAlign: 'left',
          fontFamily: 'inherit',
          '&:hover': { bgcolor: chart('card') },
        }}
      >
        <Typography variant="body2" color="text.secondary">
          {label}
        </Typography>
        <Typography variant="body2" sx={{ fontWeight: 700, whiteSpace: 'nowrap' }}>
          {value}
        </Typography>
        <Typography variant="body2" color="text.secondary" noWrap sx={{ textAlign: 'right' }}>
          {isSet && <EditIcon aria-label="overruled" sx={{ fontSize: 14, verticalAlign: 'text-bottom', mr: 0.4 }} />}
          {note}
        </Typography>
        <ExpandMoreIcon aria-hidden sx={{ color: 'text.secondary', fontSize: 16, transform: isOpen ? 'none' : 'rotate(-90deg)' }} />
      </ButtonBase>
      {isOpen && (
        <Box sx={{ pb: 1, pl: '74px', display: 'grid', gap: 1.5, justifyItems: 'start' }}>
          <Typography variant="body2" color="text.secondary">
            {reason}
          </Typography>
          {children}
          {isSet && onReset && (
            <Button variant="outlined" color="inherit" sx={{ py: 0 }} onClick={onReset}>
              as found
            </Button>
          )}
        </Box>
      )}
    </Box>
  );
}

export function Toggle({ label, isOn, onChange }: { label: string; isOn: boolean; onChange: (isOn: boolean) => void }) {
  return (
    <FormControlLabel
      control={<Switch size="small" checked={isOn} onChange={(_, on) => onChange(on)} />}
      label={<Typography variant="body2">{label}</Typography>}
      sx={{ ml: -0.6 }}
    />
  );
}
