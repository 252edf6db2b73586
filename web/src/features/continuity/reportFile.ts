import type { ContinuityItem, Scene } from '@warper/core';

const COLUMNS = [
  'grade',
  'kind',
  'characterName',
  'name',
  'frame',
  'end',
  'measure',
  'value',
  'ratio',
  'cause',
  'hint',
] as const satisfies readonly (keyof ContinuityItem)[];

/** The list as a table for spreadsheets (RFC 4180). */
export function reportCsv(items: readonly ContinuityItem[], ignored: Scene['ignored']): string {
  const rows = items.map((item) => [...COLUMNS.map((key) => item[key]), ignored[item.id] ?? '']);
  return [[...COLUMNS, 'ignored'], ...rows].map((row) => row.map(cell).join(',')).join('\r\n') + '\r\n';
}

function cell(value: string | number): string {
  const text = typeof value === 'number' ? String(Number(value.toFixed(4))) : value;
  // What begins like a formula is kept from becoming one.
  const safe = /^[=+@]/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

/** The list with what it was judged by, as JSON. */
export const reportJson = (items: readonly ContinuityItem[], scene: Scene): string =>
  JSON.stringify(
    {
      scene: scene.name,
      rate: scene.rate,
      shotSize: scene.shotSize,
      items: items.map((item) => ({ ...item, ignored: scene.ignored[item.id] ?? null })),
    },
    null,
    2,
  ) + '\n';
