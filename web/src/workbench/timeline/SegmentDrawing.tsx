import type { SegmentPlan } from '@warper/core';
import { rootTrack, samplesAt } from '@warper/core';
import { memo } from 'react';
import { px } from './geometry';
import { cycleFrames, plantedSpans } from './stepSpans';

interface Props {
  readonly plan: SegmentPlan;
  readonly hue: number;
  readonly height: number;
  readonly label: string;
  /** Frames at the start and at the end that seams cover. */
  readonly covered: number;
  readonly coveredEnd: number;
  /** Whether steps and speed can be made out at this zoom. */
  readonly detailed: boolean;
  readonly labelled: boolean;
}

/** Metres a second that fill the height of the speed line. */
const FULL_SPEED = 2;
/** Places along a segment at which its speed is drawn, at most. */
const SPEED_POINTS = 160;
const STEP_HEIGHT = 4;

/**
 * What a segment shows: name, speed line, steps of both feet, notches between loop cycles, hatching where it holds. Drawn
 * in frames and stretched to its width, so that a zoom draws nothing anew.
 */
export const SegmentDrawing = memo(function SegmentDrawing(props: Props) {
  const { plan, hue, height, label, covered, coveredEnd, detailed, labelled } = props;
  const colour = `var(--hue-${hue})`;
  const frames = plan.end - plan.start;
  return (
    <>
      <Held frames={plan.time.holdStart} at={0} hue={hue} />
      <Held frames={plan.time.holdEnd} at={frames - plan.time.holdEnd} hue={hue} />
      {detailed && (
        <svg
          viewBox={`0 0 ${frames} ${height}`}
          preserveAspectRatio="none"
          className="pointer-events-none absolute inset-0 size-full"
          aria-hidden
        >
          <path
            d={speedLine(plan, height - 20, Math.min(14, height * 0.3))}
            fill="none"
            stroke={colour}
            opacity={0.75}
            vectorEffect="non-scaling-stroke"
          />
          <path
            d={cycleFrames(plan)
              .map((f) => `M${f},0v7`)
              .join('')}
            stroke={colour}
            strokeWidth={3}
            vectorEffect="non-scaling-stroke"
          />
          <path
            d={plantedSpans(plan)
              .map(({ from, to, foot }) => {
                const y = height - (foot === 'left' ? 15 : 9);
                return `M${from + 0.4},${y}H${to - 0.4}v${STEP_HEIGHT}H${from + 0.4}z`;
              })
              .join('')}
            fill={colour}
          />
        </svg>
      )}
      {labelled && (
        <div
          className="pointer-events-none absolute inset-0 flex overflow-clip text-[13px] leading-[17px] text-ink"
          style={{ paddingLeft: px(covered), paddingRight: px(coveredEnd) }}
        >
          <div className="sticky left-[156px] mt-[3px] ml-2 flex h-fit min-w-0 items-baseline gap-1.5">
            <span
              data-mapped={plan.mapped || undefined}
              className={`truncate ${plan.mapped ? 'border-b border-dotted border-current leading-[15px]' : ''}`}
            >
              {label}
            </span>
            {plan.mapped && detailed && (
              <span className="shrink truncate text-[11.5px] leading-none text-soft italic">mapped</span>
            )}
          </div>
        </div>
      )}
    </>
  );
});

/** Hatching over frames in which a pose is held. */
export function Held({ frames, at, hue }: { frames: number; at: number; hue: number }) {
  if (frames <= 0) return null;
  return (
    <div
      className="pointer-events-none absolute inset-y-0"
      style={{
        left: px(at),
        width: px(frames),
        opacity: 0.4,
        background: `repeating-linear-gradient(115deg, transparent 0 5px, var(--hue-${hue}) 5px 6px)`,
      }}
    />
  );
}

const lines = new WeakMap<object, string>();

/** How fast the root goes along a segment, on a base line; as high as given at full speed. */
function speedLine(plan: SegmentPlan, base: number, height: number): string {
  const known = lines.get(plan.shape);
  if (known !== undefined) return known;
  const track = rootTrack(plan.clip);
  const last = plan.clip.frames - 1;
  const frames = plan.end - plan.start;
  const step = Math.max(1, frames / SPEED_POINTS);
  let d = '';
  for (let f = 0; f <= frames; f += step) {
    const m = samplesAt(plan.time, f);
    // How fast clip time runs here, against its mean.
    const pace =
      Math.abs(samplesAt(plan.time, f + 0.5) - samplesAt(plan.time, f - 0.5)) / plan.time.samplesPerFrame;
    const s = plan.in + (plan.loop ? m - Math.floor(m / plan.period) * plan.period : m);
    const a = Math.min(Math.max(0, Math.floor(s) - 1), last);
    const b = Math.min(a + 2, last);
    const seconds = Math.max(1, b - a) / plan.clip.rate / plan.speed;
    const way = Math.hypot(track[b * 3]! - track[a * 3]!, track[b * 3 + 1]! - track[a * 3 + 1]!);
    const speed = plan.travel === 'in place' ? 0 : (way / seconds) * pace;
    const y = base - Math.min(1, speed / FULL_SPEED) * height;
    d += `${d ? 'L' : 'M'}${f.toFixed(1)},${y.toFixed(1)}`;
  }
  lines.set(plan.shape, d);
  return d;
}
