import { capture } from '@lantern/capture';
import { castGlb } from '@lantern/cast';
import {
  findLoops,
  fieldSchema,
  graphSchema,
  groundwork,
  playableSet,
  readCharacter,
  recipeRunner,
  recipeSchema,
  clipTraits,
  type RecipeStepInput,
  type SetClip,
} from '@lantern/motion';
import { setPlayer, STEP } from '@lantern/drive';
import * as THREE from 'three';

/** What a tick of the runtime costs beside the mixer of a general library, which blends the same three clips and does nothing else. */
export interface DriveFigures {
  readonly joints: number;
  /** Microseconds a tick: a field of three clips with an overlap that runs and feet that are held; the library's plain blend. */
  readonly ourMicroseconds: number;
  readonly theirMicroseconds: number;
  /** Characters at 60 ticks a second that one core plays. */
  readonly characters: number;
}

/** The suit's stroll, jog and an arc on a character. */
async function clips(): Promise<SetClip[]> {
  const cast = new Map([['wick', readCharacter(await castGlb('wick'), 'wick.glb')]]);
  return (['walk', 'jog', 'arc'] as const).flatMap((name) => {
    const { motion } = capture(name === 'jog' ? 'jog' : 'walk', { seconds: 8, seed: 5 });
    const ground = groundwork(motion);
    const loop = ground && findLoops(ground).candidates.find(({ strides, startsOn }) => strides === 1 && startsOn === 'left');
    if (!loop) return [];
    const arc: RecipeStepInput[] = name === 'arc' ? [{ kind: 'path', shape: 'arc', radius: 2 }] : [];
    const steps = recipeSchema.parse([
      { kind: 'fit', character: 'wick' },
      { kind: 'loop' },
      ...arc,
      { kind: 'foot-lock' },
      { kind: 'travel', start: 'origin' },
    ]);
    const clip = recipeRunner(motion, cast)({ from: loop.from, to: loop.to, steps });
    const traits = clipTraits(clip);
    return traits ? [{ id: name, name, clip, traits }] : [];
  });
}

export async function driveFigures(ticks = 40_000): Promise<DriveFigures> {
  const all = await clips();
  const field = { key: 'f', field: fieldSchema.parse({ name: 'ways', clips: all.map(({ id }) => id) }) };
  const plays = { field: 'f', inputs: ['speed', 'turn'] };
  // Two states that lead to one another before the overlap is over: one always runs.
  const go = (from: string, to: string, is: 'on' | 'off') => ({
    from,
    to,
    when: [{ input: 'other', is }],
    overlap: 2,
    entry: 'foot' as const,
  });
  const graph = graphSchema.parse({
    inputs: [
      { name: 'speed', kind: 'number', from: 0, to: 4, start: 1.8 },
      { name: 'turn', kind: 'number', from: -90, to: 90, start: 10 },
      { name: 'other', kind: 'switch' },
    ],
    initial: 'one',
    states: [
      { name: 'one', plays },
      { name: 'two', plays },
    ],
    transitions: [go('one', 'two', 'on'), go('two', 'one', 'off')],
  });
  const made = playableSet(graph, all, [field]);
  if (!made) throw new Error('nothing can be played');
  const player = setPlayer(made.set);
  let isOther = false;
  const play = (count: number): void => {
    for (let i = 0; i < count; i++) {
      if (i % 60 === 0) player.set('other', (isOther = !isOther));
      player.tick(STEP);
    }
  };
  play(4000);
  const begun = performance.now();
  play(ticks);
  const ourMicroseconds = (1000 * (performance.now() - begun)) / ticks;

  const { names, parents, offsets } = made.set.skeleton;
  const bones = names.map((name) => Object.assign(new THREE.Bone(), { name }));
  bones.forEach((bone, j) => {
    bone.position.fromArray(offsets as unknown as number[], j * 3);
    if (parents[j] >= 0) bones[parents[j]].add(bone);
  });
  const mixer = new THREE.AnimationMixer(bones[0]);
  for (const clip of made.set.fields[0].clips) {
    const times = Float32Array.from({ length: clip.frames }, (_, f) => f / clip.fps);
    const J = names.length;
    const tracks = names.map((name, j) => {
      const values = new Float32Array(clip.frames * 4);
      for (let f = 0; f < clip.frames; f++) values.set(clip.rotations.subarray((f * J + j) * 4, (f * J + j) * 4 + 4), f * 4);
      return new THREE.QuaternionKeyframeTrack(`${name}.quaternion`, times as unknown as number[], values as unknown as number[]);
    });
    const hips = new THREE.VectorKeyframeTrack(`${names[0]}.position`, times as unknown as number[], clip.hips as unknown as number[]);
    const action = mixer.clipAction(new THREE.AnimationClip(clip.name, -1, [...tracks, hips]));
    action.setEffectiveWeight(1 / 3).play();
  }
  for (let i = 0; i < 4000; i++) mixer.update(STEP);
  const then = performance.now();
  for (let i = 0; i < ticks; i++) mixer.update(STEP);
  const theirMicroseconds = (1000 * (performance.now() - then)) / ticks;
  return { joints: names.length, ourMicroseconds, theirMicroseconds, characters: Math.floor(1e6 / (60 * ourMicroseconds)) };
}
