import * as THREE from 'three';
import { locate, type WireMotion } from '@/worker/wire';
import type { SecondFigure, StageProps } from './stage-props';
import type { Figures } from './use-figures';

/** Of the lamp from the figure, over the floor, metres. */
const FARTHEST_LAMP = 3;

/** A value of every frame, at a time in frames. */
export const atFrame = (values: Float32Array, frame: number) => values[Math.min(values.length - 1, Math.floor(frame))] ?? 0;

/** Poses all figures at a time in frames of the first motion, where they were captured. */
export function poseFigures(
  { first, second, end }: Figures,
  { motion, floor, other, pair }: Pick<StageProps, 'motion' | 'floor' | 'other' | 'pair'>,
  frame: number,
  centre: THREE.Vector3,
): void {
  first.pose(motion, frame);
  first.object.position.set(0, -floor, 0);
  if (second && other) {
    // In step: both at the same share of a second.
    second.pose(other.motion, (frame / motion.fps) * other.motion.fps);
    const scale = other.scale ?? 1;
    second.object.scale.setScalar(scale);
    second.object.rotation.y = 0;
    second.object.position.set(other.shift[0], -other.floor * scale, other.shift[1]);
  }
  putCentre(motion, frame, centre);
  if (pair && end) {
    first.pose(pair, 0);
    end.pose(pair, 1);
    for (const { object } of [first, end]) object.position.set(centre.x - pair.rootPositions[0], -floor, centre.z - pair.rootPositions[2]);
  }
}

/** Where the hips are over the floor, if the frame is here already. */
function putCentre(motion: WireMotion, frame: number, centre: THREE.Vector3): void {
  const found = locate(motion, Math.min(motion.frames - 1, Math.floor(frame)));
  if (!found) return;
  const at = Math.floor(found.frame) * 3;
  centre.set(found.motion.rootPositions[at], 0, found.motion.rootPositions[at + 2]);
}

/**
 * Puts the second figure some metres to the viewer's right of the first, wherever either has gone, facing as the first does where its
 * own facing is known. The camera steps back so that both are seen, unless it is led by hand or sees the whole way.
 */
export function standBeside(
  second: NonNullable<Figures['second']>,
  other: SecondFigure & { readonly beside: number },
  {
    frame,
    fps,
    facing,
    centre,
    camera,
    isLed,
  }: {
    readonly frame: number;
    readonly fps: number;
    readonly facing: number;
    readonly centre: THREE.Vector3;
    readonly camera: THREE.Camera;
    readonly isLed: boolean;
  },
): void {
  const [px, , pz] = second.bones[0].position.toArray();
  const scale = other.scale ?? 1;
  const turn = other.heading ? facing - atFrame(other.heading, (frame / fps) * other.motion.fps) : 0;
  second.object.rotation.y = turn;
  const [x, z] = [px * Math.cos(turn) + pz * Math.sin(turn), pz * Math.cos(turn) - px * Math.sin(turn)];
  const right = new THREE.Vector3(1, 0, 0).applyQuaternion(camera.quaternion).setY(0).normalize().multiplyScalar(other.beside);
  if (!isLed) {
    camera.position
      .sub(centre)
      .multiplyScalar(1 + 0.3 * other.beside)
      .add(centre)
      .addScaledVector(right, 0.5);
    camera.position.y -= 0.25 * other.beside;
  }
  second.object.position.set(centre.x + right.x - x * scale, -other.floor * scale, centre.z + right.z - z * scale);
}

/** Hangs the lamp over the viewer's shoulder: from whichever side one looks, that side is lit; but never far from the figure. */
export function hangLamp(lamp: THREE.SpotLight, camera: THREE.Camera, centre: THREE.Vector3): void {
  const [dx, dz] = [camera.position.x - centre.x, camera.position.z - centre.z];
  const near = Math.min(0.5, FARTHEST_LAMP / Math.max(1e-6, Math.hypot(dx, dz)));
  lamp.position.set(centre.x + near * dx + 0.8, 4.4, centre.z + near * dz + 0.5);
  lamp.target.position.set(centre.x, 0.8, centre.z);
  lamp.target.updateMatrixWorld();
}
