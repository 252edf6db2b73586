import { defined } from '../math/defined';
import type { FloorMove } from '../math/floorMove';
import { composeMoves, invertMove, shortestTurn } from '../math/floorMove';
import type { FloorPlace, Nudge } from '../scene/floor';
import type { Scene } from '../scene/scene';
import type { Seam } from '../scene/seam';
import type { Segment } from '../scene/segment';
import type { Edit } from './edit';
import { makePoseBuffer } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { FitReader } from '../compile/fitReader';
import type { CharacterPlan, Plan, SegmentPlan } from '../plan/plan';
import { meetingNow } from '../compile/meetings';
import { solveFit } from '../compile/solveFit';
import type { Meeting } from '../scene/meeting';

const DEGREES = 180 / Math.PI;

const asMove = ({ x, z, heading }: FloorPlace): FloorMove => ({ x, z, turn: heading / DEGREES });
const asPlace = ({ x, z, turn }: FloorMove): FloorPlace => ({ x, z, heading: shortestTurn(turn) * DEGREES });
const nudgeMove = ({ x, z, turn }: Nudge): FloorMove => ({ x, z, turn: turn / DEGREES });
const asNudge = ({ x, z, turn }: FloorMove): Nudge => ({ x, z, turn: shortestTurn(turn) * DEGREES });

/**
 * The edit that moves segments, of one or several characters, on the floor as one body; what follows them on their lanes
 * comes along, what is before them stays. Each segment that is not carried along by the one before it gets what it takes:
 * T' = M T, so that a seam's nudge n with the placed root H becomes G'^-1 M H, G' being where its fit will put it on what
 * is before it then. That one may have moved otherwise: what keeps its own direction is carried without being turned.
 *
 * @param move about the scene's origin: metres and radians
 */
export function moveOnFloor(
  scene: Scene,
  plan: Plan,
  segments: readonly string[],
  move: FloorMove,
  label: string,
): Edit {
  const wanted = new Set(segments);
  return {
    type: 'several',
    label,
    edits: plan.characters.flatMap((c) => moveLane(scene, plan, c, wanted, move)),
  };
}

function moveLane(
  scene: Scene,
  all: Plan,
  plan: CharacterPlan,
  wanted: ReadonlySet<string>,
  move: FloorMove,
): Edit[] {
  const edits: Edit[] = [];
  /** How the segment before has moved; null where it stands. */
  let moved: FloorMove | null = null;
  plan.segments.forEach((incoming, i) => {
    const segment = defined(scene.segments[incoming.id]);
    const before = plan.segments[i - 1];
    const carried = isAbsolute(segment, i) ? null : moved;
    if (!wanted.has(incoming.id)) {
      moved = carried && carriedAlong(defined(before), incoming, segment.seam, carried);
      return;
    }
    moved = move;
    edits.push(...movedPlaces(segment, move));
    const meeting = segment.meet && movedMeeting(all, plan, incoming, segment.meet, wanted, move);
    if (meeting) edits.push({ type: 'meet', segment: segment.id, meeting });
    else if (!before) edits.push(startEdit(plan, move));
    else edits.push(...seamEdits(segment, before, incoming, carried, move));
  });
  return edits;
}

/** How a segment moves when the one before it does, if nothing is done about it. */
function carriedAlong(before: SegmentPlan, segment: SegmentPlan, seam: Seam, moved: FloorMove): FloorMove {
  if (seam.facing) return moved;
  return composeMoves(fitOnMoved(before, segment, seam, moved), invertMove(moveOf(segment.move)));
}

/** Whether a segment stands where it does whatever is before it. */
const isAbsolute = ({ seam, meet }: Segment, index: number): boolean =>
  index === 0 || meet !== null || seam.fit === 'free' || (typeof seam.fit === 'object' && 'pin' in seam.fit);

function startEdit({ character, skeleton, ...plan }: CharacterPlan, move: FloorMove): Edit {
  const root = evaluate(
    { character, skeleton, ...plan },
    defined(plan.segments[0]).start,
    makePoseBuffer(skeleton),
  ).root;
  const current = character.start
    ? asMove(character.start)
    : { x: defined(root[0]), z: defined(root[1]), turn: defined(root[2]) };
  return { type: 'start character', character: character.id, start: asPlace(composeMoves(move, current)) };
}

function seamEdits(
  segment: Segment,
  before: SegmentPlan,
  incoming: SegmentPlan,
  carried: FloorMove | null,
  move: FloorMove,
): Edit[] {
  const { seam } = segment;
  const { fit, nudge, facing } = seam;
  if (typeof fit === 'object' && 'pin' in fit) {
    const pin = asPlace(composeMoves(move, asMove(fit.pin)));
    return [{ type: 'seam', segment: segment.id, values: { fit: { pin } } }];
  }
  if (carried === move && facing) return [];
  const placed = new FitReader(before, incoming).root(incoming);
  // Where its fit alone will put the incoming root: as now, or on what has moved.
  const fitted = carried && fitOnMoved(before, incoming, { ...seam, nudge: NO_NUDGE }, carried);
  const next = fitted
    ? composeMoves(fitted, composeMoves(invertMove(moveOf(incoming.move)), placed))
    : composeMoves(placed, invertMove(nudgeMove(nudge)));
  const values = { nudge: asNudge(composeMoves(invertMove(next), composeMoves(move, placed))) };
  return [{ type: 'seam', segment: segment.id, values }];
}

const moveOf = (packed: Float64Array): FloorMove => ({
  x: defined(packed[0]),
  z: defined(packed[1]),
  turn: defined(packed[2]),
});
const packed = ({ x, z, turn }: FloorMove): Float64Array => Float64Array.of(x, z, turn);

const NO_NUDGE: Nudge = { x: 0, z: 0, turn: 0 };

/** The fit of a segment on the one before it when that has been moved. */
function fitOnMoved(before: SegmentPlan, segment: SegmentPlan, seam: Seam, move: FloorMove): FloorMove {
  const there = { ...before, move: packed(composeMoves(move, moveOf(before.move))) };
  if (before.travel === 'in place') there.held = packed(composeMoves(move, moveOf(before.held)));
  const held = packed(composeMoves(invertMove(moveOf(segment.move)), moveOf(segment.held)));
  const asRecorded = { ...segment, move: new Float64Array(3), lift: 0, held };
  return solveFit(there, asRecorded, seam).move;
}

/** A meeting as it is when its segment has moved; null where nobody is met. */
function movedMeeting(
  { characters }: Plan,
  own: CharacterPlan,
  segment: SegmentPlan,
  meeting: Meeting,
  wanted: ReadonlySet<string>,
  move: FloorMove,
): Meeting | null {
  const other = characters.find((c) => c.character.id === meeting.character);
  if (!other) return null;
  const frame = segment.start + meeting.frame;
  // Who is met goes along.
  if (other.segments.some((s) => s.start <= frame && wanted.has(s.id))) return meeting;
  return { ...meeting, ...meetingNow(own, other, frame, meeting.joints, move) };
}

/** Marks and paths are places of the scene, and go along. */
function movedPlaces({ id, marks, path }: Segment, move: FloorMove): Edit[] {
  if (marks.length === 0 && path.length === 0) return [];
  const values = {
    marks: marks.map((m) => ({ ...m, ...asPlace(composeMoves(move, asMove(m))) })),
    path: path.map(([x, z]): [number, number] => {
      const p = composeMoves(move, { x, z, turn: 0 });
      return [p.x, p.z];
    }),
  };
  return [{ type: 'change', segment: id, values }];
}

/** A turn about a place of the floor, and a move after it. */
export function moveAbout(
  pivot: { readonly x: number; readonly z: number },
  by: { readonly x: number; readonly z: number; readonly turn: number },
): FloorMove {
  return composeMoves(
    { x: pivot.x + by.x, z: pivot.z + by.z, turn: by.turn },
    { x: -pivot.x, z: -pivot.z, turn: 0 },
  );
}
