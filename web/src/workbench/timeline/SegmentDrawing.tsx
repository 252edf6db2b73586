import type { SegmentPlan, Span } from '@warper/core';
import { findSteps, rootTrack, unite } from '@warper/core';
import { memo } from 'react';
import { SEGMENT_HEIGHT } from './geometry';

interface Props {
  readonly plan: SegmentPlan;
  readonly width: number;
  readonly hue: number;
  readonly label: string;
  /** Pixels at the start that a seam covers. */
  readonly covered: number;
  /** Pixels at the end that the next seam covers. */
  readonly coveredEnd: number;
}

const ROW = { left: SEGMENT_HEIGHT - 15, right: SEGMENT_HEIGHT - 9, height: 4 };
/** Metres a second that fill the height of the speed line. */
const FULL_SPEED = 2;
const SPEED_HEIGHT = 14;

/** What a segment shows: name, speed line, steps of both feet, notches between loop cycles. */
export const SegmentDrawing = memo(function SegmentDrawing({
  plan,
  width,
  hue,
  label,
  covered,
  coveredEnd,
}: Props) {
  const colour = `var(--hue-${hue})`;
  const room = width - covered - coveredEnd - 14;
  return (
    <svg width={width} height={SEGMENT_HEIGHT} className="pointer-events-none absolute inset-0" aria-hidden>
      <path d={speedLine(plan, width)} fill="none" stroke={colour} strokeWidth={1} opacity={0.75} />
      {notches(plan, width).map((x) => (
        <path key={x} d={`M${x - 4},1l4,6l4,-6z`} fill={colour} />
      ))}
      {steps(plan, width).map(({ x, w, row }, i) => (
        <rect key={i} x={x} y={ROW[row]} width={w} height={ROW.height} rx={1} fill={colour} />
      ))}
      {room > 18 && (
        <foreignObject x={covered + 8} y={4} width={room} height={18}>
          <div className="truncate text-[13px] leading-[17px] text-ink">{label}</div>
        </foreignObject>
      )}
    </svg>
  );
});

const framesOf = (plan: SegmentPlan): number => plan.end - plan.start;

/** Frame at which a sample of a given cycle falls. */
const frameOfSample = (plan: SegmentPlan, sample: number, cycle: number): number =>
  (sample - plan.in + cycle * plan.period) / plan.samplesPerFrame;

function cyclesOf(plan: SegmentPlan): number {
  return plan.loop ? Math.ceil((framesOf(plan) * plan.samplesPerFrame) / plan.period - 1e-6) : 1;
}

function steps(plan: SegmentPlan, width: number): { x: number; w: number; row: 'left' | 'right' }[] {
  const found = findSteps(plan.clip);
  const scale = width / framesOf(plan);
  const end = plan.loop ? plan.in + plan.period : plan.out;
  const out: { x: number; w: number; row: 'left' | 'right' }[] = [];
  const add = (spans: readonly Span[], row: 'left' | 'right'): void => {
    const inFrames: Span[] = [];
    for (let cycle = 0; cycle < Math.min(cyclesOf(plan), 500); cycle++) {
      for (const span of spans) {
        const a = Math.max(span.start, plan.in);
        const b = Math.min(span.end, end);
        // A step that runs on over the wrap of a loop is one step: its pieces meet to within rounding.
        if (b > a)
          inFrames.push({ start: frameOfSample(plan, a, cycle) - 1e-6, end: frameOfSample(plan, b, cycle) });
      }
    }
    for (const span of unite(inFrames)) {
      const x = Math.max(0, span.start * scale);
      const to = Math.min(width, span.end * scale);
      if (to - x > 0.5) out.push({ x: x + 1, w: Math.max(0.5, to - x - 1.5), row });
    }
  };
  add(found.leftFoot, 'left');
  add(found.rightFoot, 'right');
  return out;
}

function notches(plan: SegmentPlan, width: number): number[] {
  if (!plan.loop) return [];
  const each = (plan.period / plan.samplesPerFrame / framesOf(plan)) * width;
  const out: number[] = [];
  if (each < 6) return out;
  for (let n = 1; n * each < width - 2; n++) out.push(n * each);
  return out;
}

function speedLine(plan: SegmentPlan, width: number): string {
  const track = rootTrack(plan.clip);
  const last = plan.clip.frames - 1;
  const base = ROW.left - 5;
  let d = '';
  for (let x = 2; x <= width - 2; x += 4) {
    const m = (x / width) * framesOf(plan) * plan.samplesPerFrame;
    const s = plan.in + (plan.loop ? m % plan.period : m);
    const a = Math.min(Math.max(0, Math.floor(s) - 1), last);
    const b = Math.min(a + 2, last);
    const seconds = Math.max(1, b - a) / plan.clip.rate / plan.speed;
    const speed =
      plan.travel === 'in place'
        ? 0
        : Math.hypot(track[b * 3]! - track[a * 3]!, track[b * 3 + 1]! - track[a * 3 + 1]!) / seconds;
    const y = base - Math.min(1, speed / FULL_SPEED) * SPEED_HEIGHT;
    d += `${d ? 'L' : 'M'}${x},${y.toFixed(1)}`;
  }
  return d;
}
