import type { Clip } from '@warper/core';
import { makePoseBuffer, makeWorldPose, poseToWorld, restPose, samplePose } from '@warper/core';
import { rootTrack } from '@warper/core/kernels';

/**
 * Small figures along a clip, seen from its left side, each about its own root: still ones to tell clips apart, and one
 * that moves. The first line of each figure ends at the head, or at the highest joint of a body without one.
 */
export interface Preview {
  readonly figures: number;
  /** Lines of each figure. */
  readonly lines: number;
  /** figures x lines x 4: along and up of both ends, millimetres. */
  readonly places: Int16Array;
  /**
   * Where the root is at each figure and at the end, seen from above about its first place and facing: to the left and
   * forwards, millimetres, and heading, milliradians; 3 numbers each. Previews that were made before there was one have none.
   */
  readonly floor?: readonly number[];
}

/** Most figures of a clip; as many a second as make a smooth small picture. */
const MOST_FIGURES = 120;
const FIGURES_A_SECOND = 15;
const MOST_MILLIMETRES = 32_767;
const DRAWN =
  /^(tail|hips|spine|chest|upperChest|neck|head|left|right)(Front)?(UpperLeg|LowerLeg|Foot|Paw|Toes|UpperArm|LowerArm|Hand)?$/;

/** Draws the figures of a clip at even moments; a loop's last one runs on into its first. */
export function clipPreview(clip: Clip): Preview {
  const { skeleton } = clip;
  const pose = makePoseBuffer(skeleton);
  const world = makeWorldPose(skeleton);
  const root = rootTrack(clip);
  const bones = drawnBones(clip);
  const wanted = Math.round(((clip.frames - 1) / clip.rate) * FIGURES_A_SECOND);
  const figures = Math.min(MOST_FIGURES, Math.max(1, wanted));
  const places = new Int16Array(figures * bones.length * 4);
  const floor: number[] = [];
  let at = 0;
  for (let i = 0; i < figures; i++) {
    const sample = Math.round(((clip.frames - 1) * i) / figures);
    poseToWorld(skeleton, samplePose(clip, sample, pose), world);
    const [x, z, heading] = [root[sample * 3]!, root[sample * 3 + 1]!, root[sample * 3 + 2]!];
    floor.push(...onFloor(root, sample));
    const along = (j: number): number =>
      (world.positions[j * 3]! - x) * Math.sin(heading) +
      (world.positions[j * 3 + 2]! - z) * Math.cos(heading);
    for (const [from, to] of bones)
      for (const metres of [
        along(from),
        world.positions[from * 3 + 1]!,
        along(to),
        world.positions[to * 3 + 1]!,
      ])
        places[at++] = Math.max(-MOST_MILLIMETRES, Math.min(MOST_MILLIMETRES, Math.round(metres * 1000)));
  }
  floor.push(...onFloor(root, clip.frames - 1));
  return { figures, lines: bones.length, places, floor };
}

/** The root at a sample about where and how it begins; see `Preview.floor`. */
function onFloor(root: Float64Array, sample: number): [number, number, number] {
  const turn = root[2]!;
  const x = root[sample * 3]! - root[0]!;
  const z = root[sample * 3 + 1]! - root[1]!;
  const [sine, cosine] = [Math.sin(turn), Math.cos(turn)];
  return [
    Math.round(1000 * (x * cosine - z * sine)),
    Math.round(1000 * (x * sine + z * cosine)),
    Math.round(1000 * (root[sample * 3 + 2]! - turn)),
  ];
}

/** Pairs of joints between which lines are drawn: those with the roles of trunk and limbs, else all; the head's first. */
function drawnBones({ skeleton }: Clip): [number, number][] {
  const { roles, parents } = skeleton;
  const drawn = roles.some((r) => r)
    ? roles.map((r) => r !== null && DRAWN.test(r))
    : skeleton.names.map(() => true);
  const bones: [number, number][] = [];
  parents.forEach((_, j) => {
    if (!drawn[j]) return;
    let parent = parents[j]!;
    while (parent >= 0 && !drawn[parent]) parent = parents[parent]!;
    if (parent >= 0) bones.push([parent, j]);
  });
  const rest = poseToWorld(skeleton, restPose(skeleton), makeWorldPose(skeleton)).positions;
  const head = bones.findIndex(([, j]) => roles[j] === 'head');
  const highest = bones.reduce(
    (best, [, j], i) => (rest[j * 3 + 1]! > rest[bones[best]![1] * 3 + 1]! ? i : best),
    0,
  );
  const top = bones.splice(head >= 0 ? head : highest, 1);
  return [...top, ...bones];
}

/** The figure that tells most of a clip: the one that is least like the one whose head is highest, which just stands. */
export function tellingFigure({ figures, places }: Preview): number {
  const width = places.length / Math.max(1, figures);
  const head = (f: number): number => places[f * width + 3] ?? 0;
  let upright = 0;
  for (let f = 1; f < figures; f++) if (head(f) > head(upright)) upright = f;
  let [best, most] = [0, -1];
  for (let f = 0; f < figures; f++) {
    let away = 0;
    for (let k = 0; k < width; k++) away += (places[f * width + k]! - places[upright * width + k]!) ** 2;
    if (away > most) [best, most] = [f, away];
  }
  return best;
}

/** Height of a preview's highest point over the floor, metres. */
export function previewHeight({ places }: Preview): number {
  let high = 0;
  for (let i = 1; i < places.length; i += 2) high = Math.max(high, places[i]!);
  return high / 1000;
}
