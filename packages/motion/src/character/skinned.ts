import { multiply, rotate } from '../math/quat';
import type { CharacterSkin } from './character';
import type { WorldPose } from './world-pose';

/**
 * The vertices of a skin in the world in a pose: linear blend skinning, three numbers each.
 *
 * @example
 * skinned(character.skin, poseAt(restMotion(character.skeleton), 0)).length === character.skin.positions.length; // true
 */
export function skinned(skin: CharacterSkin, { positions, rotations }: WorldPose): Float32Array {
  const { bindPositions, bindRotations, joints, weights } = skin;
  const count = bindPositions.length / 3;
  const turns = new Float64Array(count * 4);
  for (let j = 0; j < count; j++) {
    const back = [-bindRotations[j * 4], -bindRotations[j * 4 + 1], -bindRotations[j * 4 + 2], bindRotations[j * 4 + 3]];
    multiply(turns, j * 4, rotations, j * 4, back, 0);
  }
  const out = new Float32Array(skin.positions.length);
  const arm = [0, 0, 0];
  for (let v = 0; v * 3 < out.length; v++) {
    for (let i = v * 4; i < v * 4 + 4; i++) {
      const weight = weights[i];
      if (weight === 0) continue;
      const j = joints[i];
      for (let k = 0; k < 3; k++) arm[k] = skin.positions[v * 3 + k] - bindPositions[j * 3 + k];
      rotate(arm, 0, turns, j * 4, arm, 0);
      for (let k = 0; k < 3; k++) out[v * 3 + k] += weight * (positions[j * 3 + k] + arm[k]);
    }
  }
  return out;
}
