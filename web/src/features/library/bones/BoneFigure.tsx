import type { Skeleton } from '@warper/core';
import { jointOfRole, defined } from '@warper/core';
import { restHeading } from '@warper/core/kernels';
import { memo, useMemo } from 'react';
import type { BoneState } from './boneRows';

interface Props {
  readonly skeleton: Skeleton;
  readonly label: string;
  /** How each joint is drawn; null draws it small. */
  readonly states: readonly (BoneState | null)[];
  readonly chosen: number;
  readonly onChoose: (joint: number) => void;
}

const SIZE = { width: 300, height: 250, margin: 16 };
/** Bodies on four legs are looked at from their side, a little from the front. */
const ON_FOUR_LEGS = 1.25;

/** A skeleton in its rest pose from the front, with a mark for every bone; a press on one chooses it. */
export const BoneFigure = memo(function BoneFigure({ skeleton, label, states, chosen, onChoose }: Props) {
  const places = useMemo(() => project(skeleton), [skeleton]);
  return (
    <svg
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="block h-full w-full"
      role="img"
      aria-label={label}
    >
      {[...skeleton.parents].map((parent, i) =>
        parent < 0 ? null : (
          <line
            key={i}
            x1={defined(places[parent])[0]}
            y1={defined(places[parent])[1]}
            x2={defined(places[i])[0]}
            y2={defined(places[i])[1]}
            stroke="var(--soft)"
            strokeWidth={1.5}
          />
        ),
      )}
      {places.map(([x, y], i) => (
        <g
          key={i}
          data-bone={skeleton.names[i]}
          className="cursor-pointer"
          transform={`translate(${x},${y})`}
          onClick={() => onChoose(i)}
        >
          <title>{skeleton.names[i]}</title>
          <circle r={7} fill="transparent" />
          {i === chosen && <circle r={8} fill="none" stroke="var(--signal)" strokeWidth={2} />}
          <BoneMark state={states[i] ?? null} />
        </g>
      ))}
    </svg>
  );
});

/** A full dot is mapped, a triangle doubtful, a ring not mapped. */
function BoneMark({ state }: { state: BoneState | null }) {
  if (state === 'mapped') return <circle r={4} fill="var(--good)" />;
  if (state === 'doubtful') return <path d="M0,-6l5.5,10h-11z" fill="var(--watch)" />;
  if (state === 'unmapped')
    return <circle r={3.5} fill="var(--paper)" stroke="var(--bad)" strokeWidth={1.8} />;
  return <circle r={2} fill="var(--soft)" />;
}

/** Places of the joints in the picture: the body faces the viewer, so that its left is on the right. */
function project(skeleton: Skeleton): (readonly [number, number])[] {
  const { positions } = skeleton.rest;
  const aside = jointOfRole(skeleton, 'leftFrontUpperLeg') >= 0 ? ON_FOUR_LEGS : 0;
  const turn = aside - restHeading(skeleton);
  const flat = skeleton.names.map((_, i) => {
    const [x, y, z] = [
      defined(positions[i * 3]),
      defined(positions[i * 3 + 1]),
      defined(positions[i * 3 + 2]),
    ];
    return [x * Math.cos(turn) + z * Math.sin(turn), y] as const;
  });
  const range = (k: 0 | 1): [number, number] => [
    Math.min(...flat.map((p) => p[k])),
    Math.max(...flat.map((p) => p[k])),
  ];
  const [[left, right], [low, high]] = [range(0), range(1)];
  const scale = Math.min(
    (SIZE.width - 2 * SIZE.margin) / Math.max(1e-6, right - left),
    (SIZE.height - 2 * SIZE.margin) / Math.max(1e-6, high - low),
  );
  return flat.map(
    ([x, y]) =>
      [
        SIZE.width / 2 + (x - (left + right) / 2) * scale,
        SIZE.height / 2 - (y - (low + high) / 2) * scale,
      ] as const,
  );
}
