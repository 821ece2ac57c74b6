import * as THREE from 'three';

/** A ring is at least so far open to the eye: the share of its width that its height has. */
const OPEN = 0.5;

/**
 * Which way a ring about an axis faces: along the axis; but one that would stand edge-on tips towards the eye until it is half open.
 *
 * @param axis a unit vector
 * @param toViewer a unit vector
 */
export function ringNormal(axis: THREE.Vector3, toViewer: THREE.Vector3): THREE.Vector3 {
  const open = axis.dot(toViewer);
  if (Math.abs(open) >= OPEN) return axis.clone();
  const beside = axis.clone().addScaledVector(toViewer, -open);
  return beside.setLength(Math.sqrt(1 - OPEN * OPEN)).addScaledVector(toViewer, open < 0 ? -OPEN : OPEN);
}

/**
 * Where a ray is round a ring, degrees, as its axis turns; null where it misses the ring's plane.
 *
 * @param ring an object in whose X and Y the ring lies
 */
export function angleOnRing(ray: THREE.Ray, ring: THREE.Object3D): number | null {
  const normal = new THREE.Vector3(0, 0, 1).applyQuaternion(ring.quaternion);
  const hit = ray.intersectPlane(new THREE.Plane().setFromNormalAndCoplanarPoint(normal, ring.position), new THREE.Vector3());
  if (!hit) return null;
  hit.sub(ring.position).applyQuaternion(ring.quaternion.clone().invert());
  return THREE.MathUtils.radToDeg(Math.atan2(hit.y, hit.x));
}

/** The axis of the world that points to the viewer most. */
export function nearestAxis(toViewer: THREE.Vector3): THREE.Vector3 {
  const most = toViewer.toArray().map(Math.abs);
  const at = most[1] > Math.max(most[0], most[2]) ? 1 : most[0] > most[2] ? 0 : 2;
  return new THREE.Vector3().setComponent(at, 1);
}
