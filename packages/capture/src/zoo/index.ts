export { expressOn, type Expressed } from './express';
export { zoo, type ZooMember } from './members';
export { mirroredSuit } from './mirrored-suit';
export { NAMING } from './names';
export { buildRig, type Rig, type RigHabits, type RigJoint } from './rig';
