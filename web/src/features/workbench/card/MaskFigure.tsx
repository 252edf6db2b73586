import type { LayerLane, Skeleton } from '@warper/core';
import { defined } from '@warper/core';
import type { KeyboardEvent, PointerEvent } from 'react';
import { memo, useId, useMemo, useRef } from 'react';
import { useStableCallback } from '../../../ui/useStableCallback';
import type { Limb, LimbLine } from './maskDrawing';
import { FIGURE_HEIGHT, drawingOf } from './maskDrawing';
import { maskWeights, maskWith } from './maskEdits';

interface Props {
  readonly skeleton: Skeleton;
  readonly hue: number;
  readonly mask: LayerLane['mask'];
  readonly softness: number;
  readonly onChange: (mask: LayerLane['mask']) => void;
}

/**
 * The body at rest, limb by limb, each as dark as it takes the layer: pressed or dragged over they are taken in or out with all that hangs
 * on them, with Shift alone. Hands with fingers are drawn large beside it.
 */
export function MaskFigure({ skeleton, hue, mask, softness, onChange }: Props) {
  const { limbs, hands, width } = useMemo(() => drawingOf(skeleton), [skeleton]);
  const weights = useMemo(() => maskWeights(skeleton, mask, softness), [skeleton, mask, softness]);
  /** Whether a drag in hand takes in or out; null without one. */
  const painting = useRef<boolean | null>(null);
  const set = (joint: number, isIn: boolean, alone: boolean): void =>
    onChange(maskWith(skeleton, mask, joint, !alone, isIn));
  const isIn = (joint: number): boolean => defined(weights[joint]) > 0;
  const onPointerDown = useStableCallback((e: PointerEvent, joint: number): void => {
    e.preventDefault();
    painting.current = !isIn(joint);
    set(joint, painting.current, e.shiftKey);
  });
  const onPointerEnter = useStableCallback((e: PointerEvent, joint: number): void => {
    if (e.buttons === 0) painting.current = null;
    if (painting.current === null || isIn(joint) === painting.current) return;
    set(joint, painting.current, e.shiftKey);
  });
  const onKeyDown = useStableCallback((e: KeyboardEvent, joint: number): void => {
    if (e.key !== ' ' && e.key !== 'Enter') return;
    e.preventDefault();
    e.stopPropagation();
    set(joint, !isIn(joint), e.shiftKey);
  });
  // What is drawn large has its name there, and is no second stop for the keyboard.
  const large = new Set(hands.flatMap((hand) => hand.limbs.map((limb) => limb.joint)));
  const limbOf = (limb: Limb, isLarge: boolean) => (
    <LimbShape
      key={`${limb.joint} ${isLarge}`}
      limb={limb}
      hue={hue}
      weight={defined(weights[limb.joint])}
      above={weights[skeleton.parents[limb.joint] ?? -1] ?? defined(weights[limb.joint])}
      isStop={isLarge || !large.has(limb.joint)}
      onPointerDown={onPointerDown}
      onPointerEnter={onPointerEnter}
      onKeyDown={onKeyDown}
    />
  );
  return (
    <svg
      width={width}
      height={FIGURE_HEIGHT}
      role="group"
      aria-label="Mask on the body"
      className="mx-auto my-1 block max-w-full touch-none select-none"
      onPointerUp={() => (painting.current = null)}
    >
      {limbs.map((limb) => limbOf(limb, false))}
      {hands.map((hand) => hand.limbs.map((limb) => limbOf(limb, true)))}
    </svg>
  );
}

interface ShapeProps {
  readonly limb: Limb;
  readonly hue: number;
  /** How much the limb takes of the layer, and what it hangs on. */
  readonly weight: number;
  readonly above: number;
  /** Whether the keyboard comes to it. */
  readonly isStop: boolean;
  readonly onPointerDown: (e: PointerEvent, joint: number) => void;
  readonly onPointerEnter: (e: PointerEvent, joint: number) => void;
  readonly onKeyDown: (e: KeyboardEvent, joint: number) => void;
}

/** A limb, from the weight of what it hangs on to its own over its length. */
const LimbShape = memo(function LimbShape({ limb, hue, weight, above, isStop, ...on }: ShapeProps) {
  const { joint, name, lines, width } = limb;
  const isIn = weight > 0;
  const stop = isStop
    ? ({ role: 'checkbox', tabIndex: 0, 'aria-checked': isIn, 'aria-label': name } as const)
    : ({ 'aria-hidden': true } as const);
  return (
    <g
      {...stop}
      className="cursor-pointer"
      strokeLinecap="round"
      onPointerDown={(e) => on.onPointerDown(e, joint)}
      onPointerEnter={(e) => on.onPointerEnter(e, joint)}
      onKeyDown={(e) => on.onKeyDown(e, joint)}
    >
      <title>{name}</title>
      {lines.map(([x1, y1, x2, y2], i) => (
        <line key={i} {...{ x1, y1, x2, y2 }} stroke="var(--raised)" strokeWidth={width + 2} />
      ))}
      {lines.map((line, i) => (
        <WeightLine key={i} {...{ line, hue, width, weight }} from={isIn && above > 0 ? above : weight} />
      ))}
    </g>
  );
});

interface LineProps {
  readonly line: LimbLine;
  readonly hue: number;
  readonly width: number;
  readonly from: number;
  readonly weight: number;
}

/** The colour of a weight: paler the less it is. */
const colourOf = (hue: number, weight: number): string =>
  `color-mix(in srgb, var(--hue-${hue}) ${Math.round(25 + 75 * weight)}%, var(--raised))`;

function WeightLine({ line: [x1, y1, x2, y2], hue, width, from, weight }: LineProps) {
  const id = useId();
  const ends = { x1, y1, x2, y2 };
  if (weight <= 0) return <line {...ends} stroke="var(--rule)" strokeWidth={width} />;
  if (from === weight) return <line {...ends} stroke={colourOf(hue, weight)} strokeWidth={width} />;
  return (
    <>
      <linearGradient id={id} gradientUnits="userSpaceOnUse" {...ends}>
        <stop offset={0} stopColor={colourOf(hue, from)} />
        <stop offset={1} stopColor={colourOf(hue, weight)} />
      </linearGradient>
      <line {...ends} stroke={`url(#${id})`} strokeWidth={width} />
    </>
  );
}
