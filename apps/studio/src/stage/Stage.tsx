'use client';
import { OrbitControls, PerformanceMonitor } from '@react-three/drei';
import { Canvas, useFrame, useThree } from '@react-three/fiber';
import { useCallback, useEffect, useMemo, useRef, useState, type ComponentRef, type RefObject } from 'react';
import * as THREE from 'three';
import { usePlayer } from '@/data/player';
import { DUSK } from '@/controls/theme';
import { BalanceMark } from './BalanceMark';
import { isDrawnBySoftware } from './drawn-by-software';
import { Floor } from './Floor';
import { Footprints } from './Footprints';
import { MeetRings } from './MeetRings';
import { Ghosts } from './Ghosts';
import { GrabHandle } from './GrabHandle';
import { JointPicker } from './JointPicker';
import { PathPen } from './PathPen';
import { Pointer } from './Pointer';
import { atFrame, hangLamp, poseFigures, standBeside } from './pose-scene';
import { Props } from './Props';
import { Quay } from './quay/Quay';
import { SeenThrough } from './SeenThrough';
import { Shadows } from './Shadows';
import type { StageProps } from './stage-props';
import { Trails } from './Trails';
import { TurnRing, type Turning } from './TurnRing';
import { useFigures, type Figures } from './use-figures';
import { useFrameloop } from './use-frameloop';
import { useLed } from './use-moving';
import { PLAYED, useResolution } from './use-resolution';
import { useWheelZoom } from './use-wheel-zoom';
import { extentOf, fitCamera, placeCamera, sightOf, type Extent } from './views';
import { WayLine } from './WayLine';
import { WayTicks } from './WayTicks';

/** The window: a figure in its motion at the player's frame. Knows motion, knows nothing of places. */
export function Stage(props: StageProps) {
  const { playing, moving, dpr, slower, faster } = useResolution();
  const frameloop = useFrameloop();
  return (
    <Canvas
      frameloop={frameloop}
      dpr={dpr}
      camera={{ fov: 34, near: 0.1, far: 200, position: [3, 1.6, 4] }}
      // Smooth edges would take the processor as long as all the rest.
      gl={{ antialias: !isDrawnBySoftware(), stencil: true }}
      style={{ position: 'absolute', inset: 0, background: `linear-gradient(${DUSK.deep}, ${DUSK.haze} 45%, ${DUSK.deep})` }}
      aria-label="Stage"
      role="img"
    >
      {playing && <PerformanceMonitor ms={200} iterations={2} bounds={() => PLAYED} onDecline={slower} onIncline={faster} />}
      <Scene {...props} moving={moving} />
    </Canvas>
  );
}

/** Metres to every side of where a path is drawn. */
const DRAWING_ROOM = 4;

function Scene({ moving, ...props }: StageProps & { readonly moving: boolean }) {
  const {
    motion,
    mesh,
    markers,
    floor,
    view,
    showsPrints,
    ghosts = 0,
    trails,
    measuring = false,
    pen,
    picking,
    turning,
    drawing,
    way,
  } = props;
  const figures = useFigures(props);
  const { first, second, end } = figures;
  const centre = useMemo(() => new THREE.Vector3(), []);
  const extent = useExtent(props);
  const names = useMemo(() => motion.skeleton.joints.map((joint) => joint.name), [motion.skeleton]);
  const pickable = useMemo(() => (second ? [first.bones, second.bones] : [first.bones]), [first, second]);
  const turned = turning ? (pickable[turning.figure]?.[turning.joint] ?? null) : null;
  const line = useMemo(() => turning && lineOf(turning, pickable), [turning, pickable]);
  const drawn = drawing ? (first.bones[drawing.joint] ?? null) : null;
  const ring = useRef(false);
  const isOnRing = useCallback(() => ring.current, []);
  const setOnRing = useCallback((isOn: boolean) => void (ring.current = isOn), []);
  const lamp = useRef<THREE.SpotLight>(null);
  const orbit = useRef<ComponentRef<typeof OrbitControls>>(null);
  const invalidate = useThree((state) => state.invalidate);
  useEffect(() => usePlayer.subscribe(() => invalidate()), [invalidate]);
  // Whatever changed is seen at once.
  useEffect(() => invalidate());
  useScene(props, figures, { moving, centre, extent, lamp, orbit });
  const sight = sightOf(view, extent);
  return (
    <>
      <hemisphereLight args={['#9fc4c4', '#2a2418', 1.15]} />
      <directionalLight position={[-3, 4, 2]} intensity={0.5} color="#a9d0d4" />
      <spotLight ref={lamp} angle={0.75} penumbra={0.8} intensity={48} distance={12} color="#ffce85" />
      <primitive object={first.object} />
      {props.onQuay ? (
        <Quay />
      ) : (
        <>
          <fog attach="fog" args={[DUSK.haze, view === 'fit' ? sight * 0.6 : 6, sight]} />
          <Floor centre={centre} />
        </>
      )}
      <Shadows bones={first.bones} markers={markers} props={props.props} />
      {second && <primitive object={second.object} />}
      {end && <primitive object={end.object} />}
      {view === 'free' && !measuring && <FreeOrbit centre={centre} orbit={orbit} />}
      {props.through?.map((own) => (
        <SeenThrough key={own.hue} through={own} skeleton={motion.skeleton} mesh={mesh} floor={floor} />
      ))}
      {ghosts > 0 && <Ghosts motion={motion} mesh={mesh} floor={floor} spacing={ghosts} />}
      {trails && trails.length > 0 && <Trails trails={trails} fps={motion.fps} floor={floor} />}
      {props.meets && <MeetRings meets={props.meets} />}
      {props.balance && <BalanceMark balance={props.balance} />}
      {props.props && <Props props={props.props} onChange={props.onProps} />}
      <Pointer bones={first.bones} names={names} measuring={measuring} />
      {picking && <JointPicker figures={pickable} isElsewhere={isOnRing} {...picking} />}
      {turned && turning && (
        <TurnRing bone={turned} line={line ?? null} isToWorld={turning.about === 'world'} onTurn={turning.onTurn} onHover={setOnRing} />
      )}
      {drawn && drawing && (
        <GrabHandle bone={drawn} onDraw={([x, y, z], isDone) => drawing.onDraw([x, y + floor, z], isDone)} onHover={setOnRing} />
      )}
      {way ? <WayTicks way={way} /> : view === 'fit' && <WayLine rootPositions={motion.rootPositions} />}
      {pen && <PathPen {...pen} />}
      {showsPrints && markers && <Footprints prints={markers.footprints} frame={() => usePlayer.getState().frame} />}
    </>
  );
}

/** The joints that a ring's axis goes through, if it goes through joints. */
function lineOf({ about, figure }: Turning, figures: readonly (readonly THREE.Bone[])[]): readonly [THREE.Bone, THREE.Bone] | null {
  return typeof about === 'string' ? null : [figures[figure][about.from], figures[figure][about.to]];
}

const led = () => useLed.setState({ isLed: true });
const notLed = () => useLed.setState({ isLed: false });

/** The camera led by hand, at first about where the figure is; later it is moved along with it. */
function FreeOrbit({ centre, orbit }: Pick<Led, 'centre' | 'orbit'>) {
  const [target] = useState<[number, number, number]>(() => [centre.x, 0.9, centre.z]);
  useEffect(() => notLed, []);
  return <OrbitControls ref={orbit} makeDefault target={target} maxDistance={25} enableDamping={false} onStart={led} onEnd={notLed} />;
}

/** How far the motion reaches. While a path is drawn it holds still, with room to draw in. */
function useExtent({ motion, pen }: StageProps): Extent {
  const whole = useMemo(() => extentOf(motion.rootPositions), [motion]);
  const isDrawing = pen?.isDrawing ?? false;
  const [drawnIn, setDrawnIn] = useState(whole);
  if (!isDrawing && drawnIn !== whole) setDrawnIn(whole);
  return useMemo(() => (isDrawing ? { ...drawnIn, reach: Math.max(DRAWING_ROOM, drawnIn.reach) } : whole), [isDrawing, drawnIn, whole]);
}

interface Led {
  /** Whether anything plays, is dragged along its frames, or is looked at from elsewhere. */
  readonly moving: boolean;
  readonly centre: THREE.Vector3;
  readonly extent: Extent;
  readonly lamp: RefObject<THREE.SpotLight | null>;
  readonly orbit: RefObject<ComponentRef<typeof OrbitControls> | null>;
}

/** Every frame: the player goes on, figures take their poses, and camera and lamp go with them. */
function useScene(props: StageProps, figures: Figures, { moving, centre, extent, lamp, orbit }: Led): void {
  const { motion, heading, view, other } = props;
  const camera = useThree((state) => state.camera);
  const zoom = useWheelZoom(view);
  useEffect(() => {
    // From above, the view had turned the camera's head.
    if (view === 'free') camera.up.set(0, 1, 0);
  }, [view, camera]);
  useFrame((_, delta) => {
    const player = usePlayer.getState();
    if (player.playing) player.advance(Math.min(delta, 0.25));
    const { frame } = usePlayer.getState();
    const before = centre.clone();
    poseFigures(figures, props, frame, centre);
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
    if (figures.second && other?.beside !== undefined) {
      const isLed = view === 'free' || view === 'fit';
      standBeside(figures.second, { ...other, beside: other.beside }, { frame, fps: motion.fps, facing, centre, camera, isLed });
    }
    if (!lamp.current) return;
    hangLamp(lamp.current, camera, centre);
    // A second drawing of every body, which the processor has no time for while anything moves.
    const from = moving && isDrawnBySoftware() ? null : lamp.current.position;
    for (const figure of [figures.first, figures.second]) figure?.castFrom(from);
    // Before the floor, which follows the figure, yet without taking the drawing over.
  }, -1);
}
