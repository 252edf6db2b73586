/**
 * Spans of whole numbers from text such as "3-19, 33-49": each begins before it ends.
 *
 * @param most the largest end
 * @returns null where it cannot be read; empty text is no spans
 */
export function parseSpans(text: string, most: number): (readonly [number, number])[] | null {
  const parts = text.split(/[,;]/).map((p) => p.trim());
  if (parts.every((p) => p === '')) return [];
  const spans: (readonly [number, number])[] = [];
  for (const part of parts) {
    const match = /^(\d+)\s*(?:-|\u2013|to)\s*(\d+)$/.exec(part);
    if (!match) return null;
    const [from, to] = [Number(match[1]), Number(match[2])];
    if (from >= to || to > most) return null;
    spans.push([from, to]);
  }
  return spans.sort((a, b) => a[0] - b[0]);
}
