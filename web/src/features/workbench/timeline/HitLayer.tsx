import { defined } from '@warper/core';
import type { Plan, Segment, SegmentPlan } from '@warper/core';
import { memo } from 'react';
import { gradeWord, worstMeasure } from '../../../ui/grade';
import type { GAP_WORDS } from './drawing/drawLane';
import { silentLabel } from './drawing/drawLane';
import { segmentLabel } from './drawing/drawSegment';
import { seamFact } from './drawing/laneFacts';
import { SILENT_WIDTH, silentShape } from './hit';
import { hasSeams, laneShape, tagFrame, tagKind } from './laneShape';
import type { Row } from './rows';
import { Button } from '../../../ui/controls';

/** Pixels of a frame in which the layer is laid out; its transform brings it to the zoom of now. */
export const TOUCH_SCALE = 4;

/** What can be reached of a lane. */
export interface Reach {
  readonly row: Row;
  readonly rate: Plan['rate'];
  /** Frames in sight, with some to either side, in steps. */
  readonly from: number;
  readonly to: number;
  /** Pixels of a frame, in steps of a factor of two. */
  readonly scale: number;
  /** Ids of the segments in hand, and of the segment whose seam is. */
  readonly selected: readonly string[];
  readonly seam: string;
  /** Segments that are switched off, or left out with a muted group or lane. */
  readonly silent: readonly Segment[];
}

interface Props extends Reach {
  /** Counts how often what was not known yet became known. */
  readonly known: number;
}

/**
 * What screen readers, the keyboard and the pointer's hints find of a lane: a plain element for each thing that is drawn,
 * as far as it is in sight, laid out in frames. Beyond what is in sight there are the first and the last, so that Tab finds a
 * way in from both ends, and those beside what is in hand, so that it finds the way on.
 */
export const HitLayer = memo(function HitLayer(props: Props) {
  const { row, silent } = props;
  const chosen = new Set(props.selected);
  const drawn = inSight(props, chosen);
  return (
    <>
      {row.lane.kind === 'body' && <Gaps row={row} drawn={drawn} />}
      {drawn.map((i) => (
        <SegmentHit
          key={defined(row.segments[i]).id}
          row={row}
          segment={defined(row.segments[i])}
          chosen={chosen}
        />
      ))}
      {silent.map((s) => (
        <span
          key={s.id}
          role="img"
          aria-label={silentLabel(s)}
          title={silentLabel(s)}
          className="absolute"
          style={{
            left: s.start * TOUCH_SCALE,
            width: (SILENT_WIDTH / props.scale) * TOUCH_SCALE,
            ...silentShape(row, s),
          }}
        />
      ))}
      {hasSeams(row) &&
        drawn.map((i) => <Seam key={defined(row.segments[i]).id} index={i} chosen={chosen} {...props} />)}
    </>
  );
});

interface SegmentProps {
  readonly row: Row;
  readonly segment: SegmentPlan;
  readonly chosen: ReadonlySet<string>;
}

function SegmentHit({ row, segment, chosen }: SegmentProps) {
  const { id, start, end, mapped } = segment;
  const label = `${segmentLabel(segment)}${mapped ? ' mapped' : ''}, frames ${start} to ${end}`;
  return (
    <div
      role="button"
      tabIndex={0}
      data-segment={id}
      aria-label={label}
      title={label}
      aria-pressed={chosen.has(id)}
      className="absolute outline-none"
      style={{ left: start * TOUCH_SCALE, width: (end - start) * TOUCH_SCALE, ...laneShape(row) }}
    />
  );
}

/** What fills the frames before the first segment, and between two. */
function Gaps({ row, drawn }: { readonly row: Row; readonly drawn: readonly number[] }) {
  const { segments, plan } = row;
  const shape = laneShape(row);
  return (
    <>
      {plan.leadIn > 0 && (
        <Gap at={plan.start} frames={plan.leadIn} what="eases out of the rest pose" {...shape} />
      )}
      {drawn.map((i) => {
        const [before, next] = [defined(segments[i]), segments[i + 1]];
        if (!next || next.start <= before.end) return null;
        const what = GAPS[next.settings.seam.gap];
        return (
          <Gap key={before.id} at={before.end} frames={next.start - before.end} what={what} {...shape} />
        );
      })}
    </>
  );
}

function Seam({ row, index, rate, scale, seam, chosen }: Props & { index: number; chosen: Set<string> }) {
  const { segments, plan } = row;
  const [before, segment] = [segments[index - 1], defined(segments[index])];
  if (!before) return null;
  const held = (k: number): boolean => {
    const id = segments[k]?.id;
    return id !== undefined && (chosen.has(id) || seam === id);
  };
  const near = index === 1 || index === segments.length - 1 || [-1, 0, 1].some((k) => held(index + k));
  // Too narrow to be told apart it stands only where Tab comes by.
  if (!near && tagKind(segments, index, scale) === 'stroke') return null;
  const measures = seamFact(plan, index, rate);
  const message = measures ? `${gradeWord(measures.grade)}, ${worstMeasure(measures)}` : 'being measured';
  const frames = Math.max(segment.overlap, 8 / scale);
  return (
    <Button
      look="bare"
      data-seam={segment.id}
      aria-label={`Seam from ${before.name} to ${segment.name} at frame ${segment.start}: ${message}`}
      title={`${before.name} → ${segment.name}: ${message}. Drag to move the seam`}
      aria-pressed={seam === segment.id}
      className="absolute cursor-[inherit]! outline-none"
      style={{
        left: (tagFrame(segment) - frames / 2) * TOUCH_SCALE,
        width: frames * TOUCH_SCALE,
        top: 4,
        height: 17,
      }}
    />
  );
}

const GAPS: Readonly<Record<Exclude<keyof typeof GAP_WORDS, 'lead-in'>, string>> = {
  hold: 'holds the last pose',
  ease: 'eases into the next pose',
  rest: 'goes by the rest pose',
};

interface GapProps {
  readonly at: number;
  readonly frames: number;
  readonly what: string;
  readonly top: number;
  readonly height: number;
}

function Gap({ at, frames, what, top, height }: GapProps) {
  const label = `${frames} frames: ${what}`;
  return (
    <span
      role="img"
      aria-label={label}
      title={label}
      className="absolute"
      style={{ left: at * TOUCH_SCALE, width: frames * TOUCH_SCALE, top, height }}
    />
  );
}

/** Indices of the segments that stand in the layer. */
function inSight({ row: { segments }, from, to, seam }: Props, chosen: ReadonlySet<string>): number[] {
  const wanted = new Set<number>([0, segments.length - 1]);
  segments.forEach((s, i) => {
    if (s.end >= from && s.start <= to) wanted.add(i);
    if (chosen.has(s.id) || s.id === seam) [i - 1, i, i + 1].forEach((k) => wanted.add(k));
  });
  return [...wanted].filter((i) => i >= 0 && i < segments.length).sort((a, b) => a - b);
}
