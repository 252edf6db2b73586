/**
 * Kernels of the motion core and what lies beneath its functions, for readers and writers of files, views, benchmarks and tests:
 * quaternions, floor moves, curves, tracks of joints, poses of single segments. Arrays in, the result into a last `out`.
 */
export { keySlope } from './bake/thinnedTrack';
export { jointTracks } from './clip/jointTracks';
export { cloudJoints, writeCloud } from './clip/pointCloud';
export type { ScenePose } from './clip/pose';
export { sampleBetween, toParentSpace } from './clip/pose';
export { retargetMotion } from './clip/retarget';
export { rawHeadings, rootTrack } from './clip/root';
export { withTravelBone } from './clip/travelBone';
export { examineLoop } from './loops/loop';
export { curveWeight, prepareCurve } from './math/curve';
export { monotoneSpline, splineAt } from './math/spline';
export type { EulerOrder } from './math/euler';
export { eulerFromQuat, eulerNearest, quatFromEuler } from './math/euler';
export { STILL, composeMoves, invertMove, shortestTurn } from './math/floorMove';
export { hannWindow, matchMap } from './math/matchMap';
export { cloudDistance, fitPoints } from './math/pointFit';
export {
  quatAngle,
  quatConjugate,
  quatFromAxis,
  quatFromBasis,
  quatMultiply,
  quatNormalize,
  quatRotate,
  quatSlerp,
  quatTurn,
} from './math/quaternion';
export { invertRigid, moveByRigid, multiplyRigid, readRigid, stillRigid } from './math/rigid';
export { smoothGaussian } from './math/smoothing';
export { fromRootSpace, toRootSpace } from './plan/blendPoses';
export { sampleAt, segmentPose } from './plan/segmentPose';
export { restHeading, rootBoneToScene } from './skeleton/rootBone';
export { soleHeights } from './skeleton/sole';
export { unite } from './steps/steps';
export { autoOverlap, overlapFor } from './timeline/overlap';
export { samplesAt, cyclesIn, inCycle } from './timeline/timeMap';
export { valueCurve, valueOn } from './layers/valueCurve';
export { layerWeight } from './evaluate/layerWeight';
export { worksAlone } from './plan/plan';
export { makeMask } from './layers/mask';
