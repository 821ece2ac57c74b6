'use client';
import { aboutStep, type RecipeStep, type StepReport } from '@lantern/motion';
import CloseIcon from '@mui/icons-material/Close';
import GhostIcon from '@mui/icons-material/Compare';
import { Box, Switch, Typography } from '@mui/material';
import { createContext, useContext, type ReactNode } from 'react';
import { BOUNDS, isOut } from '@/data/bounds';
import { FigureValue, numeral } from './Figure';
import { FoldButton, useFold } from './folds';
import { Sign } from './Sign';
import { chart } from './theme';

/** What a recipe gives the card of one of its steps. */
export interface AboutCard {
  readonly report: StepReport | null;
  /** Takes the step out of the recipe; null where it cannot be. */
  readonly remove: (() => void) | null;
  /** The clip without the step is seen as a ghost; null where that cannot be. */
  readonly ghost?: { readonly isOn: boolean; readonly toggle: () => void } | null;
}

export const CardContext = createContext<AboutCard>({ report: null, remove: null });

/** A step of the recipe: its switch, its figure, and, unfolded, its controls in two columns. */
export function StepCard<Step extends RecipeStep>({
  step,
  figure,
  onChange,
  children,
}: {
  step: Step;
  /** In place of what the step reports. */
  figure?: ReactNode;
  /** Switched on or off. */
  onChange: (step: Step) => void;
  children: ReactNode;
}) {
  const { report, remove, ghost } = useContext(CardContext);
  const { title } = aboutStep(step.kind);
  const [isOpen, setOpen] = useFold(foldOf(step), false);
  const shows = isOpen && !step.off;
  return (
    <Box
      component="section"
      aria-label={`${title} step`}
      sx={{
        border: `1px solid ${chart('rule')}`,
        borderRadius: 1,
        bgcolor: chart('card'),
        px: 0.8,
        py: 0.3,
        minWidth: 0,
        containerType: 'inline-size',
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.4, minWidth: 0 }}>
        <FoldButton name={`${title} step`} isOpen={shows} disabled={step.off} onChange={setOpen} />
        <Typography
          variant="h3"
          noWrap
          onClick={() => !step.off && setOpen(!isOpen)}
          sx={{ flex: 1, opacity: step.off ? 0.6 : 1, cursor: step.off ? 'default' : 'pointer' }}
        >
          {title}
        </Typography>
        {step.off ? (
          <Typography variant="body2" color="text.secondary">
            off
          </Typography>
        ) : (
          (figure ?? (report && <Reported report={report} isTight={Boolean(ghost && shows)} />))
        )}
        <Switch
          size="small"
          checked={!step.off}
          onChange={(_, on) => onChange({ ...step, off: on ? undefined : true })}
          slotProps={{ input: { 'aria-label': `${title} step on` } }}
          color="default"
          sx={{ mr: -0.5, flexShrink: 0 }}
        />
        {ghost && shows && (
          <Sign name={`See the clip without the ${title.toLowerCase()} step as a ghost`} pressed={ghost.isOn} onClick={ghost.toggle}>
            <GhostIcon sx={{ color: ghost.isOn ? chart('lampText') : undefined }} />
          </Sign>
        )}
        {remove && (
          <Sign name={`Remove the ${title.toLowerCase()} step`} onClick={remove}>
            <CloseIcon />
          </Sign>
        )}
      </Box>
      {shows && (
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: 'auto minmax(0, 1fr)',
            alignItems: 'center',
            columnGap: 1.5,
            pl: 0.5,
            pt: 0.3,
            pb: 0.5,
          }}
        >
          {children}
        </Box>
      )}
    </Box>
  );
}

/** What a card's fold is remembered by. */
export const foldOf = ({ id }: Pick<RecipeStep, 'id'>): string => `step ${id}`;

/** A step's figure before it and after it. @param isTight what it is called gives way to the card's signs in a narrow column */
function Reported({ report: { label, unit, digits, figure, before, after }, isTight }: { report: StepReport; isTight: boolean }) {
  const out = figure !== undefined && after !== null && isOut(figure, after);
  return (
    <Typography variant="body2" component="span" color="text.secondary" noWrap sx={{ flexShrink: 0 }}>
      <Box component="span" sx={isTight ? { '@container (max-width: 290px)': { display: 'none' } } : undefined}>
        {label}&nbsp;
      </Box>
      {before !== null && after !== null && numeral(before, digits) !== numeral(after, digits) && (
        // In a narrow column what it is now matters more than what it was.
        <Box component="span" sx={{ '@container (max-width: 290px)': { display: 'none' } }}>
          {numeral(before, digits)} →{' '}
        </Box>
      )}
      <Box component="span" sx={{ color: 'text.primary' }}>
        <FigureValue value={after} unit={unit} digits={digits} out={out} todo={out && figure ? BOUNDS[figure].todo : undefined} />
      </Box>
    </Typography>
  );
}
