import { defined } from '@warper/core';
/** Brings the focus from a segment to the one nearest to its middle in the next row up or down that has any. */
export function moveFocus(from: HTMLElement, way: 1 | -1): void {
  const rows = [...document.querySelectorAll<HTMLElement>('[data-lane]')];
  const own = rows.findIndex((row) => row.contains(from));
  const middle = (e: HTMLElement): number => {
    const { left, right } = e.getBoundingClientRect();
    return (left + right) / 2;
  };
  const at = middle(from);
  for (let i = own + way; i >= 0 && i < rows.length; i += way) {
    const segments = [...defined(rows[i]).querySelectorAll<HTMLElement>('[data-segment]')];
    if (segments.length === 0) continue;
    segments.sort((a, b) => Math.abs(middle(a) - at) - Math.abs(middle(b) - at));
    return defined(segments[0]).focus();
  }
}
