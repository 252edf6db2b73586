import { makePoseBuffer } from '../clip/pose';
import type { Edit } from '../edit/edit';
import { evaluateUnlocked } from '../evaluate/evaluateUnlocked';
import { reducePoseKeys } from '../layers/reduceKeys';
import { InputError } from '../math/errors';
import { quatAngle, quatConjugate, quatMultiply } from '../math/quaternion';
import { toRootSpace } from '../plan/blendPoses';
import type { CharacterPlan, LayerPlan } from '../plan/plan';
import { segmentPose } from '../plan/segmentPose';
import { upToLayer } from '../plan/upToLayer';
import type { PoseKey, PoseKeys } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import { PLAIN_LAYER } from '../scene/lane';

const RADIANS = Math.PI / 180;
/** A joint that never differs by more has no keys: a hundredth of a degree. */
const STILL = 0.01 * RADIANS;
/** The most that a merged layer may be off at a frame, degrees. */
export const MERGE_ERROR = 0.25;

/** Writes the rotations of a pose, parent-relative, the root bone's relative to the root, joints x 4. */
type Rotations = (frame: number) => Float64Array;

const _inverse = new Float64Array(4);

/** Additive keys that take one motion to another, as few as go within an error; joints that hardly differ have none. */
function differenceKeys(
  plan: CharacterPlan,
  frames: readonly number[],
  below: Rotations,
  above: Rotations,
  error: number,
): PoseKeys {
  const { names } = plan.skeleton;
  const dense: PoseKey[][] = names.map(() => []);
  const moved = new Uint8Array(names.length);
  const none = Float64Array.of(0, 0, 0, 1);
  const turn = new Float64Array(4);
  for (const frame of frames) {
    const from = below(frame).slice();
    const to = above(frame);
    names.forEach((_, j) => {
      quatConjugate(from, j * 4, _inverse, 0);
      quatMultiply(_inverse, 0, to, j * 4, turn, 0);
      if (quatAngle(turn, 0, none, 0) > STILL) moved[j] = 1;
      const sign = turn[3]! < 0 ? -1 : 1;
      const rotation = [turn[0]! * sign, turn[1]! * sign, turn[2]! * sign, turn[3]! * sign] as const;
      dense[j]!.push({ frame, rotation, curve: 'linear', tangent: null, into: null });
    });
  }
  return Object.fromEntries(
    names.flatMap((name, j) => (moved[j] ? [[name, reducePoseKeys(dense[j]!, error * RADIANS)]] : [])),
  );
}

/** The frames in which a layer can do something. */
function reachOf(layer: LayerPlan, plan: CharacterPlan): { readonly start: number; readonly end: number } {
  const { span, segments, keys } = layer;
  if (span) return { start: span.start - 1, end: span.end ?? plan.end };
  if (keys.length > 0) return { start: plan.start, end: plan.end };
  const ends = segments.map((s) => s.end);
  return { start: Math.min(plan.end, ...segments.map((s) => s.start)), end: Math.max(plan.start, ...ends) };
}

/**
 * The edit that makes one layer of a layer and the one below it: additive keys, within `MERGE_ERROR` at every frame, over the frames in
 * which either did something.
 *
 * @param layers all layers of the character, bottom first
 * @throws InputError `merge` where there is no layer below, or either moves the root
 */
export function mergeDownEdit(
  plan: CharacterPlan,
  layers: readonly LayerLane[],
  layer: LayerLane,
  error = MERGE_ERROR,
): Edit {
  const index = plan.layers.findIndex((l) => l.id === layer.id);
  const [under, own] = [plan.layers[index - 1], plan.layers[index]];
  if (!under || !own) {
    throw new InputError('merge', `There is no layer below ${layer.name} that it could be merged with.`, {
      hint: 'A muted layer has to be switched on first.',
    });
  }
  const mover = [under, own].find((l) => l.rootMove !== null);
  if (mover) {
    throw new InputError('merge', `${mover.name} moves the whole character, which keys of joints cannot.`, {
      hint: 'Take its keys of the root away first, or leave it a layer of its own.',
    });
  }
  const reaches = [under, own].map((l) => reachOf(l, plan));
  const start = Math.min(...reaches.map((r) => r.start));
  const end = Math.max(...reaches.map((r) => r.end));
  const buffer = makePoseBuffer(plan.skeleton);
  const at =
    (count: number): Rotations =>
    (frame) =>
      evaluateUnlocked(upToLayer(plan, count), frame, buffer).rotations;
  const frames = Array.from({ length: Math.max(1, end - start + 1) }, (_, i) => start + i);
  const merged: LayerLane = {
    ...PLAIN_LAYER,
    id: under.id,
    character: layer.character,
    name: under.name,
    blend: 'additive',
    span: { start, end: end + 1, fadeIn: 0, fadeOut: 0 },
    keys: differenceKeys(plan, frames, at(index - 1), at(index + 1), error),
  };
  return {
    type: 'several',
    label: `merge of the layers ${under.name} and ${layer.name}`,
    edits: [
      { type: 'remove layer', layer: layer.id },
      { type: 'remove layer', layer: under.id },
      { type: 'add layer', layer: merged },
      // It was added on top.
      ...Array.from({ length: layers.length - 1 - layers.indexOf(layer) }, (): Edit => ({
        type: 'raise layer',
        layer: under.id,
        by: -1,
      })),
    ],
  };
}

/**
 * The edit that keeps how one segment differs from another as an additive layer over the first: from its start on, as long as both last.
 *
 * @throws InputError `merge` where either is not on the character's own lane
 */
export function differenceEdit(plan: CharacterPlan, reference: string, other: string, layer: string): Edit {
  const find = (id: string) => plan.segments.find((s) => s.id === id);
  const [a, b] = [find(reference), find(other)];
  if (!a || !b || a === b) {
    throw new InputError('merge', 'A difference is that of two segments of one character.', {
      hint: 'Select two segments on its own lane: the first is what the other is compared with.',
    });
  }
  const length = Math.min(a.end - a.start, b.end - b.start);
  const buffers = [makePoseBuffer(plan.skeleton), makePoseBuffer(plan.skeleton)] as const;
  const { rootBone } = plan.skeleton;
  const frames = Array.from({ length }, (_, i) => a.start + i);
  const keys = differenceKeys(
    plan,
    frames,
    (frame) => toRootSpace(segmentPose(a, frame, false, buffers[0]), rootBone).rotations,
    (frame) => toRootSpace(segmentPose(b, b.start + frame - a.start, false, buffers[1]), rootBone).rotations,
    MERGE_ERROR,
  );
  const made: LayerLane = {
    ...PLAIN_LAYER,
    id: layer,
    character: plan.character.id,
    name: `${b.name} over ${a.name}`,
    blend: 'additive',
    span: {
      start: a.start,
      end: a.start + length,
      fadeIn: Math.min(8, length >> 2),
      fadeOut: Math.min(8, length >> 2),
    },
    keys,
  };
  return {
    type: 'several',
    label: `difference of ${b.name} and ${a.name}`,
    edits: [{ type: 'add layer', layer: made }],
  };
}
