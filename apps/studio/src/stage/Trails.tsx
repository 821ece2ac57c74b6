'use client';
import { useFrame } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { quantile, WAY_WIDTH } from '@lantern/motion';
import * as THREE from 'three';
import { usePlayer } from '@/data/player';

/** The way of a joint: x, y, z in metres and its turn, four numbers a frame. */
export interface Trail {
  readonly joint: string;
  readonly points: Float32Array;
  /** The same as it was captured, drawn as a thin chain where it was elsewhere; in step with the points. */
  readonly before?: Float32Array | null;
}

/** Where it was captured is drawn where it was further away than this, metres. */
const ELSEWHERE = 0.004;
/** Pixels of the dot of a frame. */
const DOT = 3.4;
const CAPTURED = '#b9c9c6';
/** Seconds shown before and after the playhead. */
const SPAN = 1.5;
const SLOW = new THREE.Color('#3f7f80');
const QUICK = new THREE.Color('#f4c872');

/** Trails of chosen joints round the playhead, the brighter the quicker, with a dot a frame. */
export function Trails({ trails, fps, floor }: { trails: readonly Trail[]; fps: number; floor: number }) {
  const lines = useMemo(
    () =>
      trails.flatMap(({ points, before }) => {
        const now = lineOf(points, fps);
        return [now, dotsOf(now.geometry), ...(before ? elsewhere(before, points) : [])];
      }),
    [trails, fps],
  );
  useEffect(
    () => () => {
      for (const line of lines) {
        line.geometry.dispose();
        line.material.dispose();
      }
    },
    [lines],
  );
  useFrame(() => {
    const { frame } = usePlayer.getState();
    lines.forEach((line) => {
      const frames = line.geometry.getAttribute('position').count;
      const from = Math.max(0, Math.round(frame - SPAN * fps));
      line.geometry.setDrawRange(from, Math.max(0, Math.min(frames, Math.round(frame + SPAN * fps)) - from));
    });
  });
  return (
    <group position-y={-floor}>
      {lines.map((line) => (
        <primitive key={line.uuid} object={line} />
      ))}
    </group>
  );
}

function lineOf(points: Float32Array, fps: number) {
  const n = points.length / WAY_WIDTH;
  const speeds = new Float32Array(n);
  for (let f = 1; f < n; f++) {
    const at = f * WAY_WIDTH;
    const step = (k: number) => points[at + k] - points[at + k - WAY_WIDTH];
    speeds[f] = Math.hypot(step(0), step(1), step(2)) * fps;
  }
  const quick = quantile(speeds, 0.95) || 1;
  const colours = new Float32Array(n * 3);
  const tint = new THREE.Color();
  for (let f = 0; f < n; f++)
    tint
      .copy(SLOW)
      .lerp(QUICK, Math.min(1, speeds[f] / quick))
      .toArray(colours, f * 3);
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.InterleavedBufferAttribute(new THREE.InterleavedBuffer(points, WAY_WIDTH), 3, 0));
  geometry.setAttribute('color', new THREE.BufferAttribute(colours, 3));
  return unculled(new THREE.Line(geometry, new THREE.LineBasicMaterial({ vertexColors: true, transparent: true, opacity: 0.95 })));
}

function dotsOf(geometry: THREE.BufferGeometry) {
  const material = new THREE.PointsMaterial({ size: DOT, sizeAttenuation: false, vertexColors: true });
  return unculled(new THREE.Points(geometry, material));
}

/** The way as it was captured, where it was elsewhere. */
function elsewhere(before: Float32Array, now: Float32Array) {
  const n = Math.min(before.length, now.length) / WAY_WIDTH;
  const places = new Float32Array(n * 3);
  for (let f = 0; f < n; f++) {
    const at = f * WAY_WIDTH;
    const off = Math.hypot(before[at] - now[at], before[at + 1] - now[at + 1], before[at + 2] - now[at + 2]);
    // What is no number is not drawn.
    for (let k = 0; k < 3; k++) places[f * 3 + k] = off > ELSEWHERE ? before[at + k] : NaN;
  }
  const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.BufferAttribute(places, 3));
  const thin = new THREE.LineBasicMaterial({ color: CAPTURED, transparent: true, opacity: 0.55 });
  const dots = new THREE.PointsMaterial({ color: CAPTURED, size: DOT * 0.6, sizeAttenuation: false, transparent: true, opacity: 0.8 });
  return [unculled(new THREE.Line(geometry, thin)), unculled(new THREE.Points(geometry, dots))];
}

/** Its extent is not asked for, for it is drawn in part and may have holes; and nothing is picked on it. */
function unculled<Of extends THREE.Line | THREE.Points>(object: Of): Of {
  object.frustumCulled = false;
  object.geometry.boundingSphere = new THREE.Sphere(new THREE.Vector3(), Infinity);
  object.raycast = () => {};
  return object;
}
