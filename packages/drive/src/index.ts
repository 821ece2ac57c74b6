export { fieldPlayer, type FieldPlayer, type PlayField } from './field';
export { SIDES, type PlayClip, type PlayContact, type PlayLeg, type PlaySkeleton, type Side, type SolePoint } from './play-set';
export { strideTable, type OutOfStep, type StrideTable } from './strides';
export { fieldWeights, type FieldPoints } from './weights';
