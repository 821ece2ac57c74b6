import * as THREE from 'three';
import { angleOnRing, nearestAxis, ringNormal } from '@/stage/ring-turn';

const viewer = new THREE.Vector3(0, 0, 1);

test('a ring whose axis points to the eye, or half to it, stands as it is', () => {
  for (const axis of [new THREE.Vector3(0, 0, 1), new THREE.Vector3(0, 0.8, 0.6), new THREE.Vector3(0.8, 0, -0.6)])
    expect(ringNormal(axis, viewer).distanceTo(axis)).toBeLessThan(1e-12);
});

test('one that would stand edge-on tips towards the eye until it is half open, to the side that its axis leans to', () => {
  for (const [x, y, z] of [
    [1, 0, 0],
    [0.6, 0.8, 0],
    [0.995, 0, 0.0999],
    [0.995, 0, -0.0999],
  ]) {
    const normal = ringNormal(new THREE.Vector3(x, y, z).normalize(), viewer);
    expect(normal.length()).toBeCloseTo(1, 9);
    expect(Math.abs(normal.dot(viewer))).toBeCloseTo(0.5, 9);
    expect(Math.sign(normal.z)).toBe(z < 0 ? -1 : 1);
    expect(normal.dot(new THREE.Vector3(x, y, 0))).toBeGreaterThan(0.8);
  }
});

test('round a ring angles grow as its axis turns, right-handed; a ray beside its plane has none', () => {
  const ring = new THREE.Object3D();
  ring.position.set(1, 2, 3);
  const axis = new THREE.Vector3(0.3, 0.9, 0.4).normalize();
  ring.quaternion.setFromUnitVectors(new THREE.Vector3(0, 0, 1), axis);
  const rim = new THREE.Vector3(1, 0, 0).applyQuaternion(ring.quaternion);
  const eye = ring.position.clone().addScaledVector(axis, 5);
  const angleAt = (degrees: number) => {
    const place = rim.clone().applyAxisAngle(axis, THREE.MathUtils.degToRad(degrees)).add(ring.position);
    return angleOnRing(new THREE.Ray(eye, place.sub(eye).normalize()), ring);
  };
  for (const degrees of [0, 30, 90, -120]) expect(angleAt(degrees)).toBeCloseTo(degrees, 6);
  expect(angleOnRing(new THREE.Ray(eye, rim), ring)).toBeNull();
});

test('the world’s axis that points to the viewer most', () => {
  expect(nearestAxis(new THREE.Vector3(0.2, -0.9, 0.3)).toArray()).toEqual([0, 1, 0]);
  expect(nearestAxis(new THREE.Vector3(-0.8, 0.5, 0.3)).toArray()).toEqual([1, 0, 0]);
  expect(nearestAxis(new THREE.Vector3(0.1, 0.2, -0.3)).toArray()).toEqual([0, 0, 1]);
});
