'use client';
import { useFrame } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';

const REACH = 14;

/**
 * The floor drawn as a chart: metre rulings round the figure, numbered along the axes, with the pool of the lamp. Numbers are little
 * pictures made here: the text of the library that leads the camera asks the network for fonts.
 */
export function Floor({ centre }: { centre: THREE.Vector3 }) {
  const grid = useMemo(() => rulings(), []);
  const labels = useMemo(
    () =>
      Array.from(
        { length: 2 * REACH + 1 },
        () => new THREE.Sprite(new THREE.SpriteMaterial({ transparent: true, depthWrite: false, fog: true })),
      ),
    [],
  );
  const pool = useMemo(() => poolTexture(), []);
  const lit = useRef<THREE.Mesh>(null);
  const cell = useRef<string>('');
  useEffect(
    () => () => {
      grid.geometry.dispose();
      pool.dispose();
      for (const label of labels) label.material.dispose();
    },
    [grid, pool, labels],
  );
  useFrame(() => {
    lit.current?.position.set(centre.x, 0.002, centre.z);
    const x = Math.round(centre.x);
    const z = Math.round(centre.z);
    if (cell.current === `${x} ${z}`) return;
    cell.current = `${x} ${z}`;
    grid.position.set(x, 0, z);
    labels.forEach((label, i) => {
      const metre = z - REACH + i;
      label.visible = metre % 2 === 0;
      label.position.set(x - 1.5, 0.02, metre);
      label.scale.set(0.4, 0.2, 1);
      label.material.map = numberTexture(metre);
      label.material.needsUpdate = true;
    });
  });
  return (
    <>
      <primitive object={grid} />
      {labels.map((label) => (
        <primitive key={label.uuid} object={label} />
      ))}
      <mesh ref={lit} rotation-x={-Math.PI / 2}>
        <planeGeometry args={[5.2, 5.2]} />
        <meshBasicMaterial map={pool} transparent depthWrite={false} />
      </mesh>
    </>
  );
}

function rulings(): THREE.LineSegments {
  const points: number[] = [];
  const colours: number[] = [];
  const strong = new THREE.Color(DUSK.line);
  const soft = strong.clone().multiplyScalar(0.62);
  // In pieces of a metre: long lines that pass the camera are lost by some drawing engines.
  for (let i = -REACH; i <= REACH; i++) {
    for (let k = -REACH; k < REACH; k++) {
      points.push(i, 0, k, i, 0, k + 1, k, 0, i, k + 1, 0, i);
      for (let v = 0; v < 4; v++) (i % 5 === 0 ? strong : soft).toArray(colours, colours.length);
    }
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.Float32BufferAttribute(points, 3));
  geometry.setAttribute('color', new THREE.Float32BufferAttribute(colours, 3));
  return new THREE.LineSegments(geometry, new THREE.LineBasicMaterial({ vertexColors: true, transparent: true, opacity: 0.8 }));
}

function poolTexture(): THREE.CanvasTexture {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = 128;
  const context = canvas.getContext('2d');
  if (context) {
    const light = context.createRadialGradient(64, 64, 2, 64, 64, 64);
    light.addColorStop(0, 'rgba(233,175,80,0.5)');
    light.addColorStop(0.5, 'rgba(220,160,70,0.2)');
    light.addColorStop(1, 'rgba(200,150,70,0)');
    context.fillStyle = light;
    context.fillRect(0, 0, 128, 128);
  }
  return new THREE.CanvasTexture(canvas);
}

const numbers = new Map<number, THREE.CanvasTexture>();

function numberTexture(metre: number): THREE.CanvasTexture {
  const known = numbers.get(metre);
  if (known) return known;
  const canvas = document.createElement('canvas');
  canvas.width = 128;
  canvas.height = 64;
  const context = canvas.getContext('2d');
  if (context) {
    context.font = '34px "Alegreya Sans", sans-serif';
    context.fillStyle = 'rgba(220,231,225,0.75)';
    context.textAlign = 'center';
    context.fillText(`${metre < 0 ? '−' : ''}${Math.abs(metre)} m`, 64, 42);
  }
  const texture = new THREE.CanvasTexture(canvas);
  texture.colorSpace = THREE.SRGBColorSpace;
  numbers.set(metre, texture);
  return texture;
}
