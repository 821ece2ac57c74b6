/**
 * @jest-environment jsdom
 * @jest-environment-options {"customExportConditions": ["node", "require"]}
 */
import { capture } from '@lantern/capture';
import { forwardKinematics, groundwork, layFigure } from '@lantern/motion';
import * as THREE from 'three';
import { listen, nearestTo, onFloor } from '@/stage/canvas-pick';
import { flattening } from '@/stage/cast-shadow';
import { figureMesh } from '@/stage/figure-mesh';
import { hangLamp, poseFigures, standBeside } from '@/stage/pose-scene';
import { placeCamera } from '@/stage/views';
import { markersOf } from '@/worker/markers';
import { giveRoom } from './room';

beforeAll(() => giveRoom(800, 600));

const camera = new THREE.PerspectiveCamera(34, 800 / 600, 0.1, 200);
const centre = () => new THREE.Vector3();
beforeEach(() => {
  placeCamera(camera, 'front', new THREE.Vector3(), 0, 1);
  camera.updateMatrixWorld(true);
});

const { motion } = capture('walk', { seconds: 2, seed: 4 });
const ground = groundwork(motion);
if (!ground) throw new Error('nobody walks');
const mesh = layFigure(motion.skeleton, ground.body);
const figure = () => figureMesh(motion.skeleton, mesh, markersOf(ground));

test('of places on the screen the nearest to the pointer is meant, none when all are far, and nothing behind the camera', () => {
  const canvas = document.createElement('canvas');
  const [left, right, behind] = [new THREE.Vector3(0.5, 0.9, 0), new THREE.Vector3(-0.5, 0.9, 0), new THREE.Vector3(0, 0.9, 40)];
  const pixels = (place: THREE.Vector3) => {
    const at = place.clone().project(camera);
    return { clientX: ((at.x + 1) / 2) * 800, clientY: ((1 - at.y) / 2) * 600 };
  };
  expect(nearestTo(pixels(left), [left, right], camera, canvas)).toBe(0);
  expect(nearestTo(pixels(right), [left, right], camera, canvas)).toBe(1);
  const { clientX, clientY } = pixels(right);
  expect(nearestTo({ clientX: clientX + 30, clientY }, [left, right], camera, canvas)).toBe(-1);
  expect(nearestTo({ clientX: 400, clientY: 300 }, [behind], camera, canvas)).toBe(-1);
});

test('a pointer meets the floor where it looks down on it, and misses it above the horizon', () => {
  const canvas = document.createElement('canvas');
  const hit = onFloor({ clientX: 400, clientY: 560 }, camera, canvas);
  expect(hit?.y).toBeCloseTo(0, 9);
  expect(hit?.x).toBeCloseTo(0, 6);
  expect(onFloor({ clientX: 400, clientY: 5 }, camera, canvas)).toBeNull();
});

test('listening ends when it is told to', () => {
  const canvas = document.createElement('canvas');
  const heard = jest.fn();
  const end = listen(canvas, { pointerdown: heard });
  canvas.dispatchEvent(new Event('pointerdown'));
  end();
  canvas.dispatchEvent(new Event('pointerdown'));
  expect(heard).toHaveBeenCalledTimes(1);
});

test('a figure’s bones are where forward kinematics has the joints, on whole frames', () => {
  const first = figure();
  const at = centre();
  poseFigures({ first, second: null, end: null }, { motion, floor: 0.02 }, 30, at);
  first.object.updateMatrixWorld(true);
  const { positions, joints } = forwardKinematics(motion);
  first.bones.forEach((bone, j) => {
    const place = bone.getWorldPosition(new THREE.Vector3());
    const k = (30 * joints + j) * 3;
    expect([place.x, place.y + 0.02, place.z].map((v, axis) => Math.abs(v - positions[k + axis])).every((off) => off < 1e-4)).toBe(true);
  });
  expect([at.x, at.z]).toEqual([motion.rootPositions[90], motion.rootPositions[92]]);
});

test('a second figure is in step at its own rate, as large as it is asked to be, beside the first from wherever one looks', () => {
  const [first, second] = [figure(), figure()];
  const other = { motion, mesh, floor: 0, shift: [0, 0] as const, scale: 0.5, beside: 1.2 };
  const at = centre();
  for (const view of ['front', 'side'] as const) {
    poseFigures({ first, second, end: null }, { motion, floor: 0, other }, 20, at);
    placeCamera(camera, view, at, 0, 1);
    camera.updateMatrixWorld(true);
    standBeside(second, other, { frame: 20, fps: motion.fps, facing: 0, centre: at, camera, isLed: true });
    second.object.updateMatrixWorld(true);
    const hips = second.bones[0].getWorldPosition(new THREE.Vector3());
    expect(Math.hypot(hips.x - at.x, hips.z - at.z)).toBeCloseTo(1.2, 5);
    expect(hips.y).toBeCloseTo(0.5 * motion.rootPositions[61], 5);
    expect(hips.clone().project(camera).x).toBeGreaterThan(0.1);
  }
});

test('the two frames of a pair stand over each other where the figure is', () => {
  const [first, end] = [figure(), figure()];
  const at = centre();
  const pair = { ...motion, frames: 2, rotations: motion.rotations.slice(0, 168), rootPositions: Float32Array.from([5, 1, 5, 5, 1, 5.1]) };
  poseFigures({ first, second: null, end }, { motion, floor: 0, pair }, 10, at);
  first.object.updateMatrixWorld(true);
  const hips = first.bones[0].getWorldPosition(new THREE.Vector3());
  expect(hips.distanceTo(new THREE.Vector3(at.x, 1, at.z))).toBeLessThan(1e-5);
});

test('the lamp hangs over the viewer’s shoulder, never more than some metres from the figure', () => {
  const lamp = new THREE.SpotLight();
  for (const far of [2, 60]) {
    camera.position.set(0, 1.5, far);
    hangLamp(lamp, camera, new THREE.Vector3());
    expect(lamp.position.z).toBeGreaterThan(0);
    expect(Math.hypot(lamp.position.x, lamp.position.z)).toBeLessThan(4.2);
    expect(lamp.target.position.y).toBe(0.8);
  }
});

test('a shadow lies where the rays of the lamp through a place meet the floor', () => {
  const lamp = new THREE.Vector3(-1, 3, 2);
  const flat = flattening(lamp);
  for (const place of [new THREE.Vector3(0, 1.5, 0), new THREE.Vector3(0.4, 0.2, -1), new THREE.Vector3(2, 0, 3)]) {
    const laid = place.clone().applyMatrix4(flat);
    expect(laid.y).toBeCloseTo(0.007, 6);
    const ray = new THREE.Ray(lamp, place.clone().sub(lamp).normalize());
    const hit = ray.intersectPlane(new THREE.Plane(new THREE.Vector3(0, 1, 0)), new THREE.Vector3());
    expect(laid.x).toBeCloseTo(hit?.x ?? NaN, 6);
    expect(laid.z).toBeCloseTo(hit?.z ?? NaN, 6);
  }
});

test('a body throws its shadow from a lamp, as lines and as a ghost it throws none', () => {
  const lamp = new THREE.Vector3(0, 4, 0);
  const shadowOf = ({ object }: ReturnType<typeof figureMesh>) =>
    object.children.find(
      (child): child is THREE.SkinnedMesh => child instanceof THREE.SkinnedMesh && child.bindMode === THREE.DetachedBindMode,
    );
  const lit = figure();
  lit.pose(motion, 30);
  lit.castFrom(lamp);
  expect(shadowOf(lit)?.visible).toBe(true);
  // Its head's shadow is under its head when the lamp hangs over it.
  lit.object.updateMatrixWorld(true);
  const shadow = shadowOf(lit);
  const body = lit.object.children.find((child): child is THREE.SkinnedMesh => child instanceof THREE.SkinnedMesh);
  const corner = mesh.joints.indexOf(ground.body.head);
  const place = body?.getVertexPosition(corner, new THREE.Vector3());
  lit.castFrom(place ? place.clone().setY(4) : null);
  const under = shadow?.getVertexPosition(corner, new THREE.Vector3()).applyMatrix4(shadow.matrixWorld);
  expect(under?.x).toBeCloseTo(place?.x ?? NaN, 4);
  expect(under?.z).toBeCloseTo(place?.z ?? NaN, 4);
  lit.castFrom(null);
  expect(shadow?.visible).toBe(false);
  lit.showBones(true);
  lit.castFrom(lamp);
  expect(shadow?.visible).toBe(false);
  const ghost = figureMesh(motion.skeleton, mesh, null, '#8fd0cb');
  ghost.castFrom(lamp);
  expect(shadowOf(ghost)?.visible).toBe(false);
});
