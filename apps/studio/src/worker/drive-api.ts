import {
  fieldSchema,
  playableSet,
  readyGraph,
  roughWeatherSteps,
  tester,
  type BlendField,
  type Graph,
  type PlayableSet,
  type Skeleton,
  type Tester,
  type Tried,
  type Weather,
  type WeatherOptions,
} from '@lantern/motion';
import type { PlaySet } from '@lantern/drive';
import { LRUCache } from 'lru-cache';
import type { SetClipAsked } from './made-clips';
import { setClips } from './set-clips';

/** What is played: a set's graph with what it names. Without a graph it is the one that is made of what there is. */
export interface PlayAsked {
  readonly graph: Graph | null;
  /** By their ids. */
  readonly fields: readonly (BlendField & { readonly id: string })[];
  readonly clips: readonly SetClipAsked[];
}

/** A set ready to be played, and drawn. */
export interface PlayView {
  readonly graph: Graph;
  readonly set: PlaySet;
  readonly skeleton: Skeleton;
  readonly left: PlayableSet['left'];
  /** The transitions that are played, by their places in the graph. */
  readonly transitions: readonly number[];
}

interface Opened extends PlayView {
  readonly tester: Tester;
}

const opened = new LRUCache<string, Opened>({ max: 3 });

/** Null when nothing of it can be played. */
async function open({ graph: given, fields, clips: asked }: PlayAsked): Promise<Opened | null> {
  const key = JSON.stringify([given && { ...given, comments: [], states: given.states.map(({ at: _, ...own }) => own) }, fields, asked]);
  const held = opened.get(key);
  if (held) return held;
  const clips = await setClips.all(asked);
  const keyed = fields.map(({ id, ...field }) => ({ key: id, field: fieldSchema.parse(field) }));
  const graph = given ?? readyGraph(clips, keyed);
  const playable = playableSet(graph, clips, keyed);
  if (!playable) return null;
  const { set, skeleton, left, transitions } = playable;
  const made = { graph, set, skeleton, left, transitions, tester: tester(set) };
  opened.set(key, made);
  return made;
}

/** Weather is played for so long at a time, milliseconds: in between the worker is free for what is dragged. */
const SPELL = 40;
let weatherNow = 0;

/** What the worker does with graphs. */
export const driveApi = {
  async drivePlay(asked: PlayAsked): Promise<PlayView | null> {
    const found = await open(asked);
    if (!found) return null;
    const { graph, set, skeleton, left, transitions } = found;
    return { graph, set, skeleton, left, transitions };
  },

  /** A transition tried from every phase, by its place in the graph; null where it is not played. */
  async driveTried(asked: PlayAsked, transition: number): Promise<Tried[] | null> {
    const found = await open(asked);
    const index = found?.transitions.indexOf(transition) ?? -1;
    return found && index >= 0 ? found.tester.try(index) : null;
  },

  /** Rough weather; null when it was stopped, or nothing can be played. */
  async driveWeather(
    asked: PlayAsked,
    options: Pick<WeatherOptions, 'minutes' | 'seed' | 'recorded'>,
    progress: (share: number) => void,
  ): Promise<Weather | null> {
    const found = await open(asked);
    if (!found) return null;
    const own = ++weatherNow;
    const steps = roughWeatherSteps(found.set, options);
    for (let told = performance.now(); ;) {
      const { done, value } = steps.next();
      if (done) return value;
      if (performance.now() - told < SPELL) continue;
      progress(value);
      await new Promise((resolve) => setTimeout(resolve, 0));
      if (own !== weatherNow) return null;
      told = performance.now();
    }
  },

  driveStop(): void {
    weatherNow++;
  },
};
