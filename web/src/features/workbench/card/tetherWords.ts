import type { Scene, Tether } from '@warper/core';

/** The frames of a tether in words. */
export const tetherSpan = ({ start, end }: Tether): string =>
  end === null ? `from ${start}` : `${start} to ${end}`;

/** What a tether does, in a sentence without an end. */
export function tetherWords(tether: Tether, { characters }: Pick<Scene, 'characters'>): string {
  const [child, parent] = [tether.child, tether.parent].map((id) => characters[id]?.name ?? '');
  return tether.kind === 'hold' ? `${child} held by ${parent}` : `${child} reaches for ${parent}`;
}
