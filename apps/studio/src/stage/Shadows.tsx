'use client';
import { groundUnder, type StageProp } from '@lantern/motion';
import { useFrame } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import type { Markers } from '@/worker/markers';
import { useSame } from './use-same';

/** A foot so far over the floor casts no shadow on it any more, metres. */
const FADES = 0.45;
const WIDTH = 0.42;
const UNDER_HIPS = 0.85;
const NO_PROPS: readonly StageProp[] = [];

/** Soft shadows under the feet and the body: the nearer to the floor, or to the block they are over, the darker. They tell at a glance whether somebody stands. */
export function Shadows({
  bones,
  markers,
  props = NO_PROPS,
}: {
  bones: readonly THREE.Bone[];
  markers: Markers | null;
  /** Blocks that shadows fall on. */
  props?: readonly StageProp[];
}) {
  const feet = useSame(markers ? [markers.left.foot, markers.right.foot].filter((joint) => joint >= 0) : []);
  const cast = useMemo(() => {
    return [...feet.map((joint) => ({ joint, width: WIDTH, least: 0.09 })), { joint: 0, width: UNDER_HIPS, least: 0.9 }].map((one) => ({
      ...one,
      mesh: softDisc(one.width),
    }));
  }, [feet]);
  useEffect(
    () => () => {
      for (const { mesh } of cast) {
        mesh.geometry.dispose();
        mesh.material.dispose();
      }
    },
    [cast],
  );
  useFrame(() => {
    for (const { joint, mesh, least } of cast) {
      const bone = bones[joint];
      if (!bone) continue;
      bone.getWorldPosition(mesh.position);
      const { x, y, z } = mesh.position;
      const ground = groundUnder(props, [x, y, z]);
      const over = Math.max(0, y - ground - least);
      mesh.position.y = ground + 0.004;
      mesh.material.opacity = 0.85 * Math.max(0, 1 - over / FADES) * (joint === 0 ? 0.6 : 1);
    }
  });
  return cast.map(({ mesh, joint }) => <primitive key={joint} object={mesh} />);
}

/** Dark in the middle, nothing at its rim. */
function softDisc(width: number) {
  const geometry = new THREE.PlaneGeometry(width, width).rotateX(-Math.PI / 2);
  const material = new THREE.MeshBasicMaterial({ color: '#050c0e', transparent: true, depthWrite: false, map: fade() });
  const mesh = new THREE.Mesh(geometry, material);
  mesh.renderOrder = 5;
  return mesh;
}

let shared: THREE.DataTexture | null = null;

/** Clear at its rim; shared and kept. */
function fade(): THREE.DataTexture {
  if (shared) return shared;
  const size = 64;
  const data = new Uint8Array(size * size * 4);
  for (let i = 0; i < size * size; i++) {
    const [x, y] = [(i % size) - size / 2 + 0.5, Math.floor(i / size) - size / 2 + 0.5];
    const share = Math.max(0, 1 - Math.hypot(x, y) / (size / 2));
    data.fill(255, i * 4, i * 4 + 3);
    data[i * 4 + 3] = 255 * share * share;
  }
  shared = new THREE.DataTexture(data, size, size);
  shared.needsUpdate = true;
  return shared;
}
