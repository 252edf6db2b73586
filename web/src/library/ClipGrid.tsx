import { useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useRef, useState } from 'react';
import type { StoredClip } from '../storage/db';
import { CARD_HEIGHT, ClipCard } from './ClipCard';
import type { Chosen } from './chosen';

interface Props {
  readonly clips: readonly StoredClip[];
  readonly chosen: Chosen;
}

const LEAST_WIDTH = 190;
const GAP = 12;

/** Clips as cards, as many in a row as fit; only those in sight are drawn. */
export function ClipGrid({ clips, chosen }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const element = scroller.current!;
    const measure = new ResizeObserver(() => setWidth(element.clientWidth - 48));
    measure.observe(element);
    return () => measure.disconnect();
  }, []);
  const columns = Math.max(1, Math.floor((width + GAP) / (LEAST_WIDTH + GAP)));
  const card = (width - (columns - 1) * GAP) / columns;
  const rows = useVirtualizer({
    count: Math.ceil(clips.length / columns),
    getScrollElement: () => scroller.current,
    estimateSize: () => CARD_HEIGHT,
    overscan: 2,
  });
  return (
    <div ref={scroller} className="h-full overflow-y-auto px-6" data-clip-scroller>
      <ul aria-label="Clips" className="relative" style={{ height: rows.getTotalSize() }}>
        {width > 0 &&
          rows.getVirtualItems().flatMap((row) =>
            clips.slice(row.index * columns, (row.index + 1) * columns).map((clip, i) => (
              <li
                key={clip.id}
                aria-setsize={clips.length}
                aria-posinset={row.index * columns + i + 1}
                className="absolute"
                style={{ top: row.start, left: i * (card + GAP), width: card }}
              >
                <ClipCard
                  clip={clip}
                  width={card}
                  chosen={chosen.has(clip.id)}
                  onChoose={(on) => chosen.set(clip.id, on)}
                />
              </li>
            )),
          )}
      </ul>
    </div>
  );
}
