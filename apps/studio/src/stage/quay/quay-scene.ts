import * as THREE from 'three';
import { drawHarbour } from './harbour';
import { canvasOf } from './paint';
import { drawStreet } from './street';

/** The quay at dusk, in few draws: unlit but for the pools of the lamps, so that it costs little where pictures are drawn in software. */
export function quayScene(): { readonly object: THREE.Group; dispose(): void } {
  const object = new THREE.Group();
  const canvas = canvasOf(object);
  drawHarbour(canvas);
  drawStreet(canvas);
  return { object, dispose: () => canvas.dispose() };
}
