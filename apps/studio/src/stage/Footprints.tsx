'use client';
import { useFrame } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';
import type { Footprint } from '@/worker/markers';

/** Where the feet stood: rounds for port, diamonds for starboard, the one under way bright. */
export function Footprints({ prints, frame }: { prints: readonly Footprint[]; frame: () => number }) {
  const shapes = useMemo(() => ({ left: roundPrint(), right: diamondPrint() }), []);
  const materials = useMaterials(prints);
  useFrame(() => {
    const now = frame();
    prints.forEach(({ from, to }, i) => {
      materials[i].opacity = now >= from && now < to ? 0.95 : 0.38;
    });
  });
  return (
    <group>
      {prints.map((print) =>
        // What the foot slid glows in it: from half a centimetre on, fully at three.
        print.slideCm > 0.5 ? (
          <mesh
            key={`slid ${print.side}${print.from}`}
            geometry={shapes[print.side]}
            position={[print.x, 0.008, print.z]}
            rotation={[0, print.heading, 0]}
            scale={0.55}
          >
            <meshBasicMaterial color={DUSK.warm} transparent opacity={Math.min(1, (print.slideCm - 0.5) / 2.5)} side={THREE.DoubleSide} />
          </mesh>
        ) : null,
      )}
      {prints.map((print, i) => (
        <mesh
          key={`${print.side}${print.from}`}
          geometry={shapes[print.side]}
          material={materials[i]}
          position={[print.x, 0.006, print.z]}
          rotation={[0, print.heading, 0]}
        />
      ))}
    </group>
  );
}

/**
 * A material for every print. Those that were there stay when prints change: a program that nothing is drawn with is thrown away, and building it anew takes
 * longer than a frame.
 */
function useMaterials(prints: readonly Footprint[]): readonly THREE.MeshBasicMaterial[] {
  const pool = useMemo<THREE.MeshBasicMaterial[]>(() => [], []);
  useEffect(
    () => () => {
      for (const material of pool) material.dispose();
    },
    [pool],
  );
  return useMemo(() => {
    const more = prints.length - pool.length;
    for (let k = 0; k < more; k++) pool.push(new THREE.MeshBasicMaterial({ transparent: true, opacity: 0.4, side: THREE.DoubleSide }));
    prints.forEach(({ side }, i) => pool[i].color.set(side === 'left' ? '#c4503b' : '#37957a'));
    return pool;
  }, [prints, pool]);
}

function flat(shape: THREE.Shape): THREE.BufferGeometry {
  // Drawn in x and y, laid down so that y points forward.
  return new THREE.ShapeGeometry(shape, 12).rotateX(Math.PI / 2);
}

function roundPrint(): THREE.BufferGeometry {
  return flat(new THREE.Shape().absellipse(0, 0, 0.05, 0.13, 0, Math.PI * 2, false, 0));
}

function diamondPrint(): THREE.BufferGeometry {
  return flat(new THREE.Shape().moveTo(0, -0.15).lineTo(0.062, 0).lineTo(0, 0.15).lineTo(-0.062, 0).closePath());
}
