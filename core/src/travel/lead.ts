import type { FloorMove } from '../math/floorMove';
import { composeMoves, invertMove, shortestTurn } from '../math/floorMove';
import type { FloorRoute } from './route';

/** The share of a lead's length up to which it hangs loose, and its wearer goes as it likes. */
const LOOSE = 0.55;
/** How sharply somebody who is led turns, radians a metre walked: about the way of a dog that trots. */
const SHARPEST = 2.2;
/** Metres between root and collar below which the root does not trail behind it, and over which a pull then turns the body. */
const SHORT_ROD = 0.15;
const ARM = 0.5;
/** How much shorter or longer than recorded the strides become before the lead itself pulls. */
const STRIDES = { shortest: 0.8, longest: 1.25 } as const;
/** Metres a second by which a lead that is taken too far away draws in. */
const DRAWN_IN = 0.6;

/** A lead over some frames of a way. */
export interface LeadOnWay {
  /** Where the lead is worn, frame by frame from the way's first, x 3: to the left and forward of the root, and its height, metres. */
  readonly collars: Float64Array;
  /** Where it is held, frame by frame, x 3: x, height, z in the scene. */
  readonly hands: Float64Array;
  /** Metres. */
  readonly length: number;
  /** Frames of the way [from, to) in which it is on. */
  readonly from: number;
  readonly to: number;
}

/**
 * A way as it becomes on a lead: the body takes its own steps, turns towards the hand as the lead is drawn tight, never more sharply than
 * it could walk, strides out or holds back, and is pulled along by what is left. Within the lead's reach it goes as it likes; before and after
 * the lead as its own way has it. The pull is that of a tractrix: along the lead, which turns the body behind it.
 *
 * @param way frames x 3
 */
export function wayOnLead(way: FloorRoute, lead: LeadOnWay, framesPerSecond: number): FloorRoute {
  const frames = way.length / 3;
  const out = way.slice();
  const from = Math.max(0, lead.from);
  let place = at(way, from);
  let reach = Infinity;
  for (let f = from; f < frames; f++) {
    const step = f > from ? composeMoves(invertMove(at(way, f - 1)), at(way, f)) : NO_STEP;
    place = f < lead.to && f > from ? stepOnLead(place, step, f, reach, lead) : composeMoves(place, step);
    if (f < lead.to) reach = reachAt(place, f, reach, lead, framesPerSecond);
    out.set([place.x, place.z, place.turn], f * 3);
  }
  return out;
}

const NO_STEP: FloorMove = { x: 0, z: 0, turn: 0 };

const at = (way: FloorRoute, f: number): FloorMove => ({
  x: way[f * 3]!,
  z: way[f * 3 + 1]!,
  turn: way[f * 3 + 2]!,
});

/** Metres over the floor from the hand to which a lead lets the collar go, and how far it would be. */
function spanAt(place: FloorMove, f: number, { collars, hands, length }: LeadOnWay): LeadSpan {
  const collar = composeMoves(place, { x: collars[f * 3]!, z: collars[f * 3 + 2]!, turn: 0 });
  const x = hands[f * 3]! - collar.x;
  const z = hands[f * 3 + 2]! - collar.z;
  const rise = hands[f * 3 + 1]! - collars[f * 3 + 1]!;
  return { x, z, distance: Math.hypot(x, z), most: Math.sqrt(Math.max(0, length ** 2 - rise ** 2)) };
}

interface LeadSpan {
  /** From the collar to the hand. */
  readonly x: number;
  readonly z: number;
  readonly distance: number;
  readonly most: number;
}

/** How far the lead lets the collar go at the next frame: what it had too much is drawn in little by little. */
function reachAt(place: FloorMove, f: number, before: number, lead: LeadOnWay, perSecond: number): number {
  const { distance, most } = spanAt(place, f, lead);
  const least = before === Infinity ? distance : Math.min(before, Math.max(distance, most));
  return Math.max(most, least - DRAWN_IN / perSecond);
}

const smooth = (u: number): number => {
  const t = Math.min(1, Math.max(0, u));
  return t * t * (3 - 2 * t);
};

function stepOnLead(
  before: FloorMove,
  step: FloorMove,
  f: number,
  reach: number,
  lead: LeadOnWay,
): FloorMove {
  const { x, z, distance, most } = spanAt(before, f, lead);
  const limit = Math.max(most, reach);
  const urge = smooth((distance / Math.max(limit, 1e-6) - LOOSE) / (1 - LOOSE));
  const off = distance > 1e-6 ? shortestTurn(Math.atan2(x, z) - before.turn) : 0;
  const ahead = Math.cos(off) * urge;
  const stride = ahead > 0 ? 1 + (STRIDES.longest - 1) * ahead : 1 + (1 - STRIDES.shortest) * ahead;
  const walked = Math.hypot(step.x, step.z) * stride;
  const turn = Math.max(-1, Math.min(1, off / (Math.PI / 3))) * urge * SHARPEST * walked;
  const walkedTo = composeMoves(before, { x: step.x * stride, z: step.z * stride, turn: step.turn + turn });
  return pulled(walkedTo, f, limit, lead);
}

/**
 * A place that the lead pulls to within its reach: where it is worn goes straight towards the hand, and the root trails behind that as the
 * end of a rod does (a tractrix). Where it is worn above the root, the body turns as if it were an arm's length ahead.
 */
function pulled(place: FloorMove, f: number, limit: number, lead: LeadOnWay): FloorMove {
  const { x, z, distance } = spanAt(place, f, lead);
  const excess = distance - limit;
  if (excess <= 0) return place;
  const worn = { x: lead.collars[f * 3]!, z: lead.collars[f * 3 + 2]!, turn: 0 };
  const collar = composeMoves(place, worn);
  const to = { x: collar.x + (excess * x) / distance, z: collar.z + (excess * z) / distance };
  const rod = Math.hypot(worn.x, worn.z);
  const turned =
    rod < SHORT_ROD
      ? (excess / ARM) * Math.sin(shortestTurn(Math.atan2(x, z) - place.turn))
      : shortestTurn(
          Math.atan2(to.x - place.x, to.z - place.z) - Math.atan2(collar.x - place.x, collar.z - place.z),
        );
  const turn = place.turn + turned;
  const offset = composeMoves({ x: 0, z: 0, turn }, worn);
  return { x: to.x - offset.x, z: to.z - offset.z, turn };
}
