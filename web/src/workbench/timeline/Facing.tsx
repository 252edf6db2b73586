import type { CharacterPlan, Plan } from '@warper/core';
import { evaluate, makePose } from '@warper/core';
import { useMemo } from 'react';
import { LANE_HEIGHT, px } from './geometry';

interface Props {
  readonly plan: CharacterPlan;
  readonly rate: Plan['rate'];
  readonly from: number;
  readonly to: number;
  readonly scale: number;
}

/** Pixels between two pointers, at least. */
const APART = 44;

const NUMBERS = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1200, 3000, 6000];

/** Which way a character faces along its lane, as seen from above: up is away from the viewer of the front. */
export function Facing({ plan, from, to, scale }: Props) {
  const pointers = useMemo(() => {
    const step = NUMBERS.find((n) => n * scale >= APART) ?? NUMBERS.at(-1)!;
    const pose = makePose(plan.skeleton);
    const out: { frame: number; degrees: number }[] = [];
    if (plan.segments.length === 0) return out;
    const first = Math.ceil(Math.max(from, plan.start) / step) * step;
    for (let f = first; f < Math.min(to, plan.end); f += step) {
      evaluate(plan, f, pose);
      out.push({ frame: f, degrees: (pose.root[2]! * 180) / Math.PI });
    }
    return out;
  }, [plan, from, to, scale]);
  return (
    <div
      className="pointer-events-none absolute inset-x-0"
      style={{ top: LANE_HEIGHT - 12, height: 11, color: `var(--hue-${plan.character.hue})` }}
      aria-hidden
    >
      {pointers.map(({ frame, degrees }) => (
        <svg
          key={frame}
          viewBox="-5 -5 10 10"
          width={11}
          height={11}
          className="absolute -translate-x-1/2"
          style={{ left: px(frame) }}
        >
          {/* Facing the viewer, heading 0, points down, as on the floor seen from the front. */}
          <g transform={`rotate(${-degrees})`}>
            <path d="M0,-4V3.4M-2.4,1L0,4L2.4,1" fill="none" stroke="currentColor" strokeWidth={1.3} />
          </g>
        </svg>
      ))}
    </div>
  );
}
