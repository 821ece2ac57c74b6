import type { BodyMesh, Skeleton } from '@lantern/motion';
import * as THREE from 'three';
import type { WireMotion } from '@/worker/wire';
import { figureMesh } from './figure-mesh';

/** The one renderer of all such pictures: browsers allow only a few. */
let shared: THREE.WebGLRenderer | null = null;

/** A picture of poses side by side, seen from the side; each stands on its own, hips over its place. */
export interface PosePicture {
  readonly skeleton: Skeleton;
  readonly mesh: BodyMesh;
  /** One frame each, in the world, facing +Z. */
  readonly poses: readonly WireMotion[];
  readonly width: number;
  readonly height: number;
  /** Metres from one to the next. */
  readonly apart?: number;
  /** Quarter turns to the front: 0 is from his right side. */
  readonly front?: number;
}

/** Draws poses on a ground of nothing; the address of the picture, or null where nothing can be drawn. */
export function posePicture({ skeleton, mesh, poses, width, height, apart = 0.9, front = 0.35 }: PosePicture): string | null {
  try {
    shared ??= new THREE.WebGLRenderer({ alpha: true, antialias: true, preserveDrawingBuffer: true });
  } catch {
    return null;
  }
  const scene = new THREE.Scene();
  scene.add(new THREE.HemisphereLight('#fff4dc', '#6b5a3c', 2.1));
  const sun = new THREE.DirectionalLight('#fff0d0', 1.5);
  sun.position.set(2, 4, 3);
  scene.add(sun);
  const span = apart * poses.length;
  const tall = 2.05;
  const wide = Math.max(span, (tall * width) / height);
  const camera = new THREE.OrthographicCamera(-wide / 2, wide / 2, tall - 0.12, -0.12, 0.1, 20);
  camera.position.set(0, 0, 6);
  const figures = poses.map((pose, i) => {
    const figure = figureMesh(skeleton, mesh, null);
    figure.pose(pose, 0);
    const [x, , z] = pose.rootPositions;
    const holder = new THREE.Group();
    figure.object.position.set(-x, 0, -z);
    holder.add(figure.object);
    // Whoever faces +Z goes to the picture's right.
    holder.rotation.y = Math.PI / 2 - front;
    holder.position.x = (i + 0.5) * apart - span / 2;
    scene.add(holder);
    return figure;
  });
  shared.setPixelRatio(2);
  shared.setSize(width, height, false);
  shared.setClearColor(0x000000, 0);
  shared.render(scene, camera);
  const picture = shared.domElement.toDataURL('image/png');
  for (const figure of figures) figure.dispose();
  return picture;
}
