import type { FloorTransform } from './floor-transform';

/** The way of the root, one entry per frame: place on the floor and height in metres, heading in radians. */
export interface Travel {
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly z: Float64Array;
  readonly heading: Float64Array;
}

export function emptyTravel(frames: number): Travel {
  const make = () => new Float64Array(frames);
  return { x: make(), y: make(), z: make(), heading: make() };
}

/** What leads from a frame of one way to the same of another. */
export function between(from: Travel, to: Travel, f: number): FloorTransform {
  const turn = to.heading[f] - from.heading[f];
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return { turn, x: to.x[f] - (c * from.x[f] + s * from.z[f]), z: to.z[f] - (c * from.z[f] - s * from.x[f]), y: to.y[f] - from.y[f] };
}

/** The way of a loop played several times on end. */
export function repeatWay(way: Travel, times: number): Travel {
  const last = way.x.length - 1;
  const out = emptyTravel(times * last + 1);
  const turn = way.heading[last] - way.heading[0];
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const tx = way.x[last] - (c * way.x[0] + s * way.z[0]);
  const tz = way.z[last] - (c * way.z[0] - s * way.x[0]);
  for (let f = 0; f <= times * last; f++) {
    if (f <= last) {
      for (const k of ['x', 'y', 'z', 'heading'] as const) out[k][f] = way[k][f];
      continue;
    }
    const [x, z] = [out.x[f - last], out.z[f - last]];
    out.x[f] = c * x + s * z + tx;
    out.z[f] = c * z - s * x + tz;
    out.y[f] = out.y[f - last] + way.y[last] - way.y[0];
    out.heading[f] = out.heading[f - last] + turn;
  }
  return out;
}

/** The way of a loop with so many frames of the cycle before it and of the one after it; its own frames are where they are. */
export function wayRound(way: Travel, start: number): Travel {
  const last = way.x.length - 1;
  const three = repeatWay(way, 3);
  // Repeated, the middle one has come one cycle on: back by that.
  const back = between(
    { x: three.x.subarray(last), y: three.y.subarray(last), z: three.z.subarray(last), heading: three.heading.subarray(last) },
    way,
    0,
  );
  const [c, s] = [Math.cos(back.turn), Math.sin(back.turn)];
  const out = emptyTravel(last + 2 * start + 1);
  for (let i = 0; i < out.x.length; i++) {
    const f = last - start + i;
    out.x[i] = c * three.x[f] + s * three.z[f] + back.x;
    out.z[i] = c * three.z[f] - s * three.x[f] + back.z;
    out.y[i] = three.y[f] + (back.y ?? 0);
    out.heading[i] = three.heading[f] + back.turn;
  }
  return out;
}
