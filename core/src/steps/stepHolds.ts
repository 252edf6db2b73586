import type { Leg } from '../skeleton/legs';
import type { ByHand, Correction, Hold } from './footHolds';

const NONE: Correction = { x: 0, y: 0, z: 0, vx: 0, vz: 0 };

/** A span of time, both ends included, in which a joint of a leg is planted. */
export interface Planting {
  readonly start: number;
  readonly end: number;
  readonly joint: number;
  /** How the body is moved by hand meanwhile; null where it goes its own way. */
  readonly byHand: ByHand | null;
}

/** Reads a joint's world place (x, y, z in metres) at a frame. */
export type PlaceAt = (frame: number, joint: number, out: Float64Array) => void;

/** Moments of the middle half of a step at which its place is taken. */
const MOMENTS = [0.25, 0.375, 0.5, 0.625, 0.75];

/** Metres within which a foot stands exactly. */
const EXACT = 1e-3;

/** Frames between two plantings up to which they are one step. */
const TOUCHING = 1.001;

/**
 * The holds of one leg from the spans in which its joints are planted. Each step's place is the mean over the middle of
 * its longest stretch, the tip's before the ankle's; where the hold goes over from one joint to the other the correction
 * is carried over, so that nothing jumps.
 *
 * @param wanted whether a step over such a span is to be held; a step is held as a whole or not at all
 * @param edge frames at either end of a step in which a foot may still come to stand, or leave already: one that stands exactly
 *   between them is left as it is, and one that strays too far is let go; null holds every step
 * @param soles height of a joint over its sole, where the feet are to be put on the floor; null leaves heights alone
 */
export function stepHolds(
  leg: Leg,
  plantings: readonly Planting[],
  placeAt: PlaceAt,
  soles: ((joint: number) => number) | null,
  wanted: (start: number, end: number) => boolean = () => true,
  edge: number | null = null,
): Hold[] {
  return groupSteps(plantings)
    .filter((step) => wanted(Math.min(...step.map((p) => p.start)), Math.max(...step.map((p) => p.end))))
    .flatMap((step) => {
      const holds = holdStep(leg, step, placeAt, soles);
      if (edge === null || holds.some((h) => h.byHand !== null)) return holds;
      const furthest = furthestCorrection(holds, edge, placeAt);
      if (furthest <= EXACT)
        return holds.map((h): Hold => ({ ...h, exact: true, before: NONE, after: NONE }));
      const weight = holdWeight(furthest);
      return weight === 1 ? holds : holds.map((h) => weakened(h, weight));
    });
}

/** Metres by which a foot is held at any cost of the leg, and from which on it is let go. */
export const HELD = 0.04;
const LET_GO = 0.08;

/**
 * Share of a correction that is made. Measured on capture: corrections up to 4 cm leave 95 % of joins without a pop of 1 cm,
 * 6 to 10 cm only half of them, 15 to 25 cm a fifth, and throw the knee by 23 degrees a frame.
 */
export function holdWeight(correction: number): number {
  const u = Math.min(1, Math.max(0, (correction - HELD) / (LET_GO - HELD)));
  return 1 - u * u * (3 - 2 * u);
}

/** A hold of which only a share of the correction is made; its height stays. */
export function weakened(hold: Hold, weight: number): Hold {
  const share = ({ x, y, z, vx, vz }: Correction): Correction => ({
    x: x * weight,
    y,
    z: z * weight,
    vx: vx * weight,
    vz: vz * weight,
  });
  return { ...hold, weight, before: share(hold.before), after: share(hold.after) };
}

/** How far a foot strays from its place by itself at most, but for the edges of its step, metres. */
function furthestCorrection(holds: readonly Hold[], edge: number, placeAt: PlaceAt): number {
  const spot = new Float64Array(3);
  const [begin, finish] = [holds[0]!.start, holds.at(-1)!.end];
  // A step that is all edges counts as a whole.
  const inner = finish - begin > 2 * edge ? edge : 0;
  const [first, last] = [begin + inner, finish - inner];
  let furthest = 0;
  for (const { start, end, joint, x, z } of holds)
    for (let f = Math.max(start, first); f <= Math.min(end, last); f++) {
      placeAt(f, joint, spot);
      furthest = Math.max(furthest, Math.hypot(x - spot[0]!, z - spot[2]!));
    }
  return furthest;
}

/** Plantings that touch or overlap, of either joint, are one step. */
function groupSteps(plantings: readonly Planting[]): Planting[][] {
  const steps: Planting[][] = [];
  let end = -Infinity;
  for (const planting of [...plantings].sort((a, b) => a.start - b.start)) {
    if (planting.start > end + TOUCHING) steps.push([]);
    steps.at(-1)!.push(planting);
    end = Math.max(end, planting.end);
  }
  return steps;
}

/** The stretches of a step in which one joint holds: the tip wherever it is planted, the ankle before and after. */
function stretches(leg: Leg, step: readonly Planting[]): Planting[] {
  const start = Math.min(...step.map((p) => p.start));
  const end = Math.max(...step.map((p) => p.end));
  const tips = step.filter((p) => p.joint === leg.tip).sort((a, b) => a.start - b.start);
  const out: Planting[] = [];
  let at = start;
  for (const tip of tips) {
    const touches = out.length > 0 && tip.start <= at + TOUCHING;
    if (tip.start > at && !touches) out.push({ ...step[0]!, start: at, end: tip.start, joint: leg.ankle });
    out.push({ ...tip, start: touches ? at : Math.max(at, tip.start) });
    at = tip.end;
  }
  if (at < end || out.length === 0) out.push({ ...step[0]!, start: at, end, joint: leg.ankle });
  // Neighbours of one joint are one stretch: a step that goes on across a seam keeps one place.
  return out.reduce<Planting[]>((list, s) => {
    const last = list.at(-1);
    if (last?.joint === s.joint)
      list[list.length - 1] = { ...last, byHand: joinedByHand(last, s), start: last.start, end: s.end };
    else list.push(s);
    return list;
  }, []);
}

/**
 * How a body is moved by hand while a foot stands on over a seam: by the way of each side while that rules, the second's turns on top of
 * what the first had turned. Where only one side of the seam is bent, the whole step keeps its direction by that side's way.
 */
function joinedByHand({ byHand: a, end }: Planting, { byHand: b }: Planting): ByHand | null {
  if (!a || !b || a === b) return a ?? b;
  const turned = a.turnAt(end) - b.turnAt(end);
  return {
    turnAt: (frame) => (frame <= end ? a.turnAt(frame) : turned + b.turnAt(frame)),
    movesAt: (frame) => (frame <= end ? a.movesAt(frame) : b.movesAt(frame)),
    steps: a.steps && b.steps,
    keepsPlaces: a.keepsPlaces || b.keepsPlaces,
  };
}

function holdStep(
  leg: Leg,
  step: readonly Planting[],
  placeAt: PlaceAt,
  soles: ((joint: number) => number) | null,
): Hold[] {
  const parts = stretches(leg, step);
  const length = (p: Planting): number => p.end - p.start + (p.joint === leg.tip ? 1e6 : 0);
  const main = parts.reduce((best, p, i) => (length(p) > length(parts[best]!) ? i : best), 0);
  const first = parts[main]!;
  const spot = new Float64Array(3);
  const until = first.byHand?.keepsPlaces ? stillUntil(first, first.byHand) : first.end;
  let [x, z] = [0, 0];
  for (const m of MOMENTS) {
    placeAt(first.start + m * (until - first.start), first.joint, spot);
    x += spot[0]! / MOMENTS.length;
    z += spot[2]! / MOMENTS.length;
  }
  const middle = (first.start + until) / 2;
  const turn = first.byHand?.turnAt(middle) ?? 0;
  const level = (joint: number): number | null => (soles && joint === leg.tip ? soles(joint) : null);
  const raise = soles && level(first.joint) === null ? soles(first.joint) - lowest(first, placeAt, spot) : 0;
  const holds: Hold[] = parts.map(({ start, end, joint }) => {
    return {
      start,
      end,
      joint,
      exact: false,
      weight: 1,
      x,
      z,
      level: level(joint),
      raise,
      turn,
      byHand: first.byHand,
      before: NONE,
      after: NONE,
      lift: null,
    };
  });
  const other = new Float64Array(3);
  const carry = (from: number, to: number, at: number): void => {
    const given = holds[from]!;
    placeAt(at, given.joint, spot);
    placeAt(at, holds[to]!.joint, other);
    // The whole foot turns about the held joint, by what the way has bent since the middle of the step.
    const [dx, dz] = [other[0]! - spot[0]!, other[2]! - spot[2]!];
    const bend = given.byHand ? turn - given.byHand.turnAt(at) : 0;
    const s = Math.sin(bend);
    const c = Math.cos(bend);
    const rise = given.level === null ? given.raise : given.level - spot[1]!;
    holds[to] = { ...holds[to]!, x: given.x + dx * c + dz * s, z: given.z - dx * s + dz * c, raise: rise };
  };
  for (let i = main + 1; i < parts.length; i++) carry(i - 1, i, parts[i]!.start);
  for (let i = main - 1; i >= 0; i--) carry(i + 1, i, parts[i]!.end);
  const last = holds.length - 1;
  holds[0] = { ...holds[0]!, before: correctionAt(holds[0]!, holds[0]!.start, -1, placeAt) };
  holds[last] = { ...holds[last]!, after: correctionAt(holds[last]!, holds[last]!.end, 1, placeAt) };
  return holds;
}

/** The last frame of a stretch before the body is moved by hand; its end where it is not. */
function stillUntil({ start, end }: Planting, byHand: ByHand): number {
  for (let frame = Math.floor(start) + 1; frame <= end; frame++)
    if (byHand.movesAt(frame)) return Math.max(start, frame - 1);
  return end;
}

/**
 * The correction of a hold at one of its ends, and its speed there while the foot is still held: what the hold moves, not what
 * the foot itself does once it leaves, or did before it stood.
 */
export function correctionAt(hold: Hold, frame: number, way: 1 | -1, placeAt: PlaceAt): Correction {
  const spot = new Float64Array(3);
  placeAt(frame, hold.joint, spot);
  const [x, z] = [hold.x - spot[0]!, hold.z - spot[2]!];
  const y = hold.level === null ? hold.raise : hold.level - spot[1]!;
  if (hold.end - hold.start < 1) return { x, y, z, vx: 0, vz: 0 };
  placeAt(frame - way, hold.joint, spot);
  const [nx, nz] = [hold.x - spot[0]!, hold.z - spot[2]!];
  return { x, y, z, vx: (x - nx) * way, vz: (z - nz) * way };
}

function lowest(part: Planting, placeAt: PlaceAt, spot: Float64Array): number {
  let low = Infinity;
  const count = Math.max(1, Math.ceil(part.end - part.start));
  for (let i = 0; i <= count; i++) {
    placeAt(part.start + ((part.end - part.start) * i) / count, part.joint, spot);
    low = Math.min(low, spot[1]!);
  }
  return low;
}
