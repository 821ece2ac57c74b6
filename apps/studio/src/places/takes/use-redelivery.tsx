'use client';
import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  List,
  ListItemButton,
  ListItemText,
  Typography,
} from '@mui/material';
import { useCallback, useEffect, useRef, useState, type ReactNode } from 'react';
import type { TakeInfo } from '@/data/project';
import { useImportDesk } from '../../shell/ImportDesk';
import { rate } from './rate';
import { Redelivery } from './Redelivery';

/** Redelivering takes: by files dropped on one, or chosen for it, or by a take that came in already. */
export function useRedelivery(takes: readonly TakeInfo[]): {
  choose: (old: TakeInfo) => void;
  dialog: ReactNode;
} {
  const { bringIn, onTake } = useImportDesk();
  const [asked, setAsked] = useState<{ readonly old: string; readonly fresh: string | null } | null>(null);
  const drop = useCallback(
    (old: string, files: readonly File[]) => {
      setAsked(null);
      void bringIn(files).then(([fresh]) => {
        if (fresh) setAsked({ old, fresh: fresh.id });
      });
    },
    [bringIn],
  );
  useEffect(() => {
    onTake.current = drop;
    return () => {
      onTake.current = null;
    };
  }, [drop, onTake]);
  const old = takes.find(({ id }) => id === asked?.old);
  const fresh = takes.find(({ id }) => id === asked?.fresh);
  const close = () => setAsked(null);
  return {
    choose: (take) => setAsked({ old: take.id, fresh: null }),
    dialog:
      old && fresh ? (
        <Redelivery old={old} fresh={fresh} onClose={close} />
      ) : old && asked?.fresh === null ? (
        <ChooseDelivery
          old={old}
          takes={takes.filter(({ id }) => id !== old.id)}
          onFiles={(files) => drop(old.id, files)}
          onTake={(take) => setAsked({ old: old.id, fresh: take.id })}
          onClose={close}
        />
      ) : null,
  };
}

function ChooseDelivery({
  old,
  takes,
  onFiles,
  onTake,
  onClose,
}: {
  old: TakeInfo;
  takes: readonly TakeInfo[];
  onFiles: (files: readonly File[]) => void;
  onTake: (take: TakeInfo) => void;
  onClose: () => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="delivery-title">
      <DialogTitle id="delivery-title" sx={{ fontFamily: 'Alegreya' }}>
        A better solve of “{old.name}”
      </DialogTitle>
      <DialogContent>
        <Typography sx={{ mb: 1.5 }}>
          Everything made from the old take is looked for in the new one by its motion. Nothing is replaced before you accept it.
        </Typography>
        <Button variant="contained" onClick={() => input.current?.click()}>
          Choose its file…
        </Button>
        <input
          ref={input}
          type="file"
          hidden
          aria-label="New delivery"
          onChange={(event) => event.target.files?.length && onFiles([...event.target.files])}
        />
        {takes.length > 0 && (
          <Box sx={{ mt: 2 }}>
            <Typography variant="caption" color="text.secondary">
              or a take that is here already
            </Typography>
            <List dense aria-label="Takes" sx={{ maxHeight: 260, overflow: 'auto' }}>
              {takes.map((take) => (
                <ListItemButton key={take.id} onClick={() => onTake(take)}>
                  <ListItemText
                    primary={take.name}
                    secondary={`${take.passport.seconds.toFixed(1)} s, ${rate(take.passport.fps)} /s, ${take.passport.statureM.toFixed(2)} m`}
                  />
                </ListItemButton>
              ))}
            </List>
          </Box>
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
      </DialogActions>
    </Dialog>
  );
}
