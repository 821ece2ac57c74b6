export { fieldPlayer, type FieldPlayer } from './field';
export type { PlayField } from './field-source';
export { SIDES, type PlayClip, type PlayContact, type PlayLeg, type PlaySkeleton, type Side, type SolePoint } from './play-set';
export { strideTable, type OutOfStep, type StrideTable } from './strides';
export { fieldWeights, type FieldPoints } from './weights';
