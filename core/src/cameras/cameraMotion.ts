import type { ValueCurve } from '../layers/valueCurve';
import { valueCurve, valueOn } from '../layers/valueCurve';
import { quatMultiply, quatNormalize, quatRotate, quatSlerp } from '../math/quaternion';
import { valueAt } from '../math/valueAt';
import { derivation } from '../memory/memory';
import type { CharacterPlan, Plan } from '../plan/plan';
import type { Camera, CameraCurve } from '../scene/camera';
import { CAMERA_CURVES } from '../scene/camera';
import { framesPerSecond } from '../math/rate';
import { aimCamera } from './aimCamera';
import type { CameraPose } from './cameraPose';
import { gateOf, halfHeightOf, makeCameraPose } from './cameraPose';
import type { Dolly } from './dolly';
import { dollyOf } from './dolly';
import type { HandWaves } from './handheld';
import { HAND_MOTIONS, handAt, handWaves } from './handheld';
import type { KeptTrack } from './keepInFrame';
import { keepInFrame } from './keepInFrame';
import { lagging } from './lag';
import { TRACK, figureTrack, jointTrack } from './tracks';

/** How a camera moves, computed once. */
interface CameraMotion {
  readonly camera: Camera;
  readonly curves: Readonly<Record<CameraCurve, ValueCurve>>;
  readonly dolly: Dolly | null;
  readonly waves: HandWaves | null;
  readonly aspect: number;
  readonly perSecond: number;
  /** The frame of the first of the rows below. */
  readonly from: number;
  /** Whom it follows and looks at, with their lag: frames x TRACK. */
  readonly followed: Float64Array | null;
  readonly seen: Float64Array | null;
  readonly kept: KeptTrack | null;
}

/** How a camera moves with those whom it follows, looks at and keeps in its picture; null where there is none. */
const cameraMotion = derivation(
  'camera motion',
  50,
  (
    memory,
    camera: Camera,
    followed: CharacterPlan | null,
    seen: CharacterPlan | null,
    kept: CharacterPlan | null,
    from: number,
    to: number,
    perSecond: number,
    aspect: number,
  ): CameraMotion => {
    const { keys, follow, look, keep, hand, path } = camera;
    const curves = Object.fromEntries(
      CAMERA_CURVES.map((curve) => [curve, valueCurve(keys[curve] ?? [])]),
    ) as Record<CameraCurve, ValueCurve>;
    const unkept: CameraMotion = {
      camera,
      curves,
      dolly: path && dollyOf(path),
      waves: hand && handWaves(hand),
      aspect,
      perSecond,
      from,
      followed:
        followed &&
        follow &&
        lagging(memory.recall(jointTrack, followed, follow.joint, from, to), TRACK, follow.lag * perSecond),
      seen:
        seen &&
        look &&
        lagging(memory.recall(jointTrack, seen, look.joint, from, to), TRACK, look.lag * perSecond),
      kept: null,
    };
    if (!kept || !keep) return unkept;
    const frames = to - from + 1;
    const track = {
      places: new Float64Array(frames * 3),
      rotations: new Float64Array(frames * 4),
      lenses: new Float64Array(frames),
      gate: gateOf(camera.back, aspect),
    };
    const pose = makeCameraPose();
    for (let f = 0; f < frames; f++) {
      poseOf(unkept, from + f, pose);
      track.places.set(pose.place, f * 3);
      track.rotations.set(pose.rotation, f * 4);
      track.lenses[f] = pose.lens;
    }
    return {
      ...unkept,
      kept: keepInFrame(track, memory.recall(figureTrack, kept, from, to), keep, perSecond),
    };
  },
);

function motionOf(plan: Plan, camera: Camera): CameraMotion {
  const who = (one: { readonly character: string } | null): CharacterPlan | null =>
    (one && plan.characters.find((c) => c.character.id === one.character)) ?? null;
  const { memory, aspect } = plan.filming;
  return memory.recall(
    cameraMotion,
    camera,
    who(camera.follow),
    who(camera.look),
    who(camera.keep),
    plan.start,
    Math.max(plan.start, plan.end),
    framesPerSecond(plan.rate),
    aspect,
  );
}

const _aim = new Float64Array(3);
const _near = new Float64Array(TRACK);
const _seen = new Float64Array(TRACK);
const _hand = new Float64Array(HAND_MOTIONS);
const _turn = new Float64Array(4);

/** Writes the pose of a camera at a frame (real, scene frames). */
function poseOf(motion: CameraMotion, frame: number, out: CameraPose): CameraPose {
  const { camera, curves, dolly, followed, seen } = motion;
  const { place } = out;
  const value = (curve: CameraCurve): number => valueOn(curves[curve], frame, camera.base[curve]);
  place[0] = value('x');
  place[1] = value('y');
  place[2] = value('z');
  _aim[0] = value('aimX');
  _aim[1] = value('aimY');
  _aim[2] = value('aimZ');
  if (dolly) {
    const at = valueAt(dolly.at, Math.min(1, Math.max(0, value('along'))) * (dolly.at.length - 1));
    place[0] = valueOn(dolly.x, at, place[0]);
    place[2] = valueOn(dolly.z, at, place[2]);
  }
  if (followed) {
    trackAt(followed, frame - motion.from, _near);
    goAlong(camera, place);
    if (!seen) goAlong(camera, _aim);
  }
  if (seen) {
    trackAt(seen, frame - motion.from, _seen);
    for (let k = 0; k < 3; k++) _aim[k]! += _seen[k]!;
  }
  aimCamera(place, _aim, value('roll'), out.rotation);
  out.lens = value('lens');
  if (motion.waves) shake(motion.waves, frame / motion.perSecond, out);
  if (motion.kept) keepAt(motion.kept, frame - motion.from, out);
  out.halfHeight = halfHeightOf(out.lens, camera.back, motion.aspect);
  return out;
}

function trackAt(track: Float64Array, index: number, out: Float64Array): void {
  const last = track.length / TRACK - 1;
  const f = Math.min(Math.max(index, 0), last);
  const a = Math.floor(f);
  const b = Math.min(a + 1, last);
  for (let k = 0; k < TRACK; k++) {
    const from = track[a * TRACK + k]!;
    out[k] = from + (f - a) * (track[b * TRACK + k]! - from);
  }
}

/** Takes a point from beside whom the camera follows, who is at `_near`, into the scene. */
function goAlong({ follow }: Camera, point: Float64Array): void {
  const turn = follow?.turns ? _near[3]! : 0;
  const [s, c] = [Math.sin(turn), Math.cos(turn)];
  const [x, z] = [point[0]!, point[2]!];
  point[0] = _near[0]! + x * c + z * s;
  if (follow?.height) point[1]! += _near[1]!;
  point[2] = _near[2]! - x * s + z * c;
}

function shake(waves: HandWaves, seconds: number, { place, rotation }: CameraPose): void {
  handAt(waves, seconds, _hand);
  quatRotate(rotation, 0, _hand, 3, _hand, 3);
  for (let k = 0; k < 3; k++) place[k]! += _hand[3 + k]!;
  // A rotation vector about the camera's own axes: tilt, pan, roll.
  const [tilt, pan, roll] = [_hand[1]!, _hand[0]!, _hand[2]!];
  const angle = Math.hypot(tilt, pan, roll);
  const s = angle > 0 ? Math.sin(angle / 2) / angle : 0;
  _turn.set([tilt * s, pan * s, roll * s, Math.cos(angle / 2)]);
  quatMultiply(rotation, 0, _turn, 0, rotation, 0);
}

function keepAt({ turns, lenses }: KeptTrack, index: number, out: CameraPose): void {
  const last = lenses.length - 1;
  const f = Math.min(Math.max(index, 0), last);
  const a = Math.floor(f);
  quatSlerp(turns, a * 4, turns, Math.min(a + 1, last) * 4, f - a, _turn, 0);
  quatMultiply(out.rotation, 0, _turn, 0, out.rotation, 0);
  quatNormalize(out.rotation, 0);
  out.lens *= valueAt(lenses, f);
}

/**
 * Writes how a camera of the scene stands at a frame (real, scene frames): by its keys, along its path, with whom it follows and looks at,
 * as it is held, and turned to keep whom it is to keep. What follows a character is computed once for the plan. The same plan and frame
 * give the same pose to the bit.
 */
export const cameraAt = (plan: Plan, camera: Camera, frame: number, out: CameraPose): CameraPose =>
  poseOf(motionOf(plan, camera), frame, out);

/** The point that a camera is aimed at at a frame, before it is held by hand or kept on somebody: metres in the scene. */
export function cameraAim(plan: Plan, camera: Camera, frame: number): [number, number, number] {
  poseOf(motionOf(plan, camera), frame, makeCameraPose());
  return [_aim[0]!, _aim[1]!, _aim[2]!];
}

/**
 * A point of the scene as the curves of a camera have it at a frame: beside whom it follows, or of its aim in metres from whom it looks at.
 * A camera on a path has it beside the path's own x and z.
 */
export function placeBeside(
  plan: Plan,
  camera: Camera,
  frame: number,
  [x, y, z]: readonly [number, number, number],
  of: 'place' | 'aim',
): [number, number, number] {
  const { followed, seen, from } = motionOf(plan, camera);
  if (of === 'aim' && seen) {
    trackAt(seen, frame - from, _seen);
    return [x - _seen[0]!, y - _seen[1]!, z - _seen[2]!];
  }
  if (!followed) return [x, y, z];
  trackAt(followed, frame - from, _near);
  const turn = camera.follow?.turns ? _near[3]! : 0;
  const [s, c] = [Math.sin(turn), Math.cos(turn)];
  const [dx, dz] = [x - _near[0]!, z - _near[2]!];
  return [dx * c - dz * s, camera.follow?.height ? y - _near[1]! : y, dx * s + dz * c];
}
