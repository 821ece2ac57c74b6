import { followPoint } from '../model/fixed-point';
import type { Globals } from '../model/kinematics';
import type { Soles, SoleTracks } from '../measure/soles';
import type { SolePoints } from '../anatomy/sole-points';
import type { Character } from '../character/character';

/**
 * The soles of a character through a motion, from its skin. @param floor the level they stand on, metres
 *
 * @example
 * soleTracks(character, forwardKinematics(restMotion(character.skeleton)), 0).left.heel.length; // 3
 */
export function soleTracks({ soles }: Pick<Character, 'soles'>, globals: Globals, floor: number): Soles {
  const track = ({ heel, ball, tip }: SolePoints): SoleTracks => ({
    heel: followPoint(globals, heel),
    ball: followPoint(globals, ball),
    tip: followPoint(globals, tip),
  });
  return { floor, left: track(soles.left), right: track(soles.right) };
}
