import { lowPass } from '../math/filter';

/** A point's way, low-passed at 12 Hz, metres. */
export interface LowPassedPoint {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly z: Float64Array;
}

const HERTZ = 12;
const KNOWN = new WeakMap<Float32Array, { readonly fps: number; readonly point: LowPassedPoint }>();

/** Low-passes a track of three numbers a frame; contacts, slides and foot lock ask for the same ones. */
export function lowPassedPoint(track: Float32Array, fps: number): LowPassedPoint {
  const known = KNOWN.get(track);
  if (known?.fps === fps) return known.point;
  const n = track.length / 3;
  const channel = (k: number) => {
    const values = new Float64Array(n);
    for (let f = 0; f < n; f++) values[f] = track[f * 3 + k];
    return lowPass(values, HERTZ, fps);
  };
  const point = { x: channel(0), y: channel(1), z: channel(2) };
  KNOWN.set(track, { fps, point });
  return point;
}
