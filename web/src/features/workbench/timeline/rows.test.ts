import { describe, expect, it } from '@jest/globals';
import type { Scene } from '@warper/core';
import { applyEdit, compile, createCompiler } from '@warper/core';
import { library, two } from '../../../../../core/src/testing/arranging';
import { findBands } from './bands';
import { hiddenLanes, placeAfter, rowsInSight, sameRows, timelineRows } from './rows';
import { cycleTargets } from './snapping';
import { cycleFrames, plantedSpans } from './drawing/stepSpans';

const rowsOf = (scene: Scene) => timelineRows(scene, compile(scene, library));
const changed = (values: Parameters<typeof applyEdit>[1], scene = two): Scene =>
  applyEdit(scene, values, library);

describe('the rows of the timeline', () => {
  it('stand one below the other, layers over the lane of their character', () => {
    const rows = rowsOf(two);
    expect(rows.map((r) => r.lane.id)).toEqual(['l', 'y', 'm']);
    rows.slice(1).forEach((r, i) => expect(r.top).toBe(rows[i]!.top + rows[i]!.height));
  });

  it('are one narrow one where a character is folded, and none where a lane is hidden', () => {
    const folded = changed({ type: 'change character', character: 'd', values: { folded: true } });
    expect(rowsOf(folded).map((r) => [r.lane.id, r.folded])).toEqual([
      ['l', false],
      ['m', true],
    ]);
    const hidden = changed({ type: 'change lane', lane: 'y', values: { hidden: true } });
    expect(rowsOf(hidden).map((r) => r.lane.id)).toEqual(['l', 'm']);
    expect(hiddenLanes(hidden).map((l) => l.id)).toEqual(['y']);
  });

  it('stay the same objects where an edit does not touch them', () => {
    const compiler = createCompiler(library);
    const plan = compiler.compile(two);
    const before = timelineRows(two, plan);
    expect(sameRows(before, timelineRows(two, plan))).toBe(before);
    const moved = changed({ type: 'move', segment: 'f', start: 300 });
    const after = sameRows(before, timelineRows(moved, compiler.compile(moved)));
    expect(after[0]).toBe(before[0]);
    expect(after[2]).not.toBe(before[2]);
  });
});

describe('rows that are dragged and scrolled', () => {
  it('come to a place among the body lanes only', () => {
    const rows = rowsOf(two);
    const [first, , second] = rows;
    expect(placeAfter(first!, rows, 0)).toEqual({ to: 0, of: 2 });
    expect(placeAfter(first!, rows, second!.top)).toEqual({ to: 0, of: 2 });
    expect(placeAfter(first!, rows, second!.top + second!.height)).toEqual({ to: 1, of: 2 });
    expect(placeAfter(second!, rows, -second!.top - second!.height)).toEqual({ to: 0, of: 2 });
  });

  it('are those in sight, with one above and one below', () => {
    const rows = rowsOf(two);
    const seen = (top: number, bottom: number): string[] =>
      rowsInSight(rows, { top, bottom }).map((r) => r.lane.id);
    expect(seen(0, 5)).toEqual(['l', 'y']);
    expect(seen(rows[1]!.top + 1, rows[1]!.top + 2)).toEqual(['l', 'y', 'm']);
    expect(seen(rows[2]!.top + 1, 9999)).toEqual(['y', 'm']);
  });
});

describe('the bands of groups', () => {
  const grouped = changed({ type: 'group', id: 'G', name: 'patrol', segments: ['a', 'b', 'e'] });
  const nested = changed({ type: 'group', id: 'H', name: 'in', segments: ['a'] }, grouped);
  const bandsOf = (scene: Scene) => findBands(scene, rowsOf(scene));

  it('reach over their segments, once on every lane', () => {
    expect(bandsOf(grouped).map((b) => [b.from, b.to, b.count])).toEqual([
      [0, 122, 2],
      [20, 60, 1],
    ]);
  });

  it('show inner groups deeper, their names beside those around them, and none within a folded one', () => {
    const bands = bandsOf(nested);
    const inner = bands.find((b) => b.group.id === 'H')!;
    const outer = bands.find((b) => b.group.id === 'G')!;
    expect([outer.depth, inner.depth]).toEqual([0, 1]);
    expect(inner.indent).toBeGreaterThan(outer.indent);
    const folded = changed({ type: 'change group', group: 'G', values: { folded: true } }, nested);
    expect(bandsOf(folded).map((b) => b.group.id)).toEqual(['G', 'G']);
  });
});

describe('what a segment shows and snaps to', () => {
  const { segments } = compile(two, library).characters[0]!;

  it('notches where a loop begins anew, and snaps to its whole cycles', () => {
    expect(cycleFrames(segments[0]!)).toEqual([30, 60]);
    expect(cycleFrames(segments[1]!)).toEqual([]);
    const ends = cycleTargets(segments[0]!, 'end', 60).map((t) => t.frame);
    expect(ends.slice(0, 5)).toEqual([30, 60, 90, 120, 150]);
    expect(cycleTargets(segments[0]!, 'start', 0).map((t) => t.frame)[0]).toBe(60);
  });

  it('shows steps within its own frames, and works them out once', () => {
    const spans = plantedSpans(segments[0]!);
    expect(plantedSpans(segments[0]!)).toBe(spans);
    for (const { from, to } of spans) {
      expect(from).toBeGreaterThanOrEqual(0);
      expect(to).toBeGreaterThan(from);
      expect(to).toBeLessThanOrEqual(segments[0]!.end - segments[0]!.start);
    }
  });
});
