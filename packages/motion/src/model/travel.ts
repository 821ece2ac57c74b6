import { leading, movePoint, type FloorTransform } from './floor-transform';

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
  const at = ({ x, y, z }: Travel) => ({ x: x[f], y: y[f], z: z[f] });
  return leading(at(from), at(to), to.heading[f] - from.heading[f]);
}

/**
 * The way of a loop played several times on end.
 *
 * @example
 * const { travel } = run({ from: best.from, to: best.to, steps: recipeSchema.parse([{ kind: 'loop' }, { kind: 'travel' }]) });
 * repeatWay(travel, 2).heading.length === 2 * (travel.heading.length - 1) + 1; // true
 */
export function repeatWay(way: Travel, times: number): Travel {
  const last = way.x.length - 1;
  const out = emptyTravel(times * last + 1);
  const at = (f: number) => ({ x: way.x[f], y: way.y[f], z: way.z[f] });
  const cycle = leading(at(0), at(last), way.heading[last] - way.heading[0]);
  for (let f = 0; f <= times * last; f++) {
    if (f <= last) for (const k of ['x', 'y', 'z', 'heading'] as const) out[k][f] = way[k][f];
    else putMoved(out, f, cycle, out, f - last);
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
  const out = emptyTravel(last + 2 * start + 1);
  for (let i = 0; i < out.x.length; i++) putMoved(out, i, back, three, last - start + i);
  return out;
}

/** A frame of a way, moved, as a frame of another. */
function putMoved(out: Travel, f: number, transform: FloorTransform, way: Travel, from: number): void {
  const at = [way.x[from], way.y[from], way.z[from]];
  movePoint(at, 0, transform, at, 0);
  [out.x[f], out.y[f], out.z[f]] = at;
  out.heading[f] = way.heading[from] + transform.turn;
}
