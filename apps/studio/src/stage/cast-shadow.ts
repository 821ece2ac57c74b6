import * as THREE from 'three';
import { BOTH_SIDES } from './both-sides';

/** Metres over the floor: above prints and the lamp's pool. */
const OVER = 0.007;

/** Each place is darkened once, however many limbs are between it and the lamp. */
const SHADE = new THREE.MeshBasicMaterial({
  color: '#050c0e',
  transparent: true,
  opacity: 0.34,
  depthWrite: false,
  fog: false,
  ...BOTH_SIDES,
  stencilWrite: true,
  stencilRef: 1,
  stencilFunc: THREE.NotEqualStencilFunc,
  stencilZPass: THREE.ReplaceStencilOp,
});

/** The shadow of a skinned body on the floor. */
export interface CastShadow {
  readonly object: THREE.SkinnedMesh;
  /** Lays it down as a lamp throws it, or takes it away. */
  castFrom(lamp: THREE.Vector3 | null): void;
}

/**
 * The shadow that a body throws on the floor at height 0: the same mesh on the same bones, every corner of it drawn where the ray of the lamp through it
 * meets the floor.
 *
 * @param body bound to its bones as they stand in the world
 */
export function castShadow(body: THREE.SkinnedMesh): CastShadow {
  const object = new THREE.SkinnedMesh(body.geometry, SHADE);
  object.bindMode = THREE.DetachedBindMode;
  object.bind(body.skeleton, new THREE.Matrix4());
  object.frustumCulled = false;
  object.matrixAutoUpdate = false;
  object.matrixWorldAutoUpdate = false;
  object.renderOrder = 2;
  object.visible = false;
  return {
    object,
    castFrom(lamp) {
      object.visible = lamp !== null;
      if (lamp) object.matrixWorld.copy(flattening(lamp));
    },
  };
}

/**
 * Leads every place to where the ray from a lamp through it meets the floor.
 *
 * @example
 * new THREE.Vector3(0, 1, 0).applyMatrix4(flattening(new THREE.Vector3(-1, 2, 0))); // x is 1, and it lies on the floor
 */
export function flattening({ x, y, z }: THREE.Vector3): THREE.Matrix4 {
  return new THREE.Matrix4().set(y, -x, 0, 0, 0, -OVER, 0, OVER * y, 0, -z, y, 0, 0, -1, 0, y);
}
