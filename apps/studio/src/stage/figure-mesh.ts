import { slerp, type BodyMesh, type Skeleton } from '@lantern/motion';
import * as THREE from 'three';
import type { Markers } from '@/worker/markers';
import { locate, type WireMotion } from '@/worker/wire';
import { castShadow } from './cast-shadow';

const WOOD = new THREE.Color('#d9b27c');
const OUTLINE = 0.0065;

/** The lit figure on the stage: one skinned body on bones that are posed straight from a motion. */
export interface FigureMesh {
  readonly object: THREE.Group;
  readonly bones: readonly THREE.Bone[];
  /** The body, or lines from joint to joint. */
  showBones(on: boolean): void;
  /** Its shadow on the floor from a lamp, or none; lines and ghosts throw none. */
  castFrom(lamp: THREE.Vector3 | null): void;
  /** Poses the bones at a frame, fractional ones in between. Nothing is allocated. */
  pose(motion: WireMotion, frame: number): void;
  dispose(): void;
}

/**
 * Left hand and foot carry balls of port, right ones diamonds of starboard: told apart by shape and colour.
 *
 * @param ghost a colour makes it a thin shape of that colour, without outline
 * @param opacity of a ghost
 * @param tint of some joints: what is carried by them takes on that colour
 */
export function figureMesh(
  rest: Skeleton,
  mesh: BodyMesh,
  markers: Pick<Markers, 'left' | 'right'> | null,
  ghost?: string,
  opacity = 0.2,
  tint?: ReadonlyMap<number, string>,
): FigureMesh {
  const bones = rest.joints.map(() => new THREE.Bone());
  rest.joints.forEach((joint, j) => {
    bones[j].position.fromArray([...joint.offset]);
    bones[j].quaternion.fromArray([...joint.restRotation]);
    if (joint.parent >= 0) bones[joint.parent].add(bones[j]);
  });
  bones[0].updateMatrixWorld(true);
  const skeleton = new THREE.Skeleton(bones, mesh.skin && boundInverses(mesh.skin));
  const geometry = geometryOf(mesh, tint);
  const { material, ink } = materialsOf(ghost, opacity);
  const body = new THREE.SkinnedMesh(geometry, material);
  const outline = new THREE.SkinnedMesh(geometry, ink);
  const object = new THREE.Group();
  const lines = boneLines(rest);
  lines.visible = false;
  outline.visible = ghost === undefined;
  object.add(bones[0], body, outline, lines);
  const from = new THREE.Vector3();
  for (const skinned of [body, outline]) {
    skinned.frustumCulled = false;
    skinned.bind(skeleton, new THREE.Matrix4());
  }
  const shadow = castShadow(body);
  object.add(shadow.object);
  const marks = markers ? sideMarks(bones, markers) : [];
  const q = [0, 0, 0, 1];
  const joints = bones.length;
  return {
    object,
    bones,
    showBones(on) {
      lines.visible = on;
      body.visible = !on;
      outline.visible = !on && ghost === undefined;
    },
    castFrom: (lamp) => shadow.castFrom(body.visible && ghost === undefined ? lamp : null),
    pose(whole, asked) {
      const found = locate(whole, Math.min(whole.frames - 1, Math.max(0, asked)));
      // On its way: the last pose stays until it is here.
      if (!found) return;
      const { motion: source, frame } = found;
      const a = Math.min(source.frames - 1, Math.max(0, Math.floor(frame)));
      const b = Math.min(source.frames - 1, a + 1);
      const u = Math.min(1, Math.max(0, frame - a));
      const mix = (values: Float32Array, k: number) => values[a * 3 + k] + (values[b * 3 + k] - values[a * 3 + k]) * u;
      const p = source.rootPositions;
      bones[0].position.set(mix(p, 0), mix(p, 1), mix(p, 2));
      source.translations?.forEach((t, j) => bones[j].position.set(mix(t, 0), mix(t, 1), mix(t, 2)));
      for (let j = 0; j < joints; j++) {
        slerp(q, 0, source.rotations, (a * joints + j) * 4, source.rotations, (b * joints + j) * 4, u);
        bones[j].quaternion.set(q[0], q[1], q[2], q[3]);
      }
      if (!lines.visible) return;
      bones[0].updateMatrixWorld(true);
      const ends = lines.geometry.getAttribute('position');
      lineEnds(rest).forEach(([joint, tip], i) => {
        from.setFromMatrixPosition(bones[joint].matrixWorld);
        if (tip) from.copy(tip).applyMatrix4(bones[joint].matrixWorld);
        object.worldToLocal(from);
        ends.setXYZ(i, from.x, from.y, from.z);
      });
      ends.needsUpdate = true;
    },
    dispose() {
      geometry.dispose();
      lines.geometry.dispose();
      lines.material.dispose();
      skeleton.dispose();
      for (const mark of marks) mark.geometry.dispose();
    },
  };
}

interface Materials {
  readonly material: THREE.Material;
  readonly ink: THREE.Material;
}

/**
 * Shared by all figures and kept: a material that goes takes its compiled shaders with it, and the next figure would wait for them.
 */
const MATERIALS = new Map<string | undefined, Materials>();

function materialsOf(ghost: string | undefined, opacity: number): Materials {
  const key = ghost && `${ghost} ${opacity}`;
  const known = MATERIALS.get(key);
  if (known) return known;
  const material = ghost
    ? new THREE.MeshBasicMaterial({ color: ghost, transparent: true, opacity, depthWrite: false })
    : new THREE.MeshLambertMaterial({ vertexColors: true });
  const ink = new THREE.MeshBasicMaterial({ color: '#10191b', side: THREE.BackSide });
  ink.onBeforeCompile = (shader) => {
    shader.vertexShader = shader.vertexShader.replace('#include <begin_vertex>', `vec3 transformed = position + normal * ${OUTLINE};`);
  };
  const made = { material, ink };
  MATERIALS.set(key, made);
  return made;
}

/** Ends of the lines of bones mode, two a line: a joint, or a point that it carries. */
function lineEnds(rest: Skeleton): [number, THREE.Vector3 | null][] {
  const known = ENDS.get(rest);
  if (known) return known;
  const ends = rest.joints.flatMap(({ parent, endSites }, j): [number, THREE.Vector3 | null][] => [
    ...(parent >= 0
      ? ([
          [parent, null],
          [j, null],
        ] as [number, null][])
      : []),
    ...endSites.flatMap((site): [number, THREE.Vector3 | null][] => [
      [j, null],
      [j, new THREE.Vector3(...site)],
    ]),
  ]);
  ENDS.set(rest, ends);
  return ends;
}
const ENDS = new WeakMap<Skeleton, [number, THREE.Vector3 | null][]>();

function boneLines(rest: Skeleton) {
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(lineEnds(rest).length * 3), 3));
  const lines = new THREE.LineSegments(geometry, new THREE.LineBasicMaterial({ color: '#f0dfb8' }));
  lines.frustumCulled = false;
  return lines;
}

/** Inverses of where the bones stood when a skin was bound. */
function boundInverses({ bindPositions, bindRotations }: NonNullable<BodyMesh['skin']>): THREE.Matrix4[] {
  const one = new THREE.Vector3(1, 1, 1);
  return Array.from({ length: bindPositions.length / 3 }, (_, j) =>
    new THREE.Matrix4()
      .compose(new THREE.Vector3().fromArray(bindPositions, j * 3), new THREE.Quaternion().fromArray(bindRotations, j * 4), one)
      .invert(),
  );
}

function geometryOf(mesh: BodyMesh, hues?: ReadonlyMap<number, string>): THREE.BufferGeometry {
  const vertices = mesh.joints.length;
  const index = new Uint16Array(vertices * 4);
  const weight = new Float32Array(vertices * 4);
  const colour = new Float32Array(vertices * 3);
  const tint = new THREE.Color();
  const own = new THREE.Color();
  for (let v = 0; v < vertices; v++) {
    const joint = mesh.joints[v];
    index[v * 4] = joint;
    weight[v * 4] = 1;
    if (mesh.skin) tint.fromArray(mesh.skin.colours, v * 3);
    else tint.copy(WOOD);
    const hue = hues?.get(joint);
    if (hue) tint.lerp(own.set(hue), 0.5);
    tint.toArray(colour, v * 3);
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(mesh.positions, 3));
  geometry.setAttribute('normal', new THREE.BufferAttribute(mesh.normals, 3));
  geometry.setAttribute('color', new THREE.BufferAttribute(colour, 3));
  geometry.setAttribute('skinIndex', new THREE.BufferAttribute(mesh.skin ? mesh.skin.joints : index, 4));
  geometry.setAttribute('skinWeight', new THREE.BufferAttribute(mesh.skin ? mesh.skin.weights : weight, 4));
  geometry.setIndex(new THREE.BufferAttribute(mesh.indices, 1));
  return geometry;
}

function sideMarks(bones: readonly THREE.Bone[], markers: Pick<Markers, 'left' | 'right'>): THREE.Mesh[] {
  return (['left', 'right'] as const).flatMap((side) => {
    const colour = side === 'left' ? '#d2553e' : '#3fa384';
    return [markers[side].hand, markers[side].foot].flatMap((joint) => {
      if (joint < 0) return [];
      const shape = side === 'left' ? new THREE.SphereGeometry(0.06, 16, 12) : new THREE.OctahedronGeometry(0.08);
      const mark = new THREE.Mesh(shape, new THREE.MeshLambertMaterial({ color: colour }));
      bones[joint].add(mark);
      return [mark];
    });
  });
}
