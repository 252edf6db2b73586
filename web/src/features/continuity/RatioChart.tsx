import type { ContinuityItem } from '@warper/core';
import { memo } from 'react';
import {
  CartesianGrid,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  XAxis,
  YAxis,
} from 'recharts';

interface Props {
  readonly items: readonly ContinuityItem[];
  readonly end: number;
}

/** What was measured over time: how near to, or beyond, its threshold each is. */
export const RatioChart = memo(function RatioChart({ items, end }: Props) {
  const most = 3;
  const points = items.map((i) => ({ frame: i.frame, ratio: Math.min(most, i.ratio), grade: i.grade }));
  return (
    <figure className="print:hidden">
      <figcaption className="text-note text-soft">
        Measures over time, in times their threshold (line)
      </figcaption>
      <div className="h-24" aria-hidden>
        <ResponsiveContainer width="100%" height="100%">
          <ScatterChart accessibilityLayer={false} margin={{ top: 6, right: 6, bottom: 0, left: 0 }}>
            <CartesianGrid stroke="var(--rule)" vertical={false} />
            <XAxis
              dataKey="frame"
              type="number"
              domain={[0, end]}
              tick={{ fontSize: 11, fill: 'var(--soft)' }}
              stroke="var(--rule)"
            />
            <YAxis
              dataKey="ratio"
              type="number"
              domain={[0, most]}
              width={24}
              tickCount={4}
              tick={{ fontSize: 11, fill: 'var(--soft)' }}
              stroke="var(--rule)"
            />
            <ReferenceLine y={1} stroke="var(--watch)" strokeDasharray="4 3" />
            {(['good', 'watch', 'bad'] as const).map((grade) => (
              <Scatter
                key={grade}
                data={points.filter((p) => p.grade === grade)}
                fill={`var(--${grade})`}
                shape={SHAPES[grade]}
                isAnimationActive={false}
              />
            ))}
          </ScatterChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
});

/** A grade is told by its shape as well. */
const SHAPES = { good: 'circle', watch: 'triangle', bad: 'square' } as const;
