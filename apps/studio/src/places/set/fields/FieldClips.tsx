import { Box, Checkbox, FormControlLabel, Popover, Typography } from '@mui/material';
import type { SetView } from '@/data/set-view';
import type { FieldDoc } from '@/data/sets-store';
import type { OpenField } from './use-field';

interface Props {
  /** Where it opens; null while it is closed. */
  readonly anchor: HTMLElement | null;
  readonly onClose: () => void;
  readonly field: FieldDoc;
  readonly view: SetView;
  readonly open: OpenField;
  readonly put: (change: Partial<FieldDoc>) => void;
}

/** Which loops a field blends, and why one that was chosen does not come into step. */
export function FieldClips({ anchor, onClose, field, view, open, put }: Props) {
  const { traits, members } = view;
  const loops = members.filter(({ doc: { id } }) => traits.get(id)?.figures.loop && traits.get(id)?.kind !== 'idle');
  const why = new Map(open.view?.left.map(({ id, why: text }) => [id, text]));
  return (
    <Popover
      open={anchor !== null}
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
      transformOrigin={{ vertical: 'top', horizontal: 'right' }}
    >
      <Box sx={{ p: 1.5, display: 'grid', maxHeight: 360, overflow: 'auto' }} role="group" aria-label="Clips of the field">
        {loops.map(({ doc: { id, name } }) => (
          <FormControlLabel
            key={id}
            label={
              <span>
                {name}
                {why.has(id) && (
                  <Typography component="span" variant="caption" sx={{ ml: 1 }}>
                    ▲ {why.get(id)}
                  </Typography>
                )}
              </span>
            }
            control={
              <Checkbox
                size="small"
                color="default"
                checked={field.clips.includes(id)}
                onChange={(_, on) => put({ clips: on ? [...field.clips, id] : field.clips.filter((own) => own !== id) })}
                sx={{ p: 0.4 }}
              />
            }
          />
        ))}
      </Box>
    </Popover>
  );
}
