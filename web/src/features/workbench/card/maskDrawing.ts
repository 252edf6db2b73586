import type { Role, Skeleton } from '@warper/core';
import { defined, fingersOf, jointOfRole, roleWords } from '@warper/core';
import { maskName } from './maskEdits';

/** Height of the figure, pixels, and the room around it. */
export const FIGURE_HEIGHT = 190;
const ROOM = 12;
/** Room for a hand beside the legs, pixels, and from the top of the figure. */
const HAND = { width: 58, height: 84, top: 84 };

/** A line of a limb, from its joint outwards. */
export type LimbLine = readonly [x1: number, y1: number, x2: number, y2: number];

/** A limb as it is drawn: the joint that turns it, and the lines from there to what hangs on it. */
export interface Limb {
  readonly joint: number;
  readonly name: string;
  readonly lines: readonly LimbLine[];
  readonly width: number;
}

/** A hand that is drawn by itself, large enough for its fingers to be pressed. */
export interface HandDrawing {
  readonly side: 'left' | 'right';
  readonly limbs: readonly Limb[];
}

export interface BodyDrawing {
  readonly limbs: readonly Limb[];
  readonly hands: readonly HandDrawing[];
  readonly width: number;
}

/** How thick parts of a body of two legs are drawn, pixels; others by their length. */
const WIDTHS: Readonly<Partial<Record<Role, number>>> = {
  hips: 18,
  spine: 20,
  chest: 22,
  upperChest: 24,
  neck: 8,
  head: 18,
  leftShoulder: 10,
  rightShoulder: 10,
  leftUpperLeg: 13,
  rightUpperLeg: 13,
  leftLowerLeg: 10,
  rightLowerLeg: 10,
};
/** Pixels by which the far legs of a body of four stand aside from the near ones. */
const ASIDE = 11;

/** A body at rest, limb by limb: two legs from the front with the hands beside them, four from the side. */
export function drawingOf(skeleton: Skeleton): BodyDrawing {
  const { names, parents, rest, ends, roles } = skeleton;
  const across = jointOfRole(skeleton, 'leftFrontPaw') >= 0 ? 2 : 0;
  const place = (j: number): readonly [number, number] => [
    defined(rest.positions[j * 3 + across]),
    defined(rest.positions[j * 3 + 1]),
  ];
  const all = names.map((_, j) => place(j));
  const [low, high] = [Math.min(...all.map((p) => p[1])), Math.max(...all.map((p) => p[1]))];
  const [left, right] = [Math.min(...all.map((p) => p[0])), Math.max(...all.map((p) => p[0]))];
  const scale = (FIGURE_HEIGHT - 2 * ROOM) / Math.max(1e-6, high - low);
  const isFar = (j: number): boolean => across === 2 && (roles[j]?.startsWith('right') ?? false);
  const point = (j: number): readonly [number, number] => {
    const [x, y] = place(j);
    return [
      ROOM + ASIDE + (x - left) * scale - (isFar(j) ? ASIDE : 0),
      FIGURE_HEIGHT - ROOM - (y - low) * scale,
    ];
  };
  const limbs = names.map((_, joint): Limb => {
    const from = point(joint);
    const children = names.flatMap((__, j) => (parents[j] === joint ? [point(j)] : []));
    const end = ends[joint];
    // A head that ends a chain has a height of its own.
    const tips =
      children.length > 0 ? children : [end || roles[joint] === 'head' ? [from[0], from[1] - 4] : from];
    const longest = Math.max(...tips.map(([x, y]) => Math.hypot(defined(x) - from[0], defined(y) - from[1])));
    const role = roles[joint];
    return {
      joint,
      name: nameOf(skeleton, joint),
      lines: tips.map(([x, y]) => [from[0], from[1], defined(x), defined(y)] as const),
      width: (across === 0 && role && WIDTHS[role]) || Math.min(11, Math.max(4, longest * 0.34)),
    };
  });
  const width = Math.ceil((right - left) * scale) + 2 * (ROOM + ASIDE);
  const hands = (['right', 'left'] as const).flatMap((side) => handDrawing(skeleton, side, width));
  return { limbs, hands, width: hands.length > 0 ? Math.max(width, 2 * HAND.width + 90) : width };
}

type Point = readonly [number, number];

/**
 * A hand by itself, its fingers upwards, as it is seen on its back: across from the thumb's side to the little finger's, and along the
 * middle finger.
 */
function handDrawing(skeleton: Skeleton, side: 'left' | 'right', width: number): HandDrawing[] {
  const { rest, ends } = skeleton;
  const hand = jointOfRole(skeleton, `${side}Hand`);
  const fingers = fingersOf(skeleton, side).filter((f) => f.joints.length > 0);
  const middle = fingers.find((f) => f.name === 'middle') ?? fingers[0];
  const [first, last] = [fingers.find((f) => f.name === 'index'), fingers.at(-1)];
  if (hand < 0 || !middle || !first || !last) return [];
  const at = (j: number): [number, number, number] =>
    [0, 1, 2].map((k) => defined(rest.positions[j * 3 + k])) as [number, number, number];
  const from = at(hand);
  const since = (j: number): [number, number, number] =>
    at(j).map((v, k) => v - defined(from[k])) as [number, number, number];
  const along = unit(since(defined(middle.joints[0])));
  const raw = minus(at(defined(first.joints[0])), at(defined(last.joints[0])));
  const across = unit(minus(raw, along, dot(raw, along)));
  const joints = [hand, ...fingers.flatMap((f) => f.joints)];
  const flat = joints.map((j): Point => [dot(since(j), across), dot(since(j), along)]);
  const [low, high] = [Math.min(...flat.map(([x]) => x)), Math.max(...flat.map(([x]) => x))];
  const long = Math.max(...flat.map(([, y]) => y)) * 1.2;
  const scale = Math.min(HAND.width / Math.max(1e-6, high - low), HAND.height / Math.max(1e-6, long));
  // The thumbs stand towards the body.
  const isRight = side === 'right';
  const centre = isRight ? HAND.width / 2 : width - HAND.width / 2;
  const place = (i: number): Point => {
    const [x, y] = defined(flat[i]);
    const aside = (x - (low + high) / 2) * scale * (isRight ? 1 : -1);
    return [centre + aside, HAND.top + HAND.height - y * scale];
  };
  const palm = fingers.map((f) => place(joints.indexOf(defined(f.joints[0]))));
  const [hx, hy] = place(0);
  const limbs = fingers.flatMap(({ joints: chain }) =>
    chain.map((joint, k): Limb => {
      const [x, y] = place(joints.indexOf(joint));
      const next = chain[k + 1];
      const before = k > 0 ? place(joints.indexOf(defined(chain[k - 1]))) : ([hx, hy] as const);
      // The last joint of a finger goes on as the one before it does, by what its file tells of it or half as far.
      const [tx, ty] =
        next === undefined
          ? [x + (x - before[0]) * (ends[joint] ? 0.8 : 0.5), y + (y - before[1]) * (ends[joint] ? 0.8 : 0.5)]
          : place(joints.indexOf(next));
      return { joint, name: nameOf(skeleton, joint), lines: [[x, y, tx, ty]], width: 5 };
    }),
  );
  const back: Limb = {
    joint: hand,
    name: nameOf(skeleton, hand),
    lines: palm.map(([x, y]) => [hx, hy, x, y]),
    width: 9,
  };
  return [{ side, limbs: [back, ...limbs] }];
}

type Triple = readonly [number, number, number];
const dot = (a: Triple, b: Triple): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const minus = (a: Triple, b: Triple, times = 1): [number, number, number] => [
  a[0] - times * b[0],
  a[1] - times * b[1],
  a[2] - times * b[2],
];
function unit(v: Triple): [number, number, number] {
  const length = Math.hypot(...v) || 1;
  return [v[0] / length, v[1] / length, v[2] / length];
}

function nameOf(skeleton: Skeleton, joint: number): string {
  const role = skeleton.roles[joint];
  return role ? roleWords(role) : maskName(skeleton, joint);
}
