import * as THREE from 'three';

export const VIEWS = ['follow', 'front', 'side', 'top', 'free'] as const;
export type View = (typeof VIEWS)[number];

const HEIGHT = 0.92;

/** Puts the camera where a view looks from: directions are the figure's own, so that front stays in front through turns. */
export function placeCamera(camera: THREE.PerspectiveCamera, view: View, centre: THREE.Vector3, heading: number): void {
  if (view === 'free') return;
  const [ahead, left, up] = { follow: [3.2, -3.1, 1.7], front: [4.6, 0, 1.05], side: [0, -4.6, 1.0], top: [0, 0, 6.5] }[view];
  const s = Math.sin(heading);
  const c = Math.cos(heading);
  camera.position.set(centre.x + s * ahead + c * left, up, centre.z + c * ahead - s * left);
  // From above, forward is up on the screen.
  camera.up.set(view === 'top' ? s : 0, view === 'top' ? 0 : 1, view === 'top' ? c : 0);
  camera.lookAt(centre.x, view === 'top' ? 0 : HEIGHT, centre.z);
}
