import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import type { StoredClip } from '../../data/db';
import type { Chosen } from './chosen';
import { clipPath } from './clipPath';
import { Button } from '../../ui/controls';

interface Props {
  readonly clips: readonly StoredClip[];
  readonly chosen: Chosen;
}

/** A column: its heading, what is shown, and what it is sorted by. */
interface Column {
  readonly title: string;
  readonly width: string;
  readonly right?: boolean;
  readonly show: (clip: StoredClip) => string;
  readonly by: (clip: StoredClip) => number | string;
}

const VERDICTS = { doubled: 'loops', ordinary: 'loops', closes: 'can be closed', none: '' } as const;
/** Digits behind the point; what rounds to zero has no sign. */
const fixed = (value: number, digits: number): string => (Number(value.toFixed(digits)) || 0).toFixed(digits);

const COLUMNS: readonly Column[] = [
  { title: 'name', width: 'minmax(7rem,2fr)', show: (c) => c.name, by: (c) => c.name.toLowerCase() },
  {
    title: 'frames',
    width: '4.5rem',
    right: true,
    show: (c) => String(c.facts.frames),
    by: (c) => c.facts.frames,
  },
  {
    title: 'rate',
    width: '4rem',
    right: true,
    show: (c) => String(Number(c.facts.rate.toFixed(2))),
    by: (c) => c.facts.rate,
  },
  {
    title: 'seconds',
    width: '5rem',
    right: true,
    show: (c) => fixed(c.facts.seconds, 1),
    by: (c) => c.facts.seconds,
  },
  {
    title: 'travel m',
    width: '5rem',
    right: true,
    show: (c) => fixed(c.facts.travelMetres, 2),
    by: (c) => c.facts.travelMetres,
  },
  {
    title: 'turn °',
    width: '4.5rem',
    right: true,
    show: (c) => fixed(c.facts.turnDegrees, 0),
    by: (c) => c.facts.turnDegrees,
  },
  {
    title: 'speed m/s',
    width: '5.5rem',
    right: true,
    show: (c) => fixed(c.facts.meanSpeed, 2),
    by: (c) => c.facts.meanSpeed,
  },
  {
    title: 'float cm',
    width: '5rem',
    right: true,
    show: (c) => fixed(c.facts.floatCm, 1),
    by: (c) => Math.abs(c.facts.floatCm),
  },
  {
    title: 'loop',
    width: '5.5rem',
    show: (c) => (c.facts.frames > 1 ? VERDICTS[c.facts.loop.verdict] : 'rest pose'),
    by: (c) => c.facts.loop.verdict,
  },
  { title: 'file', width: 'minmax(6rem,1.4fr)', show: (c) => c.file, by: (c) => c.file.toLowerCase() },
  { title: 'tags', width: 'minmax(3rem,1fr)', show: (c) => c.tags.join(', '), by: (c) => c.tags.join() },
];
const TEMPLATE = `2rem ${COLUMNS.map((c) => c.width).join(' ')}`;
const ROW_HEIGHT = 30;

/** Clips as a table that can be sorted by every column; only the rows in sight are drawn. */
export function ClipTable({ clips, chosen }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const [sort, setSort] = useState<{ column: number; down: boolean } | null>(null);
  const sorted = useMemo(() => sortClips(clips, sort), [clips, sort]);
  const rows = useVirtualizer({
    count: sorted.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
  });
  const press = (column: number): void =>
    setSort((before) =>
      before?.column !== column ? { column, down: false } : before.down ? null : { column, down: true },
    );
  return (
    <div ref={scroller} className="h-full overflow-auto px-6" data-clip-scroller>
      <div role="table" aria-label="Clips" aria-rowcount={sorted.length + 1} className="min-w-[60rem]">
        <div role="rowgroup" className="sticky top-0 z-10 border-b bg-paper">
          <div
            role="row"
            className="grid items-baseline gap-x-2 py-1.5"
            style={{ gridTemplateColumns: TEMPLATE }}
          >
            <span role="columnheader">
              <span className="sr-only">chosen</span>
            </span>
            {COLUMNS.map(({ title, right }, i) => (
              <span
                key={title}
                role="columnheader"
                aria-sort={sort?.column !== i ? 'none' : sort.down ? 'descending' : 'ascending'}
                className={right ? 'text-right' : ''}
              >
                <Button look="soft" onClick={() => press(i)}>
                  {title}
                  {sort?.column === i && (sort.down ? ' ↓' : ' ↑')}
                </Button>
              </span>
            ))}
          </div>
        </div>
        <div role="rowgroup" className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((row) => {
            const clip = sorted[row.index]!;
            return (
              <div
                key={clip.id}
                role="row"
                aria-rowindex={row.index + 2}
                className={`absolute inset-x-0 grid items-center gap-x-2 border-b ${chosen.has(clip.id) ? 'bg-raised font-semibold' : ''}`}
                style={{ top: row.start, height: ROW_HEIGHT, gridTemplateColumns: TEMPLATE }}
              >
                <span role="cell">
                  <input
                    type="checkbox"
                    className="size-3.5 accent-ink"
                    aria-label={clip.name}
                    checked={chosen.has(clip.id)}
                    onChange={(e) => chosen.set(clip.id, e.currentTarget.checked)}
                  />
                </span>
                {COLUMNS.map(({ title, right, show }) => (
                  <span key={title} role="cell" className={`truncate ${right ? 'text-right' : ''}`}>
                    {title === 'name' ? (
                      <Link to={clipPath(clip.id)} className="hover:underline">
                        {clip.name}
                      </Link>
                    ) : (
                      show(clip)
                    )}
                  </span>
                ))}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

/** The clips in the order of a column; what is equal there stays as it was. */
function sortClips(
  clips: readonly StoredClip[],
  sort: { column: number; down: boolean } | null,
): readonly StoredClip[] {
  if (!sort) return clips;
  const { by } = COLUMNS[sort.column]!;
  const way = sort.down ? -1 : 1;
  return clips.toSorted((a, b) => {
    const [x, y] = [by(a), by(b)];
    return x < y ? -way : x > y ? way : 0;
  });
}
