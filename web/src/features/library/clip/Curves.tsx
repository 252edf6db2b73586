import type { Clip } from '@warper/core';
import { memo, useMemo } from 'react';
import { CartesianGrid, Line, LineChart, ReferenceArea, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { clipCurves } from './curves';

interface Props {
  readonly clip: Clip;
  /** The part that is used; the rest is dimmed. */
  readonly from: number;
  readonly to: number;
}

/** Title, least range and digits of the scale, and lines of each: what hardly moves is to look as if it hardly moved. */
const CURVES = [
  ['speed over the floor, m/s', 0.2, 1, [['speed', 'var(--hue-0)', '']]],
  ['height of the hips, m', 0.1, 2, [['hips', 'var(--hue-0)', '']]],
  [
    'height of the toes, cm: left solid, right dashed',
    4,
    0,
    [
      ['leftFoot', 'var(--hue-0)', ''],
      ['rightFoot', 'var(--hue-1)', '4 3'],
    ],
  ],
] as const;

/** A range of at least so much, on whole quarters of that. */
function widened(low: number, high: number, least: number): [number, number] {
  const grow = Math.max(0, least - (high - low)) / 2;
  const step = least / 4;
  return [Math.floor((low - grow) / step) * step, Math.ceil((high + grow) / step) * step];
}

/** Curves of a clip over its samples. */
export const Curves = memo(function Curves({ clip, from, to }: Props) {
  const points = useMemo(() => clipCurves(clip), [clip]);
  const last = clip.frames - 1;
  return (
    <div className="grid grid-cols-3 gap-5">
      {CURVES.map(([title, least, digits, lines]) => (
        <figure key={title} className="min-w-0">
          <figcaption className="text-note text-soft">{title}</figcaption>
          <div className="h-28">
            <ResponsiveContainer width="100%" height="100%">
              <LineChart data={points} margin={{ top: 6, right: 6, bottom: 0, left: 0 }}>
                <CartesianGrid stroke="var(--rule)" vertical={false} />
                <XAxis
                  dataKey="sample"
                  type="number"
                  domain={[0, last]}
                  tick={{ fontSize: 11, fill: 'var(--soft)' }}
                  stroke="var(--rule)"
                  tickCount={5}
                />
                <YAxis
                  width={34}
                  tick={{ fontSize: 11, fill: 'var(--soft)' }}
                  stroke="var(--rule)"
                  tickCount={4}
                  domain={([low, high]) => widened(low, high, least)}
                  tickFormatter={(value: number) => value.toFixed(digits)}
                />
                {from > 0 && <ReferenceArea x1={0} x2={from} fill="var(--paper)" fillOpacity={0.75} />}
                {to < last && <ReferenceArea x1={to} x2={last} fill="var(--paper)" fillOpacity={0.75} />}
                {lines.map(([key, colour, dash]) => (
                  <Line
                    key={key}
                    dataKey={key}
                    stroke={colour}
                    strokeDasharray={dash}
                    strokeWidth={1.6}
                    dot={false}
                    isAnimationActive={false}
                  />
                ))}
              </LineChart>
            </ResponsiveContainer>
          </div>
        </figure>
      ))}
    </div>
  );
});
