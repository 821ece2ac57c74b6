import { fromHeading, multiplyInverse, rotate } from '../math/quat';
import { jointTurns } from '../edit/joint-turns';
import { correct, layersDone } from '../edit/correct';
import type { Layer, LayerKey } from '../edit/layers';
import { wayOf } from '../measure/way';
import type { Clip } from '../model/clip';
import { playedForLayers, type CorrectionsParams } from './corrections';

/** Less than this is no turn, degrees, and no shift, metres. */
const STILL = 1e-4;

/**
 * Makes two or more layers that lie over each other one, with all that they do, touches too, as keys on every frame in which they do anything: the motion
 * stays where it is, to a hundredth of a millimetre. Layers that are muted are left out of it and go.
 *
 * @param clip as it comes into the step
 * @param from the lowest of them
 * @param to the highest
 *
 * @example
 * const step = stepSchema.parse({ kind: 'corrections', layers: [{ name: 'a' }, { name: 'b' }] });
 * mergeLayers(cutClip(motion, 0, 20), step, 0, 1).layers.length; // 1
 */
export function mergeLayers(clip: Clip, step: CorrectionsParams, from: number, to: number): CorrectionsParams {
  const chosen = step.layers.slice(from, to + 1);
  const shown = playedForLayers(clip);
  // What is alone elsewhere must not silence what is merged.
  const plain = (layers: readonly Layer[]) => layersDone(layers).map((layer) => ({ ...layer, alone: false }));
  const below = plain(step.layers.slice(0, from));
  const a = correct(shown, below);
  const b = correct({ ...shown, motion: a }, plain(chosen));
  const { joints } = a.skeleton;
  const J = joints.length;
  const frames = shown.cycle ?? clip.motion.frames;
  const turns = jointTurns(a.skeleton);
  const local = [0, 0, 0, 1];
  const keys: LayerKey[] = [];
  const isMoved = new Uint8Array(frames);
  const { heading } = wayOf(a, false, { of: 'hips', smooth: 'stride' });
  const byJoint = joints.map(({ name }, j) => {
    const own: LayerKey[] = [];
    let moves = false;
    for (let f = 0; f < frames; f++) {
      const at = shown.start + f;
      multiplyInverse(local, 0, a.rotations, (at * J + j) * 4, b.rotations, (at * J + j) * 4);
      const turn = turns.toDegrees(j, local, 0);
      const shift = [0, 1, 2].map((k) => (j === 0 ? b.rootPositions[at * 3 + k] - a.rootPositions[at * 3 + k] : 0));
      rotate(shift, 0, fromHeading(-heading[at]), 0, shift, 0);
      const is = [...turn, ...shift].some((v) => Math.abs(v) > STILL);
      if (is) isMoved[f] = 1;
      moves ||= is;
      own.push({ frame: f, joint: name, turn: [turn[0], turn[1], turn[2]], ...(j === 0 && { shift: [shift[0], shift[1], shift[2]] }) });
    }
    return moves ? own : [];
  });
  const on = (f: number) => isMoved[f] || (f > 0 && isMoved[f - 1]) || (f < frames - 1 && isMoved[f + 1]);
  for (const own of byJoint) keys.push(...own.filter(({ frame }) => on(frame)));
  const merged: Layer = {
    ...chosen[0],
    weight: 1,
    muted: false,
    alone: chosen.some(({ alone }) => alone),
    fadeIn: 0,
    fadeOut: 0,
    // Where all of a loop is moved, the keys come round.
    hold: shown.cycle !== null && keys.some(({ frame }) => frame === 0) && keys.some(({ frame }) => frame === frames - 1),
    feet: false,
    keys: keys.sort((p, q) => p.frame - q.frame),
    touches: [],
  };
  return { ...step, layers: [...step.layers.slice(0, from), merged, ...step.layers.slice(to + 1)] };
}
