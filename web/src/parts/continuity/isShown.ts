import type { ContinuityItem, Scene } from '@warper/core';

/** What of the list is shown, and what that is called. */
export const SHOWN = [
  ['open', 'Needs a look'],
  ['all', 'All'],
  ['ignored', 'Ignored'],
] as const;

export type Shown = (typeof SHOWN)[number][0];

/** Whether something that was measured is among those that are shown. */
export function isShown(item: ContinuityItem, shown: Shown, ignored: Scene['ignored']): boolean {
  const isIgnored = ignored[item.id] !== undefined;
  if (shown === 'ignored') return isIgnored;
  return shown === 'all' || (item.grade !== 'good' && !isIgnored);
}
