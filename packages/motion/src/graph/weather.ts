import {
  ANSWERS,
  METERS,
  NO_ANSWER,
  playMeters,
  setPlayer,
  STEP,
  type AnswerKind,
  type CapsuleRules,
  type Meter,
  type PlayMeters,
  type PlaySet,
  type SetPlayer,
} from '@lantern/drive';
import { scriptPlayer, type PlayScript, type ScriptPlayer } from './script';
import { STICKS, stickScript, type Stick } from './sticks';
import { triesOf, type Try } from './tries';

/** What play may come to at the most: cm, cm, frames, cm. */
export const PLAY_BOUNDS: Readonly<Record<Meter, number>> = { slide: 0.5, pop: 2, answer: 12, gap: 15 };
/** How a capsule leads where the contract does not say. */
export const CAPSULE: CapsuleRules = { acceleration: 12, deceleration: 16, springSeconds: 0.12, mostMetres: 0.15 };

/** The worst of one figure at one transition, and how to get there again. */
export interface Finding {
  readonly figure: Meter;
  readonly value: number;
  /** Of an answer: what was asked. */
  readonly answer: AnswerKind | null;
  /** Seconds from the beginning of all that was played. */
  readonly at: number;
  readonly how: Stick | 'try' | 'recorded';
  readonly seed: number;
  /** The states that the last transition led from and to; '' where none had started. */
  readonly from: string;
  readonly to: string;
  /** By its place in the graph; −1 where none had started. */
  readonly transition: number;
  /** Where the transition left its state. */
  readonly phase: number;
  readonly joint: string;
  /** The clip that counted most, and its frame, from 0. */
  readonly clip: string;
  readonly frame: number;
  /** What was asked; played to the step it is there again to the bit. */
  readonly script: PlayScript;
  readonly step: number;
}

export interface Weather {
  readonly minutes: number;
  readonly seed: number;
  /** Inputs that changed, and transitions tried. */
  readonly changes: number;
  readonly transitions: number;
  readonly seconds: number;
  readonly worst: Readonly<Record<Meter, number>>;
  /** The longest answer of each kind; 0 where it was not asked. */
  readonly answers: Readonly<Record<AnswerKind, number>>;
  /** The worst of each figure at each transition: pops first, then slides, answers, gaps, the worst of each first. */
  readonly findings: readonly Finding[];
}

export interface WeatherOptions {
  readonly minutes: number;
  readonly seed: number;
  readonly capsule?: CapsuleRules;
  /** Scripts that somebody has played. */
  readonly recorded?: readonly PlayScript[];
}

/** Seconds of a history of what is asked. */
const HISTORY = 30;

/**
 * A set played unattended: histories of what is asked by a seed, and every transition from every phase. The same seed, the same findings to the bit.
 *
 * @example
 * roughWeather(set, { minutes: 0.5, seed: 1 }).worst.slide < 0.5; // true
 */
export function roughWeather(set: PlaySet, options: WeatherOptions): Weather {
  const steps = roughWeatherSteps(set, options);
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

/** The same bit by bit, for whoever has to do other things in between: it says how much of it is done, 0 to 1. */
export function* roughWeatherSteps(
  set: PlaySet,
  { minutes, seed, capsule = CAPSULE, recorded = [] }: WeatherOptions,
): Generator<number, Weather, void> {
  const players = { root: open(set), capsule: open(set, capsule) };
  const found = new Map<string, Finding>();
  const worst: Record<Meter, number> = { slide: 0, pop: 0, answer: 0, gap: 0 };
  const answers = Object.fromEntries(ANSWERS.map((kind) => [kind, 0])) as Record<AnswerKind, number>;
  let changes = 0,
    transitions = 0,
    steps = 0;
  const watch = (script: PlayScript, how: Finding['how'], own: number): void => {
    const { player, meters, scripts } = players[script.led];
    scripts.begin(script);
    meters.forget();
    meters.read();
    let [started, phase] = [0, NaN];
    let before = player.at();
    while (scripts.step()) {
      meters.read();
      steps++;
      if (player.started() > started) {
        transitions += player.started() - started;
        started = player.started();
        phase = before;
      }
      before = player.at();
      const answered = meters.answered();
      if (answered >= 0) answers[ANSWERS[answered]] = Math.max(answers[ANSWERS[answered]], meters.now[ANSWER]);
      for (let k = 0; k < METERS.length; k++) {
        const figure = METERS[k];
        if (k === ANSWER && answered < 0) continue;
        const value = meters.now[k];
        worst[figure] = Math.max(worst[figure], value);
        const key = `${figure} ${k === ANSWER ? ANSWERS[answered] : ''} ${player.transition()}`;
        const known = found.get(key);
        if (value <= (known ? known.value : 0)) continue;
        found.set(key, {
          ...place(set, player),
          figure,
          value,
          answer: k === ANSWER ? ANSWERS[answered] : null,
          at: steps * STEP,
          how,
          seed: own,
          phase,
          joint: figure === 'pop' ? set.skeleton.names[meters.joint()] : '',
          script,
          step: scripts.at(),
        });
      }
    }
    changes += script.changes.length;
  };
  const histories = Math.max(1, Math.round((minutes * 60) / HISTORY));
  const tries: Try[] = set.graph.transitions.flatMap((_, i) => triesOf(set.graph, i));
  const of = histories * (HISTORY / STEP) + tries.reduce((sum, { script }) => sum + script.steps, 0);
  for (let i = 0; i < histories; i++) {
    const stick = STICKS[i % STICKS.length];
    const own = seed * 1000 + i;
    watch(stickScript(set.graph, stick, own, (minutes * 60) / histories, i % 2 === 0 ? 'root' : 'capsule'), stick, own);
    yield steps / of;
  }
  for (const script of recorded) watch(script, 'recorded', 0);
  for (const [i, { script }] of tries.entries()) {
    watch(script, 'try', seed);
    if (i % 8 === 0) yield steps / of;
  }
  const rank = ({ figure }: Finding) => RANKS.indexOf(figure);
  const findings = [...found.values()].sort((a, b) => rank(a) - rank(b) || b.value - a.value || a.at - b.at);
  return { minutes, seed, changes: changes + tries.length, transitions, seconds: steps * STEP, worst, answers, findings };
}

const ANSWER = METERS.indexOf('answer');
const RANKS: readonly Meter[] = ['pop', 'slide', 'answer', 'gap'];

interface Opened {
  readonly player: SetPlayer;
  readonly meters: PlayMeters;
  readonly scripts: ScriptPlayer;
}

function open(set: PlaySet, capsule?: CapsuleRules): Opened {
  const player = setPlayer(set, { capsule });
  return { player, meters: playMeters(set, player), scripts: scriptPlayer(set.graph, player, STEP) };
}

/** Where a player is: the clip that counts most, its frame, and what led there. */
function place(set: PlaySet, player: SetPlayer): Pick<Finding, 'from' | 'to' | 'transition' | 'clip' | 'frame'> {
  const { states } = set.graph;
  const clip = player.clip();
  return {
    from: player.left() < 0 ? '' : states[player.left()].name,
    to: states[player.state()].name,
    transition: player.transition(),
    clip: clip.name,
    frame: Math.round(player.clipSeconds() * clip.fps),
  };
}

/** What came of trying a transition from one phase. */
export interface Tried {
  readonly phase: number;
  readonly popCm: number;
  readonly slideCm: number;
  /** Frames; 0 where nothing was asked that has an answer. */
  readonly answer: number;
  /** It has not started within the time of the try. */
  readonly isMissing: boolean;
  readonly script: PlayScript;
  /** The step at which it popped most. */
  readonly step: number;
  readonly joint: string;
}

/** Tries transitions of a set. */
export interface Tester {
  /** The worst of each phase, in the order of the phases. */
  try(transition: number): Tried[];
}

/**
 * @example
 * const tried = tester(set);
 * set.graph.transitions.map((_, i) => Math.max(...tried.try(i).map(({ popCm }) => popCm))); // []
 */
export function tester(set: PlaySet): Tester {
  const { player, meters, scripts } = open(set);
  return {
    try(transition) {
      const byPhase = new Map<number, Tried>();
      for (const { phase, script } of triesOf(set.graph, transition)) {
        scripts.begin(script);
        meters.forget();
        meters.read();
        let [started, popCm, slideCm, answer, step, joint] = [0, 0, 0, 0, 0, 0];
        while (scripts.step()) {
          meters.read();
          if (player.started() > 0 && started === 0) {
            if (player.transition() !== transition) break;
            started = scripts.at();
          }
          // What comes after another transition is not this one's.
          if (player.started() > 1) break;
          if (started === 0) continue;
          if (meters.now[POP] > popCm) {
            popCm = meters.now[POP];
            step = scripts.at();
            joint = meters.joint();
          }
          slideCm = Math.max(slideCm, meters.now[SLIDE]);
          if (meters.answered() >= 0 && meters.now[ANSWER] < NO_ANSWER) answer = Math.max(answer, meters.now[ANSWER]);
        }
        const own: Tried = { phase, popCm, slideCm, answer, isMissing: started === 0, script, step, joint: set.skeleton.names[joint] };
        const known = byPhase.get(phase);
        if (!known || known.isMissing || (!own.isMissing && own.popCm > known.popCm)) {
          byPhase.set(phase, known ? { ...own, slideCm: Math.max(slideCm, known.slideCm), answer: Math.max(answer, known.answer) } : own);
        } else if (!own.isMissing)
          byPhase.set(phase, { ...known, slideCm: Math.max(slideCm, known.slideCm), answer: Math.max(answer, known.answer) });
      }
      return [...byPhase.values()].sort((a, b) => a.phase - b.phase);
    },
  };
}

const [SLIDE, POP] = [METERS.indexOf('slide'), METERS.indexOf('pop')];
