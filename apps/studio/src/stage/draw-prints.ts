import * as THREE from 'three';
import { DUSK } from '@/controls/theme';
import type { Footprint } from '@/worker/markers';
import { printShape } from './print-shape';

/** How clear a print is that was left. */
export const LEFT = 0.38;

export interface DrawnPrints {
  readonly mesh: THREE.Mesh;
  /** How clear a print is from now on. */
  show(print: number, opacity: number): void;
}

/** Prints as one mesh on the floor. */
export function drawPrints(prints: readonly Footprint[], material: THREE.Material): DrawnPrints {
  const positions: number[] = [];
  const colours: number[] = [];
  const indices: number[] = [];
  const colour = new THREE.Color();
  const add = ({ side, x, z, heading }: Footprint, hue: string, y: number, size: number, opacity: number): readonly [number, number] => {
    const first = positions.length / 3;
    const outline = printShape(side);
    colour.set(hue);
    for (const [across, along] of outline) {
      const [a, b] = [across * size, along * size];
      positions.push(x + a * Math.cos(heading) + b * Math.sin(heading), y, z - a * Math.sin(heading) + b * Math.cos(heading));
      colours.push(colour.r, colour.g, colour.b, opacity);
    }
    for (let k = 1; k + 1 < outline.length; k++) indices.push(first, first + k, first + k + 1);
    return [first, first + outline.length];
  };
  const runs = prints.map((print) => add(print, print.side === 'left' ? '#c4503b' : '#37957a', 0.006, 1, LEFT));
  // What a foot slid glows in its print: from half a centimetre on, fully at three.
  for (const print of prints) if (print.slideCm > 0.5) add(print, DUSK.warm, 0.008, 0.55, Math.min(1, (print.slideCm - 0.5) / 2.5));

  const geometry = new THREE.BufferGeometry();
  const hues = new THREE.Float32BufferAttribute(colours, 4);
  geometry.setAttribute('position', new THREE.Float32BufferAttribute(positions, 3));
  geometry.setAttribute('color', hues);
  geometry.setIndex(indices);
  const shown = prints.map(() => LEFT);
  const mesh = new THREE.Mesh(geometry, material);
  // Over the pool of the lamp, under the shadows.
  mesh.renderOrder = 1;
  return {
    mesh,
    show(print, opacity) {
      if (shown[print] === opacity) return;
      shown[print] = opacity;
      for (let v = runs[print][0]; v < runs[print][1]; v++) hues.setW(v, opacity);
      hues.needsUpdate = true;
    },
  };
}
