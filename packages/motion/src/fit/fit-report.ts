import { sinkCm, slides, type Slide } from '../measure/slide';
import { forwardKinematics } from '../model/kinematics';
import type { Fitted } from './fit-motion';
import { beyondLimits, type BeyondLimit } from './joint-limits';
import { soleTracks } from './sole-tracks';

/** What came of a fit, measured on the target. */
export interface FitReport {
  readonly seconds: number;
  readonly contacts: number;
  /** The worst foot slide of a contact, centimetres, and the frame in its middle. */
  readonly slideCm: number;
  readonly slideFrame: number;
  readonly sinkCm: number;
  /** How far a hand stays off the place it was to keep, centimetres. */
  readonly reachCm: number;
  readonly limits: readonly BeyondLimit[];
}

/** @param start the frame at which the motion begins, where frames are counted from */
export function fitReport({ motion, plan, contacts, groundM, lacks }: Fitted, start = 0): FitReport {
  const globals = forwardKinematics(motion);
  const soles = soleTracks(plan.character, globals, groundM);
  const all = slides(soles, contacts);
  const worst = all.reduce<Slide | null>((a, b) => (a && a.excursionCm >= b.excursionCm ? a : b), null);
  return {
    seconds: (motion.frames - 1) / motion.fps,
    contacts: all.length,
    slideCm: worst?.excursionCm ?? 0,
    slideFrame: worst ? start + Math.floor((worst.from + worst.to) / 2) : 0,
    sinkCm: sinkCm(soles),
    reachCm: 100 * Math.max(0, ...Object.values(lacks)),
    limits: beyondLimits(plan, globals).map((limit) => ({ ...limit, frame: start + limit.frame })),
  };
}

/** How bad a report is, for putting the worst first: each figure against what is still good. */
export const fitTrouble = ({ slideCm, sinkCm: sink, reachCm, limits }: FitReport): number =>
  Math.max(slideCm / 0.2, sink / 0.5, reachCm / 1, (limits[0]?.degrees ?? 0) / 10);

/** Of the stretches of one take: the worst of each figure. */
export function worstOf(reports: readonly FitReport[]): FitReport {
  const slid = reports.reduce((a, b) => (b.slideCm > a.slideCm ? b : a));
  const limits = new Map<string, FitReport['limits'][number]>();
  for (const limit of reports.flatMap((report) => report.limits)) {
    if (limit.degrees > (limits.get(limit.part)?.degrees ?? 0)) limits.set(limit.part, limit);
  }
  return {
    seconds: reports.reduce((sum, { seconds }) => sum + seconds, 0),
    contacts: reports.reduce((sum, { contacts }) => sum + contacts, 0),
    slideCm: slid.slideCm,
    slideFrame: slid.slideFrame,
    sinkCm: Math.max(...reports.map(({ sinkCm: sink }) => sink)),
    reachCm: Math.max(...reports.map(({ reachCm }) => reachCm)),
    limits: [...limits.values()].sort((a, b) => b.degrees - a.degrees),
  };
}
