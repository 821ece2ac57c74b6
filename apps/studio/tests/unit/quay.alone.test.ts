/**
 * @jest-environment jsdom
 * @jest-environment-options {"customExportConditions": ["node", "require"]}
 */
import * as THREE from 'three';
import { heightAt, QUAY } from '@/stage/quay/ground';
import { quayScene } from '@/stage/quay/quay-scene';

// Nothing is painted here: shapes are looked at.
jest.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue(null);
const { object, dispose } = quayScene();
object.updateMatrixWorld(true);
const meshes: THREE.Mesh[] = [];
object.traverse((part) => part instanceof THREE.Mesh && meshes.push(part));

/** How high what is drawn stands at a place, seen from above eye level; light that is added to it is no ground. */
function drawnAt(x: number, z: number): number {
  const ray = new THREE.Raycaster(new THREE.Vector3(x, 1.9, z), new THREE.Vector3(0, -1, 0));
  const solid = meshes.filter(({ material }) => !Array.isArray(material) && material.blending !== THREE.AdditiveBlending);
  return ray.intersectObjects(solid, false)[0]?.point.y ?? -Infinity;
}

test('what one sees on the quay is as high as what one walks on: road, pavement and steps', () => {
  const { steps, kerb } = QUAY;
  const middle = (steps.x[0] + steps.x[1]) / 2;
  const places: [number, number][] = [
    [0, 0.3],
    [-3.1, -14.2],
    [0.4, 20.1],
    [kerb.x + 1.1, -6.3],
    [kerb.x + 2.2, 3.7],
  ];
  const whole = 2 * steps.count * steps.deep + steps.landing;
  for (let z = steps.z + steps.deep / 2; z < steps.z + whole; z += steps.deep / 2 + 0.01) places.push([middle, z]);
  for (const [x, z] of places) expect({ x, z, off: Math.abs(drawnAt(x, z) - heightAt(x, z)) < 0.03 }).toEqual({ x, z, off: true });
});

test('over the water there is nothing to stand on', () => {
  for (const z of [-20, 0, 20]) expect(drawnAt(QUAY.edge - 3, z)).toBeLessThan(-0.5);
});

test('it is few draws and no more corners than a machine without a graphics card bears, and every corner is somewhere', () => {
  expect(meshes.length).toBeGreaterThan(10);
  expect(meshes.length).toBeLessThan(60);
  let corners = 0;
  for (const { geometry } of meshes) {
    const { array } = geometry.getAttribute('position');
    corners += array.length / 3;
    expect([...array].every(Number.isFinite)).toBe(true);
  }
  expect(corners).toBeLessThan(60_000);
});

test('what it took is given back when it goes', () => {
  const gone: THREE.BufferGeometry[] = [];
  for (const { geometry } of meshes) geometry.addEventListener('dispose', () => gone.push(geometry));
  dispose();
  expect(new Set(gone).size).toBe(new Set(meshes.map(({ geometry }) => geometry)).size);
});
