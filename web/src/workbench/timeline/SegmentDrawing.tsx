import type { SegmentPlan, Span } from '@warper/core';
import { findSteps, rootTrack, sampleAt, samplesAt } from '@warper/core';
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
/** Pixels from which on there is room for the word beside a name. */
const MAPPED_ROOM = 90;

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
      {held(plan, width).map((x) => (
        <line key={x} x1={x} y1={SEGMENT_HEIGHT - 1} x2={x + 10} y2={1} stroke={colour} opacity={0.35} />
      ))}
      <path d={speedLine(plan, width)} fill="none" stroke={colour} strokeWidth={1} opacity={0.75} />
      {notches(plan, width).map((x) => (
        <path key={x} d={`M${x - 4},1l4,6l4,-6z`} fill={colour} />
      ))}
      {steps(plan, width).map(({ x, w, row }, i) => (
        <rect key={i} x={x} y={ROW[row]} width={w} height={ROW.height} rx={1} fill={colour} />
      ))}
      {room > 18 && (
        <foreignObject x={covered + 8} y={4} width={room} height={18}>
          <div className="flex items-baseline gap-1.5 text-[13px] leading-[17px] text-ink">
            <span
              data-mapped={plan.mapped || undefined}
              className={`truncate ${plan.mapped ? 'border-b border-dotted border-current leading-[15px]' : ''}`}
            >
              {label}
            </span>
            {plan.mapped && room > MAPPED_ROOM && (
              <span className="text-[11.5px] leading-none text-soft italic">mapped</span>
            )}
          </div>
        </foreignObject>
      )}
    </svg>
  );
});

const framesOf = (plan: SegmentPlan): number => plan.end - plan.start;

/** The planted spans of both feet in frames, as whatever the segment does with time shows them. */
function steps(plan: SegmentPlan, width: number): { x: number; w: number; row: 'left' | 'right' }[] {
  const found = findSteps(plan.clip);
  const frames = framesOf(plan);
  const scale = width / frames;
  const samples = Int32Array.from({ length: frames }, (_, f) => sampleAt(plan, plan.start + f));
  const out: { x: number; w: number; row: 'left' | 'right' }[] = [];
  const add = (spans: readonly Span[], row: 'left' | 'right'): void => {
    const planted = new Uint8Array(plan.clip.frames);
    for (const span of spans) planted.fill(1, span.start, span.end);
    for (let f = 0; f < frames; f++) {
      if (samples[f]! < 0 || !planted[samples[f]!]) continue;
      const from = f;
      while (f < frames && samples[f]! >= 0 && planted[samples[f]!]) f++;
      out.push({ x: from * scale + 1, w: Math.max(0.5, (f - from) * scale - 1.5), row });
    }
  };
  add(found.leftFoot, 'left');
  add(found.rightFoot, 'right');
  return out;
}

/** Where one cycle of a loop goes over into the next. */
function notches(plan: SegmentPlan, width: number): number[] {
  if (!plan.loop) return [];
  const frames = framesOf(plan);
  if ((plan.period / plan.time.samplesPerFrame / frames) * width < 6) return [];
  const cycleAt = (f: number): number => Math.floor(samplesAt(plan.time, f) / plan.period + 1e-6);
  const out: number[] = [];
  let cycle = cycleAt(0);
  for (let f = 1; f < frames; f++) {
    const now = cycleAt(f);
    if (now !== cycle) out.push((f / frames) * width);
    cycle = now;
  }
  return out;
}

/** Places of the hatching over the parts in which a pose is held. */
function held(plan: SegmentPlan, width: number): number[] {
  const scale = width / framesOf(plan);
  const { holdStart, holdEnd } = plan.time;
  const lines: number[] = [];
  for (let x = 0; x + 8 < holdStart * scale; x += 6) lines.push(x);
  for (let x = width - holdEnd * scale; x + 8 < width; x += 6) lines.push(x);
  return lines;
}

function speedLine(plan: SegmentPlan, width: number): string {
  const track = rootTrack(plan.clip);
  const last = plan.clip.frames - 1;
  const base = ROW.left - 5;
  let d = '';
  for (let x = 2; x <= width - 2; x += 4) {
    const f = (x / width) * framesOf(plan);
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
    const y = base - Math.min(1, speed / FULL_SPEED) * SPEED_HEIGHT;
    d += `${d ? 'L' : 'M'}${x},${y.toFixed(1)}`;
  }
  return d;
}
