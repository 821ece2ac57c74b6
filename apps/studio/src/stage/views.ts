import * as THREE from 'three';

export const VIEWS = ['follow', 'track', 'front', 'side', 'top', 'free'] as const;
export type View = (typeof VIEWS)[number];

/** What each view does, for tooltips and screen readers. */
export const VIEW_WORDS: Record<View, string> = {
  follow: 'Follow the hips and turn with the heading',
  track: 'Follow the hips, without turning',
  front: 'From the front',
  side: 'From the side',
  top: 'From above',
  free: 'Free: drag to orbit, right-drag to shift, wheel to zoom',
};

const HEIGHT = 0.92;

/** Puts the camera where a view looks from: directions are the figure's own, so that front stays in front through turns. */
export function placeCamera(camera: THREE.PerspectiveCamera, view: View, centre: THREE.Vector3, heading: number, zoom: number): void {
  if (view === 'free') return;
  const [ahead, left, up] = {
    follow: [3.2, -3.1, 1.7],
    track: [3.4, -3.4, 1.8],
    front: [4.6, 0, 1.05],
    side: [0, -4.6, 1.0],
    top: [0, 0, 6.5],
  }[view];
  const turn = view === 'track' ? 0 : heading;
  const s = Math.sin(turn);
  const c = Math.cos(turn);
  const far = 1 / zoom;
  camera.position.set(
    centre.x + (s * ahead + c * left) * far,
    view === 'top' ? up * far : HEIGHT + (up - HEIGHT) * far,
    centre.z + (c * ahead - s * left) * far,
  );
  // From above, forward is up on the screen.
  camera.up.set(view === 'top' ? s : 0, view === 'top' ? 0 : 1, view === 'top' ? c : 0);
  camera.lookAt(centre.x, view === 'top' ? 0 : HEIGHT, centre.z);
}
