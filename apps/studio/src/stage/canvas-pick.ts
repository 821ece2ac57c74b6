import * as THREE from 'three';

/** Pixels within which something on the stage is meant by a pointer. */
export const REACH = 16;

const FLOOR = new THREE.Plane(new THREE.Vector3(0, 1, 0), 0);

/** A pointer's place in the window. */
export interface PointerPlace {
  readonly clientX: number;
  readonly clientY: number;
}

/** How far a place of the world is from the pointer, pixels; infinite behind the camera. */
export function pixelsAway(place: THREE.Vector3, pointer: PointerPlace, camera: THREE.Camera, box: DOMRect): number {
  const at = place.clone().project(camera);
  if (at.z >= 1) return Infinity;
  return Math.hypot(((at.x + 1) / 2) * box.width + box.left - pointer.clientX, ((1 - at.y) / 2) * box.height + box.top - pointer.clientY);
}

/** The nearest to the pointer of some places of the world, by its index; -1 when none is meant. */
export function nearestTo(pointer: PointerPlace, places: readonly THREE.Vector3[], camera: THREE.Camera, canvas: HTMLElement): number {
  const box = canvas.getBoundingClientRect();
  const away = places.map((place) => pixelsAway(place, pointer, camera, box));
  const least = Math.min(REACH, ...away);
  return least < REACH ? away.indexOf(least) : -1;
}

/** Where the pointer meets the floor, or null when it looks past it. */
export function onFloor(pointer: PointerPlace, camera: THREE.Camera, canvas: HTMLElement): THREE.Vector3 | null {
  const box = canvas.getBoundingClientRect();
  const ray = new THREE.Raycaster();
  const at = [((pointer.clientX - box.left) / box.width) * 2 - 1, 1 - ((pointer.clientY - box.top) / box.height) * 2];
  ray.setFromCamera(new THREE.Vector2(at[0], at[1]), camera);
  return ray.ray.intersectPlane(FLOOR, new THREE.Vector3());
}

/** Listens to the pointer on the stage. @returns what ends it */
export function listen(
  canvas: HTMLElement,
  handlers: Partial<Record<'pointermove' | 'pointerleave' | 'pointerdown' | 'pointerup', (event: PointerEvent) => void>>,
): () => void {
  const all = Object.entries(handlers) as [keyof typeof handlers, (event: PointerEvent) => void][];
  for (const [name, handler] of all) canvas.addEventListener(name, handler);
  return () => {
    for (const [name, handler] of all) canvas.removeEventListener(name, handler);
  };
}
