import { capture } from '@lantern/capture';
import { readAsf, readTake } from '@lantern/motion';
import * as THREE from 'three';
import { GLTFLoader, type GLTF } from 'three/addons/loaders/GLTFLoader.js';
import { asfAndAmc, oddGlb } from '../packages/motion/tests/odd-files';

/** A reader of a format beside its peer: bytes read, and what each run does. */
export interface FormatRace {
  readonly name: string;
  readonly megabytes: number;
  readonly ours: () => unknown;
  readonly theirs: () => Promise<unknown> | unknown;
  readonly beside: string;
}

/** What a take is: where every joint is turned in every frame. The library holds keys until it is asked for a frame. */
function posesOf({ scene, animations }: GLTF, fps: number): Float32Array {
  const bones: THREE.Bone[] = [];
  scene.traverse((object) => object instanceof THREE.Bone && bones.push(object));
  const mixer = new THREE.AnimationMixer(scene);
  mixer.clipAction(animations[0]).play();
  const frames = Math.round(animations[0].duration * fps) + 1;
  const out = new Float32Array(frames * bones.length * 4);
  for (let f = 0; f < frames; f++) {
    mixer.setTime(f / fps);
    bones.forEach((bone, j) => bone.quaternion.toArray(out, (f * bones.length + j) * 4));
  }
  return out;
}

/** Readers beside a general library, or where there is none beside the least that any reader of the text must do. */
export async function formatRaces(): Promise<FormatRace[]> {
  const { motion } = capture('walk', { seconds: 60, seed: 5 });
  const glb = await oddGlb(motion);
  const buffer = glb.slice().buffer;
  const { asf, amc } = asfAndAmc(motion);
  const skeletons = [readAsf(new TextEncoder().encode(asf), 'wick')];
  const text = new TextEncoder().encode(amc);
  return [
    {
      name: 'read GLB',
      megabytes: glb.length / 1e6,
      ours: () => readTake(glb, 'way.glb'),
      theirs: async () => posesOf(await new GLTFLoader().parseAsync(buffer, ''), motion.fps),
      beside: 'GLTFLoader and AnimationMixer of three',
    },
    {
      name: 'read AMC',
      megabytes: text.length / 1e6,
      ours: () => readTake(text, 'wick_01.amc', { skeletons }),
      theirs: () => new TextDecoder().decode(text).split(/\s+/).map(Number),
      beside: 'split and Number alone',
    },
  ];
}
