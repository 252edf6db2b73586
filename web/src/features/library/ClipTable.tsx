import type { Header, Row } from '@tanstack/react-table';
import { getCoreRowModel, getSortedRowModel, useReactTable } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { CSSProperties } from 'react';
import { useRef } from 'react';
import { Link } from 'react-router';
import type { StoredClip } from '../../data/db';
import { Button } from '../../ui/controls';
import type { Chosen } from './chosen';
import { CLIP_COLUMNS } from './clipColumns';
import { clipPath } from '../../parts/clipPath';
import { CheckBox } from '../../ui/CheckBox';

interface Props {
  readonly clips: readonly StoredClip[];
  readonly chosen: Chosen;
}

const TRACKS: CSSProperties = {
  gridTemplateColumns: `2rem ${CLIP_COLUMNS.map((c) => c.meta?.width ?? '1fr').join(' ')}`,
};
const ROW_HEIGHT = 30;

/** Clips as a table that can be sorted by every column; only the rows in sight are drawn. */
export function ClipTable({ clips, chosen }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const table = useReactTable({
    data: clips as StoredClip[],
    columns: CLIP_COLUMNS,
    getRowId: (clip) => clip.id,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
  });
  const { rows } = table.getRowModel();
  const seen = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
  });
  return (
    <div ref={scroller} className="h-full overflow-auto px-6" data-clip-scroller>
      <div role="table" aria-label="Clips" aria-rowcount={rows.length + 1} className="min-w-[60rem]">
        <div role="rowgroup" className="sticky top-0 z-10 border-b bg-paper">
          <div role="row" className="grid items-baseline gap-x-2 py-1.5" style={TRACKS}>
            <span role="columnheader">
              <span className="sr-only">selected</span>
            </span>
            {table.getFlatHeaders().map((header) => (
              <Heading key={header.id} header={header} />
            ))}
          </div>
        </div>
        <div role="rowgroup" className="relative" style={{ height: seen.getTotalSize() }}>
          {seen.getVirtualItems().map(({ index, start }) => {
            const row = rows[index];
            return row && <ClipRow key={row.id} row={row} index={index} top={start} chosen={chosen} />;
          })}
        </div>
      </div>
    </div>
  );
}

const SORTS = { asc: 'ascending', desc: 'descending' } as const;

/** A heading that sorts: upwards, downwards, and not any more. */
function Heading({ header }: { header: Header<StoredClip, unknown> }) {
  const sorted = header.column.getIsSorted();
  return (
    <span
      role="columnheader"
      aria-sort={sorted ? SORTS[sorted] : 'none'}
      className={header.column.columnDef.meta?.right ? 'text-right' : ''}
    >
      <Button look="soft" onClick={header.column.getToggleSortingHandler()}>
        {header.id}
        {sorted && (sorted === 'desc' ? ' ↓' : ' ↑')}
      </Button>
    </span>
  );
}

interface RowProps {
  readonly row: Row<StoredClip>;
  readonly index: number;
  readonly top: number;
  readonly chosen: Chosen;
}

function ClipRow({ row: { original: clip }, index, top, chosen }: RowProps) {
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      className={`absolute inset-x-0 grid items-center gap-x-2 border-b ${chosen.has(clip.id) ? 'bg-raised font-semibold' : ''}`}
      style={{ ...TRACKS, top, height: ROW_HEIGHT }}
    >
      <span role="cell">
        <CheckBox
          aria-label={clip.name}
          checked={chosen.has(clip.id)}
          onChange={(on) => chosen.set(clip.id, on)}
        />
      </span>
      {CLIP_COLUMNS.map(({ id, meta }) => (
        <span key={id} role="cell" className={`truncate ${meta?.right ? 'text-right' : ''}`}>
          {id === 'name' ? (
            <Link to={clipPath(clip.id)} className="hover:underline">
              {clip.name}
            </Link>
          ) : (
            meta?.show(clip)
          )}
        </span>
      ))}
    </div>
  );
}
