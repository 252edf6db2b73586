import type { Moment, Scene } from '@warper/core';
import { frameOfMoment } from '@warper/core';
import { memo } from 'react';
import { library } from '../../../data/pageLibrary';
import { TETHER_ROW } from './geometry';
import type { Row } from './rows';
import { tetherTracks } from './tetherTracks';

interface Props {
  readonly scene: Scene;
  readonly rows: readonly Row[];
  /** Pixels of a frame. */
  readonly ppf: number;
  readonly height: number;
}

interface Point {
  readonly x: number;
  readonly y: number;
}

/** Links as threads between lanes, from the event to what waits for it; and impacts as bursts on the lanes of who is hit. */
export const LinkThreads = memo(function LinkThreads({ scene, rows, ppf, height }: Props) {
  const links = Object.values(scene.links).flatMap((link) => {
    const [from, to] = [link.leader, link.follower].map((m) => pointOf(m, scene, rows, ppf));
    return from && to ? [{ id: link.id, from, to }] : [];
  });
  const impacts = scene.markers.flatMap((marker) =>
    rows
      .filter((r) => r.lane.kind === 'body' && marker.impact.includes(r.plan.character.id))
      .map((r) => ({ id: `${marker.id} ${r.lane.id}`, x: marker.frame * ppf, y: r.top + BURST + 1 })),
  );
  if (links.length + impacts.length === 0) return null;
  return (
    <svg aria-hidden className="pointer-events-none absolute inset-x-0 top-0 z-10 w-full" style={{ height }}>
      {links.map(({ id, from, to }) => (
        <g key={id} className="fill-none stroke-ink" strokeWidth={1.25}>
          <path d={threadPath(from, to)} strokeDasharray="1 3" strokeLinecap="round" />
          <circle cx={from.x} cy={from.y} r={2.5} className="fill-raised" />
          <path d={`M${to.x - 4} ${to.y - 4}L${to.x} ${to.y}L${to.x - 4} ${to.y + 4}`} />
        </g>
      ))}
      {impacts.map(({ id, x, y }) => (
        <path key={id} d={burst(x, y)} className="fill-signal stroke-raised" data-impact={id} />
      ))}
    </svg>
  );
});

/** Radius of a burst, pixels. */
const BURST = 6;

/** A star of eight points. */
function burst(x: number, y: number): string {
  const points = Array.from({ length: 16 }, (_, i) => {
    const r = i % 2 === 0 ? BURST : BURST * 0.45;
    const a = (i * Math.PI) / 8;
    return `${(x + r * Math.cos(a)).toFixed(1)} ${(y + r * Math.sin(a)).toFixed(1)}`;
  });
  return `M${points.join('L')}Z`;
}

/** A thread that leaves downwards or upwards and comes in from the left. */
function threadPath(from: Point, to: Point): string {
  const bend = Math.min(40, Math.max(12, Math.abs(to.y - from.y) / 2));
  const down = to.y >= from.y ? bend : -bend;
  return `M${from.x} ${from.y}C${from.x} ${from.y + down} ${to.x - bend} ${to.y} ${to.x} ${to.y}`;
}

/** Where a moment is drawn: on the row of its segment, its ribbon or its layer; markers at the top. Null where its row is folded away. */
function pointOf(moment: Moment, scene: Scene, rows: readonly Row[], ppf: number): Point | null {
  const frame = frameOfMoment(scene, moment, library);
  if (frame === null) return null;
  const x = frame * ppf;
  if (moment.of === 'marker') return { x, y: 0 };
  if (moment.of === 'tether') {
    const child = scene.tethers[moment.id]?.child ?? '';
    const row = rows.find((r) => r.below > 0 && r.plan.character.id === child);
    const track = tetherTracks(scene.tethers, child).find((t) => t.tether.id === moment.id)?.track ?? 0;
    return row ? { x, y: row.top + row.height - row.below + (track + 0.5) * TETHER_ROW } : null;
  }
  const row = rows.find((r) =>
    moment.of === 'keys' ? r.lane.id === moment.id : r.lane.segments.includes(moment.id),
  );
  return row ? { x, y: row.top + (row.height - row.below) / 2 } : null;
}
