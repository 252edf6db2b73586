import type { LayerLane, Role, Skeleton } from '@warper/core';
import { defined, jointOfRole, roleWords } from '@warper/core';
import type { KeyboardEvent, PointerEvent } from 'react';
import { useMemo, useRef } from 'react';
import { maskName, maskWeights, maskWith } from './maskEdits';

interface Props {
  readonly skeleton: Skeleton;
  readonly hue: number;
  readonly mask: LayerLane['mask'];
  readonly softness: number;
  readonly onChange: (mask: LayerLane['mask']) => void;
}

/** Height of the figure, pixels, and the room around it. */
const HEIGHT = 190;
const ROOM = 12;

/** A limb as it is drawn: the joint that turns it, and the lines from there to what hangs on it. */
interface Limb {
  readonly joint: number;
  readonly name: string;
  readonly lines: readonly (readonly [x1: number, y1: number, x2: number, y2: number])[];
  readonly width: number;
}

/**
 * The body at rest, limb by limb, each as dark as it takes the layer: pressed or dragged over they are taken in or out with all that hangs
 * on them, with Shift alone.
 */
export function MaskFigure({ skeleton, hue, mask, softness, onChange }: Props) {
  const { limbs, width } = useMemo(() => limbsOf(skeleton), [skeleton]);
  const weights = useMemo(() => maskWeights(skeleton, mask, softness), [skeleton, mask, softness]);
  /** Whether a drag in hand takes in or out; null without one. */
  const painting = useRef<boolean | null>(null);
  const set = (joint: number, isIn: boolean, alone: boolean): void =>
    onChange(maskWith(skeleton, mask, joint, !alone, isIn));
  const isIn = (joint: number): boolean => defined(weights[joint]) > 0;
  const onPointerDown = (e: PointerEvent, joint: number): void => {
    e.preventDefault();
    painting.current = !isIn(joint);
    set(joint, painting.current, e.shiftKey);
  };
  const onPointerEnter = (e: PointerEvent, joint: number): void => {
    if (e.buttons === 0) painting.current = null;
    if (painting.current === null || isIn(joint) === painting.current) return;
    set(joint, painting.current, e.shiftKey);
  };
  const onKeyDown = (e: KeyboardEvent, joint: number): void => {
    if (e.key !== ' ' && e.key !== 'Enter') return;
    e.preventDefault();
    e.stopPropagation();
    set(joint, !isIn(joint), e.shiftKey);
  };
  return (
    <svg
      width={width}
      height={HEIGHT}
      role="group"
      aria-label="Mask on the body"
      className="mx-auto my-1 block touch-none select-none"
      onPointerUp={() => (painting.current = null)}
    >
      {limbs.map(({ joint, name, lines, width: thick }) => (
        <g
          key={joint}
          role="checkbox"
          tabIndex={0}
          aria-checked={isIn(joint)}
          aria-label={name}
          className="cursor-pointer"
          stroke={isIn(joint) ? `var(--hue-${hue})` : 'var(--rule)'}
          strokeOpacity={isIn(joint) ? 0.35 + 0.65 * defined(weights[joint]) : 1}
          strokeWidth={thick}
          strokeLinecap="round"
          onPointerDown={(e) => onPointerDown(e, joint)}
          onPointerEnter={(e) => onPointerEnter(e, joint)}
          onKeyDown={(e) => onKeyDown(e, joint)}
        >
          <title>{name}</title>
          <LimbLines lines={lines} width={thick} />
        </g>
      ))}
    </svg>
  );
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

/** The lines of a limb, with a rim that sets it off from the next. */
const LimbLines = ({ lines, width }: Pick<Limb, 'lines' | 'width'>) => (
  <>
    {lines.map(([x1, y1, x2, y2], i) => (
      <line
        key={`rim-${i}`}
        {...{ x1, y1, x2, y2 }}
        stroke="var(--raised)"
        strokeOpacity={1}
        strokeWidth={width + 2}
      />
    ))}
    {lines.map(([x1, y1, x2, y2], i) => (
      <line key={i} {...{ x1, y1, x2, y2 }} />
    ))}
  </>
);

/** The limbs of a body at rest: two legs from the front, four from the side. */
function limbsOf(skeleton: Skeleton): { limbs: readonly Limb[]; width: number } {
  const { names, parents, rest, ends, roles } = skeleton;
  const across = jointOfRole(skeleton, 'leftFrontPaw') >= 0 ? 2 : 0;
  const place = (j: number): readonly [number, number] => [
    defined(rest.positions[j * 3 + across]),
    defined(rest.positions[j * 3 + 1]),
  ];
  const all = names.map((_, j) => place(j));
  const [low, high] = [Math.min(...all.map((p) => p[1])), Math.max(...all.map((p) => p[1]))];
  const [left, right] = [Math.min(...all.map((p) => p[0])), Math.max(...all.map((p) => p[0]))];
  const scale = (HEIGHT - 2 * ROOM) / Math.max(1e-6, high - low);
  const isFar = (j: number): boolean => across === 2 && (roles[j]?.startsWith('right') ?? false);
  const point = (j: number): readonly [number, number] => {
    const [x, y] = place(j);
    return [ROOM + ASIDE + (x - left) * scale - (isFar(j) ? ASIDE : 0), HEIGHT - ROOM - (y - low) * scale];
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
      name: role ? roleWords(role) : maskName(skeleton, joint),
      lines: tips.map(([x, y]) => [from[0], from[1], defined(x), defined(y)] as const),
      width: (across === 0 && role && WIDTHS[role]) || Math.min(11, Math.max(4, longest * 0.34)),
    };
  });
  return { limbs, width: Math.ceil((right - left) * scale) + 2 * (ROOM + ASIDE) };
}
