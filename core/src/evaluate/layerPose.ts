import { addRotations, blendTranslations, overrideRotations } from '../layers/blend';
import type { KeyTrack } from '../layers/keys';
import { keyedRotation } from '../layers/keys';
import type { PoseBuffer, RootPose, ScenePose } from '../clip/pose';
import { makePoseBuffer, sceneToWorld } from '../clip/pose';
import { quatMultiply, quatSlerp } from '../math/quaternion';
import { blendPoses, fromRootSpace, toRootSpace } from '../plan/blendPoses';
import { segmentAt } from '../plan/segmentAt';
import type { CharacterPlan, ContactPlan, LayerPlan, RootMoveFrame } from '../plan/plan';
import { curveWeight } from '../math/curve';
import { fadeWeight, layerWeight } from './layerWeight';
import { handIn, holdHand } from './holdHand';
import { layerDials } from './layerDials';
import { lookAt } from './lookAt';
import { makeRootFrame, moveByRootKeys } from './rootMove';
import { segmentPose } from '../plan/segmentPose';

/** Writes what the body lane of a character has at a frame. */
export type BasePose = (plan: CharacterPlan, frame: number, out: PoseBuffer) => ScenePose;

/** What a layer's root move depends on: the root of what lies below it. */
export const rootFrameOf = (plan: CharacterPlan, i: number, basePose: BasePose): RootMoveFrame =>
  makeRootFrame(plan.layers[i]!, (frame) => {
    const below = basePose(plan, frame, makePoseBuffer(plan.skeleton));
    return layerPose(plan, frame, below, basePose, i).root;
  });

/**
 * A pose with the layers of its character laid over it, bottom first, up to layer `count`; takes over its memory.
 *
 * @param basePose writes what the body lane has at another frame
 */
export function layerPose(
  plan: CharacterPlan,
  frame: number,
  pose: ScenePose,
  basePose: BasePose,
  count = plan.layers.length,
): ScenePose {
  let out = pose;
  for (let i = 0; i < count; i++) {
    out = posedByLayer(plan, i, frame, out, basePose);
    if (plan.layers[i]!.contacts.length > 0) holdHands(plan, i, frame, basePose, out);
  }
  return out;
}

/** Holds the hands that a layer keeps in their place, over all else that it does. */
function holdHands(plan: CharacterPlan, i: number, frame: number, basePose: BasePose, pose: ScenePose): void {
  const layer = plan.layers[i]!;
  layer.contacts.forEach((contact, k) => {
    const { start, end, fadeIn, fadeOut } = contact;
    if (frame < start || frame >= end) return;
    const w = layerWeight(layer, frame) * fadeWeight(start, end, fadeIn, fadeOut, frame);
    if (!(w > 0)) return;
    const held = (plan.heldHands[i]![k] ??= heldAt(plan, i, contact, basePose));
    holdHand(plan.skeleton, contact, held, w, pose);
  });
}

/** Where a hand is at the first frame in which a layer holds it, by the rest of what it and those below it do. */
function heldAt(
  plan: CharacterPlan,
  i: number,
  { start, limb, world }: ContactPlan,
  basePose: BasePose,
): Float64Array {
  const base = basePose(plan, start, makePoseBuffer(plan.skeleton));
  const pose = posedByLayer(plan, i, start, layerPose(plan, start, base, basePose, i), basePose);
  return handIn(sceneToWorld(plan.skeleton, pose, world), limb.end);
}

/** A pose with all that a layer does to it, but for the hands that it holds. */
function posedByLayer(
  plan: CharacterPlan,
  i: number,
  frame: number,
  pose: ScenePose,
  basePose: BasePose,
): ScenePose {
  let out = pose;
  const layer = plan.layers[i]!;
  if (layer.rootMove) {
    const at = (plan.rootFrames[i] ??= rootFrameOf(plan, i, basePose));
    moveByRootKeys(layer, layer.rootMove, at, frame, plan.skeleton.rootBone, out);
  }
  const w = layerWeight(layer, frame);
  if (!(w > 0)) return out;
  if (layer.dials) layerDials(plan, layer.dials, frame, w, out);
  const index = segmentAt(layer.segments, frame);
  if (index >= 0) out = layerSegments(plan, layer, index, frame, w, out);
  for (let k = 0; k < layer.keys.length; k++)
    out = layerKey(plan, layer.keys[k]!, layer.additive, frame, w, out);
  if (layer.look) lookAt(plan.skeleton, layer.look, frame, w, out);
  return out;
}

function layerSegments(
  plan: CharacterPlan,
  layer: LayerPlan,
  index: number,
  frame: number,
  w: number,
  below: ScenePose,
): ScenePose {
  const segment = layer.segments[index]!;
  const before = layer.segments[index - 1];
  const { rootBone } = plan.skeleton;
  let pose: ScenePose;
  let share = w;
  if (before && frame < segment.start + segment.overlap) {
    const outgoing = segmentPose(before, frame, false, plan.layerScratch);
    const incoming = segmentPose(segment, frame, false, plan.scratch);
    const u = (frame - segment.start) / segment.overlap;
    pose = blendPoses(rootBone, curveWeight(segment.curve, u), outgoing, incoming);
  } else {
    if (frame >= segment.end) return below;
    pose = segmentPose(segment, frame, false, plan.layerScratch);
    // A side that crossfades with its neighbour has no fade of its own there.
    const next = layer.segments[index + 1];
    const fadeIn = segment.overlap > 0 ? 0 : segment.settings.fade.in;
    const fadeOut = next && next.start < segment.end ? 0 : segment.settings.fade.out;
    share *= fadeWeight(segment.start, segment.end, fadeIn, fadeOut, frame);
  }
  if (!(share > 0)) return below;
  const over = toRootSpace(pose, rootBone);
  const out = toRootSpace(below, rootBone);
  const reference = layer.references[index]!;
  if (layer.additive) {
    addRotations(out.rotations, over.rotations, reference.rotations, layer.mask, share);
  } else overrideRotations(out.rotations, over.rotations, layer.mask, share);
  blendTranslations(
    out.translations,
    over.translations,
    layer.additive ? reference.translations : null,
    layer.moving,
    layer.movingWeights,
    share,
  );
  return fromRootSpace(out, rootBone);
}

const _keyed = new Float64Array(4);
const _identity = Float64Array.of(0, 0, 0, 1);

/** Lays one keyed joint over a pose; the root bone's keys are relative to the root, as its poses are in layers. */
function layerKey(
  plan: CharacterPlan,
  track: KeyTrack,
  additive: boolean,
  frame: number,
  w: number,
  below: ScenePose,
): ScenePose {
  const { rootBone } = plan.skeleton;
  const q = track.joint * 4;
  keyedRotation(track, frame, _keyed, 0);
  const isRoot = track.joint === rootBone;
  const out = isRoot ? toRootSpace(below, rootBone) : below;
  if (additive) {
    quatSlerp(_identity, 0, _keyed, 0, w, _keyed, 0);
    quatMultiply(out.rotations, q, _keyed, 0, out.rotations, q);
  } else quatSlerp(out.rotations, q, _keyed, 0, w, out.rotations, q);
  return isRoot ? fromRootSpace(out as RootPose, rootBone) : below;
}
