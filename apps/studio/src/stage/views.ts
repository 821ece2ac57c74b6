import type * as THREE from 'three';

export const VIEWS = ['follow', 'track', 'front', 'side', 'top', 'fit', 'free'] as const;
export type View = (typeof VIEWS)[number];

/** What each view does, for tooltips and screen readers. */
export const VIEW_WORDS: Record<View, string> = {
  follow: 'Follow the hips and turn with the heading',
  track: 'Follow the hips, without turning',
  front: 'From the front',
  side: 'From the side',
  top: 'From above',
  fit: 'The whole way at once',
  free: 'Free: drag to orbit, right-drag to shift, wheel to zoom',
};

const HEIGHT = 0.92;

/** The way over the floor: its middle and how far it reaches from there, metres. */
export interface Extent {
  readonly x: number;
  readonly z: number;
  readonly reach: number;
}

/** @param rootPositions three numbers a frame, metres */
export function extentOf(rootPositions: ArrayLike<number>): Extent {
  const [low, high] = [
    [Infinity, Infinity],
    [-Infinity, -Infinity],
  ];
  for (let i = 0; i < rootPositions.length; i += 3) {
    [0, 2].forEach((k, axis) => {
      low[axis] = Math.min(low[axis], rootPositions[i + k]);
      high[axis] = Math.max(high[axis], rootPositions[i + k]);
    });
  }
  return { x: (low[0] + high[0]) / 2, z: (low[1] + high[1]) / 2, reach: Math.hypot(high[0] - low[0], high[1] - low[1]) / 2 };
}

/** How far the fog lets one see: as far as the camera stands off, and some. */
export const sightOf = (view: View, { reach }: Extent): number => (view === 'fit' ? Math.max(16, 5 * reach + 12) : 16);

/** Looks at the whole way from a height; the field of view takes in a metre around it. */
export function fitCamera(camera: THREE.PerspectiveCamera, { x, z, reach }: Extent, zoom: number): void {
  const far = ((reach + 1) * 2.9 + 1.2) / zoom;
  camera.up.set(0, 1, 0);
  camera.position.set(x + 0.62 * far, 0.75 * far, z + 0.62 * far);
  camera.lookAt(x, 0.5, z);
}

/** Puts the camera where a view looks from: directions are the figure's own, so that front stays in front through turns. */
export function placeCamera(camera: THREE.PerspectiveCamera, view: View, centre: THREE.Vector3, heading: number, zoom: number): void {
  if (view === 'free' || view === 'fit') return;
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
