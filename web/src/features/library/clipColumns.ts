import type { ColumnDef, RowData } from '@tanstack/react-table';
import type { StoredClip } from '../../data/db';

declare module '@tanstack/react-table' {
  interface ColumnMeta<TData extends RowData, TValue> {
    /** Width of the column as a track of a grid. */
    readonly width: string;
    /** Numbers stand at the right. */
    readonly right?: boolean;
    /** What is shown of a row; what it is sorted by is the column's value. */
    readonly show: (row: TData, value?: TValue) => string;
  }
}

const VERDICTS = { doubled: 'loops', ordinary: 'loops', closes: 'can be closed', none: '' } as const;

/** Digits behind the point; what rounds to zero has no sign. */
const fixed = (value: number, digits: number): string => (Number(value.toFixed(digits)) || 0).toFixed(digits);

type Of<T> = (clip: StoredClip) => T;

const column = (
  id: string,
  width: string,
  by: Of<number | string>,
  show: Of<string>,
  right = false,
): ColumnDef<StoredClip> => ({
  id,
  header: id,
  accessorFn: by,
  sortingFn: 'basic',
  sortDescFirst: false,
  meta: { width, show, right },
});

const text = (
  id: string,
  width: string,
  show: Of<string>,
  by: Of<string> = (clip) => show(clip).toLowerCase(),
): ColumnDef<StoredClip> => column(id, width, by, show);

const figure = (id: string, width: string, by: Of<number>, show: Of<string>): ColumnDef<StoredClip> =>
  column(id, width, by, show, true);

/** The columns of the table of clips: what is shown in each, and what it is sorted by. */
export const CLIP_COLUMNS: ColumnDef<StoredClip>[] = [
  text('name', 'minmax(7rem,2fr)', (c) => c.name),
  figure(
    'frames',
    '4.5rem',
    (c) => c.facts.frames,
    (c) => String(c.facts.frames),
  ),
  figure(
    'rate',
    '4rem',
    (c) => c.facts.rate,
    (c) => String(Number(c.facts.rate.toFixed(2))),
  ),
  figure(
    'seconds',
    '5rem',
    (c) => c.facts.seconds,
    (c) => fixed(c.facts.seconds, 1),
  ),
  figure(
    'travel m',
    '5rem',
    (c) => c.facts.travelMetres,
    (c) => fixed(c.facts.travelMetres, 2),
  ),
  figure(
    'turn °',
    '4.5rem',
    (c) => c.facts.turnDegrees,
    (c) => fixed(c.facts.turnDegrees, 0),
  ),
  figure(
    'speed m/s',
    '5.5rem',
    (c) => c.facts.meanSpeed,
    (c) => fixed(c.facts.meanSpeed, 2),
  ),
  figure(
    'float cm',
    '5rem',
    (c) => Math.abs(c.facts.floatCm),
    (c) => fixed(c.facts.floatCm, 1),
  ),
  text(
    'loop',
    '5.5rem',
    (c) => (c.facts.frames > 1 ? VERDICTS[c.facts.loop.verdict] : 'rest pose'),
    (c) => c.facts.loop.verdict,
  ),
  text('file', 'minmax(6rem,1.4fr)', (c) => c.file),
  text('tags', 'minmax(3rem,1fr)', (c) => c.tags.join(', ')),
];
