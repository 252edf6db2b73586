import type { Edit, SegmentPlan } from '@warper/core';
import { preview } from '../../../../store/edits';
import { selectedSegments, toggled } from '../../../../store/selection';
import { sessionActions } from '../../../../store/sessionSlice';
import type { Target } from '../geometry';
import { snap } from '../geometry';
import type { Grip, Hit } from '../hit';
import { cycleTargets, snapTargets } from '../snapping';
import type { TimelineDrag } from '../useTimelineDrag';
import type { Asked } from './carryOut';
import { carryOut } from './carryOut';
import type { Hand, Table } from './hand';
import { showMarks } from './showMarks';

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
        showMarks(table);
        return void dispatch(preview(null));
      }
      origin ??= begin();
      carryOut(table, drag, row, plan.id, asked(drag, origin, table));
    },
  };
  function begin(): Origin {
    const current = state();
    const chosen = selectedSegments(current.session.selection, current.scene.document);
    const together = grip === 'body' && chosen.length > 1 && chosen.includes(plan.id);
    const moving = together ? chosen : [plan.id];
    const targets = snapTargets(current, new Set(moving), { from: plan.start - NEAR, to: plan.end + NEAR });
    const repeats = grip !== 'body' && plan.loop && current.session.edge !== 'stretch';
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
    return {
      edit: { type: session.edge, segment: plan.id, edge: grip, frame },
      guide,
      refused: elsewhere(wanted),
    };
  }
  if (drag.event.shiftKey && moving.length === 1) {
    const samples = -Math.round(drag.frames * plan.time.samplesPerFrame);
    // The clip goes no further than its ends, but round and round where it loops.
    const refused = (shown: SegmentPlan) =>
      plan.loop || Math.abs(shown.in - plan.in - samples) < 1e-6 ? null : { from: start, to: end };
    return { edit: { type: 'slip', segment: plan.id, samples }, guide: null, refused };
  }
  const [head, tail] = [near(start + drag.frames), near(end + drag.frames)];
  const byHead = head === null ? null : head - start;
  const byTail = tail === null ? null : tail - end;
  const apart = (by: number | null): number => (by === null ? Infinity : Math.abs(by - drag.frames));
  const by = (apart(byHead) <= apart(byTail) ? byHead : byTail) ?? Math.round(drag.frames);
  const guide = by === byHead ? head : by === byTail ? tail : null;
  const { y } = place(drag.xy);
  const to = rows().find((r) => y >= r.top && y < r.top + r.height)?.lane.id ?? lane;
  const edit: Edit =
    moving.length > 1
      ? { type: 'move several', segments: moving, frames: by, lane: to }
      : { type: 'move', segment: plan.id, start: start + by, lane: to };
  return { edit, guide, refused: elsewhere({ start: start + by, end: end + by }) };
}

/** Refuses where a segment comes to stand elsewhere than it is wanted. */
const elsewhere =
  (wanted: { readonly start: number; readonly end: number }): Asked['refused'] =>
  (shown) =>
    shown.start !== wanted.start || shown.end !== wanted.end ? { from: wanted.start, to: wanted.end } : null;
