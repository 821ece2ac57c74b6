'use client';
import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';
import { listen, nearestTo } from './canvas-pick';

let known: THREE.Texture | null = null;

/** A round dot. */
function disc(): THREE.Texture {
  if (known) return known;
  const size = 32;
  const pixels = new Uint8Array(size * size * 4);
  for (let i = 0; i < size * size; i++) {
    const [x, y] = [(i % size) - (size - 1) / 2, Math.floor(i / size) - (size - 1) / 2];
    pixels.set([255, 255, 255, Math.hypot(x, y) < size / 2 ? 255 : 0], i * 4);
  }
  known = new THREE.DataTexture(pixels, size, size);
  known.needsUpdate = true;
  return known;
}

/** Joints of one or two figures as dots over their bodies, larger where they are chosen; a click on one picks it. */
export function JointPicker({
  figures,
  chosen,
  isElsewhere,
  onPick,
}: {
  figures: readonly (readonly THREE.Bone[])[];
  /** Joints of each figure. */
  chosen: readonly ReadonlySet<number>[];
  /** Whether the pointer is on something that goes before the joints. */
  isElsewhere: () => boolean;
  onPick: (figure: number, joint: number) => void;
}) {
  const canvas = useThree((state) => state.gl.domElement);
  const camera = useThree((state) => state.camera);
  const clouds = useMemo(
    () =>
      figures.flatMap((bones, figure) =>
        [false, true].map((isChosen) => {
          const joints = bones.map((_, j) => j).filter((j) => (chosen[figure]?.has(j) ?? false) === isChosen);
          const geometry = new THREE.BufferGeometry();
          geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(joints.length * 3), 3));
          const material = new THREE.PointsMaterial({
            size: isChosen ? 12 : 6,
            map: disc(),
            alphaTest: 0.5,
            sizeAttenuation: false,
            color: isChosen ? DUSK.warm : DUSK.text,
            depthTest: false,
            transparent: true,
            opacity: isChosen ? 1 : 0.75,
          });
          const points = new THREE.Points(geometry, material);
          points.frustumCulled = false;
          points.renderOrder = 6;
          return { points, bones, joints };
        }),
      ),
    [figures, chosen],
  );
  useEffect(
    () => () => {
      for (const { points } of clouds) {
        points.geometry.dispose();
        points.material.dispose();
      }
    },
    [clouds],
  );
  const at = useMemo(() => new THREE.Vector3(), []);
  useFrame(() => {
    for (const { points, bones, joints } of clouds) {
      const position = points.geometry.getAttribute('position');
      joints.forEach((j, i) => {
        bones[j].getWorldPosition(at);
        position.setXYZ(i, at.x, at.y, at.z);
      });
      position.needsUpdate = true;
    }
  });
  useEffect(() => {
    const joints = figures.flatMap((bones, figure) => bones.map((bone, joint) => ({ bone, figure, joint })));
    return listen(canvas, {
      pointerdown: (event) => {
        if (event.button !== 0 || isElsewhere()) return;
        const places = joints.map(({ bone }) => bone.getWorldPosition(new THREE.Vector3()));
        const found = joints[nearestTo(event, places, camera, canvas)];
        if (found) onPick(found.figure, found.joint);
      },
    });
  }, [camera, canvas, figures, isElsewhere, onPick]);
  return (
    <>
      {clouds.map(({ points }, i) => (
        <primitive key={i} object={points} />
      ))}
    </>
  );
}
