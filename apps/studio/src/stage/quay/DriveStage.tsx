'use client';
import { OrbitControls, PerformanceMonitor } from '@react-three/drei';
import { Canvas, useFrame, useThree } from '@react-three/fiber';
import type { BodyMesh } from '@lantern/motion';
import { useEffect, useMemo, useRef, type ComponentRef } from 'react';
import * as THREE from 'three';
import { DUSK } from '@/controls/theme';
import { usePlayer } from '@/data/player';
import type { Footprint, Markers } from '@/worker/markers';
import type { WireMotion } from '@/worker/wire';
import { isDrawnBySoftware } from '../drawn-by-software';
import { figureMesh } from '../figure-mesh';
import { Footprints } from '../Footprints';
import { Shadows } from '../Shadows';
import { useFrameloop } from '../use-frameloop';
import { PLAYED, useResolution } from '../use-resolution';
import { Quay } from './Quay';

export const CAMERAS = ['follow', 'behind', 'quay', 'free'] as const;
export type Camera = (typeof CAMERAS)[number];

/** Somebody who is driven: one frame that is written over, and the root that the camera goes by. */
export interface Driven {
  readonly motion: WireMotion;
  readonly mesh: BodyMesh;
  readonly markers: Markers | null;
  /** x, z, heading; read every frame. */
  readonly root: ArrayLike<number>;
  readonly prints: readonly Footprint[];
}

interface Props {
  readonly bodies: readonly Driven[];
  /** x, z, heading of what leads the first; null where nothing does. */
  readonly capsule: ArrayLike<number> | null;
  /** Metres: its radius and height. */
  readonly size: { readonly radius: number; readonly height: number };
  readonly camera: Camera;
}

/** The quay of Gullmouth with whoever is driven on it. */
export function DriveStage(props: Props) {
  const { playing, dpr, slower, faster } = useResolution();
  const frameloop = useFrameloop();
  return (
    <Canvas
      frameloop={frameloop}
      dpr={dpr}
      camera={{ fov: 36, near: 0.1, far: 140, position: [3, 1.7, -4] }}
      gl={{ antialias: false, stencil: true }}
      style={{ position: 'absolute', inset: 0, background: DUSK.deep }}
      aria-label="Stage"
      role="img"
    >
      {playing && <PerformanceMonitor ms={200} iterations={2} bounds={() => PLAYED} onDecline={slower} onIncline={faster} />}
      <Scene {...props} />
    </Canvas>
  );
}

function Scene({ bodies, capsule, size, camera }: Props) {
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => usePlayer.subscribe(() => invalidate()), [invalidate]);
  useEffect(() => invalidate());
  const lamp = useRef<THREE.PointLight>(null);
  const first = bodies[0];
  const place = useMemo(() => new THREE.Vector3(), []);
  useFrame(() => {
    if (first) place.set(first.root[0] - 1.2, 3.1, first.root[1] + 0.8);
    lamp.current?.position.copy(place);
  }, -1);
  return (
    <>
      <Quay />
      <hemisphereLight args={['#9fc4c4', '#3a3222', 1.5]} />
      <directionalLight position={[-4, 5, 2]} intensity={0.6} color="#a9d0d4" />
      <pointLight ref={lamp} intensity={26} distance={11} color="#ffce85" />
      {bodies.map((body, i) => (
        <Body key={i} {...body} lamp={place} />
      ))}
      {capsule && <CapsuleShape at={capsule} {...size} />}
      {first && (camera === 'free' ? <FreeCamera root={first.root} /> : <LedCamera root={first.root} camera={camera} />)}
    </>
  );
}

function Body({ motion, mesh, markers, prints, lamp }: Driven & { readonly lamp: THREE.Vector3 }) {
  const figure = useMemo(() => figureMesh(motion.skeleton, mesh, markers), [motion.skeleton, mesh, markers]);
  useEffect(() => () => figure.dispose(), [figure]);
  useFrame(() => {
    figure.pose(motion, 0);
    // Twice the drawing: not where the processor draws, which here never rests.
    figure.castFrom(isDrawnBySoftware() ? null : lamp);
  }, -2);
  return (
    <>
      <primitive object={figure.object} />
      <Shadows bones={figure.bones} markers={markers} />
      <Footprints prints={prints} frame={() => 0} />
    </>
  );
}

/** The capsule as lines: two rings, two arcs over it. */
function CapsuleShape({ at, radius, height }: { at: ArrayLike<number>; radius: number; height: number }) {
  const lines = useMemo(() => {
    const points: THREE.Vector3[] = [];
    const arc = (place: (angle: number) => THREE.Vector3, from: number, to: number) => {
      for (let i = 0; i < 32; i++) points.push(place(from + ((to - from) * i) / 32), place(from + ((to - from) * (i + 1)) / 32));
    };
    const top = height - radius;
    for (const y of [0.01, radius, top]) arc((a) => new THREE.Vector3(radius * Math.cos(a), y, radius * Math.sin(a)), 0, 2 * Math.PI);
    for (const turn of [0, Math.PI / 2]) {
      const on = (a: number, y: number) =>
        new THREE.Vector3(radius * Math.cos(a) * Math.cos(turn), y, radius * Math.cos(a) * Math.sin(turn));
      arc((a) => on(a, top + radius * Math.sin(a)), 0, Math.PI);
      arc((a) => on(a, radius - radius * Math.sin(a)), 0, Math.PI);
    }
    for (let k = 0; k < 4; k++) {
      const [x, z] = [radius * Math.cos((k * Math.PI) / 2), radius * Math.sin((k * Math.PI) / 2)];
      points.push(new THREE.Vector3(x, radius, z), new THREE.Vector3(x, top, z));
    }
    return new THREE.LineSegments(
      new THREE.BufferGeometry().setFromPoints(points),
      new THREE.LineBasicMaterial({ color: '#d8f0ea', transparent: true, opacity: 0.75 }),
    );
  }, [radius, height]);
  useEffect(
    () => () => {
      lines.geometry.dispose();
      (lines.material as THREE.Material).dispose();
    },
    [lines],
  );
  useFrame(() => void lines.position.set(at[0], 0, at[1]), -1);
  return <primitive object={lines} />;
}

/** Metres back, to the right, and up from whom it follows; and where it looks. */
const PLACES = {
  // From behind and the side of the houses: the water is seen past him as he goes along the quay.
  follow: { back: 4.9, right: -2.9, up: 1.9, ahead: 0.5, look: 1 },
  behind: { back: 1.9, right: 0.55, up: 1.72, ahead: 3, look: 1.25 },
} as const;

function LedCamera({ root, camera: kind }: { root: ArrayLike<number>; camera: Exclude<Camera, 'free'> }) {
  const camera = useThree((state) => state.camera);
  const facing = useRef<number | null>(null);
  useFrame((_, delta) => {
    const [x, z, heading] = [root[0], root[1], root[2]];
    if (kind === 'quay') {
      // From the pavement over the road: it stands still along the way and turns after him.
      const place = Math.round(z / 8) * 8;
      camera.position.lerp(new THREE.Vector3(6.2, 1.9, place + 2.5), 1 - Math.exp(-3 * delta));
      camera.lookAt(x, 0.9, z);
      facing.current = null;
      return;
    }
    const { back, right, up, ahead, look } = PLACES[kind];
    const off = facing.current === null ? 0 : heading - facing.current;
    const near = off - 2 * Math.PI * Math.round(off / (2 * Math.PI));
    facing.current = facing.current === null ? heading : facing.current + near * (1 - Math.exp(-2.6 * Math.min(0.1, delta)));
    const [s, c] = [Math.sin(facing.current), Math.cos(facing.current)];
    camera.position.set(x - s * back - c * right, up, z - c * back + s * right);
    camera.up.set(0, 1, 0);
    camera.lookAt(x + s * ahead, look, z + c * ahead);
  }, -1);
  return null;
}

function FreeCamera({ root }: { root: ArrayLike<number> }) {
  const orbit = useRef<ComponentRef<typeof OrbitControls>>(null);
  const camera = useThree((state) => state.camera);
  const before = useRef<[number, number] | null>(null);
  useFrame(() => {
    const [bx, bz] = before.current ?? [root[0], root[1]];
    const shift = new THREE.Vector3(root[0] - bx, 0, root[1] - bz);
    before.current = [root[0], root[1]];
    if (!orbit.current) return;
    orbit.current.target.add(shift);
    camera.position.add(shift);
  }, -1);
  return <OrbitControls ref={orbit} makeDefault target={[root[0], 0.9, root[1]]} maxDistance={20} enableDamping={false} />;
}
