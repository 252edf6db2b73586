import { cameraAim, cameraAt, placeBeside } from '../cameras/cameraMotion';
import { makeCameraPose } from '../cameras/cameraPose';
import type { Edit } from '../edit/edit';
import { valueCurve, valueOn } from '../layers/valueCurve';
import type { Plan } from '../plan/plan';
import type { Camera, CameraCurve, CameraFollow, CameraLook } from '../scene/camera';
import { CAMERA_CURVES } from '../scene/camera';
import type { ValueKey } from '../scene/keys';

/** Where a camera stands and what it looks at, in the scene: metres. */
export interface CameraStand {
  readonly place: readonly [number, number, number];
  readonly aim: readonly [number, number, number];
}

/**
 * What the curves of a camera are for it to stand at a place and look at a point at a frame: beside whom it follows, and as far from whom it
 * looks at. One on a path is as near to the place as the path leads.
 */
export function cameraValuesAt(
  plan: Plan,
  camera: Camera,
  frame: number,
  { place, aim }: CameraStand,
): Readonly<Partial<Record<CameraCurve, number>>> {
  const [x, y, z] = placeBeside(plan, camera, frame, place, 'place');
  const [aimX, aimY, aimZ] = placeBeside(plan, camera, frame, aim, 'aim');
  const values = { y, aimX, aimY, aimZ };
  return camera.path ? { ...values, along: nearestShare(plan, camera, frame, place) } : { ...values, x, z };
}

/** Places of a path that are looked at for the nearest. */
const SHARES = 400;

function nearestShare(plan: Plan, camera: Camera, frame: number, place: CameraStand['place']): number {
  const still: Camera = { ...camera, hand: null, keep: null, keys: {} };
  const pose = makeCameraPose();
  let [best, least] = [0, Infinity];
  for (let i = 0; i <= SHARES; i++) {
    const along = i / SHARES;
    cameraAt(plan, { ...still, base: { ...camera.base, along } }, frame, pose);
    const distance = Math.hypot(pose.place[0]! - place[0], pose.place[2]! - place[2]);
    if (distance < least) [best, least] = [along, distance];
  }
  return best;
}

const PLACE = ['x', 'y', 'z'] as const;
const AIM = ['aimX', 'aimY', 'aimZ'] as const;

/**
 * A camera that goes along with somebody else, or with nobody: at each of its keys, and at a frame where it has none, it stands where it
 * stood and looks where it looked. Whom it looks at afresh is in the middle of its picture.
 */
export function retargetedCamera(
  plan: Plan,
  camera: Camera,
  frame: number,
  targets: { readonly follow: CameraFollow | null; readonly look: CameraLook | null },
): Pick<Camera, 'follow' | 'look' | 'base' | 'keys'> {
  const next: Camera = { ...camera, ...targets };
  const looksAfresh =
    targets.look !== null &&
    (targets.look.character !== camera.look?.character || targets.look.joint !== camera.look.joint);
  const pose = makeCameraPose();
  const stand = (at: number): CameraStand => {
    // Without what shakes and turns it, which is added to where it stands.
    cameraAt(plan, { ...camera, hand: null, keep: null }, at, pose);
    const [x = 0, y = 0, z = 0] = pose.place;
    return { place: [x, y, z], aim: cameraAim(plan, camera, at) };
  };
  const keys: Partial<Record<CameraCurve, readonly ValueKey[]>> = { ...camera.keys };
  const base = { ...camera.base };
  const convert = (curves: readonly CameraCurve[], moved: boolean): void => {
    if (!moved) return;
    Object.assign(base, pick(cameraValuesAt(plan, next, frame, stand(frame)), curves));
    const frames = [...new Set(curves.flatMap((c) => (camera.keys[c] ?? []).map((k) => k.frame)))].sort(
      (a, b) => a - b,
    );
    if (frames.length === 0) return;
    for (const curve of curves)
      keys[curve] = frames.map((at): ValueKey => {
        const own = curves.flatMap((c) => camera.keys[c] ?? []).find((k) => k.frame === at);
        const value = cameraValuesAt(plan, next, at, stand(at))[curve] ?? base[curve];
        const kind = own?.curve === 'free' ? 'smooth' : (own?.curve ?? 'smooth');
        return { frame: at, value, curve: kind, tangent: null, into: null };
      });
  };
  convert(camera.path ? ['y'] : PLACE, camera.follow !== targets.follow);
  if (looksAfresh) {
    for (const curve of AIM) {
      delete keys[curve];
      base[curve] = 0;
    }
  } else convert(AIM, true);
  return { ...targets, base, keys: keys };
}

const pick = (
  values: Readonly<Partial<Record<CameraCurve, number>>>,
  curves: readonly CameraCurve[],
): Partial<Record<CameraCurve, number>> =>
  Object.fromEntries(curves.flatMap((c) => (values[c] === undefined ? [] : [[c, values[c]]])));

/**
 * The edit that gives a camera values at a frame: keys there where it has any keys at all, so that what is set at one frame does not move it at
 * others; else it has them all the time.
 */
export function cameraEdit(
  { id, keys, base }: Camera,
  frame: number,
  values: Readonly<Partial<Record<CameraCurve, number>>>,
): Edit {
  return Object.keys(keys).length > 0
    ? { type: 'camera key', camera: id, frame: Math.round(frame), values, curve: 'smooth' }
    : { type: 'change camera', camera: id, values: { base: { ...base, ...values } } };
}

/** What a curve of a camera is at a frame. */
export const cameraCurveAt = (
  camera: Pick<Camera, 'keys' | 'base'>,
  curve: CameraCurve,
  frame: number,
): number => valueOn(valueCurve(camera.keys[curve] ?? []), frame, camera.base[curve]);

/** The edit that keys all of a camera at a frame as it stands there; its place on a path is keyed by how far along it is. */
export function keyCameraEdit(camera: Camera, frame: number): Edit {
  const at = Math.round(frame);
  const curves = CAMERA_CURVES.filter((c) => (camera.path ? c !== 'x' && c !== 'z' : c !== 'along'));
  const values = Object.fromEntries(curves.map((c) => [c, cameraCurveAt(camera, c, at)]));
  return { type: 'camera key', camera: camera.id, frame: at, values, curve: 'smooth' };
}

/** The edit that removes a character. Cameras that went along with it, or looked at it, stay where they stand at a frame, and at their keys. */
export function removalOfFilmed(plan: Plan, character: string, frame: number): Edit {
  const removal: Edit = { type: 'remove character', character };
  const own = plan.characters.find((c) => c.character.id === character)?.character;
  const edits = plan.filming.cameras.flatMap((camera): Edit[] => {
    const left = <T extends { readonly character: string }>(target: T | null): T | null =>
      target?.character === character ? null : target;
    const [follow, look] = [left(camera.follow), left(camera.look)];
    if (follow === camera.follow && look === camera.look) return [];
    const values = retargetedCamera(plan, camera, frame, { follow, look });
    return [{ type: 'change camera', camera: camera.id, values }];
  });
  if (edits.length === 0) return removal;
  return { type: 'several', label: `removal of ${own?.name ?? 'a character'}`, edits: [...edits, removal] };
}

/** The frames at which a camera has keys, in order. */
export const cameraKeyFrames = ({ keys }: Pick<Camera, 'keys'>): number[] =>
  [...new Set(Object.values(keys).flatMap((list) => list.map((k) => k.frame)))].sort((a, b) => a - b);
