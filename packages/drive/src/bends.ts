import { blendPoses, frameAt } from './blend';
import { followChain, wholeChain } from './legs';
import type { PlaySet } from './play-graph';
import type { PlayClip, PlaySkeleton } from './play-set';
import { heading } from './quat';
import { STEP } from './set-player';

/** Of a clip's own bends the share below which a bend is usual. */
const USUAL = 0.95;
const ONE = Float64Array.of(1);

/** How much the joints of a clip bend their way in a step, metres: step by step, and the share of them that is usual. */
interface Bends {
  readonly steps: number;
  readonly bends: Float32Array;
  readonly usual: Float64Array;
}

/** The same of a state: of each of its clips, and the most that is usual in any. */
export interface StateBends {
  readonly clips: ReadonlyMap<PlayClip, Bends>;
  readonly most: Float64Array;
}

/** What of every state's clips is known, in the graph's order. */
export function usualBends({ skeleton, clips, fields, graph }: PlaySet): StateBends[] {
  const of = (clip: PlayClip): Bends => {
    const known = KNOWN.get(clip);
    if (known?.skeleton === skeleton) return known.bends;
    const bends = bendsOf(skeleton, clip);
    KNOWN.set(clip, { skeleton, bends });
    return bends;
  };
  return graph.states.map(({ plays }) => {
    const all =
      'clip' in plays ? clips.filter(({ name }) => name === plays.clip) : (fields.find(({ name }) => name === plays.field)?.clips ?? []);
    const most = new Float64Array(skeleton.names.length);
    const own = new Map(all.map((clip) => [clip, of(clip)]));
    for (const { usual } of own.values()) usual.forEach((bend, j) => (most[j] = Math.max(most[j], bend)));
    return { clips: own, most };
  });
}

/** Clips never change, and several players of a set are measured. */
const KNOWN = new WeakMap<PlayClip, { readonly skeleton: PlaySkeleton; readonly bends: Bends }>();

/** A clip's bends, read every step. Step i is where the last three steps end in it. */
function bendsOf(skeleton: PlaySkeleton, clip: PlayClip): Bends {
  const J = skeleton.names.length;
  const chain = wholeChain(skeleton);
  const turn = new Float64Array(4);
  const at = new Float64Array(1);
  const [rotations, hips, root] = [new Float32Array(J * 4), new Float64Array(3), new Float64Array(3)];
  const steps = Math.max(0, Math.floor((clip.frames - 1) / clip.fps / STEP + 1e-6)) + 1;
  const places: Float64Array[] = [];
  for (let i = 0; i < steps; i++) {
    at[0] = i * STEP;
    blendPoses(rotations, hips, [clip], at, ONE, 0);
    const [f, g, u] = frameAt(clip, i * STEP);
    for (let k = 0; k < 3; k++) root[k] = clip.root[f * 3 + k] * (1 - u) + clip.root[g * 3 + k] * u;
    heading(turn, 0, root[2]);
    followChain(chain, skeleton, rotations, hips, root, turn);
    places.push(chain.place.slice());
  }
  const bends = new Float32Array(steps * J);
  const usual = new Float64Array(J);
  for (let j = 0; j < J; j++) {
    for (let i = 2; i < steps; i++) {
      const [a, b, c] = [places[i], places[i - 1], places[i - 2]];
      bends[i * J + j] = Math.sqrt([0, 1, 2].reduce((sum, k) => sum + (a[j * 3 + k] - 2 * b[j * 3 + k] + c[j * 3 + k]) ** 2, 0));
    }
    const sorted = Float32Array.from({ length: Math.max(0, steps - 2) }, (_, i) => bends[(i + 2) * J + j]).sort();
    usual[j] = sorted.length > 0 ? sorted[Math.min(sorted.length - 1, Math.floor(USUAL * sorted.length))] : 0;
  }
  return { steps, bends, usual };
}
