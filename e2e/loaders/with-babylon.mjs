// Loads a GLB with a second general loader and prints, per animation, where every joint is at twenty instants.
import { readFileSync } from 'node:fs';
import { NullEngine } from '@babylonjs/core/Engines/nullEngine.js';
import { LoadAssetContainerAsync } from '@babylonjs/core/Loading/sceneLoader.js';
import { Scene } from '@babylonjs/core/scene.js';
import '@babylonjs/loaders/glTF/2.0/index.js';
import { instants } from './instants.mjs';

const engine = new NullEngine();
const scene = new Scene(engine);
scene.useRightHandedSystem = true;
const container = await LoadAssetContainerAsync(new Uint8Array(readFileSync(process.argv[2])), scene, { pluginExtension: '.glb' });
container.addAllToScene();
const [skeleton] = container.skeletons;
const clips = container.animationGroups.map((group) => {
  // Its time runs in frames of its own: sixty a second unless told otherwise.
  const perSecond = group.targetedAnimations[0].animation.framePerSecond;
  const duration = (group.to - group.from) / perSecond;
  for (const other of container.animationGroups) other.stop();
  const poses = instants(duration).map((seconds) => {
    group.start(false, 1, group.from, group.to);
    group.goToFrame(group.from + seconds * perSecond);
    group.pause();
    const entries = skeleton.bones.map((bone) => {
      const node = bone.getTransformNode();
      node.computeWorldMatrix(true);
      for (let up = node; up; up = up.parent) up.computeWorldMatrix(true);
      const chain = [];
      for (let up = node; up; up = up.parent) chain.unshift(up);
      for (const step of chain) step.computeWorldMatrix(true);
      return [bone.name, node.getAbsolutePosition().asArray()];
    });
    return Object.fromEntries(entries);
  });
  return { name: group.name, duration, poses };
});
console.log(JSON.stringify({ bones: skeleton.bones.length, clips }));
engine.dispose();
