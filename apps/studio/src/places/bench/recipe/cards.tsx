'use client';
import type { StepKind } from '@lantern/motion';
import type { ReactNode } from 'react';
import { lazily } from '@/controls/lazily';
import { CorrectionsCard } from '../layers/CorrectionsCard';
import { RetimeCard } from '../retime/RetimeCard';
import { BetweenCard } from './BetweenCard';
import { CleanCard } from './CleanCard';
import { ClearanceCard } from './ClearanceCard';
import { DelayCard } from './DelayCard';
import { EvenOutCard } from './EvenOutCard';
import { ExactDistanceCard, ExactTurnCard } from './ExactCards';
import { ExtendCard } from './ExtendCard';
import { FitCard } from './FitCard';
import { FloorCard } from './FloorCard';
import { FootLockCard } from './FootLockCard';
import { HandLockCard } from './HandLockCard';
import { HandsCard } from './HandsCard';
import { HipsCard } from './HipsCard';
import { LoopCard } from './LoopCard';
import { MeetHomeCard } from './MeetHomeCard';
import { MirrorCard } from './MirrorCard';
import { PathCard } from './PathCard';
import { SpeedCard } from './SpeedCard';
import { ThinCard } from './ThinCard';
import type { CardProps } from './card-props';

// Charts are read when they are shown.
const TypicalCycleCard = lazily(async () => (await import('./TypicalCycleCard')).TypicalCycleCard);
const TravelCard = lazily(async () => (await import('./TravelCard')).TravelCard);

type Cards = { readonly [Kind in StepKind]: (props: CardProps<Kind>) => ReactNode };

/** The card of every kind of step. */
const CARDS: Cards = {
  clean: CleanCard,
  fit: FitCard,
  floor: FloorCard,
  'typical-cycle': TypicalCycleCard,
  mirror: MirrorCard,
  loop: LoopCard,
  'even-out': EvenOutCard,
  speed: SpeedCard,
  extend: ExtendCard,
  path: PathCard,
  'exact-turn': ExactTurnCard,
  'exact-distance': ExactDistanceCard,
  between: BetweenCard,
  hips: HipsCard,
  delay: DelayCard,
  hands: HandsCard,
  clearance: ClearanceCard,
  'foot-lock': FootLockCard,
  'hand-lock': HandLockCard,
  'meet-home': MeetHomeCard,
  corrections: CorrectionsCard,
  travel: TravelCard,
  retime: RetimeCard,
  thin: ThinCard,
};

export function Card<Kind extends StepKind>(props: CardProps<Kind>) {
  return CARDS[props.step.kind as Kind](props);
}
