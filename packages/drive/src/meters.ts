import { usualBends } from './bends';
import { followChain, wholeChain } from './legs';
import type { PlaySet } from './play-graph';
import { SIDES } from './play-set';
import { heading, rotate } from './quat';
import { STEP, type SetPlayer } from './set-player';

/** What is measured while a set is played, in this order: slide and pop in cm, answer in frames, gap in cm. */
export const METERS = ['slide', 'pop', 'answer', 'gap'] as const;
export type Meter = (typeof METERS)[number];
const [SLIDE, POP, ANSWER, GAP] = [0, 1, 2, 3];

/** What a change of an input asks for: to set off, to stop, another speed, another rate of turning, another heading. */
export const ANSWERS = ['start', 'stop', 'speed', 'turn', 'way'] as const;
export type AnswerKind = (typeof ANSWERS)[number];
const [START, STOP, SPEED, TURN, WAY] = [0, 1, 2, 3, 4];

/** A change of an input counts from so much on: m/s, °/s, degrees. */
const LEAST_CHANGE = { speed: 0.3, turn: 30, way: 45 } as const;
/** Slower than this, somebody who is asked to stands; m/s. */
const STANDS = 0.15;
/** An answer that takes longer than this did not come; frames. */
export const NO_ANSWER = 180;
/** Frames at the beginning and the end of a contact, in which a foot lands and leaves: 40 ms. */
const MARGIN = 2;

/** Figures of a player, read after every whole step. */
export interface PlayMeters {
  /** As `METERS` has them; `now.answer` is what the last change of an input took, 0 until one has come. */
  readonly now: Float64Array;
  /** The worst since `forget`. */
  readonly worst: Float64Array;
  /** The longest answer of each kind, as `ANSWERS` has them; 0 where there was none. */
  readonly answers: Float64Array;
  /** The answer that has just come: its kind, −1 when none has in this step. */
  answered(): number;
  /** The joint that popped most in this step, and the foot (0 left) that slid most in a contact that goes on, or ended, now. */
  joint(): number;
  side(): number;
  /** Reads the player; every whole step, `STEP` seconds after the last one. */
  read(): void;
  /** The worst is nothing again; the player may have been put elsewhere. */
  forget(): void;
}

/**
 * Measures a set while it is played. Nothing is allocated by a reading.
 *
 * Pop: how far a joint is in a step from where its last two steps and the bending of the clips that play (95th percentile of the same, or what the clip that
 * counts most does at this very instant) allow, cm.
 * Slide: greatest distance on the floor of the sole point that bears from where it was in the contact, its first and last 40 ms left out, cm.
 * Answer: steps from the change of an input until nine tenths of the asked change of speed, turning or heading have come, as far as the field has it.
 * Gap: from the capsule to the root, cm.
 *
 * @example
 * const meters = playMeters(set, player);
 * player.tick(STEP);
 * meters.read(); // meters.now[0] is the slide
 */
export function playMeters(set: PlaySet, player: SetPlayer): PlayMeters {
  const { skeleton, graph } = set;
  const J = skeleton.names.length;
  const bends = usualBends(set);
  const chain = wholeChain(skeleton);
  const rootTurn = Float64Array.of(0, 0, 0, 1);
  const [one, two] = [new Float64Array(J * 3), new Float64Array(J * 3)];
  const now = new Float64Array(METERS.length);
  const worst = new Float64Array(METERS.length);
  const answers = new Float64Array(ANSWERS.length);
  const slides = SIDES.map((side) => slideOf(skeleton.soles[side].length));
  const point = new Float64Array(3);
  const [speedAt, turnAt, wayAt] = (['speed', 'turn', 'way'] as const).map((name) => graph.inputs.findIndex((own) => own.name === name));
  const waits = ANSWERS.map(() => ({ since: -1, from: 0, to: 0 }));
  const asked = new Float64Array(3);
  const before = new Float64Array(3);
  const means = new Float64Array(2);
  let steps = 0,
    joint = 0,
    side = 0,
    answered = -1,
    turned = 0;
  const inputOf = (at: number): number => (at < 0 ? 0 : player.inputs[at]);
  const popOf = (): number => {
    let most = 0;
    const usual = bends[player.state()];
    // While an overlap runs what was left plays on in it.
    const last = player.overlap() >= 0 && player.left() >= 0 ? bends[player.left()] : usual;
    // What the clip does by itself at this instant is no pop.
    const own = usual.clips.get(player.clip());
    const at = own ? Math.round(player.clipSeconds() / STEP) : 0;
    for (let j = 0; j < J; j++) {
      const o = j * 3;
      const dx = chain.place[o] - 2 * one[o] + two[o],
        dy = chain.place[o + 1] - 2 * one[o + 1] + two[o + 1],
        dz = chain.place[o + 2] - 2 * one[o + 2] + two[o + 2];
      let allowed = Math.max(usual.most[j], last.most[j]);
      for (let k = 0; own && k < 3; k++) {
        const i = at - k;
        if (i >= 0 && i < own.steps) allowed = Math.max(allowed, own.bends[i * J + j]);
      }
      const pop = Math.sqrt(dx * dx + dy * dy + dz * dz) - allowed;
      if (pop > most) {
        most = pop;
        joint = j;
      }
    }
    return most * 100;
  };
  const slideNow = (): number => {
    let most = 0;
    for (let s = 0; s < 2; s++) {
      const own = slides[s];
      const points = skeleton.soles[SIDES[s]];
      own.last.set(own.points);
      for (let i = 0; i < points.length; i++) {
        const { joint: on, x, y, z } = points[i];
        rotate(point, 0, chain.world, on * 4, x, y, z);
        for (let k = 0; k < 3; k++) own.points[i * 3 + k] = point[k] + chain.place[on * 3 + k];
      }
      if (player.down[s] === 0) {
        own.steps = 0;
        continue;
      }
      own.steps++;
      if (own.steps === 1) own.state.fill(0);
      if (own.steps <= MARGIN + 1) continue;
      // The point that bears, and the one that bore a step ago: the change from one to the other adds nothing.
      const now = lowest(own.points, points.length),
        was = lowest(own.last, points.length);
      const { state } = own;
      const way = (i: number) => Math.hypot(own.points[i * 3] - own.last[i * 3], own.points[i * 3 + 2] - own.last[i * 3 + 2]);
      const low = way(was) < way(now) ? was : now;
      state[0] += own.points[low * 3] - own.last[low * 3];
      state[1] += own.points[low * 3 + 2] - own.last[low * 3 + 2];
      // What came in the last steps counts only once the contact has gone on for longer.
      const sure = state[3];
      for (let k = 3; k < 2 + MARGIN; k++) state[k] = state[k + 1];
      state[2 + MARGIN] = Math.max(state[2 + MARGIN], Math.sqrt(state[0] ** 2 + state[1] ** 2) * 100);
      if (sure > most) {
        most = sure;
        side = s;
      }
    }
    return most;
  };
  const wait = (kind: number, from: number, to: number): void => {
    waits[kind].since = 0;
    waits[kind].from = from;
    waits[kind].to = to;
  };
  const came = (kind: number, value: number, most = NaN): void => {
    const own = waits[kind];
    if (own.since < 0) return;
    own.since++;
    // More than a field has cannot come.
    const to = Number.isNaN(most) ? own.to : most;
    const share = Math.abs(to - own.from) < 1e-3 ? 1 : (value - own.from) / (to - own.from);
    if (share < 0.9 && own.since < NO_ANSWER) return;
    answered = kind;
    now[ANSWER] = own.since;
    answers[kind] = Math.max(answers[kind], own.since);
    worst[ANSWER] = Math.max(worst[ANSWER], own.since);
    own.since = -1;
  };
  const answer = (): void => {
    const { root } = player;
    const dx = root[0] - before[0],
      dz = root[1] - before[1];
    const speed = Math.sqrt(dx * dx + dz * dz) / STEP;
    const turn = ((root[2] - before[2]) * 180) / (Math.PI * STEP);
    before.set(root);
    if (steps < 2) return;
    answered = -1;
    turned += turn * STEP;
    const [wantedSpeed, wantedTurn, way] = [inputOf(speedAt), inputOf(turnAt), inputOf(wayAt)];
    if (Math.abs(wantedSpeed - asked[0]) >= LEAST_CHANGE.speed) {
      for (const kind of [START, STOP, SPEED]) waits[kind].since = -1;
      const kind = wantedSpeed < STANDS ? STOP : speed < STANDS ? START : SPEED;
      // Where it has been at what is asked there is nothing to wait for.
      if (Math.abs(wantedSpeed - speed) >= LEAST_CHANGE.speed) wait(kind, speed, wantedSpeed);
      asked[0] = wantedSpeed;
    } else if (wantedSpeed !== asked[0]) asked[0] = wantedSpeed;
    if (Math.abs(wantedTurn - asked[1]) >= LEAST_CHANGE.turn) {
      waits[TURN].since = -1;
      // Who stands, or plays a clip, does not turn by a rate.
      if (speed >= STANDS && player.means(means)) wait(TURN, turn, wantedTurn);
    }
    asked[1] = wantedTurn;
    if (Math.abs(way - asked[2]) >= LEAST_CHANGE.way) {
      waits[WAY].since = -1;
      if (Math.abs(way) >= LEAST_CHANGE.way && wantedSpeed < STANDS) wait(WAY, turned, turned + way);
    }
    asked[2] = way;
    const isField = player.means(means);
    if (!isField) waits[TURN].since = -1;
    came(START, speed, isField ? means[0] : NaN);
    came(STOP, speed);
    came(SPEED, speed, isField ? means[0] : NaN);
    came(TURN, turn, isField ? means[1] : NaN);
    came(WAY, turned);
  };
  const meters: PlayMeters = {
    now,
    worst,
    answers,
    answered: () => answered,
    joint: () => joint,
    side: () => side,
    read() {
      two.set(one);
      one.set(chain.place);
      heading(rootTurn, 0, player.root[2]);
      followChain(chain, skeleton, player.rotations, player.hips, player.root, rootTurn);
      steps++;
      now[POP] = steps > 2 ? popOf() : 0;
      now[SLIDE] = slideNow();
      answer();
      const { capsule } = player;
      now[GAP] = capsule ? Math.sqrt((capsule[0] - player.root[0]) ** 2 + (capsule[1] - player.root[1]) ** 2) * 100 : 0;
      for (const k of [SLIDE, POP, GAP]) worst[k] = Math.max(worst[k], now[k]);
    },
    forget() {
      steps = 0;
      turned = 0;
      answered = -1;
      for (const own of waits) own.since = -1;
      for (const own of slides) own.steps = 0;
      now.fill(0);
      worst.fill(0);
      answers.fill(0);
      for (let k = 0; k < 3; k++) asked[k] = inputOf([speedAt, turnAt, wayAt][k]);
    },
  };
  meters.forget();
  return meters;
}

function lowest(points: Float64Array, count: number): number {
  let low = 0;
  for (let i = 1; i < count; i++) if (points[i * 3 + 1] < points[low * 3 + 1]) low = i;
  return low;
}

interface FootSlide {
  readonly points: Float64Array;
  readonly last: Float64Array;
  /** Way so far on x and z, then the greatest distances so far, the oldest first. */
  readonly state: Float64Array;
  steps: number;
}

const slideOf = (points: number): FootSlide => ({
  points: new Float64Array(points * 3),
  last: new Float64Array(points * 3),
  state: new Float64Array(3 + MARGIN),
  steps: 0,
});
