import type { PlayField } from './field-source';
import type { PlayClip, PlaySkeleton, Side } from './play-set';

/** A number that a game gives, a switch that is on or off, or a press, which is true until a transition has used it. */
export type PlayInput =
  | { readonly name: string; readonly kind: 'number'; readonly from: number; readonly to: number; readonly start: number }
  | { readonly name: string; readonly kind: 'switch'; readonly start: boolean }
  | { readonly name: string; readonly kind: 'press' };

/** What a state plays: a clip once or looping, or a field that is steered by one or two of the inputs. */
export type StatePlays = { readonly clip: string; readonly loop: boolean } | { readonly field: string; readonly inputs: readonly string[] };

export interface PlayState {
  readonly name: string;
  readonly plays: StatePlays;
}

/** One condition: it holds, or does not. */
export type PlayCondition =
  | { readonly input: string; readonly is: 'above' | 'below'; readonly value: number }
  | { readonly input: string; readonly is: 'on' | 'off' | 'pressed' };

/** Not before a share of the clip is played, or not but where a foot lands. */
export type LeaveAfter = { readonly share: number } | { readonly landing: Side };

/** Where a transition enters what it leads to. */
export const ENTRIES = ['phase', 'foot', 'beginning', 'best'] as const;
export type Entry = (typeof ENTRIES)[number];

/** What may break an overlap off: any transition, one that is urgent, or none. */
export const BREAK_OFFS = ['anything', 'urgent', 'nothing'] as const;
export type BreakOff = (typeof BREAK_OFFS)[number];

export interface PlayTransition {
  /** The state that it leads from; null: any but the one it leads to. */
  readonly from: string | null;
  readonly to: string;
  /** All of them have to hold. */
  readonly when: readonly PlayCondition[];
  readonly leaveAfter: LeaveAfter | null;
  /** Seconds. */
  readonly overlap: number;
  readonly entry: Entry;
  readonly breakOff: BreakOff;
  readonly urgent: boolean;
  /** Both motions are mixed, where otherwise the difference is carried out of the new one. */
  readonly fade: boolean;
}

export interface PlayGraph {
  readonly inputs: readonly PlayInput[];
  readonly initial: string;
  readonly states: readonly PlayState[];
  /** In the order in which they are tried. */
  readonly transitions: readonly PlayTransition[];
}

/** All that is played: clips on one skeleton, fields of them, and the graph that leads from one to the other. */
export interface PlaySet {
  readonly skeleton: PlaySkeleton;
  readonly clips: readonly PlayClip[];
  readonly fields: readonly PlayField[];
  readonly graph: PlayGraph;
}

/** The place of a state in the graph. @throws Error with a sentence when there is none of the name */
export function stateNamed({ graph }: PlaySet, name: string): number {
  const found = graph.states.findIndex((own) => own.name === name);
  if (found < 0) throw new Error(`There is no state “${name}” in the graph.`);
  return found;
}

/** The place of an input in the graph. @throws Error with a sentence when there is none of the name */
export function inputNamed({ graph }: PlaySet, name: string): number {
  const found = graph.inputs.findIndex((own) => own.name === name);
  if (found < 0) throw new Error(`There is no input “${name}” in the graph.`);
  return found;
}
