import type { Edit, SegmentPlan } from '@warper/core';
import { commit, preview } from '../../../store/edits';
import { selectedSegments, toggled } from '../../../store/selection';
import { shownPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import type { Target } from '../geometry';
import { snap } from '../geometry';
import type { Grip, Hit } from '../hit';
import { laneShape } from '../laneShape';
import type { Row } from '../rows';
import { cycleTargets, snapTargets } from '../snapping';
import type { TimelineDrag } from '../useTimelineDrag';
import type { Hand, Table } from './hand';
import { showMarks } from './handMarks';

/** Frames to either side of a segment whose steps it snaps to. */
const NEAR = 600;

/** Where a drag began, and what it may snap to. */
interface Origin {
  readonly plan: SegmentPlan;
  readonly grip: Grip;
  readonly lane: string;
  readonly targets: readonly Target[];
  /** The segments that move with it, itself among them. */
  readonly moving: readonly string[];
}

/** A segment in hand: moved with others, trimmed, repeated, stretched or, with Shift, slipped. */
export function segmentHand(table: Table, hit: Hit & { readonly kind: 'segment' }): Hand {
  const { dispatch, state } = table;
  const { plan, grip, row } = hit;
  let origin: Origin | null = null;
  return {
    tap: (event) => {
      const { session, scene } = state();
      const several = event.shiftKey || event.ctrlKey || event.metaKey;
      dispatch(
        sessionActions.selected(
          several ? toggled(session.selection, plan.id, scene.document) : { kind: 'segment', id: plan.id },
        ),
      );
    },
    drag: (drag) => {
      if (drag.canceled) {
        showMarks();
        return void dispatch(preview(null));
      }
      origin ??= begin();
      const { edit, wanted, guide } = asked(drag, origin, table);
      if (drag.last) {
        showMarks();
        return void dispatch(commit(edit));
      }
      dispatch(preview(edit));
      const now = planOf(table, plan.id);
      const refused =
        wanted && now && (now.start !== wanted.start || now.end !== wanted.end)
          ? { from: wanted.start, to: wanted.end, ...edgesOf(row) }
          : null;
      showMarks({ guide, refused });
    },
  };
  function begin(): Origin {
    const now = state();
    const chosen = selectedSegments(now.session.selection, now.scene.document);
    const together = grip === 'body' && chosen.length > 1 && chosen.includes(plan.id);
    const moving = together ? chosen : [plan.id];
    const targets = snapTargets(now, new Set(moving), { from: plan.start - NEAR, to: plan.end + NEAR });
    const repeats = grip !== 'body' && plan.loop && now.session.edge !== 'stretch';
    if (!together) dispatch(sessionActions.selected({ kind: 'segment', id: plan.id }));
    return {
      plan,
      grip,
      lane: row.lane.id,
      moving,
      targets: repeats ? [...targets, ...cycleTargets(plan, grip, NEAR)] : targets,
    };
  }
}

/** Where the segments of a row stand, pixels from the top of the first row. */
function edgesOf(row: Row): { readonly top: number; readonly bottom: number } {
  const { top, height } = laneShape(row);
  return { top: row.top + top, bottom: row.top + top + height };
}

/** A segment as it is shown. */
function planOf({ state }: Table, id: string): SegmentPlan | undefined {
  for (const c of shownPlan(state()).plan.characters) {
    const found = [c, ...c.layers].flatMap(({ segments }) => segments.find((s) => s.id === id) ?? []);
    if (found[0]) return found[0];
  }
  return undefined;
}

interface Asked {
  readonly edit: Edit;
  /** Where that would put the segment if nothing were in its way; null where it stays. */
  readonly wanted: { readonly start: number; readonly end: number } | null;
  readonly guide: number | null;
}

/** What a drag asks for. */
function asked(
  drag: TimelineDrag,
  { plan, grip, lane, targets, moving }: Origin,
  { state, rows, place }: Table,
): Asked {
  const { session } = state();
  const { start, end } = plan;
  const near = (frame: number): number | null =>
    drag.event.altKey ? null : snap(frame, targets, session.pixelsPerFrame);
  if (grip !== 'body') {
    const to = (grip === 'start' ? start : end) + drag.frames;
    const guide = near(to);
    const frame = guide ?? Math.round(to);
    const wanted = grip === 'start' ? { start: frame, end } : { start, end: frame };
    return { edit: { type: session.edge, segment: plan.id, edge: grip, frame }, wanted, guide };
  }
  if (drag.event.shiftKey && moving.length === 1) {
    const samples = -Math.round(drag.frames * plan.time.samplesPerFrame);
    return { edit: { type: 'slip', segment: plan.id, samples }, wanted: null, guide: null };
  }
  const [head, tail] = [near(start + drag.frames), near(end + drag.frames)];
  const byHead = head === null ? null : head - start;
  const byTail = tail === null ? null : tail - end;
  const apart = (by: number | null): number => (by === null ? Infinity : Math.abs(by - drag.frames));
  const by = (apart(byHead) <= apart(byTail) ? byHead : byTail) ?? Math.round(drag.frames);
  const guide = by === byHead ? head : by === byTail ? tail : null;
  const { y } = place(drag.xy);
  const to = rows().find((r) => y >= r.top && y < r.top + r.height)?.lane.id ?? lane;
  const wanted = { start: start + by, end: end + by };
  return moving.length > 1
    ? { edit: { type: 'move several', segments: moving, frames: by, lane: to }, wanted, guide }
    : { edit: { type: 'move', segment: plan.id, start: start + by, lane: to }, wanted, guide };
}
