import * as THREE from 'three';
import { drawPrints } from '@/stage/draw-prints';
import { printShape } from '@/stage/print-shape';
import type { Footprint } from '@/worker/markers';

const print = (change: Partial<Footprint>): Footprint => ({ side: 'left', x: 0, z: 0, heading: 0, from: 0, to: 10, slideCm: 0, ...change });
const material = new THREE.MeshBasicMaterial();
const ends = (mesh: THREE.Mesh) => {
  mesh.geometry.computeBoundingBox();
  const { min, max } = mesh.geometry.boundingBox ?? new THREE.Box3();
  return { x: [min.x, max.x], z: [min.z, max.z] };
};

test('a print lies where the foot stood and points where it pointed', () => {
  const { mesh } = drawPrints([print({ x: 2, z: 3, side: 'right', heading: Math.PI / 2 })], material);
  const { x, z } = ends(mesh);
  // The diamond is 30 cm long and 12.4 cm wide; turned by a quarter it lies along x.
  expect(x[0]).toBeCloseTo(1.85, 5);
  expect(x[1]).toBeCloseTo(2.15, 5);
  expect(z[0]).toBeCloseTo(2.938, 5);
  expect(z[1]).toBeCloseTo(3.062, 5);
});

test('however many there are, it is one mesh; each is made clearer alone', () => {
  const { mesh, show } = drawPrints([print({}), print({ side: 'right', x: 1 }), print({ x: 2 })], material);
  const hues = mesh.geometry.getAttribute('color');
  show(1, 0.95);
  const first = printShape('left').length;
  const own = printShape('right').length;
  const clear = Array.from({ length: hues.count }, (_, v) => hues.getW(v) > 0.9);
  expect(clear.flatMap((is, v) => (is ? [v] : []))).toEqual(Array.from({ length: own }, (_, k) => first + k));
});

test('what a foot slid glows in its print, the more the further, and less than half a centimetre does not', () => {
  const corners = (slideCm: number) => drawPrints([print({ slideCm })], material).mesh.geometry.getAttribute('color');
  const plain = corners(0.4);
  const slid = corners(1.75);
  expect(slid.count).toBe(2 * plain.count);
  expect(slid.getW(slid.count - 1)).toBeCloseTo(0.5, 5);
  expect(corners(8).getW(slid.count - 1)).toBe(1);
});
