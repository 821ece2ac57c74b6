import type { Limb } from '@lantern/motion';

export const LIMB_NAMES: Readonly<Record<Limb, string>> = {
  leftHand: 'left hand',
  rightHand: 'right hand',
  leftFoot: 'left foot',
  rightFoot: 'right foot',
};
