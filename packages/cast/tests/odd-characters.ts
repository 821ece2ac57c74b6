import { characterGlb, type Build, type BuiltJoint } from '@lantern/cast';
import { WebIO, type Node } from '@gltf-transform/core';
import { fromAxisAngle, multiply, type Quat } from '@lantern/motion';

/** The same character with its joints called otherwise. */
export function renamed(build: Build, name: (joint: BuiltJoint, index: number) => string): Build {
  const names = new Map(build.joints.map((joint, j) => [joint.name, name(joint, j)]));
  const to = (old: string) => names.get(old) ?? old;
  return {
    ...build,
    axes: (joint) => build.axes(build.joints.find(({ name: old }) => to(old) === joint.name) ?? joint),
    joints: build.joints.map((joint) => ({ ...joint, name: to(joint.name), parent: joint.parent && to(joint.parent) })),
    flesh: { ...build.flesh, weights: build.flesh.weights.map((shares) => shares.map(([joint, w]) => [to(joint), w] as const)) },
  };
}

/** The same character without some joints; what they carried goes to their parents. */
export function without(build: Build, drop: (name: string) => boolean): Build {
  const parentOf = (name: string): string => {
    const joint = build.joints.find((j) => j.name === name);
    if (!joint || !drop(name)) return name;
    return parentOf(joint.parent ?? name);
  };
  const merge = (shares: Build['flesh']['weights'][number]) => {
    const sums = new Map<string, number>();
    for (const [joint, w] of shares) sums.set(parentOf(joint), (sums.get(parentOf(joint)) ?? 0) + w);
    return [...sums];
  };
  return {
    ...build,
    joints: build.joints.filter(({ name }) => !drop(name)).map((joint) => ({ ...joint, parent: joint.parent && parentOf(joint.parent) })),
    flesh: { ...build.flesh, weights: build.flesh.weights.map(merge) },
  };
}

/** The same character with every joint's axes turned somehow of its own. */
export function reaxed(build: Build): Build {
  return {
    ...build,
    axes(joint) {
      const n = build.joints.findIndex(({ name }) => name === joint.name);
      const out: [number, number, number, number] = [0, 0, 0, 1];
      multiply(out, 0, build.axes(joint), 0, fromAxisAngle([Math.sin(n * 1.7), Math.cos(n * 2.3), Math.sin(n + 1)], 0.4 + (n % 7)), 0);
      return out;
    },
  };
}

/** Its file in centimetres under an armature scaled by a hundredth, lying on its back (Z up), with a node that is no joint over every second joint. */
export async function underArmature(build: Build): Promise<Uint8Array> {
  const io = new WebIO();
  const document = await io.readBinary(await characterGlb(build));
  const root = document.getRoot();
  const [scene] = root.listScenes();
  const [skin] = root.listSkins();
  const joints = skin.listJoints();
  const lying: Quat = fromAxisAngle([1, 0, 0], -Math.PI / 2);
  const back = [-lying[0], -lying[1], -lying[2], lying[3]];
  const armature = document
    .createNode('armature')
    .setScale([0.01, 0.01, 0.01])
    .setRotation([...lying]);
  const tops = scene.listChildren().filter((node) => joints.includes(node));
  for (const joint of joints) joint.setTranslation(joint.getTranslation().map((v) => v * 100) as [number, number, number]);
  for (const top of tops) {
    scene.removeChild(top);
    armature.addChild(top);
    const [x, y, z] = top.getTranslation();
    const q = [0, 0, 0, 1];
    multiply(q, 0, back, 0, top.getRotation(), 0);
    top.setRotation(q as [number, number, number, number]).setTranslation([x, -z, y]);
  }
  scene.addChild(armature);
  joints.forEach((joint, j) => {
    const parent = joint.getParentNode() as Node | null;
    if (j % 2 === 0 || !parent || !joints.includes(parent)) return;
    const middle = document.createNode(`between ${j}`).setTranslation(joint.getTranslation());
    parent.removeChild(joint);
    parent.addChild(middle);
    middle.addChild(joint.setTranslation([0, 0, 0]));
  });
  const binds = skin.getInverseBindMatrices();
  const values = Float32Array.from(binds?.getArray() ?? []);
  // Joints are a hundred times as large within: the inverse binds take that back.
  for (let j = 0; j * 16 < values.length; j++) for (let i = 0; i < 15; i++) if (i % 4 !== 3) values[j * 16 + i] *= 100;
  binds?.setArray(values);
  return io.writeBinary(document);
}
