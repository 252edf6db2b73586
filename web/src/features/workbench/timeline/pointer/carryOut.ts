import type { Edit, SegmentPlan } from '@warper/core';
import { commit, preview } from '../../../../store/edits';
import { selectPreviewPlan } from '../../../../store/selectors';
import type { Area } from '../../../../store/sessionState';
import { sessionActions } from '../../../../store/sessionSlice';
import { laneShape } from '../laneShape';
import type { Row } from '../rows';
import type { TimelineDrag } from '../useTimelineDrag';
import type { Table } from './hand';
import { showMarks } from './showMarks';

/** What a drag asks for. */
export interface Asked {
  readonly edit: Edit;
  /** The frame that it has snapped to. */
  readonly guide: number | null;
  /** Where it asks for what cannot be, by how the segment comes out: frames; null where it is as asked. */
  readonly refused: (shown: SegmentPlan) => Pick<Area, 'from' | 'to'> | null;
}

/** Shows what a drag of a segment or its seam asks for, and where that cannot be; carries it out when it is let go. */
export function carryOut(table: Table, drag: TimelineDrag, row: Row, segment: string, asked: Asked): void {
  const { dispatch } = table;
  const { edit, guide } = asked;
  if (!drag.last) dispatch(preview(edit));
  const shown = planOf(table, segment);
  const span = (shown && asked.refused(shown)) ?? null;
  if (!drag.last) return showMarks(table, { guide, refused: span && { ...span, ...edgesOf(row) } });
  showMarks(table);
  if (!dispatch(commit(edit)) && span) dispatch(sessionActions.announced('It cannot go further'));
}

/** Where the segments of a row stand, pixels from the top of the first row. */
function edgesOf(row: Row): Pick<Area, 'top' | 'bottom'> {
  const { top, height } = laneShape(row);
  return { top: row.top + top, bottom: row.top + top + height };
}

/** A segment as it is shown. */
function planOf({ state }: Table, id: string): SegmentPlan | undefined {
  for (const c of selectPreviewPlan(state()).plan.characters) {
    const matches = [c, ...c.layers].flatMap(({ segments }) => segments.find((s) => s.id === id) ?? []);
    if (matches[0]) return matches[0];
  }
  return undefined;
}
