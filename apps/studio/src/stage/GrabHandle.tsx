'use client';
import { useFrame, type ThreeEvent } from '@react-three/fiber';
import { useRef } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';
import { Glass } from './Glass';
import { useHold } from './use-hold';

/** A joint of the first figure that is drawn by hand to a place on the stage, metres; the floor is at 0. */
export interface Drawing {
  readonly joint: number;
  readonly onDraw: (to: readonly [number, number, number], isDone: boolean) => void;
}

/** Of the handle, as a share of the distance from the viewer. */
const RADIUS = 0.011;

interface Held {
  readonly plane: THREE.Plane;
  /** From the joint to where it was taken hold of. */
  readonly grip: THREE.Vector3;
  readonly from: THREE.Vector3;
  readonly to: THREE.Vector3;
}

/** A round handle at a joint: dragged, the joint is drawn along in the plane that faces the viewer. */
export function GrabHandle({
  bone,
  onDraw,
  onHover,
}: {
  bone: THREE.Object3D;
  onDraw: Drawing['onDraw'];
  onHover: (isOn: boolean) => void;
}) {
  const group = useRef<THREE.Group>(null);
  useFrame(({ camera }) => {
    if (!group.current) return;
    bone.getWorldPosition(group.current.position);
    group.current.scale.setScalar(RADIUS * camera.position.distanceTo(group.current.position));
    group.current.quaternion.copy(camera.quaternion);
  });
  const { handlers, isHeld } = useHold<Held>({
    begin: (event: ThreeEvent<PointerEvent>) => {
      const from = bone.getWorldPosition(new THREE.Vector3());
      const plane = new THREE.Plane().setFromNormalAndCoplanarPoint(event.camera.getWorldDirection(new THREE.Vector3()), from);
      const hit = event.ray.intersectPlane(plane, new THREE.Vector3()) ?? from;
      return { plane, from, to: from.clone(), grip: hit.clone().sub(from) };
    },
    move: (held, event) => {
      const hit = event.ray.intersectPlane(held.plane, new THREE.Vector3());
      if (!hit) return null;
      const to = hit.sub(held.grip);
      onDraw(to.toArray(), false);
      return { state: { ...held, to }, says: `${(100 * to.distanceTo(held.from)).toFixed(1)} cm` };
    },
    end: ({ from, to }) => {
      if (to.distanceTo(from) > 1e-4) onDraw(to.toArray(), true);
    },
    onHover,
  });
  return (
    <>
      <group ref={group} renderOrder={8}>
        <mesh renderOrder={8}>
          <ringGeometry args={[0.72, 1, 32]} />
          <meshBasicMaterial color={DUSK.warm} depthTest={false} transparent />
        </mesh>
        <mesh {...handlers}>
          <circleGeometry args={[1.9, 24]} />
          <meshBasicMaterial transparent opacity={0.12} color={DUSK.warm} depthTest={false} />
        </mesh>
      </group>
      <Glass bone={bone} isShown={isHeld} />
    </>
  );
}
