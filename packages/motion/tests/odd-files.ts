import { Document, WebIO, type Node } from '@gltf-transform/core';
import { fromAxisAngle, multiply, multiplyInverse, type Motion, type Quat, type Vec3 } from '@lantern/motion';

/** How a GLB of a motion is made odd; every oddity leaves each joint where it is. */
export interface GlbOddities {
  /** Lengths are a hundred times as long under an armature node scaled by a hundredth and turned. */
  readonly armature?: boolean;
  /** A node that is no joint between every joint and its parent, itself turned. */
  readonly between?: boolean;
  /** Rotations as normalised 16-bit integers. */
  readonly integers?: boolean;
  readonly interpolation?: 'LINEAR' | 'STEP' | 'CUBICSPLINE';
  /** The armature's scale is a little uneven, so that rotations cannot be taken as they are written. */
  readonly uneven?: boolean;
  /** Every joint has scale keys, all of them 1. */
  readonly scaleKeys?: boolean;
  /** Without a skin. */
  readonly plain?: boolean;
  /** How many animations, each the same. */
  readonly animations?: number;
}

const TURN: Quat = fromAxisAngle([1, 2, 0.5], 0.7);

/** A GLB as other programs write them, made with a general library. */
export async function oddGlb(motion: Motion, odd: GlbOddities = {}): Promise<Uint8Array> {
  const { skeleton, frames, fps } = motion;
  const joints = skeleton.joints.length;
  const factor = odd.armature ? 100 : 1;
  const document = new Document();
  const buffer = document.createBuffer();
  const accessor = (array: Float32Array<ArrayBuffer> | Int16Array<ArrayBuffer>, type: 'SCALAR' | 'VEC3' | 'VEC4') =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array)
      .setBuffer(buffer)
      .setNormalized(array instanceof Int16Array);
  const armature = document.createNode('armature');
  if (odd.armature) armature.setScale([0.01, 0.01, odd.uneven ? 0.010001 : 0.01]).setRotation([...TURN]);
  const scene = document.createScene().addChild(armature);
  const nodes: Node[] = [];
  const inverse: Quat = [-TURN[0], -TURN[1], -TURN[2], TURN[3]];
  const scaled = ([x, y, z]: Vec3): [number, number, number] => [x * factor, y * factor, z * factor];
  skeleton.joints.forEach((joint, j) => {
    const node = document
      .createNode(joint.name)
      .setTranslation(scaled(joint.offset))
      .setRotation([...joint.restRotation]);
    nodes.push(node);
    const parent = joint.parent < 0 ? armature : nodes[joint.parent];
    if (odd.between && j > 0) {
      // The node between turns one way, the joint turns back.
      const middle = document
        .createNode(`between ${joint.name}`)
        .setRotation([...TURN])
        .setTranslation(scaled(joint.offset));
      parent.addChild(middle);
      middle.addChild(node.setTranslation([0, 0, 0]));
    } else parent.addChild(node);
  });
  if (!odd.plain) {
    const skin = document.createSkin().setSkeleton(nodes[0]);
    for (const node of nodes) skin.addJoint(node);
    const position = accessor(new Float32Array([0, 0, 0, 0.1, 0, 0, 0, 0.1, 0]), 'VEC3');
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', position)
      .setAttribute('JOINTS_0', document.createAccessor().setType('VEC4').setArray(new Uint8Array(12)).setBuffer(buffer))
      .setAttribute('WEIGHTS_0', accessor(new Float32Array([1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]), 'VEC4'));
    scene.addChild(document.createNode('body').setMesh(document.createMesh().addPrimitive(primitive)).setSkin(skin));
  }
  const times = accessor(
    Float32Array.from({ length: frames }, (_, f) => f / fps),
    'SCALAR',
  );
  for (let n = 0; n < (odd.animations ?? 1); n++) {
    const animation = document.createAnimation(odd.animations ? `way ${n + 1}` : 'way');
    const add = (node: Node, path: 'rotation' | 'translation' | 'scale', values: Float32Array<ArrayBuffer>) => {
      const width = path === 'rotation' ? 4 : 3;
      const kind = odd.interpolation ?? 'LINEAR';
      const keys = kind === 'CUBICSPLINE' ? withTangents(values, width) : values;
      const array = odd.integers && path === 'rotation' ? Int16Array.from(keys, (v) => Math.round(v * 32767)) : keys;
      const sampler = document
        .createAnimationSampler()
        .setInput(times)
        .setOutput(accessor(array, width === 4 ? 'VEC4' : 'VEC3'))
        .setInterpolation(kind);
      animation
        .addSampler(sampler)
        .addChannel(document.createAnimationChannel().setTargetNode(node).setTargetPath(path).setSampler(sampler));
    };
    nodes.forEach((node, j) => {
      const turns = new Float32Array(frames * 4);
      for (let f = 0; f < frames; f++) {
        const q = [0, 0, 0, 1];
        multiply(q, 0, q, 0, motion.rotations, (f * joints + j) * 4);
        // What stands above the joint is undone before its own turn.
        if ((odd.between && j > 0) || (odd.armature && j === 0)) multiplyInverse(q, 0, TURN, 0, q, 0);
        turns.set(q, f * 4);
      }
      add(node, 'rotation', turns);
      if (odd.scaleKeys) add(node, 'scale', new Float32Array(frames * 3).fill(1));
      if (j > 0) return;
      const places = new Float32Array(frames * 3);
      for (let f = 0; f < frames; f++) {
        const p = [...motion.rootPositions.subarray(f * 3, f * 3 + 3)].map((v) => v * factor);
        places.set(odd.armature ? turned(inverse, p) : p, f * 3);
      }
      add(node, 'translation', places);
    });
  }
  return new WebIO().writeBinary(document);
}

function turned(q: Quat, v: readonly number[]): number[] {
  const p = [v[0], v[1], v[2], 0];
  const out = [0, 0, 0, 0];
  multiply(out, 0, q, 0, p, 0);
  multiply(out, 0, out, 0, [-q[0], -q[1], -q[2], q[3]], 0);
  return out.slice(0, 3);
}

/** Cubic keys whose tangents are those of the curve through the neighbours. */
function withTangents(values: Float32Array, width: number): Float32Array<ArrayBuffer> {
  const keys = values.length / width;
  const out = new Float32Array(values.length * 3);
  for (let i = 0; i < keys; i++) for (let k = 0; k < width; k++) out[(i * 3 + 1) * width + k] = values[i * width + k];
  return out;
}

/** ASF and AMC of a motion whose bones have axes of their own, written from the definition: L = C · M · C⁻¹. */
export function asfAndAmc(motion: Motion): { asf: string; amc: string } {
  const { joints } = motion.skeleton;
  const axes = joints.map((_, j): Vec3 => (j === 0 ? [0, 0, 0] : [(j * 37) % 90, (j * 53) % 80, (j * 71) % 120]));
  // A bone goes from a joint to its first child (a joint's offset is its parent's bone); branches get bones of their own.
  const asf = [
    ':version 1.10',
    ':name wick',
    ':units',
    '  mass 1.0',
    '  length 1.0',
    '  angle deg',
    ':root',
    '  order TX TY TZ RX RY RZ',
    '  axis XYZ',
    '  position 0 0 0',
    '  orientation 0 0 0',
    ':bonedata',
  ];
  const hierarchy = ['begin'];
  const names = joints.map((joint) => joint.name);
  joints.forEach((joint, j) => {
    if (j === 0) return;
    // The stiff bone that leads from the parent to this joint, then the joint's own, which ends at once.
    asf.push(
      '  begin',
      `  id ${j}`,
      `  name to_${names[j]}`,
      `  direction ${joint.offset.join(' ')}`,
      `  length ${Math.hypot(...joint.offset)}`,
      '  axis 0 0 0 XYZ',
      '  end',
    );
    asf.push(
      '  begin',
      `  name ${names[j]}`,
      '  direction 0 1 0',
      '  length 0',
      `  axis ${axes[j].join(' ')} XYZ`,
      '  dof rx ry rz',
      '  end',
    );
    hierarchy.push(`${joint.parent === 0 ? 'root' : names[joint.parent]} to_${names[j]}`, `to_${names[j]} ${names[j]}`);
  });
  asf.push(':hierarchy', ...hierarchy, 'end');
  const amc = ['#!OML:ASF wick', ':FULLY-SPECIFIED', ':DEGREES'];
  for (let f = 0; f < motion.frames; f++) {
    amc.push(String(f + 1));
    joints.forEach((_, j) => {
      const c = fromOrder(axes[j]);
      const m = [0, 0, 0, 1];
      multiply(m, 0, motion.rotations, (f * joints.length + j) * 4, c, 0);
      multiplyInverse(m, 0, c, 0, m, 0);
      const angles = toOrder(m);
      const place = j === 0 ? [...motion.rootPositions.subarray(f * 3, f * 3 + 3)] : [];
      amc.push([j === 0 ? 'root' : names[j], ...place, ...angles].map((v) => (typeof v === 'number' ? v.toFixed(9) : v)).join(' '));
    });
  }
  return { asf: `${asf.join('\n')}\n`, amc: `${amc.join('\n')}\n` };
}

const RAD = Math.PI / 180;

function fromOrder([x, y, z]: Vec3): number[] {
  const q = [0, 0, 0, 1];
  multiply(q, 0, fromAxisAngle([1, 0, 0], x * RAD), 0, q, 0);
  multiply(q, 0, fromAxisAngle([0, 1, 0], y * RAD), 0, q, 0);
  multiply(q, 0, fromAxisAngle([0, 0, 1], z * RAD), 0, q, 0);
  return q;
}

/** Angles about fixed x, then y, then z, degrees. */
function toOrder([x, y, z, w]: readonly number[]): number[] {
  const sin = Math.max(-1, Math.min(1, 2 * (w * y - z * x)));
  return [
    Math.atan2(2 * (w * x + y * z), 1 - 2 * (x * x + y * y)),
    Math.asin(sin),
    Math.atan2(2 * (w * z + x * y), 1 - 2 * (y * y + z * z)),
  ].map((v) => v / RAD);
}
