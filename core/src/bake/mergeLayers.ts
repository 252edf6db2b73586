import type { PoseBuffer, RootPose } from '../clip/pose';
import { makePoseBuffer, toSceneSpace } from '../clip/pose';
import type { Edit } from '../edit/edit';
import { evaluateUnlocked } from '../evaluate/evaluateUnlocked';
import { reducePoseKeys, reduceValueKeys } from '../layers/reduceKeys';
import { InputError } from '../math/errors';
import { shortestTurn } from '../math/floorMove';
import { quatAngle, quatConjugate, quatMultiply } from '../math/quaternion';
import { toRootSpace } from '../plan/blendPoses';
import type { CharacterPlan, LayerPlan } from '../plan/plan';
import { worksAlone } from '../plan/plan';
import { segmentPose } from '../plan/segmentPose';
import { upToLayer } from '../plan/upToLayer';
import type { PoseKey, PoseKeys, RootCurve, RootKeys, ValueKey } from '../scene/keys';
import { ROOT_CURVES } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import { PLAIN_LAYER } from '../scene/lane';

const RADIANS = Math.PI / 180;
/** A joint that never differs by more has no keys: a hundredth of a degree. */
const STILL = 0.01 * RADIANS;
/** The most that a merged layer may be off at a frame, degrees. */
export const MERGE_ERROR = 0.25;

/** Writes the rotations of a pose, parent-relative, the root bone's relative to the root, joints x 4. */
type Rotations = (frame: number) => Float64Array;
/** Writes a whole pose, its root bone relative to the root. */
type Poses = (frame: number) => RootPose;

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
  const { span, segments, rootMove } = layer;
  if (span) {
    // The last key that is carried on from may stand outside of what the layer does else.
    const last = rootMove?.carriesOn ? rootMove.last + 1 : -Infinity;
    return { start: span.start - 1, end: Math.max(last, span.end ?? plan.end) };
  }
  if (worksAlone(layer)) return { start: plan.start, end: plan.end };
  const ends = segments.map((s) => s.end);
  return { start: Math.min(plan.end, ...segments.map((s) => s.start)), end: Math.max(plan.start, ...ends) };
}

/** The most that a merged layer may move the root, and lift it, otherwise than the two did: metres and degrees. */
const ROOT_ERROR = { metres: 0.0005, degrees: 0.05 };

/** The frames over which keys of the root say what two layers do to it; null where neither moves it, nor lowers the hips. */
function rootFrames(
  layers: readonly LayerPlan[],
  reach: { readonly start: number; readonly end: number },
): readonly [number, number] | null {
  const moves = layers.flatMap((l) => l.rootMove ?? []);
  const lowers = layers.some((l) => l.dials?.curves.crouch);
  if (moves.length === 0) return lowers ? [reach.start, reach.end] : null;
  if (!moves.some((m) => m.carriesOn)) return [reach.start, reach.end];
  if (lowers || moves.some((m) => !m.carriesOn)) {
    throw new InputError(
      'merge',
      'One of the two layers moves what follows along, and the other does not: one layer cannot do both.',
      { hint: 'Have both carry on what follows, or neither.' },
    );
  }
  return [Math.min(...moves.map((m) => m.first)), Math.max(...moves.map((m) => m.last))];
}

/** Keys that take the root, and the height of the hips, from one motion to another, in the directions of the first root below. */
function rootDifference(first: number, last: number, below: Poses, above: Poses, rootBone: number): RootKeys {
  const heading = below(first).root[2]!;
  const [sine, cosine] = [Math.sin(heading), Math.cos(heading)];
  const dense: Record<RootCurve, ValueKey[]> = { left: [], up: [], forward: [], turn: [] };
  let turned = 0;
  for (let frame = first; frame <= last; frame++) {
    const from = below(frame);
    const [x, z, facing] = from.root as unknown as [number, number, number];
    const height = from.translations[rootBone * 3 + 1]!;
    const to = above(frame);
    const [dx, dz] = [to.root[0]! - x, to.root[1]! - z];
    // The angle next to that of the frame before: turns of more than half a circle stay what they are.
    turned += shortestTurn(to.root[2]! - facing - turned);
    const values: Record<RootCurve, number> = {
      left: dx * cosine - dz * sine,
      forward: dx * sine + dz * cosine,
      up: to.translations[rootBone * 3 + 1]! - height,
      turn: turned / RADIANS,
    };
    for (const curve of ROOT_CURVES)
      dense[curve].push({ frame, value: values[curve], curve: 'linear', tangent: null, into: null });
  }
  return Object.fromEntries(
    ROOT_CURVES.flatMap((curve) => {
      const error = curve === 'turn' ? ROOT_ERROR.degrees : ROOT_ERROR.metres;
      const isMoved = dense[curve].some((k) => Math.abs(k.value) > error / 10);
      return isMoved ? [[curve, reduceValueKeys(dense[curve], error)]] : [];
    }),
  );
}

/**
 * The edit that makes one layer of a layer and the one below it: additive keys of joints, within `MERGE_ERROR` at every frame, and keys of
 * the root where either moves it, over the frames in which either did something.
 *
 * @param layers all layers of the character, bottom first
 * @throws InputError `merge` where there is no layer below, or one moves what follows along and the other does not
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
  return {
    type: 'several',
    label: `merge of the layers ${under.name} and ${layer.name}`,
    edits: [
      { type: 'remove layer', layer: layer.id },
      { type: 'remove layer', layer: under.id },
      { type: 'add layer', layer: mergedLayer(plan, index, layer, error) },
      // It was added on top.
      ...Array.from({ length: layers.length - 1 - layers.indexOf(layer) }, (): Edit => ({
        type: 'raise layer',
        layer: under.id,
        by: -1,
      })),
    ],
  };
}

function mergedLayer(plan: CharacterPlan, index: number, { character }: LayerLane, error: number): LayerLane {
  const both = plan.layers.slice(index - 1, index + 1);
  const { id, name } = both[0]!;
  const reaches = both.map((l) => reachOf(l, plan));
  const start = Math.min(...reaches.map((r) => r.start));
  const end = Math.max(...reaches.map((r) => r.end));
  const { rootBone } = plan.skeleton;
  const buffers = [makePoseBuffer(plan.skeleton), makePoseBuffer(plan.skeleton)] as const;
  const at =
    (count: number, buffer: PoseBuffer): Poses =>
    (frame) => {
      const pose = evaluateUnlocked(upToLayer(plan, count), frame, buffer);
      return toRootSpace(toSceneSpace(plan.skeleton, pose), rootBone);
    };
  const [below, above] = [at(index - 1, buffers[0]), at(index + 1, buffers[1])];
  const frames = Array.from({ length: Math.max(1, end - start + 1) }, (_, i) => start + i);
  const moved = rootFrames(both, { start, end });
  const movers = both.flatMap((l) => l.rootMove ?? []);
  return {
    ...PLAIN_LAYER,
    id,
    character,
    name,
    blend: 'additive',
    span: { start, end: end + 1, fadeIn: 0, fadeOut: 0 },
    keys: differenceKeys(
      plan,
      frames,
      (f) => below(f).rotations,
      (f) => above(f).rotations,
      error,
    ),
    rootKeys: moved ? rootDifference(...moved, below, above, rootBone) : {},
    carriesOn: movers.some((m) => m.carriesOn),
    rootFeet: movers.find((m) => m.feet === 'hold')?.feet ?? movers[0]?.feet ?? 'slide',
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
