import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual';
import type { KeyboardEvent, RefObject } from 'react';
import { useEffect, useRef, useState } from 'react';
import type { StoredClip } from '../../../data/db';
import { ClipItem } from './ClipItem';
import { rowAfterKey } from './rowAfterKey';

/** Height of a clip in the list, pixels. */
const ITEM_HEIGHT = 97;

interface Props {
  readonly clips: readonly StoredClip[];
  /** How far clips are from what they would follow, by id, centimetres. */
  readonly distances: ReadonlyMap<string, number>;
  /** How often the focus was sent here from outside. */
  readonly entries: number;
}

/**
 * Clips one below the other; only those in sight are drawn. One of them is in hand and can be reached with Tab; the arrow
 * keys go from one to the next, so that thousands do not stand between the search and the view.
 */
export function ClipList({ clips, distances, entries }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const [hand, setHand] = useState(0);
  const at = Math.min(hand, clips.length - 1);
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
  const focus = useRowFocus(scroller, entries, at);
  const press = (e: KeyboardEvent): void => {
    const next = rowAfterKey(e.key, at, clips.length);
    if (next === null) return;
    e.preventDefault();
    e.stopPropagation();
    if (next === at) return;
    focus.request();
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
        onFocus={() => focus.note(true)}
        onBlur={() => focus.note(false)}
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
                <ClipItem clip={clip} distance={distances.get(clip.id)} inHand={row.index === at} />
              </li>
            )
          );
        })}
      </ul>
    </div>
  );
}

/**
 * Keeps the focus on the row in hand: it may be asked for before what was searched for is drawn, and the row that has it may be
 * drawn no more.
 *
 * @param entries how often the focus was sent into the list from outside
 * @param at index of the row in hand
 */
function useRowFocus(scroller: RefObject<HTMLElement | null>, entries: number, at: number) {
  const requested = useRef(false);
  const hasFocus = useRef(false);
  const seen = useRef(entries);
  useEffect(() => {
    if (entries !== seen.current) requested.current = true;
    seen.current = entries;
  }, [entries]);
  useEffect(() => {
    const lost = hasFocus.current && document.activeElement === document.body;
    if (!requested.current && !lost) return;
    const row = scroller.current?.querySelector<HTMLElement>(`[data-index="${at}"] [data-clip]`);
    row?.focus();
    if (row) requested.current = false;
  });
  return {
    request: (): void => void (requested.current = true),
    note: (has: boolean): void => void (hasFocus.current = has),
  };
}
