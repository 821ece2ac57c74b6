import type { Thinned } from '../character/thin-keys';
import type { WrittenClip } from './written-clip';

/** What is left of a clip's keys, and what they take. */
export interface KeysFigures {
  readonly kept: number;
  readonly dense: number;
  /** Where a point within 10 cm of a joint is furthest from where it was; without thinning nowhere. */
  readonly worstMm: number;
  readonly joint: string;
  readonly frame: number;
  /** Bytes that its keys take in a file, and with a key on every frame. */
  readonly bytes: number;
  readonly denseBytes: number;
}

/** Bytes of a number of a key. */
const FLOAT = 4;
const SHORT = 2;

/** What the keys of a clip come to. Times are counted once for each list of frames, as files hold them. */
export function keysOf({ motion, travel }: WrittenClip, thinned: Thinned | null): KeysFigures {
  const { frames, skeleton, translations } = motion;
  const J = skeleton.joints.length;
  const tracks = J + 1 + (travel ? 2 : 0);
  const moving = translations?.size ?? 0;
  const denseBytes = (frames * (J * 4 + 3 + moving * 3 + (travel ? 7 : 0)) + frames) * FLOAT;
  if (!thinned) return { kept: tracks * frames, dense: tracks * frames, worstMm: 0, joint: '', frame: 0, bytes: denseBytes, denseBytes };
  const times = new Set<string>();
  let bytes = moving * frames * 3 * FLOAT;
  for (const [name, kept] of thinned.keys) {
    const size = typeof name === 'number' || name === 'root heading' ? 4 : 3;
    const perKey = thinned.weights.has(name) ? 3 : 1;
    bytes += kept.length * size * perKey * (typeof name === 'number' && thinned.quantised.has(name) ? SHORT : FLOAT);
    const own = kept.join();
    if (!times.has(own)) bytes += kept.length * FLOAT;
    times.add(own);
  }
  const { worst, kept, dense } = thinned;
  return { kept, dense, worstMm: worst.metres * 1000, joint: skeleton.joints[worst.joint].name, frame: worst.frame, bytes, denseBytes };
}
