import type { PlayGraph, SetPlayer } from '@lantern/drive';

/** An input that changes at a step. */
export interface ScriptChange {
  readonly step: number;
  /** Its place in the graph. */
  readonly input: number;
  /** A number; of a switch 1 or 0; of a press 1. */
  readonly value: number;
}

/** Play that can be played again to the bit: where it begins, and what is asked when. */
export interface PlayScript {
  /** The state by its place in the graph, and where in what it plays. */
  readonly state: number;
  readonly at: number;
  /** Whom the player follows: the root of its motion, or a capsule. */
  readonly led: 'root' | 'capsule';
  /** Of all inputs, in the graph's order. */
  readonly inputs: readonly number[];
  /** In the order of their steps. */
  readonly changes: readonly ScriptChange[];
  readonly steps: number;
}

/** Plays scripts step by step. */
export interface ScriptPlayer {
  /** Begins one. */
  begin(script: PlayScript): void;
  /** One step of it; false when it is over. */
  step(): boolean;
  /** Tells what is asked in the next step, which somebody else plays then; false when it is over. */
  ask(): boolean;
  /** Steps that have been played. */
  at(): number;
}

/** Puts a player where a script begins. */
export function scriptPlayer({ inputs: own }: PlayGraph, player: SetPlayer, step: number): ScriptPlayer {
  let script: PlayScript | null = null;
  let at = 0,
    next = 0;
  const ask = (): boolean => {
    if (!script || at >= script.steps) return false;
    for (; next < script.changes.length && script.changes[next].step <= at; next++) {
      const { input, value } = script.changes[next];
      if (own[input]) player.inputs[input] = value;
    }
    at++;
    return true;
  };
  return {
    begin(wanted) {
      script = wanted;
      at = next = 0;
      // What is asked is known before it is put there: a field stands at it at once.
      player.reset(wanted.state, wanted.at, 0, 0, 0, wanted.inputs);
    },
    ask,
    step() {
      if (!ask()) return false;
      player.tick(step);
      return true;
    },
    at: () => at,
  };
}
