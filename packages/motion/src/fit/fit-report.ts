import { onTheWay } from '../measure/groundwork';
import { hingeKinks, worstKink, type Kink } from '../measure/kink';
import { likeness, type Likeness } from '../measure/likeness';
import { hoverCm, sinkCm, slides, type Slide } from '../measure/slide';
import { forwardKinematics } from '../model/kinematics';
import type { Fitted } from './fit-motion';
import { seatDepths, seatPoints } from './body-out';
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
  /** Highest that a bearing foot is over the ground. */
  readonly hoverCm: number;
  /** How far the body is from the source's, made as large, and how much knees and elbows are kinked over the source's. */
  readonly likeness: Likeness | null;
  readonly kink: Kink | null;
  /** Deepest that hips, back or thighs are in the floor, and the frame. */
  readonly seatCm: number;
  readonly seatFrame: number;
  /** How far a hand stays off the place it was to keep, centimetres. */
  readonly reachCm: number;
  readonly limits: readonly BeyondLimit[];
}

/**
 * @param start the frame at which the motion begins, where frames are counted from
 *
 * @example
 * fitReport(fitMotion(motion, character, settings)).slideCm < 0.2; // true
 */
export function fitReport({ motion, source, plan, contacts, groundM, lacks, belt }: Fitted, start = 0): FitReport {
  const globals = forwardKinematics(belt ? onTheWay(motion, belt) : motion);
  const soles = soleTracks(plan.character, globals, groundM);
  const depths = seatDepths(globals, seatPoints(plan.character), plan.targetBody.hips, groundM);
  const deepest = depths.reduce((best, depth, f) => (depth > depths[best] ? f : best), 0);
  const from = forwardKinematics(source);
  const alike = likeness({ globals, body: plan.targetBody }, { globals: from, body: plan.sourceBody }, (f) => f, plan.legRatio);
  const kink = worstKink(hingeKinks(globals, plan.targetBody, motion.fps), hingeKinks(from, plan.sourceBody, source.fps));
  const all = slides(soles, contacts);
  const worst = all.reduce<Slide | null>((a, b) => (a && a.excursionCm >= b.excursionCm ? a : b), null);
  return {
    seconds: (motion.frames - 1) / motion.fps,
    contacts: all.length,
    slideCm: worst?.excursionCm ?? 0,
    slideFrame: worst ? start + Math.floor((worst.from + worst.to) / 2) : 0,
    sinkCm: sinkCm(soles),
    hoverCm: hoverCm(soles, contacts),
    seatCm: 100 * depths[deepest],
    seatFrame: start + deepest,
    likeness: alike && { ...alike, worstFrame: start + alike.worstFrame },
    kink: kink && { ...kink, frame: start + kink.frame },
    reachCm: 100 * Math.max(0, ...Object.values(lacks)),
    limits: beyondLimits(plan, globals).map((limit) => ({ ...limit, frame: start + limit.frame })),
  };
}

/**
 * How bad a report is, for putting the worst first: each figure against what is still good.
 *
 * @example
 * fitTrouble(fitReport(fitMotion(motion, character, settings))) < 1; // true
 */
export const fitTrouble = ({ slideCm, sinkCm: sink, hoverCm: hover = 0, reachCm, limits, kink }: FitReport): number =>
  Math.max(slideCm / 0.2, sink / 0.5, hover / 1, reachCm / 1, (limits[0]?.degrees ?? 0) / 10, (kink?.ratio ?? 0) / 2);

/** Of the stretches of one take: the worst of each figure. */
export function worstOf(reports: readonly FitReport[]): FitReport {
  const slid = reports.reduce((a, b) => (b.slideCm > a.slideCm ? b : a));
  const seated = reports.reduce((a, b) => (b.seatCm > a.seatCm ? b : a));
  const alike = reports.map(({ likeness: own }) => own).filter((own) => own !== null);
  const worstLike = alike.reduce((a, b) => (b.worstCm > a.worstCm ? b : a), alike[0]);
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
    hoverCm: Math.max(...reports.map(({ hoverCm: hover }) => hover)),
    seatCm: seated.seatCm,
    seatFrame: seated.seatFrame,
    likeness: alike.length > 0 ? { ...worstLike, medianCm: alike.reduce((sum, { medianCm }) => sum + medianCm, 0) / alike.length } : null,
    kink: reports.reduce<Kink | null>((worst, { kink }) => (kink && (!worst || kink.ratio > worst.ratio) ? kink : worst), null),
    reachCm: Math.max(...reports.map(({ reachCm }) => reachCm)),
    limits: [...limits.values()].sort((a, b) => b.degrees - a.degrees),
  };
}
