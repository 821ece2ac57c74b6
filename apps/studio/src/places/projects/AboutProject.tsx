'use client';
import { zodResolver } from '@hookform/resolvers/zod';
import { Button, Dialog, DialogActions, DialogContent, DialogTitle, MenuItem, TextField, Typography } from '@mui/material';
import { useForm } from 'react-hook-form';
import { newProjectInput, PROJECT_RATES, type NewProjectInput } from '@/data/projects';

interface Props {
  /** What it is now; a new one has none yet. */
  readonly known?: NewProjectInput;
  readonly isBusy: boolean;
  readonly onDone: (input: NewProjectInput) => void;
  readonly onClose: () => void;
}

/** What a project is called, whose motion it is, and, while it is new, the rate of its clips. */
export function AboutProject({ known, isBusy, onDone, onClose }: Props) {
  const { register, handleSubmit, formState } = useForm({
    resolver: zodResolver(newProjectInput),
    defaultValues: known ?? { name: '', character: '', fps: 60 },
  });
  const { errors } = formState;
  return (
    <Dialog open onClose={onClose} aria-labelledby="about-project" fullWidth maxWidth="xs">
      <form onSubmit={(event) => void handleSubmit(onDone)(event)} noValidate>
        <DialogTitle id="about-project">{known ? `Rename ${known.name}` : 'A new project'}</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
          <TextField
            {...register('name')}
            label="Name"
            autoFocus
            error={errors.name !== undefined}
            helperText={errors.name?.message}
            slotProps={{ formHelperText: { role: 'alert' } }}
          />
          <TextField
            {...register('character')}
            label="Character"
            error={errors.character !== undefined}
            helperText={errors.character?.message ?? 'Who moves in it. New clips are named after them.'}
          />
          {!known && (
            <TextField
              {...register('fps', { valueAsNumber: true })}
              select
              defaultValue={60}
              label="Frames a second"
              helperText="Takes are brought to this rate. It stays: cuts are made in its frames."
            >
              {PROJECT_RATES.map((rate) => (
                <MenuItem key={rate} value={rate}>
                  {rate}
                </MenuItem>
              ))}
            </TextField>
          )}
          {!known && (
            <Typography variant="body2" color="text.secondary">
              Wick and Tallow come with it, to fit takes to.
            </Typography>
          )}
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Leave it
          </Button>
          <Button type="submit" variant="contained" disabled={isBusy}>
            {known ? 'Rename' : 'Begin'}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
