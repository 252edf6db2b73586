import type { CharacterPlan, Plan } from '@warper/core';
import { memo } from 'react';
import { seamOf } from '../../store/plan';
import { useAppSelector } from '../../store/store';
import { LANE_HEIGHT, SEGMENT_HEIGHT, TAG_ROOM } from './geometry';
import { SeamStitch } from './SeamStitch';
import { SegmentBlock } from './SegmentBlock';

interface Props {
  readonly lane: string;
  readonly plan: CharacterPlan;
  readonly rate: Plan['rate'];
  readonly targets: readonly number[];
}

/** The segments and seams of one body lane. */
export const Lane = memo(function Lane({ lane, plan, rate, targets }: Props) {
  const ppf = useAppSelector((s) => s.session.pixelsPerFrame);
  const { hue, name } = plan.character;
  return (
    <div
      data-lane={lane}
      role="group"
      aria-label={`Lane of ${name}`}
      className="relative border-b"
      style={{ height: LANE_HEIGHT }}
    >
      {plan.segments.map((segment, i) => {
        const next = plan.segments[i + 1];
        const gap = next ? next.start - segment.end : 0;
        return gap > 0 ? (
          <svg
            key={`${segment.id}-hold`}
            className="absolute"
            style={{ left: segment.end * ppf, top: TAG_ROOM }}
            width={gap * ppf}
            height={SEGMENT_HEIGHT}
            aria-label={`Holds the last pose for ${gap} frames`}
          >
            {Array.from({ length: Math.floor((gap * ppf) / 6) }, (_, k) => (
              <line
                key={k}
                x1={k * 6}
                y1={SEGMENT_HEIGHT}
                x2={k * 6 + 10}
                y2={0}
                stroke={`var(--hue-${hue})`}
                opacity={0.35}
              />
            ))}
          </svg>
        ) : null;
      })}
      {plan.segments.map((segment, i) => (
        <SegmentBlock
          key={segment.id}
          plan={segment}
          lane={lane}
          hue={hue}
          targets={targets}
          nextOverlap={plan.segments[i + 1]?.overlap ?? 0}
        />
      ))}
      {plan.segments.slice(1).map((segment, i) => (
        <SeamStitch
          key={segment.id}
          measures={seamOf(plan, i, rate)}
          segment={segment.id}
          names={[plan.segments[i]!.name, segment.name]}
        />
      ))}
    </div>
  );
});
