import type { PlayGraph } from '@lantern/drive';
import { random } from '../math/random';
import type { PlayScript, ScriptChange } from './script';

/** Ways of playing: hold and change, snap from one end to the other, tap, go round, wander. */
export const STICKS = ['steady', 'snaps', 'taps', 'circles', 'wander'] as const;
export type Stick = (typeof STICKS)[number];

const FPS = 60;

/**
 * What a player of some temper asks of a graph over some seconds; the same seed, the same asked.
 *
 * @param seconds that it lasts
 *
 * @example
 * stickScript(graph, 'taps', 7, 30, 'root').steps; // 1800
 */
export function stickScript(graph: PlayGraph, stick: Stick, seed: number, seconds: number, led: PlayScript['led']): PlayScript {
  const { next } = random(seed);
  const steps = Math.round(seconds * FPS);
  const changes: ScriptChange[] = [];
  const between = (low: number, high: number) => low + (high - low) * next();
  const ask = (t: number, input: number, value: number) => {
    const step = Math.round(t * FPS);
    if (step < steps) changes.push({ step, input, value });
  };
  graph.inputs.forEach((input, i) => {
    if (input.kind === 'press') {
      const every = stick === 'taps' ? 1.5 : 5;
      for (let t = between(0.5, every); t < seconds; t += between(every / 2, every * 1.5)) ask(t, i, 1);
      return;
    }
    if (input.kind === 'switch') {
      for (let t = between(0, 4), on = 1; t < seconds; t += between(1, 5), on = 1 - on) ask(t, i, on);
      return;
    }
    const { from, to, start } = input;
    const anywhere = () => (next() < 0.25 ? start : between(from, to));
    // Of an angle a game tells how far it is off, which is nothing again as soon as it has been turned.
    if ('unit' in input && input.unit === '°') {
      for (let t = between(1, 4); t < seconds; t += between(2, 6)) {
        ask(t, i, between(from, to));
        ask(t + 0.2, i, 0);
      }
      return;
    }
    switch (stick) {
      case 'steady':
        for (let t = 0.2; t < seconds; t += between(1.5, 4)) ask(t, i, anywhere());
        return;
      case 'snaps':
        for (let t = 0.2; t < seconds; t += between(0.3, 1.2)) ask(t, i, [from, to, start][Math.floor(next() * 3)]);
        return;
      case 'taps':
        for (let t = 0.2; t < seconds; t += between(0.5, 1.5)) {
          ask(t, i, between(from, to));
          ask(t + between(0.08, 0.3), i, start);
        }
        return;
      case 'circles': {
        const [round, shift] = [between(3, 8), next()];
        for (let t = 0.2; t < seconds; t += 0.1)
          ask(t, i, (from + to) / 2 + ((to - from) / 2) * Math.sin(2 * Math.PI * (t / round + shift)));
        return;
      }
      case 'wander': {
        let value = start;
        for (let t = 0.2; t < seconds; t += 0.1) {
          value = Math.max(from, Math.min(to, value + between(-0.12, 0.12) * (to - from)));
          ask(t, i, value);
        }
      }
    }
  });
  return {
    state: graph.states.findIndex(({ name }) => name === graph.initial),
    at: 0,
    led,
    inputs: restingInputs(graph),
    changes: changes.sort((a, b) => a.step - b.step || a.input - b.input),
    steps,
  };
}

/** Inputs as they are at the beginning. */
export const restingInputs = ({ inputs }: PlayGraph): number[] => inputs.map((input) => (input.kind === 'press' ? 0 : Number(input.start)));
