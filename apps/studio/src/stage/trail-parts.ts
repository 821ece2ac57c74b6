import { quantile, WAY_WIDTH } from '@lantern/motion';
import * as THREE from 'three';

/** The way of a joint: x, y, z in metres and its turn, four numbers a frame. */
export interface Trail {
  readonly joint: string;
  readonly points: Float32Array;
  /** The same as it was captured, drawn as a thin chain where it was elsewhere; in step with the points. */
  readonly before?: Float32Array | null;
}

/** Something that is drawn of a trail. */
export interface TrailPart {
  readonly drawn: THREE.Line<THREE.BufferGeometry, THREE.Material> | THREE.Points<THREE.BufferGeometry, THREE.Material>;
  /** What of it lies in the frames from one on, before another: where it starts, and how much it is. */
  range(from: number, to: number): readonly [start: number, count: number];
}

/** Where it was captured is drawn where it was further away than this, metres. */
const ELSEWHERE = 0.004;
/** Pixels of the dot of a frame. */
const DOT = 3.4;
const CAPTURED = '#b9c9c6';
const SLOW = new THREE.Color('#3f7f80');
const QUICK = new THREE.Color('#f4c872');

/** A line, the brighter the quicker, with a dot a frame; and a thin chain where it was captured, wherever that was elsewhere. */
export function trailParts({ points, before }: Trail, fps: number): TrailPart[] {
  const geometry = ribbon(points, fps);
  const line = new THREE.Line(geometry, new THREE.LineBasicMaterial({ vertexColors: true, transparent: true, opacity: 0.95 }));
  const dots = new THREE.Points(geometry, new THREE.PointsMaterial({ size: DOT, sizeAttenuation: false, vertexColors: true }));
  const frames = points.length / WAY_WIDTH;
  const range: TrailPart['range'] = (from, to) => [Math.min(from, frames), Math.max(0, Math.min(to, frames) - from)];
  return [...[line, dots].map((drawn) => ({ drawn: unculled(drawn), range })), ...(before ? elsewhere(before, points) : [])];
}

function ribbon(points: Float32Array, fps: number): THREE.BufferGeometry {
  const n = points.length / WAY_WIDTH;
  const speeds = new Float32Array(n);
  for (let f = 1; f < n; f++) {
    const at = f * WAY_WIDTH;
    const step = (k: number) => points[at + k] - points[at + k - WAY_WIDTH];
    speeds[f] = Math.hypot(step(0), step(1), step(2)) * fps;
  }
  const quick = quantile(speeds, 0.95) || 1;
  const colours = new Float32Array(n * 3);
  const tint = new THREE.Color();
  for (let f = 0; f < n; f++)
    tint
      .copy(SLOW)
      .lerp(QUICK, Math.min(1, speeds[f] / quick))
      .toArray(colours, f * 3);
  return new THREE.BufferGeometry().setAttribute('position', placesOf(points)).setAttribute('color', new THREE.BufferAttribute(colours, 3));
}

const placesOf = (points: Float32Array) => new THREE.InterleavedBufferAttribute(new THREE.InterleavedBuffer(points, WAY_WIDTH), 3, 0);

/**
 * The way as it was captured, where it was elsewhere: what it is drawn of is named by its number. A place that is no number would say the same, but
 * drawing programs may take seconds over a line to it.
 */
function elsewhere(before: Float32Array, now: Float32Array): TrailPart[] {
  const n = Math.min(before.length, now.length) / WAY_WIDTH;
  const isApart = (f: number) => {
    const at = f * WAY_WIDTH;
    return Math.hypot(before[at] - now[at], before[at + 1] - now[at + 1], before[at + 2] - now[at + 2]) > ELSEWHERE;
  };
  const links: number[] = [];
  const dots: number[] = [];
  // How much there is before each frame, and before the end.
  const linksBefore = new Uint32Array(n + 1);
  const dotsBefore = new Uint32Array(n + 1);
  for (let f = 0; f < n; f++) {
    if (isApart(f)) dots.push(f);
    if (f + 1 < n && isApart(f) && isApart(f + 1)) links.push(f, f + 1);
    linksBefore[f + 1] = links.length;
    dotsBefore[f + 1] = dots.length;
  }
  const part = (drawn: TrailPart['drawn'], index: number[], upTo: Uint32Array, reach: number): TrailPart => {
    drawn.geometry.setAttribute('position', placesOf(before)).setIndex(index);
    const at = (f: number) => upTo[Math.max(0, Math.min(f, n))];
    return { drawn: unculled(drawn), range: (from, to) => [at(from), Math.max(0, at(to - reach) - at(from))] };
  };
  const thin = new THREE.LineBasicMaterial({ color: CAPTURED, transparent: true, opacity: 0.55 });
  const small = new THREE.PointsMaterial({ color: CAPTURED, size: DOT * 0.6, sizeAttenuation: false, transparent: true, opacity: 0.8 });
  return [
    // A link ends a frame after it begins.
    part(new THREE.LineSegments(new THREE.BufferGeometry(), thin), links, linksBefore, 1),
    part(new THREE.Points(new THREE.BufferGeometry(), small), dots, dotsBefore, 0),
  ];
}

/** Its extent is not asked for, for it is drawn in part and may have holes; and nothing is picked on it. */
function unculled<Of extends TrailPart['drawn']>(object: Of): Of {
  object.frustumCulled = false;
  object.geometry.boundingSphere = new THREE.Sphere(new THREE.Vector3(), Infinity);
  object.raycast = () => {};
  return object;
}
