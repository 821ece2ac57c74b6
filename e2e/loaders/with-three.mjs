// Loads a GLB with the loader of three and prints, per animation, where every joint is at twenty instants, or at every frame of a rate.
import { readFileSync } from 'node:fs';
import * as THREE from 'three';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { instants } from './instants.mjs';

const [, , file, fps] = process.argv;
const bytes = readFileSync(file);
const gltf = await new GLTFLoader().parseAsync(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength), '');
let skinned = null;
const all = [];
gltf.scene.traverse((object) => {
  if (object.isSkinnedMesh) skinned = object;
  all.push(object);
});
const bones = skinned ? skinned.skeleton.bones : all;
// A hair past the frame: keys lie at times of 32 bits, and a stepped one would not yet have come.
const frames = (duration) => Array.from({ length: Math.round(duration * fps) + 1 }, (_, f) => f / fps + 1e-6);
const clips = gltf.animations.map((animation) => {
  const mixer = new THREE.AnimationMixer(gltf.scene);
  const action = mixer.clipAction(animation);
  action.setLoop(THREE.LoopOnce, 1);
  action.clampWhenFinished = true;
  action.play();
  const poses = (fps ? frames : instants)(animation.duration).map((seconds) => {
    mixer.setTime(seconds);
    gltf.scene.updateMatrixWorld(true);
    // The loader changes names that its animation paths cannot hold; the original ones are kept beside them.
    return Object.fromEntries(
      bones.map((bone) => [bone.userData.name ?? bone.name, new THREE.Vector3().setFromMatrixPosition(bone.matrixWorld).toArray()]),
    );
  });
  mixer.stopAllAction();
  return { name: animation.name, duration: animation.duration, poses };
});
console.log(JSON.stringify({ bones: bones.length, clips }));
