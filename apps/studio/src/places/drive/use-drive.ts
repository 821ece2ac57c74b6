'use client';
'use no memo';
import { playMeters, setPlayer, SIDES, STEP, type PlayMeters, type SetPlayer } from '@lantern/drive';
import { CAPSULE, forwardKinematics, scriptPlayer, type PlayScript } from '@lantern/motion';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { heightAt } from '@/stage/quay/ground';
import { oneFrame, writePose } from '@/data/play-pose';
import { usePlayer } from '@/data/player';
import { useLivePlay } from '@/data/use-live-play';
import type { PlayView } from '@/worker/core.worker';
import type { Footprint } from '@/worker/markers';
import type { WireMotion } from '@/worker/wire';
import { recorder, type Recorder } from './recorder';
import { askedOf, type Helm } from './steering';

/** Footprints of somebody that stay on the ground. */
const MOST_PRINTS = 20;
/** Numbers that change with every frame are told so often, milliseconds. */
const TOLD = 90;
/** Steps that are seen before an instant that is gone back to. */
const RUN_UP = 60;
/** Who is driven along begins that far to the left, metres: on the water's side, for between him and the camera he would cover him. */
const BESIDE = -1.3;

/** Somebody who is driven, as the stage draws him. */
export interface DrivenBody {
  readonly view: PlayView;
  readonly player: SetPlayer;
  readonly motion: WireMotion;
  readonly prints: readonly Footprint[];
}

export interface Drive {
  readonly bodies: readonly DrivenBody[];
  readonly meters: PlayMeters;
  /** Changes when what is told has. */
  readonly told: number;
  /** m/s and °/s to the left that come. */
  readonly comes: readonly [number, number];
  /** What is done: driven, recorded, or played again. */
  readonly mode: 'driven' | 'recorded' | 'replayed';
  /** Steps of the replay that have been played, and the step that it is about. */
  readonly at: number;
  hold(helm: Helm): void;
  press(name: string): void;
  tell(name: string, value: number): void;
  reset(): void;
  /** One step on, while it stands still. */
  stepOn(): void;
  record(): void;
  /** Ends recording, or replaying; what was recorded, if anything was. */
  stop(): PlayScript | null;
  /** Plays a script again: up to a step at once, and then stands still; from some steps before it when `isSeen`. */
  replay(script: PlayScript, step: number | null, isSeen: boolean): void;
}

/** How somebody's feet were. */
interface Feet {
  readonly down: [number, number];
  prints: readonly Footprint[];
}

/**
 * A set driven by hand: what is asked goes to the player step by step, what comes of it is measured.
 *
 * @param led by its root, or by a capsule
 * @param other the same set on somebody else, played along
 */
export function useDrive(view: PlayView | null, other: PlayView | null, led: PlayScript['led']): Drive | null {
  const helm = useRef<Helm>({ x: 0, y: 0 });
  const pressed = useRef<string[]>([]);
  const [told, setTold] = useState(0);
  const [mode, setMode] = useState<Drive['mode']>('driven');
  const spoken = useRef(0);
  const log = useRef<Recorder | null>(null);
  const again = useRef<{ script: PlayScript; until: number; scripts: ReturnType<typeof scriptPlayer> } | null>(null);
  const second = useMemo(() => (other ? setPlayer(other.set, { capsule: led === 'capsule' ? CAPSULE : undefined }) : null), [other, led]);
  const motion = useMemo(() => (view ? oneFrame(view.skeleton) : null), [view]);
  const secondMotion = useMemo(() => (other ? oneFrame(other.skeleton) : null), [other]);
  const capsule = led === 'capsule' ? CAPSULE : undefined;
  const feet = useRef<Feet[]>([newFeet(), newFeet()]);
  const metersRef = useRef<PlayMeters | null>(null);
  const before = useRef(new Float64Array(3));
  const came = useRef<[number, number]>([0, 0]);
  const inputs = view?.graph.inputs;
  const ask = useCallback(
    (player: SetPlayer) => {
      if (!inputs) return;
      const replayed = again.current;
      if (replayed) {
        replayed.scripts.ask();
      } else {
        const wanted = askedOf(inputs, helm.current, player.inputs);
        for (let i = 0; i < wanted.length && i < player.inputs.length; i++) player.inputs[i] = wanted[i];
        for (const name of pressed.current) player.press(name);
        pressed.current = [];
        log.current?.note(player.inputs);
      }
      if (second) for (let i = 0; i < second.inputs.length && i < player.inputs.length; i++) second.inputs[i] = player.inputs[i];
      // What was found on level ground is seen on level ground.
      if (view) stand(player, view, replayed !== null);
      if (second && other) stand(second, other, replayed !== null);
      before.current.set(player.root);
    },
    [inputs, second, view, other],
  );
  const measure = useCallback(
    (player: SetPlayer) => {
      metersRef.current?.read();
      const [x, z, heading] = player.root;
      const share = 0.15;
      const speed = Math.hypot(x - before.current[0], z - before.current[1]) / STEP;
      const turn = (((heading - before.current[2]) / STEP) * 180) / Math.PI;
      came.current = [came.current[0] + share * (speed - came.current[0]), came.current[1] + share * (turn - came.current[1])];
      [player, second].forEach((own, i) => own && view && stamp(own, i === 0 ? view : (other ?? view), feet.current[i]));
      const replayed = again.current;
      if (replayed && replayed.scripts.at() >= replayed.until) usePlayer.setState({ playing: false });
    },
    [second, view, other],
  );
  const show = useCallback(
    (player: SetPlayer) => {
      if (motion) writePose(player, motion);
      if (second && secondMotion) writePose({ rotations: second.rotations, hips: second.hips, root: second.root }, secondMotion);
      const now = performance.now();
      if (now - spoken.current < TOLD && usePlayer.getState().playing) return;
      spoken.current = now;
      setTold(now);
    },
    [motion, second, secondMotion],
  );
  const live = useLivePlay(view?.set ?? null, { capsule, other: second, before: ask, onStep: measure, onFrame: show });
  const meters = useMemo(() => (live && view ? playMeters(view.set, live.player) : null), [live, view]);
  useEffect(() => {
    metersRef.current = meters;
  }, [meters]);
  /** Puts everybody where a script begins, or at the beginning. */
  const put = useCallback(
    (script: PlayScript | null) => {
      if (!live) return;
      for (const own of [live.player, second]) {
        if (!own) continue;
        const aside = own === second ? BESIDE : 0;
        if (script) own.reset(script.state, script.at, aside, 0, 0, script.inputs);
        else own.reset(undefined, 0, aside, 0, 0);
      }
      feet.current = [newFeet(), newFeet()];
      meters?.forget();
      came.current = [0, 0];
      show(live.player);
      usePlayer.setState({ frame: 0 });
    },
    [live, second, meters, show],
  );
  useEffect(() => {
    if (!live) return;
    usePlayer.getState().load(1, 60, 0);
    usePlayer.setState({ playing: true, speed: 1 });
    put(null);
    return () => usePlayer.setState({ playing: false, speed: 1 });
  }, [live, put]);
  return useMemo<Drive | null>(() => {
    if (!live || !meters || !view || !motion) return null;
    const { player } = live;
    /** A step taken without the clock. */
    const advance = () => {
      ask(player);
      player.tick(STEP);
      second?.tick(STEP);
      measure(player);
    };
    return {
      bodies: [
        { view, player, motion, prints: feet.current[0].prints },
        ...(second && other && secondMotion ? [{ view: other, player: second, motion: secondMotion, prints: feet.current[1].prints }] : []),
      ],
      meters,
      told,
      comes: came.current,
      mode,
      at: again.current?.scripts.at() ?? 0,
      hold: (next) => void (helm.current = next),
      press: (name) => void pressed.current.push(name),
      tell: (name, value) => player.set(name, value),
      reset: () => {
        again.current = null;
        log.current = null;
        setMode('driven');
        put(null);
      },
      stepOn: () => {
        usePlayer.setState({ playing: false });
        advance();
        show(player);
        usePlayer.setState({ frame: 0 });
      },
      record: () => {
        again.current = null;
        put(null);
        log.current = recorder({ state: player.state(), at: 0, led, inputs: [...player.inputs] });
        setMode('recorded');
        usePlayer.setState({ playing: true });
      },
      stop: () => {
        const script = log.current?.script() ?? null;
        log.current = null;
        again.current = null;
        setMode('driven');
        return script;
      },
      replay: (script, step, isSeen) => {
        log.current = null;
        const scripts = scriptPlayer(view.set.graph, player, STEP);
        put(script);
        scripts.begin(script);
        again.current = { script, until: step ?? script.steps, scripts };
        setMode('replayed');
        const first = step === null ? 0 : isSeen ? Math.max(0, step - RUN_UP) : step;
        // Up to there at once.
        meters.forget();
        meters.read();
        while (scripts.at() < first) advance();
        show(player);
        usePlayer.setState({ playing: step === null || isSeen, frame: 0 });
      },
    };
    // What is told changes with the clock.
  }, [live, meters, view, motion, second, other, secondMotion, told, mode, ask, measure, show, put, led]);
}

const newFeet = (): Feet => ({ down: [0, 0], prints: [] });

/** Tells a player how high the ground is under his feet. */
function stand(player: SetPlayer, { set, skeleton }: PlayView, isLevel: boolean): void {
  if (isLevel) return void player.ground.fill(0);
  const motion = oneFrame(skeleton);
  writePose(player, motion);
  const { positions } = forwardKinematics(motion);
  SIDES.forEach((side, s) => {
    const { ankle, toe } = set.skeleton.legs[side];
    const tip = toe >= 0 ? toe : ankle;
    player.ground[s] = heightAt(positions[tip * 3], positions[tip * 3 + 2]);
  });
}

/** Writes down where a foot has come down. */
function stamp(player: SetPlayer, { set, skeleton }: PlayView, feet: Feet): void {
  for (const side of [0, 1] as const) {
    if (player.down[side] && !feet.down[side]) {
      const motion = oneFrame(skeleton);
      writePose(player, motion);
      const { positions } = forwardKinematics(motion);
      const { ankle, toe } = set.skeleton.legs[side === 0 ? 'left' : 'right'];
      const tip = toe >= 0 ? toe : ankle;
      const at = (j: number, k: number) => positions[j * 3 + k];
      const print: Footprint = {
        side: side === 0 ? 'left' : 'right',
        x: (at(ankle, 0) + at(tip, 0)) / 2,
        z: (at(ankle, 2) + at(tip, 2)) / 2,
        heading: toe >= 0 ? Math.atan2(at(toe, 0) - at(ankle, 0), at(toe, 2) - at(ankle, 2)) : player.root[2],
        from: -1 - Math.round(performance.now() * 10),
        to: -1,
        slideCm: 0,
      };
      feet.prints = [...feet.prints, print].slice(-MOST_PRINTS);
    }
    feet.down[side] = player.down[side];
  }
}
