import { defined } from '@warper/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { ReactNode } from 'react';
import { useLayoutEffect, useRef, useState } from 'react';
import { CARD_HEIGHT } from './CardFace';

interface Props<T> {
  readonly items: readonly T[];
  readonly keyOf: (item: T) => string;
  /** Draws an item as wide as it is told, pixels. */
  readonly card: (item: T, width: number) => ReactNode;
}

const LEAST_WIDTH = 190;
const GAP = 12;

/** Cards, as many in a row as fit; only those in sight are drawn. */
export function CardGrid<T>({ items, keyOf, card }: Props<T>) {
  const scroller = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const element = defined(scroller.current);
    const measure = new ResizeObserver(() => setWidth(element.clientWidth - 48));
    measure.observe(element);
    return () => measure.disconnect();
  }, []);
  const columns = Math.max(1, Math.floor((width + GAP) / (LEAST_WIDTH + GAP)));
  const each = (width - (columns - 1) * GAP) / columns;
  const rows = useVirtualizer({
    count: Math.ceil(items.length / columns),
    getScrollElement: () => scroller.current,
    estimateSize: () => CARD_HEIGHT,
    overscan: 2,
  });
  return (
    <div ref={scroller} className="h-full overflow-y-auto px-6" data-clip-scroller>
      <ul aria-label="Clips" className="relative" style={{ height: rows.getTotalSize() }}>
        {width > 0 &&
          rows.getVirtualItems().flatMap((row) =>
            items.slice(row.index * columns, (row.index + 1) * columns).map((item, i) => (
              <li
                key={keyOf(item)}
                aria-setsize={items.length}
                aria-posinset={row.index * columns + i + 1}
                className="absolute"
                style={{ top: row.start, left: i * (each + GAP), width: each }}
              >
                {card(item, each)}
              </li>
            )),
          )}
      </ul>
    </div>
  );
}
