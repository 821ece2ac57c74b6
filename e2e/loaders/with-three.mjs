// Loads a GLB with the loader of three and prints, per animation, where every joint is at twenty instants.
import { readFileSync } from 'node:fs';
import * as THREE from 'three';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { instants } from './instants.mjs';

const bytes = readFileSync(process.argv[2]);
const gltf = await new GLTFLoader().parseAsync(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength), '');
let skinned = null;
gltf.scene.traverse((object) => {
  if (object.isSkinnedMesh) skinned = object;
});
const clips = gltf.animations.map((animation) => {
  const mixer = new THREE.AnimationMixer(gltf.scene);
  const action = mixer.clipAction(animation);
  action.setLoop(THREE.LoopOnce, 1);
  action.clampWhenFinished = true;
  action.play();
  const poses = instants(animation.duration).map((seconds) => {
    mixer.setTime(seconds);
    gltf.scene.updateMatrixWorld(true);
    // The loader changes names that its animation paths cannot hold; the original ones are kept beside them.
    return Object.fromEntries(
      skinned.skeleton.bones.map((bone) => [
        bone.userData.name ?? bone.name,
        new THREE.Vector3().setFromMatrixPosition(bone.matrixWorld).toArray(),
      ]),
    );
  });
  mixer.stopAllAction();
  return { name: animation.name, duration: animation.duration, poses };
});
console.log(JSON.stringify({ bones: skinned.skeleton.bones.length, clips }));
