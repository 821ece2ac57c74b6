import { swapSides } from '../anatomy/side-names';
import { movePoint, type FloorTransform } from '../model/floor-transform';
import { movedProp, type StageProp } from '../model/prop';
import type { TouchTarget } from './layers';

/** A target where it is in a world that is turned and shifted. */
export function movedTarget(target: TouchTarget, floor: FloorTransform): TouchTarget {
  if (target.to === 'prop') return { ...target, prop: movedProp(target.prop, floor) };
  if (target.to !== 'place') return target;
  const at: [number, number, number] = [0, 0, 0];
  movePoint(at, 0, floor, target.at, 0);
  return { ...target, at };
}

/** A target as it is in the mirror. */
export function targetOnOtherSide(target: TouchTarget): TouchTarget {
  switch (target.to) {
    case 'floor':
      return target;
    case 'place':
      return { ...target, at: [flip(target.at[0]), target.at[1], target.at[2]] };
    case 'prop':
      return { ...target, prop: propOnOtherSide(target.prop) };
    case 'joint':
      return { ...target, joint: swapSides(target.joint), at: [flip(target.at[0]), target.at[1], target.at[2]] };
  }
}

/** A prop as it is in the mirror. */
export const propOnOtherSide = (prop: StageProp): StageProp => ({ ...prop, x: flip(prop.x), turn: flip(prop.turn) });

/** Never a zero with a sign, which files would keep. */
export const flip = (value: number): number => (value === 0 ? 0 : -value);
