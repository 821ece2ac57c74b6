'use client';
import type { Balance } from '@lantern/motion';
import { useFrame } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';
import { usePlayer } from '@/data/player';
import { BOTH_SIDES } from './both-sides';

/** Metres over the floor, so that footprints lie below. */
const LIFT = 0.012;
const MOST_CORNERS = 12;
/** Radius of the mark of the centre of mass, metres. */
const RADIUS = 0.045;

/** The soles' support as an outline on the floor, and the centre of mass over it: a round with two of its quarters dark. */
export function BalanceMark({ balance }: { balance: Balance }) {
  const { outline, mark, material, dispose } = useMemo(parts, []);
  useEffect(() => dispose, [dispose]);
  useFrame(() => {
    const frame = Math.min(balance.support.length - 1, Math.max(0, Math.round(usePlayer.getState().frame)));
    const corners = balance.support[frame];
    const place = outline.geometry.getAttribute('position');
    const count = Math.min(MOST_CORNERS, corners.length / 2);
    for (let i = 0; i < count; i++) place.setXYZ(i, corners[i * 2], LIFT, corners[i * 2 + 1]);
    place.needsUpdate = true;
    outline.geometry.setDrawRange(0, count);
    outline.visible = count > 1;
    mark.position.set(balance.centre[frame * 2], LIFT + 0.002, balance.centre[frame * 2 + 1]);
    material.opacity = Number.isNaN(balance.marginCm[frame]) ? 0.35 : 1;
  });
  return (
    <>
      <primitive object={outline} />
      <primitive object={mark} />
    </>
  );
}

function parts() {
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(MOST_CORNERS * 3), 3));
  const line = new THREE.LineBasicMaterial({ color: DUSK.text, transparent: true, opacity: 0.85 });
  const outline = new THREE.LineLoop(geometry, line);
  outline.frustumCulled = false;
  const material = new THREE.MeshBasicMaterial({ vertexColors: true, transparent: true, ...BOTH_SIDES });
  const round = quarters();
  const mark = new THREE.Mesh(round, material);
  const dispose = () => {
    for (const thing of [geometry, line, material, round]) thing.dispose();
  };
  return { outline, mark, material, dispose };
}

/** A round on the floor in four quarters, two light and two dark. */
function quarters(): THREE.BufferGeometry {
  const [light, dark] = [new THREE.Color(DUSK.text), new THREE.Color(DUSK.deep)];
  const places: number[] = [];
  const colours: number[] = [];
  const steps = 40;
  const at = (i: number) => [Math.cos((i / steps) * 2 * Math.PI) * RADIUS, 0, Math.sin((i / steps) * 2 * Math.PI) * RADIUS];
  for (let i = 0; i < steps; i++) {
    places.push(0, 0, 0, ...at(i), ...at(i + 1));
    const colour = Math.floor((4 * i) / steps) % 2 === 0 ? light : dark;
    for (let k = 0; k < 3; k++) colours.push(colour.r, colour.g, colour.b);
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.Float32BufferAttribute(places, 3));
  geometry.setAttribute('color', new THREE.Float32BufferAttribute(colours, 3));
  return geometry;
}
