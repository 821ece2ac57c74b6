import { METERS, playMeters, setPlayer, STEP, type CapsuleRules, type PlaySet } from '@lantern/drive';
import { changeTransition } from '../graph/edits';
import type { PlayableSet } from '../graph/play-set';
import { scriptPlayer, type PlayScript } from '../graph/script';
import { triesOf } from '../graph/tries';
import { CAPSULE, PLAY_BOUNDS, roughWeatherSteps, type Finding, type Weather } from '../graph/weather';
import type { Graph, Transition } from '../set/graph-schema';

/** A graph whose transitions were made calmer, what play comes to, and what was changed, in words. */
export interface Calmed {
  readonly graph: Graph;
  readonly weather: Weather;
  readonly changes: readonly string[];
}

/** What is tried of a transition: overlaps, seconds; entries; and to wait for the landing of a foot. */
const OVERLAPS = [0.3, 0.4, 0.2];
const ENTRIES = ['foot', 'best', 'phase'] as const;
const LANDINGS = [{ landing: 'left' }, { landing: 'right' }] as const;
/** A change is taken at once that stays under this share of the bounds. */
const CALM = 0.8;
const ROUNDS = 6;

/**
 * Plays a graph unattended and changes what pops or slides: another overlap or entry, or not before a foot lands; the first change that is well within bounds,
 * else the calmest. What was rough once is tried again with every change.
 *
 * @param playable of the graph
 * @param minutes of play in each round
 */
export function* calm(graph: Graph, playable: PlayableSet, minutes: number): Generator<number, Calmed, void> {
  let own = graph;
  let play: PlaySet = playable.set;
  let weather = yield* weatherOf(play, minutes, 0);
  let best: Calmed = { graph: own, weather, changes: [] };
  const changes = new Map<number, string>();
  const scripts = new Map<number, PlayScript[]>();
  for (let round = 0; round < ROUNDS && badness(weather) > 0; round++) {
    const rough = roughIn(weather);
    for (const { transition, script, step } of rough) scripts.set(transition, [...(scripts.get(transition) ?? []), upTo(script, step)]);
    let isOther = false;
    for (const transition of new Set(rough.map((one) => one.transition))) {
      const at = playable.transitions[transition];
      yield (round + 1) / (ROUNDS + 1);
      // What is still rough is tried from every phase.
      const better = calmer(play, transition, own.transitions[at], scripts.get(transition) ?? [], round === 0 ? 3 : 1);
      if (!better) continue;
      isOther = true;
      const says = inWords(graph.transitions[at], better);
      if (says) changes.set(at, says);
      else changes.delete(at);
      own = changeTransition(own, at, better);
      play = withTransition(play, transition, better);
    }
    // Nothing that is tried is calmer than what there is.
    if (!isOther) break;
    weather = yield* weatherOf(play, minutes, round + 1);
    if (badness(weather) < badness(best.weather)) best = { graph: own, weather, changes: [...changes.values()] };
  }
  yield 1;
  return best;
}

/** Rough weather, as a share of all rounds. */
function* weatherOf(play: PlaySet, minutes: number, round: number): Generator<number, Weather, void> {
  const steps = roughWeatherSteps(play, { minutes, seed: 1 });
  let step = steps.next();
  while (!step.done) {
    yield (round + step.value) / (ROUNDS + 1);
    step = steps.next();
  }
  return step.value;
}

/** How far pops and slides are over their bounds, in parts of them; 0 within. */
export const badness = ({ worst }: Pick<Weather, 'worst'>): number =>
  (['pop', 'slide'] as const).reduce((sum, figure) => sum + Math.max(0, worst[figure] / PLAY_BOUNDS[figure] - 1), 0);

/** What pops or slides too much, the worst first. */
const roughIn = ({ findings }: Weather): Finding[] =>
  findings
    .filter(({ figure, value, transition }) => (figure === 'pop' || figure === 'slide') && transition >= 0 && value > PLAY_BOUNDS[figure])
    .sort((a, b) => b.value / PLAY_BOUNDS[b.figure] - a.value / PLAY_BOUNDS[a.figure]);

/** A script until a little after what was found in it. */
const upTo = (script: PlayScript, step: number): PlayScript => ({ ...script, steps: Math.min(script.steps, step + 40) });

type Change = Pick<Transition, 'overlap' | 'entry' | 'leaveAfter' | 'fade'>;

/** What is tried instead of a transition, in the order in which it is. */
function changesOf({ entry, overlap, leaveAfter, fade }: Transition): Change[] {
  // What is played from its beginning is.
  const entries = entry === 'beginning' ? [entry] : [entry, ...ENTRIES.filter((own) => own !== entry)];
  const leaves = [leaveAfter, ...(leaveAfter === null ? LANDINGS : [])];
  return [fade, !fade]
    .flatMap((mixes) =>
      leaves.flatMap((leave) =>
        entries.flatMap((own) => OVERLAPS.map((seconds) => ({ overlap: seconds, entry: own, leaveAfter: leave, fade: mixes }))),
      ),
    )
    .filter((own) => own.overlap !== overlap || own.entry !== entry || own.leaveAfter !== leaveAfter || own.fade !== fade);
}

/**
 * The first change of a transition that keeps it well within bounds, else the calmest of all; null where none is calmer than it is.
 *
 * @param found scripts in which it was rough
 * @param every so many phases one of each way of asking is tried too
 */
function calmer(play: PlaySet, transition: number, now: Transition, found: readonly PlayScript[], every: number): Change | null {
  const scripts = [...found, ...triesOf(play.graph, transition).flatMap(({ script }, i) => (i % every === 0 ? [script] : []))];
  const roughOf = (change: Change, most: Rough): Rough => {
    const judge = judgeOf(withTransition(play, transition, change));
    let [rough, missing] = [0, 0];
    for (const [i, script] of scripts.entries()) {
      const one = judge(script, transition);
      rough = Math.max(rough, one.rough);
      if (i >= found.length && one.isMissing) missing++;
      if (rough >= most.rough || missing > most.missing) return { rough: Infinity, missing };
    }
    return { rough, missing };
  };
  const own = roughOf(now, { rough: Infinity, missing: Infinity });
  let best: { change: Change | null; rough: number } = { change: null, rough: own.rough };
  for (const change of changesOf(now)) {
    // What no longer starts is not calm but gone.
    const { rough } = roughOf(change, { rough: best.rough, missing: own.missing });
    if (rough < best.rough) best = { change, rough };
    if (rough <= CALM) break;
  }
  return best.change;
}

interface Rough {
  readonly rough: number;
  /** Scripts in which the transition never starts. */
  readonly missing: number;
}

/** What is other than it was; nothing where it is the same again. */
function inWords(was: Transition, { overlap, entry, leaveAfter, fade }: Change): string {
  const landing = leaveAfter && 'landing' in leaveAfter ? leaveAfter.landing : null;
  const says = [
    was.overlap === overlap ? '' : `overlap ${was.overlap} → ${overlap} s`,
    was.entry === entry ? '' : `entry ${was.entry} → ${entry}`,
    was.leaveAfter === leaveAfter || !landing ? '' : `not before the ${landing} foot lands`,
    was.fade === fade ? '' : fade ? 'both motions are mixed' : 'the difference is carried out',
  ];
  const changed = says.filter(Boolean).join(', ');
  return changed && `${was.from ?? 'any'} to ${was.to}: ${changed}`;
}

/** Plays scripts on a set, one after the other. */
function judgeOf(set: PlaySet): (script: PlayScript, transition: number) => { readonly rough: number; readonly isMissing: boolean } {
  const players: { [led in PlayScript['led']]?: ReturnType<typeof opened> } = {};
  return (script, transition) => {
    players[script.led] ??= opened(set, script.led === 'capsule' ? CAPSULE : undefined);
    const { player, meters, scripts } = players[script.led] ?? opened(set);
    scripts.begin(script);
    meters.forget();
    meters.read();
    let rough = 0;
    let isMissing = true;
    while (scripts.step()) {
      meters.read();
      // What another transition does is not this one's.
      if (player.transition() !== transition) continue;
      isMissing = false;
      rough = Math.max(rough, meters.now[POP] / PLAY_BOUNDS.pop, meters.now[SLIDE] / PLAY_BOUNDS.slide);
    }
    return { rough, isMissing };
  };
}

function opened(set: PlaySet, capsule?: CapsuleRules) {
  const player = setPlayer(set, { capsule });
  return { player, meters: playMeters(set, player), scripts: scriptPlayer(set.graph, player, STEP) };
}

const [SLIDE, POP] = [METERS.indexOf('slide'), METERS.indexOf('pop')];

const withTransition = (play: PlaySet, transition: number, change: Change): PlaySet => ({
  ...play,
  graph: { ...play.graph, transitions: play.graph.transitions.map((own, i) => (i === transition ? { ...own, ...change } : own)) },
});
