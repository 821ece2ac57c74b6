import type { PlayClip, PlayField, PlayGraph, PlaySet, PlayState } from '@lantern/drive';
import type { Skeleton } from '../model/skeleton';
import type { SetClip } from '../set/coverage';
import { onHips, playClip, playSkeleton } from '../set/play-clip';
import { playableField } from '../set/play-field';
import type { KeyedField } from './ready';
import type { Graph } from '../set/graph-schema';

/** A graph with all that it plays, ready for the runtime. */
export interface PlayableSet {
  readonly set: PlaySet;
  /** The skeleton as it is drawn: its joints are those of the runtime. */
  readonly skeleton: Skeleton;
  /** States that cannot be played, and why; they and what leads there are left out. */
  readonly left: readonly { readonly state: string; readonly why: string }[];
  /** The transitions of the graph that are played, by their places in it. */
  readonly transitions: readonly number[];
}

/**
 * A graph made ready to be played: its clips on one skeleton, its fields in step.
 *
 * @returns null when no state of it can be played
 */
export function playableSet(graph: Graph, clips: readonly SetClip[], fields: readonly KeyedField[]): PlayableSet | null {
  const left: { state: string; why: string }[] = [];
  const played = new Map<string, PlayClip>();
  const ready = new Map<string, PlayField>();
  const states: PlayState[] = [];
  let first: SetClip | null = null;
  /** Why a clip cannot be played beside the others; null where it can. */
  const apart = (own: SetClip): string | null => {
    first ??= own;
    return own.clip.motion.skeleton.joints.length === first.clip.motion.skeleton.joints.length
      ? null
      : `“${own.name}” is on another skeleton.`;
  };
  for (const { name, plays } of graph.states) {
    const why = ((): string | null => {
      if (!plays) return 'It plays nothing yet.';
      if ('clip' in plays) {
        const own = clips.find(({ id }) => id === plays.clip);
        if (!own) return 'Its clip is not there.';
        const other = apart(own);
        if (other) return other;
        if (!played.has(own.name)) played.set(own.name, playClip(own.clip, own.name));
        states.push({ name, plays: { clip: own.name, loop: plays.loop } });
        return null;
      }
      const keyed = fields.find(({ key }) => key === plays.field);
      if (!keyed) return 'Its field is not there.';
      const playable = ready.get(keyed.field.name) ? null : playableField(keyed.field, clips);
      if (playable) {
        const own = clips.find(({ id }) => id === playable.points[0].id);
        const other = own && apart(own);
        if (other) return other;
        ready.set(keyed.field.name, playable.field);
        // One clip, one set of keys.
        for (const clip of playable.field.clips) if (!played.has(clip.name)) played.set(clip.name, clip);
      }
      if (!ready.has(keyed.field.name)) return 'None of the clips of its field comes into step.';
      const missing = plays.inputs.find((input) => graph.inputs.find((own) => own.name === input)?.kind !== 'number');
      if (missing) return `It is steered by ${missing}, which is no number of the graph.`;
      states.push({ name, plays: { field: keyed.field.name, inputs: plays.inputs } });
      return null;
    })();
    if (why) left.push({ state: name, why });
  }
  if (!first || states.length === 0) return null;
  const known = new Set(states.map(({ name }) => name));
  const inputs = new Set(graph.inputs.map(({ name }) => name));
  const transitions = graph.transitions.flatMap(({ from, to, when }, i) =>
    (from === null || known.has(from)) && known.has(to) && when.every(({ input }) => inputs.has(input)) ? [i] : [],
  );
  const playGraph: PlayGraph = {
    inputs: graph.inputs,
    initial: known.has(graph.initial) ? graph.initial : states[0].name,
    states,
    transitions: transitions.map((i) => graph.transitions[i]),
  };
  const base: SetClip = first;
  return {
    set: { skeleton: playSkeleton(base.clip), clips: [...played.values()], fields: [...ready.values()], graph: playGraph },
    skeleton: onHips(base.clip.motion).skeleton,
    left,
    transitions,
  };
}
