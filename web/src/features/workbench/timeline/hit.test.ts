import { describe, expect, it } from '@jest/globals';
import type { Scene } from '@warper/core';
import { applyEdit, compile } from '@warper/core';
import * as fc from 'fast-check';
import { anyEdit, carryOut, library, two } from '../../../../../core/src/testing/arranging';
import { hitAt } from './hit';
import { ZOOM } from '../../../store/sessionState';
import { TAG_WIDTH, laneShape, tagFrame, tagKind } from './laneShape';
import { silentSegments, timelineRows } from './rows';
import { evenly } from '../../../../../core/src/testing/evenly';

const PPF = 2;
const look = (scene: Scene) => {
  const rows = timelineRows(scene, compile(scene, library));
  return { rows, at: (x: number, y: number) => hitAt(rows, (r) => silentSegments(scene, r), x, y, PPF) };
};

describe('what is under the pointer', () => {
  const { rows, at } = look(two);
  const row = rows[0]!;
  const { top, height } = laneShape(row);
  const [first, second] = row.segments as [(typeof row.segments)[0], (typeof row.segments)[0]];
  const low = row.top + top + height - 6;

  it('is a segment, its start or its end, within eight pixels of these', () => {
    const grip = (x: number) => {
      const hit = at(x, low);
      return hit?.kind === 'segment' ? `${hit.plan.id} ${hit.grip}` : hit?.kind;
    };
    expect(grip(first.start * PPF + 2)).toBe(`${first.id} start`);
    expect(grip(first.start * PPF + 9)).toBe(`${first.id} body`);
    const last = row.segments.at(-1)!;
    expect(grip(last.end * PPF - 2)).toBe(`${last.id} end`);
    expect(at(last.end * PPF + 40, low)).toBeNull();
  });

  it('is the end of a segment also where the next one lies over it', () => {
    expect(second.overlap).toBeGreaterThan(0);
    const hit = at(first.end * PPF - 1, low);
    expect(hit).toMatchObject({ kind: 'segment', grip: 'end' });
    expect(hit?.kind === 'segment' && hit.plan.id).toBe(first.id);
  });

  it('is the tag of a seam above it, and its stitches in it', () => {
    const middle = (second.start + second.overlap / 2) * PPF;
    expect(at(middle, row.top + 10)).toMatchObject({ kind: 'seam', part: 'tag', index: 1 });
    expect(at(middle, row.top + top + 12)).toMatchObject({ kind: 'seam', part: 'stitches', index: 1 });
  });

  it('leaves the better part of a narrow segment to be moved by', () => {
    fc.assert(
      fc.property(evenly(ZOOM.least, 6), (ppf) => {
        const rows = timelineRows(two, compile(two, library));
        for (const { segments, lane, top: rowTop } of rows) {
          if (lane.kind !== 'body') continue;
          for (const segment of segments) {
            const width = (segment.end - segment.start) * ppf;
            let [moving, seams] = [0, 0];
            const [steps, y] = [200, rowTop + top + 12];
            for (let i = 0; i < steps; i++) {
              const hit = hitAt(rows, () => [], segment.start * ppf + (width * (i + 0.5)) / steps, y, ppf);
              if (hit?.kind === 'seam') seams++;
              if (hit?.kind === 'segment' && hit.grip === 'body') moving++;
            }
            // Two seams at most, each a third.
            expect(seams / steps).toBeLessThanOrEqual(2 / 3 + 0.02);
            if (width >= 40) expect((moving / steps) * width).toBeGreaterThanOrEqual(11);
          }
        }
      }),
      { numRuns: 40 },
    );
  });

  it('is always something that is drawn there', () => {
    const place = fc.tuple(evenly(-50, 1500), evenly(-20, 400));
    fc.assert(
      fc.property(place, ([x, y]) => {
        const hit = at(x, y);
        if (hit?.kind !== 'segment') return;
        expect(y).toBeGreaterThanOrEqual(hit.row.top);
        expect(y).toBeLessThan(hit.row.top + hit.row.height);
        expect(x).toBeGreaterThanOrEqual(hit.plan.start * PPF);
        expect(x).toBeLessThanOrEqual(hit.plan.end * PPF);
      }),
    );
  });

  it('is one tag at a time: at any zoom and after any edits they stand beside each other', () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 12 }), evenly(ZOOM.least, ZOOM.most), (edits, ppf) => {
        const { scene } = carryOut(edits);
        for (const { segments, lane } of timelineRows(scene, compile(scene, library))) {
          if (lane.kind !== 'body') continue;
          for (let i = 2; i < segments.length; i++) {
            const kinds = [tagKind(segments, i - 1, ppf), tagKind(segments, i, ppf)] as const;
            const apart = (tagFrame(segments[i]!) - tagFrame(segments[i - 1]!)) * ppf;
            const needed = (TAG_WIDTH[kinds[0]] + TAG_WIDTH[kinds[1]]) / 2;
            if (!kinds.includes('stroke')) expect(apart).toBeGreaterThanOrEqual(needed - 1e-9);
          }
        }
      }),
      { numRuns: 60 },
    );
  });

  it('is the tab of a segment that is switched off, also over what stands there now', () => {
    const { id, start } = row.segments.at(-1)!;
    const off = look(applyEdit(two, { type: 'switch', segment: id, off: true }, library));
    const shape = laneShape(off.rows[0]!);
    const hit = off.at(start * PPF + 60, off.rows[0]!.top + shape.top + shape.height - 4);
    expect(hit?.kind === 'silent' && hit.segment.id).toBe(id);
  });
});
