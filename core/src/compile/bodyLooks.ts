import { framesPerSecond } from '../math/rate';
import type { BodyLookPlan, CharacterPlan, SegmentPlan } from '../plan/plan';
import type { Look } from '../scene/look';

/** What the head of a performance follows, and when. */
export type BodyLook = Omit<BodyLookPlan, 'look'> & { readonly look: Look };

/** Seconds that a head takes at least to turn to what a segment looks at, or away from it. */
const EASE = 0.4;

const EVER = { start: -Infinity, end: Infinity, fadeIn: 0, fadeOut: 0 };

/**
 * The looks of a performance itself: that of the character throughout, and over it those of segments. Neighbours that look at the same
 * are one; others ease into each other over their crossfade, or a little longer where that is short, and each stays until the next has come.
 */
export function bodyLooks({
  character,
  segments,
  rate,
}: Pick<CharacterPlan, 'character' | 'segments' | 'rate'>): BodyLook[] {
  const ease = Math.round(EASE * framesPerSecond(rate));
  const looks: BodyLook[] = character.look ? [{ look: character.look, ...EVER }] : [];
  for (let first = 0; first < segments.length;) {
    const { look } = segments[first]!.settings;
    let last = first;
    while (last + 1 < segments.length && isSame(look, segments[last + 1]!.settings.look)) last++;
    if (look) looks.push({ look, ...spanOf(segments, first, last, ease) });
    first = last + 1;
  }
  return looks;
}

const isSame = (a: Look | null, b: Look | null): boolean =>
  a === b || JSON.stringify(a) === JSON.stringify(b);

/** When a run of segments looks at what it does. */
function spanOf(
  segments: readonly SegmentPlan[],
  first: number,
  last: number,
  ease: number,
): Omit<BodyLook, 'look'> {
  const from = segments[first]!;
  const to = segments[last]!;
  const next = segments[last + 1];
  const most = Math.max(1, Math.floor((to.end - from.start) / 2));
  const fadeIn = first === 0 ? 0 : Math.min(most, Math.max(ease, from.overlap));
  const start = first === 0 ? -Infinity : from.start;
  if (!next) return { start, end: Infinity, fadeIn, fadeOut: 0 };
  const over = Math.max(ease, next.overlap);
  const fadeOut = Math.min(most, over);
  return { start, end: next.start + (next.settings.look ? over : next.overlap), fadeIn, fadeOut };
}
