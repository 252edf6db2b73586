import type { ScenePose } from '../clip/pose';
import { valueOn } from '../layers/valueCurve';
import type { CharacterPlan, LayerPlan, RootMoveFrame, RootMovePlan } from '../plan/plan';
import { movePose } from '../plan/movePose';
import { layerWeight } from './layerWeight';

const _move = new Float64Array(4);
const RADIANS = Math.PI / 180;

/**
 * Moves a pose as the keys of a layer move the whole character: its root goes left, up and forward in the directions that it had at
 * the first key, and turns about where it then is. What comes after the last key is carried along as one, where it is asked for.
 */
export function moveByRootKeys(
  layer: LayerPlan,
  keys: RootMovePlan,
  { heading, carried }: RootMoveFrame,
  frame: number,
  rootBone: number,
  pose: ScenePose,
): void {
  const move =
    carried && frame > keys.last ? carried : rootMoveAt(layer, keys, heading, frame, pose.root, _move);
  if (move[0] === 0 && move[1] === 0 && move[2] === 0 && move[3] === 0) return;
  movePose(move, pose, rootBone);
  pose.translations[rootBone * 3 + 1]! += move[3]!;
}

/** Writes the floor move (x, z, turn) and the rise of a root that stands at `root`. */
function rootMoveAt(
  layer: LayerPlan,
  { curves }: RootMovePlan,
  heading: number,
  frame: number,
  root: Float64Array,
  out: Float64Array,
): Float64Array {
  const w = layerWeight(layer, frame);
  const left = w * valueOn(curves.left, frame, 0);
  const forward = w * valueOn(curves.forward, frame, 0);
  const turn = w * valueOn(curves.turn, frame, 0) * RADIANS;
  const [s, c] = [Math.sin(turn), Math.cos(turn)];
  const [hs, hc] = [Math.sin(heading), Math.cos(heading)];
  const [x, z] = [root[0]!, root[1]!];
  out[0] = x + left * hc + forward * hs - (x * c + z * s);
  out[1] = z - left * hs + forward * hc - (-x * s + z * c);
  out[2] = turn;
  out[3] = w * valueOn(curves.up, frame, 0);
  return out;
}

/** @param below reads the root (x, z, heading) of what lies below the layer at a frame */
export function makeRootFrame(layer: LayerPlan, below: (frame: number) => Float64Array): RootMoveFrame {
  const keys = layer.rootMove!;
  const heading = below(keys.first)[2]!;
  if (!keys.carriesOn) return { heading, carried: null };
  const carried = rootMoveAt(layer, keys, heading, keys.last, below(keys.last), new Float64Array(4));
  return { heading, carried };
}

/** Radians by which keys turn the character at a frame, but for those under which feet slide. */
export const turnedByKeys = (plan: CharacterPlan, frame: number): number =>
  addedByKeys(plan, 'turn', frame) * RADIANS;

/** Metres by which keys lift the character at a frame, but for those under which feet slide. */
export const risenByKeys = (plan: CharacterPlan, frame: number): number => addedByKeys(plan, 'up', frame);

function addedByKeys(plan: CharacterPlan, curve: 'turn' | 'up', frame: number): number {
  let sum = 0;
  for (const layer of plan.layers) {
    const keys = layer.rootMove;
    if (!keys || keys.feet === 'slide') continue;
    const at = keys.carriesOn ? Math.min(frame, keys.last) : frame;
    sum += layerWeight(layer, at) * valueOn(keys.curves[curve], at, 0);
  }
  return sum;
}

/** Whether keys move the character from the frame before to this one. */
export const movedByKeys = (plan: CharacterPlan, frame: number): boolean =>
  plan.layers.some(({ rootMove: keys, span }) => {
    if (!keys || keys.feet === 'slide') return false;
    const until = keys.carriesOn ? keys.last : (span?.end ?? keys.last);
    return frame > Math.min(keys.first, span?.start ?? keys.first) && frame <= until;
  });

/**
 * What feet do between two frames in which keys move the character: hold where any layer has them hold; null where no keys move it, or
 * they only slide along.
 */
export function feetUnderKeys(plan: CharacterPlan, start: number, end: number): 'hold' | 'step' | null {
  let feet: 'hold' | 'step' | null = null;
  for (const { rootMove: keys, span } of plan.layers) {
    if (!keys || keys.feet === 'slide') continue;
    const until = keys.carriesOn ? keys.last : (span?.end ?? Infinity);
    if (start > until || end <= Math.max(keys.first, span?.start ?? -Infinity)) continue;
    feet = feet === 'hold' ? feet : keys.feet;
  }
  return feet;
}
