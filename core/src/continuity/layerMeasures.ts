import type { Pose } from '../clip/pose';
import { makePoseBuffer } from '../clip/pose';
import { cloudJoints } from '../clip/pointCloud';
import { layerWeight } from '../evaluate/layerWeight';
import { evaluate } from '../footlock/evaluate';
import type { CharacterPlan, LayerPlan } from '../plan/plan';
import { worksAlone } from '../plan/plan';
import { segmentAt } from '../plan/segmentAt';
import { upToLayer } from '../plan/upToLayer';
import { MARGIN } from './measureSeam';
import { readWindow, sourceReader } from './window';
import { worstOfSeam } from './worstOfSeam';

/** What a layer does to the continuity of what lies below it. */
export interface LayerMeasure {
  readonly layer: string;
  /** The frame at which a joint jumps most, beyond what it does below and in the layer's own clip; centimetres. */
  readonly frame: number;
  readonly popCm: number;
  readonly joint: string;
}

/**
 * Measures the jumps that a layer adds, as of a hold from one key to the next, or where it ends at once. Its speed is its own: a signal
 * is no fault.
 *
 * @returns null where the layer does nothing
 */
export function measureLayer(plan: CharacterPlan, index: number): LayerMeasure | null {
  const layer = plan.layers[index]!;
  const active = activeFrames(plan, layer);
  if (!active) return null;
  const joints = cloudJoints(plan.skeleton);
  const [first, last] = active;
  const from = first - 1 - MARGIN;
  const count = last - first + 3 + 2 * MARGIN;
  const buffer = makePoseBuffer(plan.skeleton);
  // A layer that is there from the first frame on, or until the last, does not jump there: nothing is seen beyond.
  const seen = (f: number): number => Math.min(Math.max(f, plan.start), plan.end - 1);
  const [played, below] = [upToLayer(plan, index + 1), upToLayer(plan, index)].map((p) =>
    readWindow(p, joints, from, count, (f) => evaluate(p, seen(f), buffer)),
  );
  const own = readWindow(plan, joints, from, count, (f) => playedAlone(layer, f, plan));
  const worst = { frame: first, pop: 0, joint: 0 };
  for (let f = first - 1; f <= last + 1; f++) {
    const at = worstOfSeam(played!, [below!, own], joints.length, f - from, 1, null);
    if (at.pop > worst.pop) Object.assign(worst, { frame: f, pop: at.pop, joint: at.joint });
  }
  return {
    layer: layer.id,
    frame: worst.frame,
    popCm: worst.pop * 100,
    joint: plan.skeleton.names[joints[worst.joint]!]!,
  };
}

/** What the clip of a layer does by itself at a frame; null where none is played. */
function playedAlone(layer: LayerPlan, frame: number, plan: CharacterPlan): Pose | null {
  const segment = layer.segments[segmentAt(layer.segments, frame)];
  if (!segment || frame >= segment.end) return null;
  return sourceReader(segment, segment.start, makePoseBuffer(plan.skeleton))(frame);
}

/** The first and the last frame in which a layer does something; null where there is none. */
function activeFrames(plan: CharacterPlan, layer: LayerPlan): readonly [number, number] | null {
  const acts = (f: number): boolean => {
    if (layer.rootMove?.carriesOn && f >= layer.rootMove.first) return f <= layer.rootMove.last + 1;
    if (layerWeight(layer, f) === 0) return false;
    const segment = layer.segments[segmentAt(layer.segments, f)];
    return worksAlone(layer) || (segment !== undefined && f < segment.end);
  };
  let [first, last] = [NaN, NaN];
  for (let f = plan.start; f < plan.end; f++) {
    if (!acts(f)) continue;
    if (Number.isNaN(first)) first = f;
    last = f;
  }
  return Number.isNaN(first) ? null : [first, last];
}
