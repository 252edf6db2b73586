import type { CharacterPlan, Plan, Segment, SegmentPlan } from '@warper/core';
import { memo } from 'react';
import { seamOf } from '../../store/plan';
import { Facing } from './Facing';
import { FOLDED_HEIGHT, LAYER_SEGMENT_HEIGHT, SEGMENT_HEIGHT, TAG_ROOM, px } from './geometry';
import type { Row } from './rows';
import { SeamStitch } from './SeamStitch';
import { SegmentBlock } from './SegmentBlock';
import { Held } from './SegmentDrawing';

interface Props {
  readonly row: Row;
  readonly rate: Plan['rate'];
  /** Frames in sight, with some to either side. */
  readonly from: number;
  readonly to: number;
  /** Pixels of a frame, in steps of a factor of two: what can be made out. */
  readonly scale: number;
  /** Ids of the segments in hand, which are drawn wherever they are; joined. */
  readonly inHand: string;
  /** Segments that are switched off, or left out with a muted group or lane. */
  readonly silent: readonly Segment[];
}

/** Widths in pixels from which a segment shows its name, and its steps and speed. */
const LABELLED = 26;
const DETAILED = 18;
/** Pixels that a seam's tag takes, with its value and without. */
const TAG = { value: 52, grade: 18 };

/** The segments and seams of one lane, as far as they are in sight. */
export const Lane = memo(function Lane({ row, rate, from, to, scale, inHand, silent }: Props) {
  const { lane, plan, segments, folded } = row;
  const { hue, name } = plan.character;
  const isBody = lane.kind === 'body';
  const shape = folded
    ? { top: 4, height: FOLDED_HEIGHT - 9 }
    : isBody
      ? { top: TAG_ROOM, height: SEGMENT_HEIGHT }
      : { top: 5, height: LAYER_SEGMENT_HEIGHT };
  const drawn = inSight(segments, from, to, inHand);
  return (
    <div
      data-lane={lane.id}
      role="group"
      aria-label={isBody ? `Lane of ${name}` : `Layer ${lane.name} of ${name}`}
      className={`absolute inset-x-0 border-b ${lane.muted ? 'opacity-50' : ''}`}
      style={{ top: row.top, height: row.height }}
    >
      {silent.map((s) => (
        <Silent key={s.id} segment={s} hue={hue} {...shape} />
      ))}
      {drawn.map((i) => {
        const [segment, next] = [segments[i]!, segments[i + 1]];
        const gap = isBody && next ? next.start - segment.end : 0;
        return gap > 0 ? (
          <Gap
            key={`${segment.id}-gap`}
            at={segment.end}
            frames={gap}
            kind={next!.gap}
            hue={hue}
            {...shape}
          />
        ) : null;
      })}
      {plan.leadIn > 0 && isBody && (
        <Gap at={plan.start} frames={plan.leadIn} kind="lead-in" hue={hue} {...shape} />
      )}
      {drawn.map((i) => {
        const segment = segments[i]!;
        const width = (segment.end - segment.start) * scale;
        return (
          <SegmentBlock
            key={segment.id}
            plan={segment}
            lane={lane.id}
            hue={hue}
            {...shape}
            nextOverlap={segments[i + 1]?.overlap ?? 0}
            detailed={width >= DETAILED && !folded}
            labelled={width >= LABELLED}
          />
        );
      })}
      {isBody &&
        !folded &&
        drawn
          .filter((i) => i > 0)
          .map((i) => (
            <Seam
              key={segments[i]!.id}
              plan={plan}
              index={i}
              rate={rate}
              scale={scale}
              near={nearHand(segments, i, inHand)}
            />
          ))}
      {isBody && !folded && <Facing plan={plan} rate={rate} from={from} to={to} scale={scale} />}
    </div>
  );
});

interface SeamProps extends Pick<Props, 'rate' | 'scale'> {
  readonly plan: CharacterPlan;
  readonly index: number;
  /** Whether it is beside what is in hand, or at an end of its lane. */
  readonly near: boolean;
}

function nearHand(segments: readonly SegmentPlan[], i: number, inHand: string): boolean {
  const held = (k: number): boolean => k in segments && inHand.split('|').includes(segments[k]!.id);
  return i === 1 || i === segments.length - 1 || held(i - 1) || held(i) || held(i + 1);
}

function Seam({ plan, index, rate, scale, near }: SeamProps) {
  const [before, own] = [plan.segments[index - 1]!, plan.segments[index]!];
  const reach = (s: SegmentPlan): number => (s.end - s.start) * scale;
  const apart = Math.min(reach(before), reach(own));
  const room = apart >= TAG.value ? 'value' : apart >= TAG.grade ? 'grade' : 'nothing';
  // Too narrow to be seen it stands only where Tab comes by.
  if (room === 'nothing' && !near) return null;
  return (
    <SeamStitch
      measures={seamOf(plan, index - 1, rate)}
      segment={own.id}
      outgoing={before.name}
      incoming={own.name}
      room={room}
    />
  );
}

/**
 * Indices of the segments that are drawn: those in sight, the first and the last, so that Tab finds a way in from both
 * ends, and those in hand with their neighbours, so that it finds the way on.
 */
function inSight(segments: readonly SegmentPlan[], from: number, to: number, inHand: string): number[] {
  const held = new Set(inHand.split('|'));
  const wanted = new Set<number>();
  segments.forEach((s, i) => {
    if (s.end >= from && s.start <= to) wanted.add(i);
    if (held.has(s.id)) [i - 1, i, i + 1].forEach((k) => wanted.add(k));
  });
  wanted.add(0).add(segments.length - 1);
  return [...wanted].filter((i) => i >= 0 && i < segments.length).sort((a, b) => a - b);
}

const GAPS = {
  hold: 'holds the last pose',
  ease: 'eases into the next pose',
  rest: 'goes by the rest pose',
  'lead-in': 'eases out of the rest pose',
} as const;

interface GapProps {
  readonly at: number;
  readonly frames: number;
  readonly kind: keyof typeof GAPS;
  readonly hue: number;
  readonly top: number;
  readonly height: number;
}

function Gap({ at, frames, kind, hue, top, height }: GapProps) {
  return (
    <div
      role="img"
      aria-label={`${frames} frames: ${GAPS[kind]}`}
      title={`${frames} frames: ${GAPS[kind]}`}
      className="absolute overflow-clip"
      style={{ left: px(at), top, width: px(frames), height }}
    >
      <Held frames={frames} at={0} hue={hue} />
      {kind !== 'hold' && (
        <span className="absolute inset-x-0 bottom-0 truncate bg-paper/80 px-1 text-center text-[11.5px] text-soft">
          {kind === 'ease' ? 'eases' : kind === 'rest' ? 'rest pose' : 'lead-in'}
        </span>
      )}
    </div>
  );
}

/** A segment that is not performed: it can be seen where it waits. */
function Silent({
  segment,
  hue,
  top,
  height,
}: {
  segment: Segment;
  hue: number;
  top: number;
  height: number;
}) {
  return (
    <div
      className="absolute overflow-clip rounded-[4px] border border-dashed px-1 text-[11.5px] whitespace-nowrap text-soft"
      style={{
        left: px(segment.start),
        top: segment.off ? top + height - 18 : top,
        height: segment.off ? 18 : height,
        maxWidth: 120,
        borderColor: `var(--hue-${hue})`,
      }}
      title={`${segment.name} is ${segment.off ? 'switched off' : 'muted'}`}
    >
      {segment.name} {segment.off ? 'off' : 'muted'}
    </div>
  );
}
