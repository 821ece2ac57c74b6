import type { StepKind, StepOfKind } from '@lantern/motion';
import type { AboutRecipe } from './use-about-recipe';

/** What the card of a step is given. */
export interface CardProps<Kind extends StepKind> {
  readonly step: StepOfKind<Kind>;
  readonly about: AboutRecipe;
  readonly onChange: (step: StepOfKind<Kind>) => void;
}
