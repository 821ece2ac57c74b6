import type * as THREE from 'three';
import { extentOf, fitCamera, placeCamera, sightOf, type View } from '@/stage/views';

/** Half of the stage's field of view, upright, radians. */
const HALF_VIEW = (17 * Math.PI) / 180;

type Place = readonly [number, number, number];

/** What a view does to a camera: where it stands, and which way it looks. */
function taken(put: (camera: THREE.PerspectiveCamera) => void): { at: Place; to: Place; up: Place } {
  const seen: Record<'at' | 'to' | 'up', Place> = { at: [0, 0, 0], to: [0, 0, 0], up: [0, 1, 0] };
  const keep = (name: keyof typeof seen) => (x: number, y: number, z: number) => {
    seen[name] = [x, y, z];
  };
  put({ position: { set: keep('at') }, up: { set: keep('up') }, lookAt: keep('to') } as unknown as THREE.PerspectiveCamera);
  return seen;
}

const minus = (a: Place, b: Place): Place => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const dot = (a: Place, b: Place) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const angle = (a: Place, b: Place) => Math.acos(Math.min(1, dot(a, b) / Math.sqrt(dot(a, a) * dot(b, b))));

test('all of a way is in sight at once, head and feet, be it long or a stance', () => {
  for (const way of [
    [0, 1, 0, 0, 1, 20],
    [-3, 1, 2, 4, 1, -6, 1, 1, 1],
    [2, 1, 2],
  ]) {
    const extent = extentOf(way);
    const { at, to } = taken((camera) => fitCamera(camera, extent, 1));
    for (let i = 0; i < way.length; i += 3) {
      for (const height of [0, 1.8]) {
        expect(angle(minus(to, at), minus([way[i], height, way[i + 2]], at))).toBeLessThan(HALF_VIEW);
      }
    }
    expect(sightOf('fit', extent)).toBeGreaterThan(Math.sqrt(dot(minus(to, at), minus(to, at))));
    expect(sightOf('front', extent)).toBe(16);
  }
});

test('front is in front of the figure and side on its right, whichever way it faces; from above, ahead is up', () => {
  const centre = { x: 5, y: 0, z: -2 } as THREE.Vector3;
  for (const heading of [0, 1, -2.5]) {
    const ahead: Place = [Math.sin(heading), 0, Math.cos(heading)];
    const right: Place = [-Math.cos(heading), 0, Math.sin(heading)];
    const from = (view: View) => {
      const { at, up } = taken((camera) => placeCamera(camera, view, centre, heading, 1));
      return { off: [at[0] - 5, 0, at[2] + 2] as Place, up };
    };
    expect(angle(from('front').off, ahead)).toBeLessThan(1e-6);
    expect(angle(from('side').off, right)).toBeLessThan(1e-6);
    expect(angle(from('top').up, ahead)).toBeLessThan(1e-6);
  }
});
