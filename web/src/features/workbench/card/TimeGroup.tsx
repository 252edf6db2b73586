import { defined } from '@warper/core';
import type { Handle, Segment, SegmentPlan, SegmentValues } from '@warper/core';
import { CurveField } from '../../../ui/CurveField';
import { Check, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { PointList } from '../../../ui/PointList';

interface Props {
  readonly segment: Segment;
  readonly plan: SegmentPlan;
  readonly framesPerSecond: number;
  readonly change: (values: SegmentValues) => void;
}

/** How clip time runs along a segment. */
export function TimeGroup({ segment, plan, framesPerSecond, change }: Props) {
  const { hold, speedCurve } = segment;
  return (
    <Group title="Time">
      <NumberField
        label="Speed"
        unit="×"
        digits={3}
        step={0.05}
        value={plan.speed}
        least={0.01}
        most={100}
        onChange={(speed) => change({ speed, length: null })}
      />
      <Check label="Reverse" checked={segment.reverse} onChange={(reverse) => change({ reverse })} />
      <NumberField
        label="Hold first pose"
        unit="f"
        least={0}
        value={hold.start}
        framesPerSecond={framesPerSecond}
        onChange={(start) => change({ hold: { ...hold, start } })}
      />
      <NumberField
        label="Hold last pose"
        unit="f"
        least={0}
        value={hold.end}
        framesPerSecond={framesPerSecond}
        onChange={(end) => change({ hold: { ...hold, end } })}
      />
      <CurveField
        label="Speed curve"
        curve={speedCurve ?? 'linear'}
        across="of the time"
        up="of the clip"
        onChange={(points) => change({ speedCurve: points && typeof points !== 'string' ? points : null })}
      />
      <PointList
        title="speed curve point"
        points={speedCurve ?? []}
        columns={[
          { label: 'Time', unit: '%', digits: 1, times: 100, least: 1, most: 99 },
          { label: 'Clip', unit: '%', digits: 1, times: 100, least: 0, most: 100 },
        ]}
        onChange={(points) => change({ speedCurve: risingPoints(points) })}
        next={() => nextPoint(speedCurve ?? [])}
        add="Add speed curve point"
      />
    </Group>
  );
}

/** Points in order of their places, made to rise; null without any. */
export function risingPoints(points: readonly (readonly number[])[]): Handle[] | null {
  const sorted = points.map(([x, y]) => [defined(x), defined(y)] as const).sort((a, b) => a[0] - b[0]);
  const out: Handle[] = [];
  for (const [x, y] of sorted) {
    const before = out.at(-1);
    if (before && x - before[0] < 0.005) continue;
    out.push([x, Math.min(1, Math.max(y, before?.[1] ?? 0))]);
  }
  return out.length > 0 ? out : null;
}

/** A point between the last one and the end, a little late, so that its effect is seen. */
export const nextPoint = (points: readonly Handle[]): number[] => {
  const [x, y] = points.at(-1) ?? [0, 0];
  return [(x + 1) / 2, y + (1 - y) * 0.35];
};
