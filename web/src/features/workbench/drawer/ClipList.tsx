import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual';
import type { KeyboardEvent } from 'react';
import { useEffect, useRef, useState } from 'react';
import type { StoredClip } from '../../../data/db';
import { ClipItem } from './ClipItem';

/** Height of a clip in the list, pixels. */
const ITEM_HEIGHT = 97;
/** Clips that Page Up and Page Down go past. */
const PAGE = 5;

interface Props {
  readonly clips: readonly StoredClip[];
  /** How often the focus was sent here from outside. */
  readonly entries: number;
}

/**
 * Clips one below the other; only those in sight are drawn. One of them is in hand and can be reached with Tab; the arrow
 * keys go from one to the next, so that thousands do not stand between the search and the view.
 */
export function ClipList({ clips, entries }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const [hand, setHand] = useState(0);
  const at = Math.min(hand, clips.length - 1);
  // The focus may be asked for before what was searched for is drawn, and what has it may be drawn no more.
  const focusWanted = useRef(false);
  const hasFocus = useRef(false);
  const seen = useRef(entries);
  const rows = useVirtualizer({
    count: clips.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ITEM_HEIGHT,
    overscan: 4,
    // What has the focus must not vanish when it is scrolled out of sight.
    rangeExtractor: (range) =>
      at < 0
        ? defaultRangeExtractor(range)
        : [...new Set([...defaultRangeExtractor(range), at])].sort((a, b) => a - b),
  });
  useEffect(() => {
    if (entries !== seen.current) focusWanted.current = true;
    seen.current = entries;
  }, [entries]);
  useEffect(() => {
    const lost = hasFocus.current && document.activeElement === document.body;
    if (!focusWanted.current && !lost) return;
    const wanted = scroller.current?.querySelector<HTMLElement>(`[data-index="${at}"] [data-clip]`);
    wanted?.focus();
    if (wanted) focusWanted.current = false;
  });
  const press = (e: KeyboardEvent): void => {
    const ways: Readonly<Record<string, number>> = {
      ArrowDown: at + 1,
      ArrowUp: at - 1,
      PageDown: at + PAGE,
      PageUp: at - PAGE,
      Home: 0,
      End: clips.length - 1,
    };
    const to = ways[e.key];
    if (to === undefined) return;
    e.preventDefault();
    e.stopPropagation();
    const next = Math.min(Math.max(0, to), clips.length - 1);
    if (next === at) return;
    focusWanted.current = true;
    rows.scrollToIndex(next);
    setHand(next);
  };
  return (
    <div ref={scroller} className="h-full overflow-y-auto px-3.5" hidden={clips.length === 0}>
      <ul
        aria-label="Clips"
        className="relative"
        style={{ height: rows.getTotalSize() }}
        onKeyDown={press}
        onFocus={() => (hasFocus.current = true)}
        onBlur={() => (hasFocus.current = false)}
      >
        {rows.getVirtualItems().map((row) => {
          const clip = clips[row.index];
          return (
            clip && (
              <li
                key={clip.id}
                data-index={row.index}
                aria-setsize={clips.length}
                aria-posinset={row.index + 1}
                className="absolute inset-x-0 border-b"
                style={{ top: row.start, height: ITEM_HEIGHT }}
                onFocus={() => setHand(row.index)}
              >
                <ClipItem clip={clip} inHand={row.index === at} />
              </li>
            )
          );
        })}
      </ul>
    </div>
  );
}
