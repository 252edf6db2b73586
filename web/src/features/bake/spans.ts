import type { Plan, Scene } from '@warper/core';
import { defined } from '@warper/core';
import type { BakeSpan } from '@warper/formats';
import { regionSpans } from '@warper/formats';
import type { Selection } from '../../store/sessionState';

/** Which part of the scene is baked. */
export type Part = 'scene' | 'range' | 'regions' | 'segments' | 'frames';

/** A part that there is, with its words and its spans. */
export interface OfferedPart {
  readonly part: Part;
  readonly words: string;
  readonly spans: readonly BakeSpan[];
  /** Whose it is, where it is not everybody's. */
  readonly characters?: readonly string[];
}

/** Frames that the user has set. */
export interface OwnFrames {
  readonly from: number;
  readonly to: number;
}

/**
 * The parts of a scene that can be baked, those with nothing in them left out: all of it, its play range, its regions (or what lies between
 * its markers), the selected segments, and frames by number.
 *
 * @param characters ids of those who are baked
 */
export function offeredParts(
  scene: Scene,
  plan: Plan,
  characters: readonly string[],
  selection: Selection,
  own: OwnFrames | null,
): OfferedPart[] {
  const cast = plan.characters.filter((c) => characters.includes(c.character.id) && c.end > c.start);
  const whole = {
    from: Math.min(...cast.map((c) => c.start), Infinity),
    to: Math.max(...cast.map((c) => c.end), -Infinity),
  };
  const all = whole.to > whole.from ? whole : { from: plan.start, to: plan.end };
  const parts: OfferedPart[] = [
    { part: 'scene', words: 'Whole scene', spans: [{ name: '', ...all }] },
    ...offer('range', 'Play range', rangeSpans(scene)),
    ...offer('regions', 'Regions', regionSpans(scene, all.to)),
    ...segmentPart(plan, selection),
    { part: 'frames', words: 'Frames', spans: [{ name: '', ...(own ?? all) }] },
  ];
  return parts;
}

const offer = (part: Part, words: string, spans: readonly BakeSpan[]): OfferedPart[] =>
  spans.length > 0 ? [{ part, words: spans.length > 1 ? `${words} (${spans.length})` : words, spans }] : [];

const rangeSpans = ({ range }: Scene): BakeSpan[] => (range ? [{ name: 'Range', ...range }] : []);

/** The selected segments, of those who perform them. */
function segmentPart(plan: Plan, selection: Selection): OfferedPart[] {
  if (selection.kind !== 'segment') return [];
  const ids = [selection.id, ...(selection.with ?? [])];
  const chosen = plan.characters.flatMap((c) =>
    [...c.segments, ...c.layers.flatMap((l) => l.segments)]
      .filter((s) => ids.includes(s.id))
      .map(({ name, start, end }) => ({ owner: c.character.id, span: { name, from: start, to: end } })),
  );
  const spans = chosen.map(({ span }) => span).sort((a, b) => a.from - b.from);
  const characters = [...new Set(chosen.map(({ owner }) => owner))];
  return offer('segments', 'Selected segments', spans).map((part) => ({ ...part, characters }));
}

/** The chosen part, or the whole scene where there is none of it any more. */
export const partOf = (parts: readonly OfferedPart[], part: Part): OfferedPart =>
  parts.find((p) => p.part === part) ?? defined(parts[0]);
