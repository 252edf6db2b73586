import type { CharacterPlan, SeamTraces, Trace } from '@warper/core';
import { defined, roleWords, seamTraces } from '@warper/core';
import { memo, useMemo, useState } from 'react';
import { CartesianGrid, Line, LineChart, ReferenceArea, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { Select } from '../../../ui/Select';
import { axisOf } from './axis';

interface Props {
  readonly character: CharacterPlan;
  /** Index of the incoming segment. */
  readonly index: number;
  readonly framesPerSecond: number;
  /** Name of the joint that pops or glides most. */
  readonly worstJoint: string;
}

/** Seconds before and after the seam. */
const AROUND = 0.8;

/** How the joint, the heading and the feet go on both sides of a seam, and in what comes out. */
export const SeamCharts = memo(function SeamCharts({ character, index, framesPerSecond, worstJoint }: Props) {
  const { skeleton } = character;
  const [picked, setPicked] = useState<string | null>(null);
  const joint = picked ?? worstJoint;
  const traces = useMemo(() => {
    const number = Math.max(0, skeleton.names.indexOf(joint));
    return seamTraces(character, index - 1, framesPerSecond, number, Math.round(AROUND * framesPerSecond));
  }, [character, index, framesPerSecond, joint, skeleton]);
  const incoming = defined(character.segments[index]);
  const seam: readonly [number, number] = [incoming.start, incoming.start + Math.max(1, incoming.overlap)];
  const names = useMemo(
    () =>
      skeleton.names.map((name, i) => {
        const role = skeleton.roles[i];
        return [name, role ? roleWords(role) : name] as const;
      }),
    [skeleton],
  );
  return (
    <div className="flex min-h-0 min-w-0 flex-1 flex-col gap-0.5 overflow-y-auto">
      <Legend />
      <Chart
        title={
          <>
            Speed, m/s, of the{' '}
            <Select
              label="Joint whose speed is shown"
              className="py-0!"
              value={joint}
              options={names}
              onChange={setPicked}
            />
          </>
        }
        traces={traces}
        seam={seam}
        read={(t) => t.speed}
        least={0.5}
      />
      <Chart title="Heading, degrees" traces={traces} seam={seam} read={(t) => t.heading} least={8} />
      {traces.feet.map((role, i) =>
        role.endsWith('Toes') || role.endsWith('Toe') ? null : (
          <Chart
            key={role}
            title={`Height of the ${roleWords(role as Parameters<typeof roleWords>[0])}, cm`}
            traces={traces}
            seam={seam}
            read={(t) => defined(t.heights[i])}
            least={4}
          />
        ),
      )}
    </div>
  );
});

const LINES = [
  ['outgoing', 'Outgoing', 'var(--soft)', '6 3', 1.3],
  ['incoming', 'Incoming', 'var(--soft)', '1.5 2.5', 1.5],
  ['result', 'Performed', 'var(--ink)', undefined, 1.8],
] as const;

function Legend() {
  return (
    <ul className="flex gap-4 text-note text-soft" aria-label="Lines of the charts">
      {LINES.map(([key, name, colour, dash, width]) => (
        <li key={key} className="flex items-center gap-1.5">
          <svg width={26} height={6} aria-hidden>
            <line x1={0} x2={26} y1={3} y2={3} stroke={colour} strokeDasharray={dash} strokeWidth={width} />
          </svg>
          {name}
        </li>
      ))}
    </ul>
  );
}

interface ChartProps {
  readonly title: React.ReactNode;
  readonly traces: SeamTraces;
  /** First frame of the seam, and the one behind it. */
  readonly seam: readonly [from: number, to: number];
  readonly read: (trace: Trace) => Float64Array;
  /** What the axis spans at least, so that noise does not look like motion. */
  readonly least: number;
}

function Chart({ title, traces, seam, read, least }: ChartProps) {
  const { from, frames } = traces;
  const rows = Array.from({ length: frames }, (_, f) => ({
    frame: from + f,
    outgoing: shown(read(traces.outgoing)[f]),
    incoming: shown(read(traces.incoming)[f]),
    result: shown(read(traces.result)[f]),
  }));
  const axis = axisOf(
    LINES.flatMap(([key]) => rows.flatMap((row) => row[key] ?? [])),
    least,
  );
  const tick = { fontSize: 10.5, fill: 'var(--soft)' };
  return (
    <figure className="min-w-0">
      <figcaption className="text-note text-soft">{title}</figcaption>
      <div className="h-[58px]" aria-hidden>
        <ResponsiveContainer width="100%" height="100%">
          <LineChart data={rows} accessibilityLayer={false} margin={{ top: 3, right: 8, bottom: 0, left: 0 }}>
            <CartesianGrid stroke="var(--rule)" vertical={false} />
            <ReferenceArea x1={seam[0]} x2={seam[1]} fill="var(--rule)" fillOpacity={0.6} />
            <XAxis
              dataKey="frame"
              type="number"
              domain={[from, from + frames - 1]}
              height={13}
              tick={tick}
              tickSize={2}
              tickMargin={1}
              stroke="var(--rule)"
            />
            <YAxis width={30} tickCount={3} domain={axis} tick={tick} stroke="var(--rule)" />
            {LINES.map(([key, , colour, dash, width]) => (
              <Line
                key={key}
                dataKey={key}
                dot={false}
                stroke={colour}
                strokeDasharray={dash}
                strokeWidth={width}
                isAnimationActive={false}
              />
            ))}
          </LineChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}

/** What a chart draws; nothing where a motion has none. */
const shown = (value: number | undefined): number | null =>
  value === undefined || Number.isNaN(value) ? null : Number(value.toFixed(3));
