'use client';
import { useFrame } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import type { Footprint } from '@/worker/markers';
import { BOTH_SIDES } from './both-sides';
import { drawPrints, LEFT } from './draw-prints';

/** How clear a print is under a foot that stands. */
const STANDING = 0.95;

/** Where the feet stood: rounds for port, diamonds for starboard, the one under way bright. All of them are one mesh, so that many cost one draw. */
export function Footprints({ prints, frame }: { prints: readonly Footprint[]; frame: () => number }) {
  const material = useMemo(() => new THREE.MeshBasicMaterial({ vertexColors: true, transparent: true, ...BOTH_SIDES }), []);
  const drawn = useMemo(() => drawPrints(prints, material), [prints, material]);
  useEffect(() => () => drawn.mesh.geometry.dispose(), [drawn]);
  useEffect(() => () => material.dispose(), [material]);
  useFrame(() => {
    const now = frame();
    prints.forEach(({ from, to }, i) => drawn.show(i, now >= from && now < to ? STANDING : LEFT));
  });
  return <primitive object={drawn.mesh} />;
}
