export type { CapsuleRules } from './capsule';
export { fieldPlayer, type FieldPlayer } from './field';
export type { PlayField } from './field-source';
export { ANSWERS, METERS, NO_ANSWER, playMeters, type AnswerKind, type Meter, type PlayMeters } from './meters';
export {
  BREAK_OFFS,
  ENTRIES,
  type BreakOff,
  type Entry,
  type LeaveAfter,
  type PlayCondition,
  type PlayGraph,
  type PlayInput,
  type PlaySet,
  type PlayState,
  type PlayTransition,
  type StatePlays,
} from './play-graph';
export { SIDES, type PlayClip, type PlayContact, type PlayLeg, type PlaySkeleton, type Side, type SolePoint } from './play-set';
export {
  readShipped,
  type ShippedAnimation,
  type ShippedFoot,
  type ShippedManifest,
  type ShippedNode,
  type ShippedSet,
} from './read-shipped';
export { shippedGltf, type GltfJson } from './shipped-gltf';
export { setPlayer, STEP, type PlayOptions, type SetPlayer } from './set-player';
export { strideTable, type OutOfStep, type StrideTable } from './strides';
export { fieldWeights, type FieldPoints } from './weights';
