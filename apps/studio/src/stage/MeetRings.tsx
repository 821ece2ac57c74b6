'use client';
import { useFrame } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';
import { usePlayer } from '@/data/player';
import type { StageProps } from './stage-props';

/** Metres over the floor, so that footprints lie below. */
const LIFT = 0.013;
/** Radii of a ring, metres, and how far the cross goes. */
const RING = [0.16, 0.172] as const;
const CROSS = 0.26;
/** A place is seen so long before and after, frames. */
const BESIDE = 30;

type Meets = NonNullable<StageProps['meets']>;

/** Rings on the floor where two motions were put over each other; each is seen about the time at which they were. */
export function MeetRings({ meets }: { meets: Meets }) {
  // Shapes and colours stay for as long as the stage does: only where the rings are changes.
  const { group, put, dispose } = useMemo(rings, []);
  useEffect(() => dispose, [dispose]);
  useEffect(() => put(meets), [put, meets]);
  useFrame(() => {
    const { frame } = usePlayer.getState();
    group.children.forEach((ring, i) => {
      const meet = meets[i];
      ring.visible = meet !== undefined && frame >= meet.from - BESIDE && frame <= meet.to + BESIDE;
    });
  });
  return <primitive object={group} />;
}

function rings() {
  const ring = new THREE.RingGeometry(RING[0], RING[1], 48).rotateX(-Math.PI / 2);
  const cross = new THREE.BufferGeometry().setFromPoints([new THREE.Vector3(-CROSS, 0, 0), new THREE.Vector3(CROSS, 0, 0)]);
  const light = new THREE.MeshBasicMaterial({ color: DUSK.text, side: THREE.DoubleSide, fog: false });
  const warm = new THREE.LineBasicMaterial({ color: DUSK.warm, fog: false });
  const group = new THREE.Group();
  const put = (meets: Meets) => {
    while (group.children.length < meets.length) group.add(new THREE.Group().add(new THREE.Mesh(ring, light), new THREE.Line(cross, warm)));
    meets.forEach(({ place }, i) => group.children[i].position.set(place[0], LIFT, place[1]));
  };
  const dispose = () => {
    for (const thing of [ring, cross, light, warm]) thing.dispose();
  };
  return { group, put, dispose };
}
