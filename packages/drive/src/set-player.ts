import { playBody } from './body';
import { playCapsule, type CapsuleRules } from './capsule';
import { entryFinder } from './entry';
import { playMemory } from './memory';
import { overlapOf, poseFor } from './overlap';
import { inputNamed, stateNamed, type PlaySet } from './play-graph';
import type { PlayClip } from './play-set';
import type { Source } from './source';
import { sourceOf } from './state-source';
import { compiled, LEFT, RIGHT, type Compiled } from './transition';

/** A set being played by its graph. Nothing is allocated by a tick; the arrays are the same ones all the time. */
export interface SetPlayer {
  /** Of the pose as it is now: `x y z w` for each joint against its parent, joint 0 in the root's axes. */
  readonly rotations: Float32Array;
  /** Joint 0 in the root's axes, metres. */
  readonly hips: Float64Array;
  /** The root: x and z in metres, heading in radians. */
  readonly root: Float64Array;
  /** Metres and radians that the root went, and turned by, in the last tick. */
  readonly step: Float64Array;
  /** 1 while the left, and the right foot bears. */
  readonly down: Float64Array;
  /** Height of the ground under the left, and the right foot, metres: written by a game whose ground is not flat, before every tick. */
  readonly ground: Float64Array;
  /** Inputs by their place in the graph: a number, 1 or 0 for a switch, 1 for a press that is not used up yet. */
  readonly inputs: Float64Array;
  /** Sets an input. An unknown name is an error. */
  set(name: string, value: number | boolean): void;
  /** Presses an input: true until a transition has used it. */
  press(name: string): void;
  /** The state that plays, and the transition that led there (−1 at first), by their places in the graph. */
  state(): number;
  transition(): number;
  /** The state that the last transition left; −1 at first. */
  left(): number;
  /** Transitions that have started since the beginning. */
  started(): number;
  /** Seconds in the state, and where in what it plays: a phase, or a share of the clip. */
  elapsed(): number;
  at(): number;
  /** Position in the stride, 0 to 1; NaN where there are no steps. */
  phase(): number;
  /** Seconds since the overlap began; −1 when none is on. */
  overlap(): number;
  /** In place: metres a second, and degrees a second, that a field will come to as it is asked; false where a clip is played. */
  means(out: Float64Array): boolean;
  /** How the clips of a field count, in the field's order; null where a clip is played. */
  weights(): Float64Array | null;
  /** The clip that counts most in what plays, and where it is read, seconds. */
  clip(): PlayClip;
  clipSeconds(): number;
  /** Begins anew: in the initial state, or in one by its place, at a place of what it plays; inputs as they are at first, or as given. */
  reset(state?: number, at?: number, x?: number, z?: number, heading?: number, inputs?: ArrayLike<number>): void;
  /** Where the capsule is: x, z, heading, and its speed; null where the root leads. */
  readonly capsule: Float64Array | null;
  /** Starts a transition whatever its conditions say. */
  take(transition: number): void;
  /** Plays on, at most a twentieth of a second at a time. */
  tick(seconds: number): void;
}

/** How a set is played. */
export interface PlayOptions {
  /** The character is led by a capsule; left out, it goes where its root takes it. */
  readonly capsule?: CapsuleRules;
}

/** Everything moves by steps of this length, seconds; what is shown in between is a shorter step from the last whole one. */
export const STEP = 1 / 60;

/**
 * @throws Error with a sentence when the graph names something that is not there, or a field's clip cannot be brought into step
 *
 * @example
 * const player = setPlayer(set);
 * player.set('speed', 1.4);
 * player.tick(1 / 60); // player.rotations, player.hips and player.root are the pose
 */
export function setPlayer(set: PlaySet, options: PlayOptions = {}): SetPlayer {
  const { skeleton, graph } = set;
  const joints = skeleton.names.length;
  const memory = playMemory();
  const sources = graph.states.map((state) => sourceOf(set, state, memory));
  const body = playBody(skeleton, set.clips[0], memory, true);
  const overlap = overlapOf(joints, memory);
  const finder = entryFinder(joints);
  const pose = { rotations: body.rotations, hips: body.hips, posed: body.posed };
  const [first, next, faded] = [poseFor(joints), poseFor(joints), poseFor(joints)];
  const [scratch, wanted] = [new Float64Array(2), new Float64Array(2)];
  const gone = new Float64Array(3);
  const other = new Float64Array(3);
  const rest = new Float64Array(3);
  const total = new Float64Array(3);
  const step = new Float64Array(3);
  const inputs = new Float64Array(graph.inputs.length);
  const steers = graph.states.map(({ plays }) => ('field' in plays ? plays.inputs.map((name) => inputNamed(set, name)) : []));
  const polar = graph.states.map(
    ({ plays }) => 'field' in plays && set.fields.some(({ name, isPolar }) => name === plays.field && isPolar),
  );
  const transitions = graph.transitions.map((own) => compiled(set, own));
  const means = new Float64Array(2);
  // State, transition that led there, seconds in the state, whether a foot has landed since the last step, transitions started, state before, feet that the pose has down.
  const now = memory.take(7);
  const [STATE, LED, SECONDS, LANDED, COUNT, LEFT_STATE, BORE] = [0, 1, 2, 3, 4, 5, 6];
  // Where the running transition came from, when it fades; −1 otherwise.
  const fade = memory.take(1);
  // Seconds since the last whole step. Not part of what is gone back to.
  let since = 0;
  let isProvisional = false;
  const initial = stateNamed(set, graph.initial);
  const capsule = options.capsule ? playCapsule(options.capsule, memory) : null;
  memory.seal();

  const source = (): Source => sources[now[STATE]].source;
  const steer = (state: number, seconds: number): void => {
    const { field } = sources[state];
    if (!field) return;
    const by = steers[state];
    const speed = inputs[by[0]],
      second = by.length > 1 ? inputs[by[1]] : 0;
    if (polar[state]) field.ask(speed * Math.sin((second * Math.PI) / 180), speed * Math.cos((second * Math.PI) / 180));
    else field.ask(speed, second);
    if (seconds > 0) field.ease(seconds);
    else field.settle();
  };
  const run = (own: Source, seconds: number, out: Float64Array): void => {
    let left = seconds;
    for (let guard = 0; guard < 64 && left > 1e-9; guard++) left -= own.advance(left, out);
  };
  const holds = ({ input, is, value }: Compiled['when'][number]): boolean => {
    const v = inputs[input];
    return is === 'above' ? v > value : is === 'below' ? v < value : is === 'off' ? v === 0 : v !== 0;
  };
  const mayLeave = ({ share, landing }: Compiled): boolean => {
    if (share >= 0) return source().loops ? now[SECONDS] >= share * source().seconds() : source().at() >= share - 1e-9;
    return landing === 0 || (now[LANDED] & landing) > 0;
  };
  const start = (index: number): void => {
    const { to, overlap: duration, entry, fades, presses } = transitions[index];
    const phase = source().phase();
    const from = now[STATE];
    if (!isProvisional) for (let i = 0; i < presses.length; i++) inputs[presses[i]] = 0;
    now[LEFT_STATE] = from;
    now[STATE] = to;
    now[LED] = index;
    now[SECONDS] = 0;
    now[COUNT] += 1;
    steer(to, 0);
    const own = source();
    const at = finder.find(own, entry, phase, overlap.shown, overlap.before, STEP);
    fade[0] = fades && from !== to ? from : -1;
    own.enter(at);
    own.pose(first.rotations, first.hips, first.posed, scratch);
    other.fill(0);
    run(own, STEP, other);
    own.pose(next.rotations, next.hips, next.posed, wanted);
    own.enter(at);
    overlap.begin(first, next, other, STEP, duration, body.down, scratch);
  };
  const tried = (): void => {
    const breaks = overlap.isOn() && now[LED] >= 0 ? transitions[now[LED]].breakOff : 'anything';
    for (let i = 0; i < transitions.length; i++) {
      const own = transitions[i];
      if (own.from >= 0 ? own.from !== now[STATE] : own.to === now[STATE]) continue;
      if (breaks === 'nothing' || (breaks === 'urgent' && !own.urgent)) continue;
      if (!mayLeave(own)) continue;
      let all = true;
      for (let k = 0; all && k < own.when.length; k++) all = holds(own.when[k]);
      if (!all) continue;
      start(i);
      return;
    }
  };
  /** A whole step, or a shorter one that is gone back from. */
  const play = (seconds: number): void => {
    tried();
    now[SECONDS] += seconds;
    steer(now[STATE], seconds);
    const own = source();
    let landed = 0;
    total.fill(0);
    let left = seconds;
    for (let guard = 0; guard < 64 && left > 1e-9; guard++) {
      gone.fill(0);
      const went = own.advance(left, gone);
      left -= went;
      const isFading = fade[0] >= 0 && overlap.isOn();
      if (isFading) {
        steer(fade[0], went);
        other.fill(0);
        run(sources[fade[0]].source, went, other);
        rest.fill(0);
        overlap.advance(went, rest);
        const share = overlap.share();
        for (let k = 0; k < 3; k++) gone[k] += share * (other[k] - gone[k]);
      } else overlap.advance(went, gone);
      for (let k = 0; k < 3; k++) total[k] += gone[k];
      body.move(gone);
      if (capsule) {
        const { field } = sources[now[STATE]];
        field?.means(means);
        capsule.lead(body.root, means[0], means[1], field !== null, went);
      }
      own.pose(pose.rotations, pose.hips, pose.posed, body.down);
      if (isFading) {
        sources[fade[0]].source.pose(faded.rotations, faded.hips, faded.posed, scratch);
        overlap.mix(pose, faded, body.down, scratch);
      } else overlap.apply(pose, body.down);
      const bears = (body.down[0] ? LEFT : 0) | (body.down[1] ? RIGHT : 0);
      landed |= bears & ~now[BORE];
      now[BORE] = bears;
      if (left <= 1e-9) overlap.show(pose, total, seconds);
      body.hold(went);
    }
    now[LANDED] = landed;
  };
  const put = (state: number, at: number, x: number, z: number, facing: number): void => {
    now[STATE] = state;
    now[LED] = now[LEFT_STATE] = -1;
    now[SECONDS] = now[LANDED] = now[COUNT] = 0;
    fade[0] = -1;
    since = 0;
    isProvisional = false;
    steer(state, 0);
    source().enter(at);
    body.put(x, z, facing);
    capsule?.put(body.root);
    overlap.forget();
    step.fill(0);
    source().pose(pose.rotations, pose.hips, pose.posed, body.down);
    now[BORE] = (body.down[0] ? LEFT : 0) | (body.down[1] ? RIGHT : 0);
    overlap.show(pose, total, 0);
    body.hold(0);
  };
  const player: SetPlayer = {
    rotations: body.rotations,
    hips: body.hips,
    root: body.root,
    step,
    down: body.down,
    ground: body.ground,
    inputs,
    capsule: capsule?.now ?? null,
    set(name, value) {
      inputs[inputNamed(set, name)] = Number(value);
    },
    press(name) {
      inputs[inputNamed(set, name)] = 1;
    },
    state: () => now[STATE],
    transition: () => now[LED],
    left: () => now[LEFT_STATE],
    started: () => now[COUNT],
    elapsed: () => now[SECONDS],
    at: () => source().at(),
    phase: () => source().phase(),
    overlap: () => (overlap.isOn() ? overlap.elapsed() : -1),
    means(out) {
      const { field } = sources[now[STATE]];
      field?.means(out);
      return field !== null;
    },
    weights: () => sources[now[STATE]].field?.weights ?? null,
    clip: () => source().clip(),
    clipSeconds: () => source().clipSeconds(),
    reset(state = initial, at = 0, x = 0, z = 0, facing = 0, asked) {
      graph.inputs.forEach((input, i) => (inputs[i] = asked ? asked[i] : input.kind === 'press' ? 0 : Number(input.start)));
      put(state, at, x, z, facing);
    },
    take(index) {
      if (isProvisional) memory.back();
      isProvisional = false;
      start(index);
    },
    tick(seconds) {
      for (let k = 0; k < 3; k++) step[k] = -body.root[k];
      if (isProvisional) memory.back();
      isProvisional = false;
      since += seconds;
      while (since >= STEP - 1e-9) {
        play(STEP);
        since -= STEP;
      }
      if (since > 1e-9) {
        memory.keep();
        isProvisional = true;
        play(since);
      }
      for (let k = 0; k < 3; k++) step[k] += body.root[k];
    },
  };
  player.reset();
  return player;
}
