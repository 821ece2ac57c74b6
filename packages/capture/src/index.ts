export { capture, type CaptureOptions, type Truth } from './capture';
export { captureDay, captureDayTake, DAY_TAKES, type DayOptions, type DayTake, type DayTry, type Spoilt } from './day';
export type { SuitPhase, SuitSettings, SuitStatus } from './desk';
export { addFaults, DEFAULT_FAULTS, driftHeading, type Faults } from './faults';
export { figure, JOINTS, type Figure } from './figure';
export { MOODS, type Mood } from './person';
export { SCRIPTS, type ScriptName } from './script-names';
export { dropouts, freezeDropouts, SENSORS, type Dropout } from './sensors';
export { buildRig, expressOn, mirroredSuit, NAMING, zoo, type Expressed, type Rig, type RigHabits, type ZooMember } from './zoo';
