'use client';
import { useFrame, useThree, type ThreeEvent } from '@react-three/fiber';
import { useEffect, useRef } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';
import { useCanvasLabel } from './use-canvas-label';

/** A joint of the first figure that is drawn by hand to a place on the stage, metres; the floor is at 0. */
export interface Drawing {
  readonly joint: number;
  readonly onDraw: (to: readonly [number, number, number], isDone: boolean) => void;
}

/** Of the handle, as a share of the distance from the viewer. */
const RADIUS = 0.011;

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
  const invalidate = useThree((state) => state.invalidate);
  const canvas = useThree((state) => state.gl.domElement);
  const controls = useThree((state) => state.controls) as { enabled: boolean } | null;
  const group = useRef<THREE.Group>(null);
  const drag = useRef<{ plane: THREE.Plane; grip: THREE.Vector3; from: THREE.Vector3; to: THREE.Vector3 } | null>(null);
  const label = useCanvasLabel(canvas);
  useEffect(() => () => onHover(false), [onHover]);
  useEffect(() => invalidate(), [invalidate]);
  useFrame(({ camera }) => {
    if (!group.current) return;
    bone.getWorldPosition(group.current.position);
    group.current.scale.setScalar(RADIUS * camera.position.distanceTo(group.current.position));
    group.current.quaternion.copy(camera.quaternion);
  });
  const hit = (event: ThreeEvent<PointerEvent>) => drag.current && event.ray.intersectPlane(drag.current.plane, new THREE.Vector3());
  const down = (event: ThreeEvent<PointerEvent>) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    (event.target as Element).setPointerCapture(event.pointerId);
    if (controls) controls.enabled = false;
    const from = bone.getWorldPosition(new THREE.Vector3());
    const normal = event.camera.getWorldDirection(new THREE.Vector3());
    drag.current = {
      plane: new THREE.Plane().setFromNormalAndCoplanarPoint(normal, from),
      grip: new THREE.Vector3(),
      from,
      to: from.clone(),
    };
    drag.current.grip.copy(hit(event) ?? from).sub(from);
  };
  const move = (event: ThreeEvent<PointerEvent>) => {
    const at = hit(event);
    if (!drag.current || !at) return;
    event.stopPropagation();
    drag.current.to.copy(at).sub(drag.current.grip);
    label.say(`${(100 * drag.current.to.distanceTo(drag.current.from)).toFixed(1)} cm`, event);
    onDraw(drag.current.to.toArray(), false);
  };
  const end = () => {
    const done = drag.current;
    drag.current = null;
    if (controls) controls.enabled = true;
    label.hide();
    if (done && done.to.distanceTo(done.from) > 1e-4) onDraw(done.to.toArray(), true);
    invalidate();
  };
  return (
    <group ref={group} renderOrder={8}>
      <mesh renderOrder={8}>
        <ringGeometry args={[0.72, 1, 32]} />
        <meshBasicMaterial color={DUSK.warm} depthTest={false} transparent />
      </mesh>
      <mesh
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={end}
        onPointerCancel={end}
        onPointerOver={() => onHover(true)}
        onPointerOut={() => onHover(false)}
      >
        <circleGeometry args={[1.9, 24]} />
        <meshBasicMaterial transparent opacity={0.12} color={DUSK.warm} depthTest={false} />
      </mesh>
    </group>
  );
}
