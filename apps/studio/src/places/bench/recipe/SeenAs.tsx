'use client';
import { aboutStep, type RecipeStep } from '@lantern/motion';
import { Box } from '@mui/material';
import { Choose } from '@/controls/fields';
import { useCorrecting } from '@/data/correcting';
import type { Ghost } from '@/data/seen';

/** How the recipe is looked at: over which other state of it, and whether one of its steps is seen by itself. */
export function SeenAs({ steps }: { steps: readonly RecipeStep[] }) {
  const { ghost, only } = useCorrecting();
  const on = steps.filter(({ off }) => !off);
  if (on.length === 0) return null;
  const ghosts: Record<string, string> = { '': 'nothing', captured: 'as captured' };
  for (const step of on) ghosts[`up to ${step.id}`] = `as far as ${titleOf(step)}`;
  for (const step of on) ghosts[`without ${step.id}`] = `without ${titleOf(step)}`;
  const alone: Record<string, string> = { '': 'all steps' };
  for (const step of on) alone[step.id] = `${titleOf(step)} alone`;
  const now = keyOf(ghost);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'auto minmax(0, 1fr)', alignItems: 'center', px: 0.8 }}>
      <Choose
        label="shown"
        value={only !== null && only in alone ? only : ''}
        options={alone}
        onChange={(id) => useCorrecting.setState({ only: id === '' ? null : id })}
      />
      <Choose
        label="over a ghost of"
        value={now in ghosts ? now : ''}
        options={ghosts}
        onChange={(key) => useCorrecting.setState({ ghost: ghostOf(key) })}
      />
    </Box>
  );
}

/** With the number of a second one of its kind. */
const titleOf = ({ kind, id }: RecipeStep): string => aboutStep(kind).title + (/-\d+$/.exec(id)?.[0].replace('-', ' ') ?? '');

const keyOf = (ghost: Ghost | null): string => (ghost === null ? '' : ghost.how === 'captured' ? 'captured' : `${ghost.how} ${ghost.id}`);

function ghostOf(key: string): Ghost | null {
  if (key === '') return null;
  if (key === 'captured') return { how: 'captured' };
  const how = key.startsWith('up to ') ? 'up to' : 'without';
  return { how, id: key.slice(how.length + 1) };
}
