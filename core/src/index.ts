/**
 * The motion core: clips arranged on lanes become continuous performances. Pure TypeScript on typed arrays, for page, worker and
 * Node alike. Kernels (quaternions, sampling, fitting) are in `@warper/core/kernels`.
 *
 * @example
 * const library = fixedLibrary({ clip: (id) => clips.get(id), body: () => skeleton });
 * const { scene } = edit(emptyScene('Evening'), { type: 'add character', character, lane: 'body' }, library);
 * const [keeper] = compile(scene, library).characters;
 * evaluate(keeper, 30, makePoseBuffer(keeper.skeleton)); // the pose at frame 30
 * measureSeams(keeper, 30); // how good its joins are
 * bake(keeper, parseRate(30)); // the performance as one clip
 */

// What is wrong with an input, where, and what to do; rates and timecode.
export { defined } from './math/defined';
export { InputError, TOO_LARGE_HINT } from './math/errors';
export type { Rate } from './math/rate';
export { framesPerSecond, parseRate } from './math/rate';
export { frameOfTimecode, timecodeOf } from './math/timecode';

// Bodies: bones, roles, rest poses.
export type { Doubt } from './skeleton/doubts';
export { findDoubts } from './skeleton/doubts';
export type { Leg } from './skeleton/legs';
export { legsOf } from './skeleton/legs';
export { requireLikeLegs } from './skeleton/likeLegs';
export { allowOtherLegs } from './edit/allowOtherLegs';
export type { PosedJoint } from './posing/posing';
export { jointNamed, jointOrRoot, limbNamed } from './skeleton/jointNamed';
export { limbEndingAt } from './skeleton/limbs';
export { palmOf } from './skeleton/palm';
export { poseEdit, reachedPose, turnedPose } from './posing/posing';
export { posedAt } from './posing/posedAt';
export { movedProp } from './posing/movedProp';
export type { Support } from './posing/surfaces';
export { SAME_HEIGHT, supportsAt, surfaceAlong } from './posing/surfaces';
export type { BodyPart, KeptLimbs } from './posing/bodyMoves';
export { bentPose, bodyPartAt, hipsEdit, limbBendingAt, swivelledPose } from './posing/bodyMoves';
export { layerClip } from './posing/layerClip';
export type { LayerTarget } from './posing/layerCopies';
export { otherSideName } from './layers/otherSide';
export { copyLayerEdit, linkSidesEdit } from './posing/layerCopies';
export { MERGE_ERROR, differenceEdit, mergeDownEdit } from './bake/mergeLayers';
export type { CopiedPose } from './posing/posePlaces';
export { breakdownEdit, copyPose, pastedPose, poseBelow } from './posing/posePlaces';
export type { FingerName, HandPose } from './posing/fingers';
export { FINGERS, fingersOf, handPoseOf, handPosed } from './posing/fingers';
export type { Role, RoleMap } from './skeleton/roles';
export { QUADRUPED_ROLES, ROLES, chooseRoles, isFineRole, roleWords } from './skeleton/roles';
export type { Skeleton } from './skeleton/skeleton';
export { MAX_JOINTS, jointOfRole, makeSkeleton, restHeight, sizedSkeleton } from './skeleton/skeleton';

// Clips: samples of a skeleton at a rate, and their poses.
export type { Clip } from './clip/clip';
export { MAX_FRAMES, checkClip } from './clip/clip';
export type { Span } from './clip/contacts';
export type { Pose, PoseBuffer } from './clip/pose';
export { makePoseBuffer, makeWorldPose, poseToWorld, restPose, samplePose } from './clip/pose';
export { poseDistance, typicalAcceleration } from './clip/poseDistance';

export type { Dial, Dials } from './clip/dials';
export { DIALS, combinedDials } from './clip/dials';
export { dialsSchema } from './scene/dials';
export type { Contact } from './scene/contact';
export { CONTACT_HANDS, PLAIN_CONTACT } from './scene/contact';
export type { Look, LookTarget } from './scene/look';
export { LOOK_LIMITS, PLAIN_LOOK } from './scene/look';
export { dialClip } from './steps/dialClip';

// What is found in a clip: steps, loops, facts; clips made of it.
export type { ClipFacts } from './facts/facts';
export { clipFacts } from './facts/facts';
export type { LoopCandidate } from './loops/findLoops';
export { findLoops } from './loops/findLoops';
export { clipOnSkeleton, clipThatSuits, matchJoints, sameSkeleton } from './steps/mapClip';
export type { OwnSteps } from './steps/steps';
export { findSteps, stepsBySpeed, withOwnSteps, withSteps } from './steps/steps';
export { mirrorClip, sizedClip } from './steps/variants';
export { restoreTravel, travelFactor } from './travel/travel';

// The document.
export type { Curve } from './math/curve';
export type { Handle } from './math/spline';
export type { ClipUse } from './scene/clipScene';
export { CLIP_SCENE_CHARACTER, clipScene } from './scene/clipScene';
export type { ClipOnBody } from './scene/clipsScene';
export { clipsScene } from './scene/clipsScene';
export { bodyLane, layerLanes } from './scene/lanes';
export { partMask } from './layers/partMask';
export type { Channel, ChannelCurve, ChannelKey } from './layers/channels';
export { channelId, channelKeys, channelKeysAt, channelsOf, listOfChannel } from './layers/channels';
export { withChannelKeys } from './layers/changedChannel';
export type { ValueChannel } from './layers/channels';
export { jointCurves, valueChannelCurve, valueKeysOf, valueScale, weightCurve } from './layers/channels';
export type { ChosenFrames, CopiedKeys, KeyList } from './layers/keyLists';
export {
  chosenSpan,
  copyListKeys,
  keyFrames,
  keyListsOf,
  moveListKeys,
  pasteListKeys,
  removeListKeys,
  scaleListKeys,
  withKeyList,
} from './layers/keyLists';
export type { ChosenKeys } from './layers/moveChannelKeys';
export { moveChannelKeys } from './layers/moveChannelKeys';
export { scaleKeys, shiftKeys, smoothKeys } from './layers/keyShapes';
export { reducePoseKeys, reduceValueKeys } from './layers/reduceKeys';
export { keysEdit } from './edit/edits/layerKeys';
export type { Character } from './scene/character';
export { PLAIN_CHARACTER } from './scene/character';
export type { Fields } from './scene/fields';
export type { FloorPlace } from './scene/floor';
export type { SegmentGroup } from './scene/group';
export { outermostGroup, segmentsOfGroup } from './scene/group';
export type { KeyCurve, PoseKey, RootCurve, RootKeys, ValueKey } from './scene/keys';
export { KEY_CURVES, ROOT_CURVES } from './scene/keys';
export type { Lane, LaneState, LayerLane, LayerSpan, RootFeet } from './scene/lane';
export { PLAIN_LANE, PLAIN_LAYER } from './scene/lane';
export type { FrameSpan, Marker } from './scene/marker';
export { PLAIN_MARKER } from './scene/marker';
export type {
  Camera,
  CameraCurve,
  CameraFollow,
  CameraKeep,
  CameraLook,
  CameraValues,
  Handheld,
} from './scene/camera';
export { CAMERA_CURVES, FILM_BACKS, LENS, PLAIN_CAMERA } from './scene/camera';
export type { Shot } from './scene/shot';
export { PLAIN_SHOT, shotsInOrder } from './scene/shot';
export type { HeardSteps, Sound, SoundLane, Surface } from './scene/sound';
export {
  GAIN,
  MOST_SOUND_SECONDS,
  PLAIN_SOUND,
  PLAIN_SOUND_LANE,
  SURFACES,
  soundSeconds,
} from './scene/sound';
export type { Line } from './scene/line';
export { PLAIN_LINE, captionText, linesAt, linesInOrder } from './scene/line';
export type { Prop, PropShape } from './scene/prop';
export { PROP_SHAPES, PROP_SIZE, propSchema } from './scene/prop';
export { stairSteps, treadsOf } from './scene/treads';
export type { Link, Moment } from './scene/link';
export { isSameMoment } from './scene/link';
export type { Meeting } from './scene/meeting';
export { MEETING_DISTANCE } from './scene/meeting';
export type { JointUse, PickedJoints } from './scene/pickedJoints';
export { JOINT_USES } from './scene/pickedJoints';
export type { Grip, Hold, Lead, PerAxis, Reach, Tether } from './scene/tether';
export {
  LEAD_LENGTH,
  PLAIN_HOLD,
  PLAIN_LEAD,
  PLAIN_REACH,
  REACHING,
  TETHER_KINDS,
  inHoldingOrder,
} from './scene/tether';
export type { Scene } from './scene/scene';
export { SCENE_VERSION, emptyScene } from './scene/scene';
export type { Alternate, AlternateScope } from './scene/alternate';
export { MOST_ALTERNATES } from './scene/alternate';
export { alternateInHand, alternatesOf, versionOf, versionsOf } from './scene/versions';
export { parseScene } from './scene/schema';
export type {
  Crossfade,
  FitMode,
  FootfallTimes,
  Join,
  LandingPlace,
  Seam,
  SeamPlacing,
  Stepping,
} from './scene/seam';
export {
  JOIN_KINDS,
  MAX_LANDING,
  PLAIN_CROSSFADE,
  PLAIN_SEAM,
  PLAIN_STEP,
  SEAM_FIELDS,
  joinOf,
  withSeam,
} from './scene/seam';
export type { Mark, Segment, SegmentSettings, Travel } from './scene/segment';
export { PLAIN_SEGMENT, SETTINGS } from './scene/segment';
export type { Placed } from './timeline/lane';
export { layOut, settleFrames, stepFrames } from './timeline/lane';
export type { SegmentTiming } from './timeline/timing';
export { segmentTiming } from './timeline/timing';

// Edits of the document, as plain values.
export { copySegments, parseCopied } from './edit/clipboard';
export type { Edit, EditOptions, Edited } from './edit/edit';
export { reconcile } from './edit/reconcile';
export type { CharacterSpan } from './edit/alternates/differingSpans';
export { differingSpans, scopeOfSegments } from './edit/alternates/differingSpans';
export { withVersions } from './edit/alternates/withVersions';
export { applyDifferences, applyEdit, describeEdit, edit, isOfAlternates } from './edit/edit';
export type { SegmentValues } from './edit/edits/change';
export type { CharacterValues } from './edit/edits/changeCharacter';
export type { LayerValues } from './edit/edits/changeLayer';
export type { TetherValues } from './edit/edits/changeTether';
export { moveAbout, moveOnFloor } from './edit/floorEdits';
export type { Push } from './edit/pushEdit';
export { pushEdit } from './edit/pushEdit';
export type { DelayedLinks } from './edit/delayedLinks';
export { delayedLinks } from './edit/delayedLinks';
export { frameOfMoment } from './edit/momentFrame';
export { momentName } from './edit/momentName';
export { repeatsLoop } from './edit/sceneEditor';

export type { MarkAsked, MarkMissed, MarkReached } from './travel/reachMark';
export { HONEST_STRIDES, reachMark } from './travel/reachMark';

// A library, and the plans of its scenes.
export type { Library } from './compile/compile';
export { meetingNow } from './compile/meetings';
export { collarOf } from './compile/leads';
export type { Compiler } from './compile/compile';
export { compile, createCompiler, fixedLibrary } from './compile/compile';
export { Memory } from './memory/memory';
export type { CharacterPlan, LayerPlan, Plan, SegmentPlan } from './plan/plan';
export { isPlanted } from './plan/planted';

// Poses, baked clips, matching frames.
export { humanoidClip } from './clip/humanoid';
export { missingHumanoidRoles } from './skeleton/tPose';
export type { BakeOptions, MotionPieces } from './bake/bake';
export { MAX_LOWERING } from './steps/hipsLowering';
export type { BakedCamera } from './bake/bakeCamera';
export { bakeCamera } from './bake/bakeCamera';
export { bake, bakePieces, bakeSteps, bakedFrames, piecesOf } from './bake/bake';
export type { LoopEnd } from './bake/loopClip';
export { loopClip } from './bake/loopClip';
export type { ExactSpan, KeyInterpolation, LocalTracks, ReduceOptions, ReducedKeys } from './bake/reduceKeys';
export { plantedSpans, reduceKeys, reduceKeysSteps } from './bake/reduceKeys';
export { evaluate } from './footlock/evaluate';
export type { Match, MatchedPair } from './seam/matchClips';
export { matchClips, matchClipsSteps } from './seam/matchClips';

// Cameras and shots.
export { cameraAim, cameraAt } from './cameras/cameraMotion';
export { shotIndexAt, shotPoseAt } from './cameras/shots';
export type { CameraPose } from './cameras/cameraPose';
export { gateOf, halfHeightOf, lensFor, makeCameraPose } from './cameras/cameraPose';
export { aimCamera } from './cameras/aimCamera';
export type { LineCrossing } from './cameras/lineCrossings';
export { lineCrossings, placeInPicture } from './cameras/lineCrossings';
// What is heard.
export type { HeardSound } from './sound/heardSounds';
export { amplitudeOf, gainAt, heardSounds, soundEnd, sourceTimeAt } from './sound/heardSounds';
export { trimmedSound } from './sound/trimSound';
export type { OnBeats, Stroked, Tempo } from './sound/beats';
export { beatFrames, fitToBeats, steadyBeats, tempoOf } from './sound/beats';
export type { Footfall as HeardFootfall } from './sound/footfalls';
export { footfallsOf } from './sound/footfalls';
export { IMPACT_SECONDS, MADE, STEP_SECONDS, STEP_VARIANTS, heardSteps } from './sound/heardSteps';
export type { CameraStand } from './posing/cameraEdits';
export {
  cameraCurveAt,
  cameraEdit,
  cameraKeyFrames,
  cameraValuesAt,
  keyCameraEdit,
  removalOfFilmed,
  retargetedCamera,
} from './posing/cameraEdits';

// Measures.
export type { Grade } from './continuity/grade';
export { gradeOf } from './continuity/grade';
export type { SeamValues, ShotSize, Threshold, Thresholds } from './scene/thresholds';
export { DEFAULT_THRESHOLDS, SHOT_SIZES } from './scene/thresholds';
export { LARGE_CORRECTION_CM, measureHolds } from './continuity/holdMeasures';
export type { SeamMeasures } from './continuity/measureSeam';
export { measureSeam, seamWithLayers } from './continuity/measureSeam';
export type { SeamTraces, Trace } from './continuity/seamTraces';
export { seamTraces } from './continuity/seamTraces';
export { measureSeams, seamMeasures } from './continuity/seamMeasures';
export type { ContinuityItem } from './continuity/report';
export { continuityReport } from './continuity/report';
export { measureSteps } from './continuity/stepMeasures';

// The choice of joins.
export type { JoinChoice } from './choice/chooseJoin';
export { chooseJoin, joinCost } from './choice/chooseJoin';
export type { ChosenJoins } from './choice/chooseJoins';
export { chooseJoins, chooseJoinsSteps } from './choice/chooseJoins';
export type { Bridge } from './choice/bridges';
export { bridgesSteps, findBridges } from './choice/bridges';
export type { ClipEntry } from './choice/entries';
export { clipEntry, rankEntries } from './choice/entries';
export type { Follower } from './choice/followers';
export { followersOf, rankFollowers } from './choice/followers';
export type { Mend, MendableItem } from './choice/mends';
export { mendSteps } from './choice/mends';
export { matchJoin } from './choice/matchJoin';
export type { Moments } from './choice/joinMeeting';
export type { MapPair, SeamMap } from './choice/seamMap';
export { joinAt, seamMap } from './choice/seamMap';
export { plainJoin } from './choice/plainJoin';
export { madeJoins } from './choice/madeJoins';
export type { ChoiceLimits, Chosen } from './scene/choice';
export { CHOICE_FIELDS, PLAIN_LIMITS } from './scene/choice';
