'use client';
import type { BodyMesh, StageProp } from '@lantern/motion';
import { Canvas, useFrame, useThree } from '@react-three/fiber';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { usePlayer } from '@/data/player';
import { DUSK } from '@/controls/theme';
import type { Markers } from '@/worker/markers';
import { locate, type WireMotion } from '@/worker/wire';
import { figureMesh } from './figure-mesh';
import { Floor, Footprints } from './Floor';
import { Ghosts } from './Ghosts';
import { JointPicker } from './JointPicker';
import { PathPen, type Pen } from './PathPen';
import { Shadows } from './Shadows';
import { Pointer } from './Pointer';
import { Props } from './Props';
import { Trails, type Trail } from './Trails';
import { TurnRing, type Turning } from './TurnRing';
import { extentOf, fitCamera, placeCamera, sightOf, type View } from './views';
import { WayLine } from './WayLine';
import { WayTicks } from './WayTicks';

export interface StageProps {
  readonly motion: WireMotion;
  readonly mesh: BodyMesh;
  readonly markers: Markers | null;
  /** The level of the floor in the motion; it is drawn at zero. */
  readonly floor: number;
  /** Facing per frame, radians; without it the figure is taken to face +Z. */
  readonly heading?: Float32Array;
  readonly view: View;
  readonly showsPrints: boolean;
  readonly bones?: boolean;
  readonly ghosts?: number;
  readonly trails?: readonly Trail[];
  readonly measuring?: boolean;
  readonly props?: readonly StageProp[];
  readonly onProps?: (props: readonly StageProp[]) => void;
  /** A second figure in step with the first: another take, or the same one before it was repaired. */
  readonly other?: {
    readonly motion: WireMotion;
    readonly mesh: BodyMesh;
    readonly floor: number;
    readonly shift: readonly [number, number];
    /** Drawn as solid as the first, instead of as a ghost. */
    readonly solid?: boolean;
    readonly tint?: ReadonlyMap<number, string>;
    /** Drawn larger or smaller about the origin: so that a smaller one's hips are where the first one's are. */
    readonly scale?: number;
    /** Metres to the viewer's right of the first, wherever either has gone; 0 is over it. */
    readonly beside?: number;
    /** Its facing per frame, radians: then it is turned to face as the first does. */
    readonly heading?: Float32Array;
  } | null;
  /** Colours of the first figure's joints. */
  readonly tint?: ReadonlyMap<number, string>;
  /** Joints are shown as dots, those chosen larger, and picked by a click: of the first figure (0) and of the other (1). */
  readonly picking?: { readonly chosen: readonly ReadonlySet<number>[]; readonly onPick: (figure: number, joint: number) => void } | null;
  readonly turning?: Turning | null;
  /** The root's way on the floor, x and z a frame. */
  readonly way?: Float32Array | null;
  readonly pen?: Pen | null;
  /** Two frames to be seen over each other where the figure is, instead of it. */
  readonly pair?: WireMotion | null;
}

/** The window: a figure in its motion at the player's frame. Knows motion, knows nothing of places. */
export function Stage(props: StageProps) {
  const playing = usePlayer((state) => state.playing);
  return (
    <Canvas
      frameloop={playing ? 'always' : 'demand'}
      dpr={[1, 1.5]}
      camera={{ fov: 34, near: 0.1, far: 200, position: [3, 1.6, 4] }}
      gl={{ antialias: true }}
      style={{ position: 'absolute', inset: 0, background: `linear-gradient(${DUSK.deep}, ${DUSK.haze} 45%, ${DUSK.deep})` }}
      aria-label="Stage"
      role="img"
    >
      <Scene {...props} />
    </Canvas>
  );
}

const atFrame = (values: Float32Array, frame: number) => values[Math.min(values.length - 1, Math.floor(frame))] ?? 0;

/** Of the lamp from the figure, over the floor, metres. */
const FARTHEST_LAMP = 3;
/** Metres to every side of where a path is drawn. */
const DRAWING_ROOM = 4;

function Scene({
  motion,
  mesh,
  markers,
  floor,
  heading,
  view,
  showsPrints,
  bones = false,
  ghosts = 0,
  trails,
  measuring = false,
  props,
  onProps,
  other,
  tint,
  picking = null,
  turning = null,
  pair = null,
  way = null,
  pen = null,
}: StageProps) {
  const { skeleton } = motion;
  const figure = useMemo(() => figureMesh(skeleton, mesh, markers, undefined, undefined, tint), [skeleton, mesh, markers, tint]);
  useEffect(() => () => figure.dispose(), [figure]);
  const centre = useMemo(() => new THREE.Vector3(), []);
  const whole = useMemo(() => extentOf(motion.rootPositions), [motion]);
  // While a path is drawn the window holds still, with room to draw in.
  const isDrawing = pen?.isDrawing ?? false;
  const [drawnIn, setDrawnIn] = useState(whole);
  if (!isDrawing && drawnIn !== whole) setDrawnIn(whole);
  const extent = useMemo(
    () => (isDrawing ? { ...drawnIn, reach: Math.max(DRAWING_ROOM, drawnIn.reach) } : whole),
    [isDrawing, drawnIn, whole],
  );
  const lamp = useRef<THREE.SpotLight>(null);
  const camera = useThree((state) => state.camera);
  const canvas = useThree((state) => state.gl.domElement);
  const invalidate = useThree((state) => state.invalidate);
  const set = useThree((state) => state.set);
  const orbit = useRef<OrbitControls | null>(null);

  useEffect(() => usePlayer.subscribe(() => invalidate()), [invalidate]);
  useEffect(() => figure.showBones(bones), [figure, bones]);
  const names = useMemo(() => skeleton.joints.map((joint) => joint.name), [skeleton]);
  const [rest, skin, solid, hues] = [other?.motion.skeleton, other?.mesh, other?.solid ?? false, other?.tint];
  const second = useMemo(
    () => (rest && skin ? figureMesh(rest, skin, null, solid ? undefined : '#8fd0cb', undefined, hues) : null),
    [rest, skin, solid, hues],
  );
  const pickable = useMemo(() => (second ? [figure.bones, second.bones] : [figure.bones]), [figure, second]);
  useEffect(() => () => second?.dispose(), [second]);
  const turned = turning ? (pickable[turning.figure]?.[turning.joint] ?? null) : null;
  const ring = useRef(false);
  const isOnRing = useCallback(() => ring.current, []);
  const setOnRing = useCallback((isOn: boolean) => void (ring.current = isOn), []);
  const end = useMemo(() => (pair ? figureMesh(pair.skeleton, mesh, null, DUSK.warm, 0.5) : null), [pair, mesh]);
  useEffect(() => () => end?.dispose(), [end]);
  const zoom = useRef(1);
  useEffect(() => {
    if (view === 'free') return;
    zoom.current = 1;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      zoom.current = Math.min(4, Math.max(0.2, zoom.current * Math.exp(-event.deltaY * 0.0012)));
      invalidate();
    };
    canvas.addEventListener('wheel', wheel, { passive: false });
    return () => canvas.removeEventListener('wheel', wheel);
  }, [view, canvas, invalidate]);
  useEffect(
    () => invalidate(),
    [
      invalidate,
      motion,
      view,
      showsPrints,
      figure,
      bones,
      ghosts,
      trails,
      props,
      second,
      other,
      picking,
      turning,
      measuring,
      end,
      way,
      pen,
    ],
  );
  useEffect(() => {
    if (view !== 'free' || measuring) return;
    camera.up.set(0, 1, 0);
    const controls = new OrbitControls(camera, canvas);
    controls.target.set(centre.x, 0.9, centre.z);
    controls.maxDistance = 25;
    controls.addEventListener('change', () => invalidate());
    controls.update();
    orbit.current = controls;
    set({ controls });
    return () => {
      set({ controls: null });
      orbit.current = null;
      controls.dispose();
    };
  }, [view, camera, canvas, centre, invalidate, measuring, set]);

  useFrame((_, delta) => {
    const player = usePlayer.getState();
    if (player.playing) player.advance(Math.min(delta, 0.25));
    const frame = usePlayer.getState().frame;
    figure.pose(motion, frame);
    figure.object.position.set(0, -floor, 0);
    if (second && other) {
      // In step: both at the same share of a second.
      second.pose(other.motion, (frame / motion.fps) * other.motion.fps);
      const scale = other.scale ?? 1;
      second.object.scale.setScalar(scale);
      second.object.rotation.y = 0;
      second.object.position.set(other.shift[0], -other.floor * scale, other.shift[1]);
    }
    const before = centre.clone();
    const found = locate(motion, Math.min(motion.frames - 1, Math.floor(frame)));
    if (found) {
      const at = Math.floor(found.frame) * 3;
      centre.set(found.motion.rootPositions[at], 0, found.motion.rootPositions[at + 2]);
    }
    if (pair && end) {
      figure.pose(pair, 0);
      end.pose(pair, 1);
      for (const { object } of [figure, end])
        object.position.set(centre.x - pair.rootPositions[0], -floor, centre.z - pair.rootPositions[2]);
    }
    if (orbit.current) {
      // The free view travels along.
      const shift = centre.clone().sub(before);
      orbit.current.target.add(shift);
      camera.position.add(shift);
    }
    const facing = heading ? atFrame(heading, frame) : 0;
    if (camera instanceof THREE.PerspectiveCamera) {
      if (view === 'fit') fitCamera(camera, extent, zoom.current);
      else placeCamera(camera, view, centre, facing, zoom.current);
    }
    if (second && other?.beside !== undefined) {
      const [px, , pz] = second.bones[0].position.toArray();
      const scale = other.scale ?? 1;
      const turn = other.heading ? facing - atFrame(other.heading, (frame / motion.fps) * other.motion.fps) : 0;
      second.object.rotation.y = turn;
      const [x, z] = [px * Math.cos(turn) + pz * Math.sin(turn), pz * Math.cos(turn) - px * Math.sin(turn)];
      const right = new THREE.Vector3(1, 0, 0).applyQuaternion(camera.quaternion).setY(0).normalize().multiplyScalar(other.beside);
      // Both are to be seen: from between them, and further off.
      if (view !== 'free' && view !== 'fit') {
        camera.position
          .sub(centre)
          .multiplyScalar(1 + 0.3 * other.beside)
          .add(centre)
          .addScaledVector(right, 0.5);
        camera.position.y -= 0.25 * other.beside;
      }
      second.object.position.set(centre.x + right.x - x * scale, -other.floor * scale, centre.z + right.z - z * scale);
    }
    if (lamp.current) {
      // The lamp hangs over the viewer's shoulder: from whichever side one looks, that side is lit; but never far from the figure.
      const [dx, dz] = [camera.position.x - centre.x, camera.position.z - centre.z];
      const near = Math.min(0.5, FARTHEST_LAMP / Math.max(1e-6, Math.hypot(dx, dz)));
      lamp.current.position.set(centre.x + near * dx + 0.8, 4.4, centre.z + near * dz + 0.5);
      lamp.current.target.position.set(centre.x, 0.8, centre.z);
      lamp.current.target.updateMatrixWorld();
    }
    // Before the floor, which follows the figure, yet without taking the drawing over.
  }, -1);

  return (
    <>
      <fog attach="fog" args={[DUSK.haze, view === 'fit' ? sightOf(view, extent) * 0.6 : 6, sightOf(view, extent)]} />
      <hemisphereLight args={['#9fc4c4', '#2a2418', 1.15]} />
      <directionalLight position={[-3, 4, 2]} intensity={0.5} color="#a9d0d4" />
      <spotLight ref={lamp} angle={0.75} penumbra={0.8} intensity={48} distance={12} color="#ffce85" />
      <primitive object={figure.object} />
      <Floor centre={centre} />
      <Shadows bones={figure.bones} markers={markers} />
      {second && <primitive object={second.object} />}
      {end && <primitive object={end.object} />}
      {ghosts > 0 && <Ghosts motion={motion} mesh={mesh} floor={floor} spacing={ghosts} />}
      {trails && trails.length > 0 && <Trails trails={trails} fps={motion.fps} floor={floor} />}
      {props && onProps && <Props props={props} onChange={onProps} />}
      <Pointer bones={figure.bones} names={names} measuring={measuring} />
      {picking && <JointPicker figures={pickable} isElsewhere={isOnRing} {...picking} />}
      {turned && turning && <TurnRing bone={turned} onTurn={turning.onTurn} onHover={setOnRing} />}
      {way ? <WayTicks way={way} /> : view === 'fit' && <WayLine rootPositions={motion.rootPositions} />}
      {pen && <PathPen {...pen} />}
      {showsPrints && markers && <Footprints prints={markers.footprints} frame={() => usePlayer.getState().frame} />}
    </>
  );
}
