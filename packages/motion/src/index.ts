// The public face of the core: what somebody outside of it needs, by folder.

// Errors
export { InputError, type Warning } from './error';

// Plain data
export type { Body, Side } from './model/body';
export { cutClip, worldMotion, type Clip } from './model/clip';
export type { Contacts, Interval } from './model/contacts';
export { moveFrames, movePoint, type FloorTransform } from './model/floor-transform';
export { joinMotions } from './model/join';
export { jointWay, WAY_WIDTH } from './model/joint-way';
export { forwardKinematics } from './model/kinematics';
export { alignSigns, copyMotion, createMotion, cutMotion, restMotion, type Motion } from './model/motion';
export { pickFrames, repeatLoop } from './model/repeat';
export { CHUNK_FRAMES, motionFromRows, motionToRows } from './model/rows';
export { restPose, scaleSkeleton, type Joint, type Skeleton } from './model/skeleton';
export type { Take } from './model/take';
export { repeatWay } from './model/travel';

// Numbers
export { DEGREES, RADIANS } from './math/angles';
export { floorCurve } from './math/floor-curve';
export {
  angleBetween,
  fromAxisAngle,
  fromBasis,
  fromHeading,
  IDENTITY,
  makeContinuous,
  multiply,
  multiplyInverse,
  normalize,
  rotate,
  slerp,
  type Quat,
  type Vec3,
} from './math/quat';
export { solveLinear } from './math/solve';
export { quantile } from './math/statistics';
export { FASTEST, SLOWEST, timeMap, type TimePin } from './math/time-map';
export { cross, inner, minus, mixed, norm, plus, times, turned, unit } from './math/vec';

// What the joints of a skeleton are
export { NOT_A_PERSON } from './anatomy/body';
export { bodyOf } from './anatomy/body-of';
export { findBody } from './anatomy/find-body';
export { foldAbove, topOfBody } from './anatomy/fold-root';
export { jointWords } from './anatomy/joint-words';
export { mirrorMap } from './anatomy/mirror-map';
export { mirrorMotion } from './anatomy/mirror-motion';
export { bodyOfParts, otherPart, partName, PARTS, type Part, type Parts } from './anatomy/parts';
export { swapSides } from './anatomy/side-names';
export { sidesOf, type Sides } from './anatomy/sides';

// Files of motion
export { readAsf, type AsfSkeleton } from './formats/asf';
export { readBvh } from './formats/bvh';
export { bvhStream } from './formats/bvh-stream';
export { writeBvh } from './formats/bvh-write';
export { glbChunks } from './formats/gltf-container';
export { bareName, fileKind, MOST_BYTES, readTake, readTakes } from './formats/read-take';

// Skinned bodies
export { bodyMesh, type BodyMesh } from './character/body-mesh';
export type { Cast, Character } from './character/character';
export { writeCharacterGlb } from './character/character-write';
export { findParts } from './character/find-parts';
export { readGlb } from './character/glb-read';
export { writeGlb, type NamedClip } from './character/glb-write';
export { layFigure } from './character/lay-figure';
export { readCharacter } from './character/read-character';
export { skinned } from './character/skinned';
export { localsOf, poseAt, type WorldPose } from './character/world-pose';

// Figures
export { align } from './measure/align';
export { cadence } from './measure/cadence';
export { anyFigures, clipFigures, type ClipFigures } from './measure/clip-figures';
export { figureChanges, FIGURE_NAMES, type ComparedFigures, type FigureChange } from './measure/figure-changes';
export { clipContacts, clipSlides, withContacts } from './measure/clip-slides';
export { compareMotions, type Comparison, type Standing } from './measure/compare';
export type { FreeFall } from './measure/free-fall';
export { groundwork, type Groundwork } from './measure/groundwork';
export { clipSmoothness } from './measure/arc';
export { balance, type Balance, type Unsteady } from './measure/balance';
export { withHands } from './measure/hand-contacts';
export { smoothness, type ArcKink, type Smoothness } from './measure/smoothness';
export { likeness } from './measure/likeness';
export { overviewOf, stitchOverview, type Overview } from './measure/overview';
export { gaitNumbers, legChangeDeg, type GaitNumbers } from './measure/plausible';
export { posesOnly } from './measure/poses';
export { seam, type Seam } from './measure/seam';
export { seamPoses, type SeamPoses } from './measure/seam-poses';
export { shakeMm } from './measure/shake';
export { slides } from './measure/slide';
export { travelTraces, type TravelTraces } from './measure/travel-traces';

// What is in a take
export { NAME_PATTERN, nameByPattern, tagsOf, tagsOfCut, type ClipTags } from './find/clip-names';
export { features, type Features } from './find/features';
export { findLoops, type LoopCandidate, type LoopSearch } from './find/loops';
export { matchTakes, type PlacedSpan, type TakeMatch } from './find/match-takes';
export { proposals, type Proposal } from './find/proposals';
export { nearestPair, partnersOf, recurrence } from './find/recurrence';
export { motionPair, pairMap, type MotionPair } from './find/pair-map';
export { movements, runsOf, segments, turnsOf, UP_TO_SPEED, type Segment, type SegmentKind } from './find/segments';
export { strideTraces, type StrideTraces } from './find/stride-traces';

// A take, read
export { describeTake, takeDescriber, type DescribedTake, type Passport } from './passport/describe-take';
export { applyOverrides, takeOverridesSchema, type TakeOverrides } from './passport/overrides';
export { toMetres } from './passport/to-metres';

// From one body to another
export { fitMotion, type Fitted } from './fit/fit-motion';
export { fitReport, fitTrouble, type FitReport } from './fit/fit-report';
export { fitTake } from './fit/fit-take';
export { beyondLimits } from './fit/joint-limits';
export { limbWeights } from './fit/limb-weights';
export { withMapping, type Mapping } from './fit/mapped-body';
export { matchChain } from './fit/match-chain';
export { mismatches } from './fit/mismatch';
export { fitPlan } from './fit/plan';
export { turnedOn, turnOf } from './fit/reference';
export {
  fitOverrides,
  fitSettingsSchema,
  LIMBS,
  type FitOverrides,
  type FitSettingsInput,
  type Limb,
  type Placement,
} from './fit/settings';
export { soleTracks } from './fit/sole-tracks';

// Keys
export { thinKeys, type Thinned, type ThinOptions } from './character/thin-keys';
export { thinnedKeys } from './character/thinned-keys';

// Correction layers
export { correct, layersDone } from './edit/correct';
export { type HandHold, type HandHolds } from './edit/hand-holds';
export { jointBend } from './edit/joint-bend';
export { facingOf, grab, turnInWorld, type Grabbed } from './edit/grab';
export { jointTurns, type JointTurns } from './edit/joint-turns';
export { layerCourse, PER_KEY, type LayerCourse } from './edit/layer-course';
export { handTurned, pegsOf, splitLayer, withKey, withoutPeg, withPegAt, type HandTurn } from './edit/layer-edits';
export {
  layerSchema,
  TOUCH_LIMBS,
  touchSchema,
  type Layer,
  type LayerKey,
  type Touch,
  type TouchLimb,
  type TouchTarget,
} from './edit/layers';
export { partOfLayer, withoutRange, withRangeMoved, type LayerRange } from './edit/layer-range';
export { pinnedLimb, swungOut, type PinnedLimb } from './edit/pinned-limb';
export { limbPlace } from './edit/touch-limb';
export { touchRamp } from './edit/touch-goals';

// Steps of a recipe
export type { AnchorProposal } from './find/anchors';
export { cleanAnchors, cleanFindings, cleanFloorRate, type CleanFinding } from './steps/clean';
export { handHolds, handSlides, type HandSlide } from './steps/hand-lock';
export { BODY_PARTS, type BodyPart } from './steps/body-parts';
export { keyOnOtherSide, type CorrectionsParams } from './steps/corrections';
export type { StepReport } from './steps/definition';
export {
  aboutStep,
  asCaptured,
  applyStep,
  createStep,
  isMirror,
  reportOf,
  STEP_LIST,
  stepOf,
  stepSchema,
  troublesOf,
  type RecipeStep,
  type RecipeStepInput,
  type StepKind,
  type StepOfKind,
} from './steps';
export { mergeLayers } from './steps/merge-layers';
export type { LoopParams } from './steps/loop';
export type { PathParams } from './steps/path';
export { speedChange, type SpeedChange } from './steps/speed';

// Running a recipe
export { againstSource, type AgainstSource } from './recipe/against-source';
export { clipDocumentSchema, clipInputSchema, clipNameSchema, type ClipDocument } from './recipe/clip-document';
export { closings, type Closing } from './recipe/closings';
export { stepsAtRate, stepsGiven, stepsOfOtherSide, stepsRecut, type Cut } from './recipe/edits';
export { addableSteps, recipeSchema, withStep } from './recipe/order';
export { recipeRunner, type ClipRecipe } from './recipe/recipe';
export { shipClip } from './recipe/ship';
export { framesSince, sourceFrames } from './recipe/source-frames';
export { stepClips, type StepClips } from './recipe/step-clips';
export { characterIn, mappingOf, withFits } from './recipe/with-fits';

// Joining clips
export { curveAt, overlapWeights } from './join/curve';
export { buildJoin, layOut, type JoinSources } from './join/build-join';
export { joinFigures, meetFigures, type JoinFigures } from './join/figures';
export { pieceAtRate } from './join/at-rate';
export { joiner, joinPieces, type Joiner } from './join/join-pieces';
export type { Joined, Meet, PieceSpan, PlacedPiece } from './join/joined';
export { platforms } from './join/platforms';
export { layPiece, levelAt, type LaidPiece, type Level } from './join/piece';
export {
  joinIntoSchema,
  joinSchema,
  LINE_UPS,
  shiftSchema,
  type Join,
  type JoinInput,
  type JoinCurve,
  type JoinInto,
  type JoinPiece,
  type Shift,
} from './join/schema';
export { shiftPiece } from './join/shift';
export { JOIN_BOUNDS, whereTheyFit, type Fitting, type FittingSearch, type Reach } from './join/where-they-fit';
export { popIn, type Pop } from './measure/pop';

// The set
export { homeFrom, proposeHome, type HomeProposal } from './set/home';
export { clipTraits, type ClipTraits } from './set/clip-traits';
export { contractCsv, setConstants } from './set/constants';
export { contractLines, type ContractLine } from './set/contract-lines';
export { contractSchema, NO_CONTRACT, slotSpeed, type Contract } from './set/contract';
export { setStep, stepsForContract } from './set/contract-steps';
export { coverage, type Coverage, type SetClip, type SlotReport, type SlotState } from './set/coverage';
export { fieldSchema, type BlendField } from './set/field-schema';
export { fills } from './set/fills';
export {
  EMPTY_GRAPH,
  graphSchema,
  transitionSchema,
  type Condition,
  type Graph,
  type GraphInput,
  type GraphState,
  type Transition,
} from './set/graph-schema';
export { checkGraph, fits as conditionFits, leading, type GraphWarning, type Playables } from './graph/checks';
export { changeInput, changeState, changeTransition, freeName, moveTransition, removeInput, removeState } from './graph/edits';
export { playableSet, type PlayableSet } from './graph/play-set';
export { readyGraph, type KeyedField } from './graph/ready';
export { scriptPlayer, type PlayScript, type ScriptChange, type ScriptPlayer } from './graph/script';
export { restingInputs, stickScript, STICKS, type Stick } from './graph/sticks';
export { PHASES, triesOf, type Try } from './graph/tries';
export {
  CAPSULE,
  PLAY_BOUNDS,
  roughWeather,
  roughWeatherSteps,
  tester,
  type Finding,
  type Tester,
  type Tried,
  type Weather,
  type WeatherOptions,
} from './graph/weather';
export { BREAK_OFF_WORDS, conditionText, ENTRY_WORDS, wayText, whenText } from './graph/words';
export { manifestSchema, type Manifest } from './ship/manifest-schema';
export { random, type Random } from './math/random';
export { FIELD_BOUNDS, fieldGrid, isInside, sounder, type Sounder, type Sounding } from './set/soundings';
export { floorSketch, type FloorSketch } from './set/floor-sketch';
export { onHips } from './set/play-clip';
export { playableField, type FieldPoint, type PlayableField } from './set/play-field';
export { setBoundsSchema, type SetBounds, setSchema, type LocomotionSet } from './set/schema';
export { shotCsv, shotList, type Shot } from './set/shots';
export { shotText } from './set/shot-text';
export { DIRECTIONS, GAITS, slotId, slotOnOtherSide, slotSchema, type Direction, type Gait, type Slot, type SlotKind } from './set/slot';
export { SLOT_LISTS, type SlotList } from './set/slot-list-names';
export { slotList } from './set/slot-lists';
export { slotName } from './set/slot-name';
export { askedCourse, speedCourse, type SpeedCourse } from './set/speed-course';
export { homeDistance, homePoseOf } from './measure/home-distance';
export { homePoseSchema, type HomePose } from './model/home-pose';
export { standsAt } from './measure/stands';
export { swingsOf } from './edit/over-swings';

// The project file
export { measureSet, playProject, projectField } from './project/sets';

// A set from takes, without a hand on it
export { draftProject, type DraftedSet } from './draft/draft-project';
export { type DraftProgress, type DraftTake } from './draft/draft-set';
export { settleTake, type Doubt } from './draft/settle-take';
export { draftCalled, draftDelivered, draftSchema, runnersUpOf, type Choice, type RunnerUp, type SetDraft } from './set/draft-schema';
export { readProject } from './project/read-project';
export { make, makeClips, packProject, mirrorOf, shipNamed, shippedNames, type MakeOptions } from './project/make';
export type { PreparedTake } from './project/read-project';
export { projectInputs, type ContentOf } from './project/content';
export { charactersOf } from './project/characters-of';
export type { ClipReport, FailedClip, MadeFile, Report, WrittenFile } from './ship/report';
export { SHIP_RATES, shipSchema, type ShipOptions, type ShipOptionsInput } from './ship/options';
export type { Guarantee } from './ship/guarantees';
export type { NamedShipped } from './ship/named-clip';
export type { ShippedClip } from './ship/ship-clip';
export { clipBytes, clipFromBytes } from './ship/clip-bytes';
export { whyChanged, type ClipInputs } from './ship/inputs';
export { canonical } from './math/canonical';
export { whyWritten } from './ship/changes';
export type { Validate } from './ship/pack';
export { heldFigures, shipTroubles, type HeldFigure, type ReadyFigure, type ShipTrouble } from './ship/troubles';
export { poseStrip, type PoseStrip } from './ship/pose-strip';
export { travelCsv } from './ship/travel-csv';
export { oddities } from './project/oddities';
export { parseProject } from './project/parse';
export { projectSources, type Sources } from './project/sources';
export { projectSchema, type Project, type ProjectInput } from './project/schema';
export { groundUnder, movedProp, PROP_KINDS, propSchema, type StageProp } from './model/prop';
export { markerSchema, takePatchSchema, type Marker, type TakePatch } from './project/take-extras';
