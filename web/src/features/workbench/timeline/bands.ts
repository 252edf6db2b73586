import type { Scene, SegmentGroup } from '@warper/core';
import { segmentsOfGroup, defined } from '@warper/core';
import type { Row } from './rows';

/** A group on one lane: the frames that its segments fill there, and where the lane is. */
export interface Band {
  readonly group: SegmentGroup;
  readonly from: number;
  readonly to: number;
  readonly top: number;
  readonly height: number;
  readonly depth: number;
  readonly count: number;
  /** Pixels by which its name gives way to those of the groups around it. */
  readonly indent: number;
}

/** Pixels of a letter, about, and around a name. */
const LETTER = { width: 6.2, around: 14 };

/** Every group on every lane that it has segments on, outer ones first; nothing within a folded one. */
export function findBands(scene: Scene, rows: readonly Row[]): Band[] {
  const bands: Band[] = [];
  const visit = (group: SegmentGroup, depth: number, around: readonly Band[]): void => {
    const members = new Set(segmentsOfGroup(scene, group.id));
    const matches: Band[] = [];
    for (const row of rows) {
      if (row.folded) continue;
      // Muted segments are on no plan, but keep their place.
      const own = row.lane.segments
        .filter((s) => members.has(s))
        .map((s) => {
          const segment = defined(scene.segments[s]);
          const planned = row.segments.find((p) => p.id === s);
          return { start: segment.start, end: planned?.end ?? segment.start + 1 };
        });
      if (own.length === 0) continue;
      const from = Math.min(...own.map((s) => s.start));
      const beside = around.find((b) => b.top === row.top && b.from === from);
      matches.push({
        group,
        depth,
        from,
        to: Math.max(...own.map((s) => s.end)),
        top: row.top,
        height: row.height - row.below,
        count: own.length,
        indent: beside ? beside.indent + bandName(beside.group).length * LETTER.width + LETTER.around : 0,
      });
    }
    bands.push(...matches);
    if (group.folded) return;
    for (const m of group.members) if (scene.groups[m]) visit(scene.groups[m], depth + 1, matches);
  };
  const inner = new Set(Object.values(scene.groups).flatMap((g) => g.members));
  for (const group of Object.values(scene.groups)) if (!inner.has(group.id)) visit(group, 0, []);
  return bands;
}

/** What a group is called on the timeline. */
export const bandName = ({ name, muted }: SegmentGroup): string => (muted ? `${name} · muted` : name);
