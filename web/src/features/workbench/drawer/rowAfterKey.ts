/** Rows that Page Up and Page Down go past. */
const PAGE = 5;

/** Index of the row that a key leads to from row `at` of `count`; null where the key leads nowhere. */
export function rowAfterKey(key: string, at: number, count: number): number | null {
  const targets: Readonly<Record<string, number>> = {
    ArrowDown: at + 1,
    ArrowUp: at - 1,
    PageDown: at + PAGE,
    PageUp: at - PAGE,
    Home: 0,
    End: count - 1,
  };
  const to = targets[key];
  return to === undefined ? null : Math.min(Math.max(0, to), count - 1);
}
