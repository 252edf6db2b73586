import type { AlternateScope, CharacterSpan } from '@warper/core';

/** Frames of a character that are the own ones of the alternate in hand. */
export interface Sheet {
  readonly from: number;
  readonly to: number;
}

/**
 * Where a character's lanes are a second sheet of paper: what may differ, and beyond that what does; in order, without overlaps.
 *
 * @param end the frame after the last of the scene; nothing goes beyond it but what is arranged there
 */
export function sheetsOf(
  character: string,
  scope: AlternateScope | null,
  spans: readonly CharacterSpan[],
  end: number,
): Sheet[] {
  const allowed = scope && (scope.characters?.includes(character) ?? true) ? [scope] : [];
  const all = [...allowed, ...spans.filter((s) => s.character === character)]
    .map(({ from, to }) => ({
      from: Math.max(0, from),
      to: Math.min(to, Math.max(end, allowed[0]?.to ?? 0)),
    }))
    .filter(({ from, to }) => to > from)
    .sort((a, b) => a.from - b.from);
  const sheets: Sheet[] = [];
  for (const one of all) {
    const last = sheets.at(-1);
    if (last && one.from <= last.to) sheets[sheets.length - 1] = { ...last, to: Math.max(last.to, one.to) };
    else sheets.push(one);
  }
  return sheets;
}
