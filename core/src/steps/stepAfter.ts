import type { Hold, LegHolds } from './footHolds';
import type { PlaceAt } from './stepHolds';
import { HELD, correctionAt, weakened } from './stepHolds';

/** A way over the floor, and a turn, that one step of each foot covers at most: metres, radians. */
const STRIDE = 0.35;
const TURN = Math.PI / 3;
/** How many times as far a step goes where there is no time for more of them. */
const HURRIED = 1.6;
/** Shortest and preferred swing, seconds (as of made steps). */
const SHORTEST = 7 / 30;
const PREFERRED = 0.4;
/** Metres that a foot which cannot step is dragged before it slides along instead of stretching its leg. */
const STRETCHED = 0.3;
/** How high a foot is raised: so many metres and this share of its way. */
const CLEARANCE = { least: 0.025, share: 0.08 };

/** How far a body that stands on all its feet has been moved by hand: in steps, by frame from `start`. */
interface Drift {
  readonly start: number;
  readonly end: number;
  readonly passed: Float64Array;
  readonly steps: number;
  /** Legs that step at the same time, in turn: one by one, or on four legs in diagonal pairs where there is no time for that. */
  readonly turns: readonly (readonly number[])[];
  /** How far a foot is dragged at most, metres. */
  readonly dragged: number;
}

/** When one foot is in the air, frames. */
interface Swing {
  readonly leg: number;
  readonly leaves: number;
  readonly lands: number;
  /** The frame whose place it lands on. */
  readonly place: number;
}

/**
 * The holds of a body's feet where it is moved by hand while it stands: feet that would be dragged further than a lock bears
 * step after the body, one at a time, each over a stride at most. The first is the one on the side that the body is moved to. Where
 * they cannot keep up, they stay where they are, or slide along where that is further than a leg bears.
 *
 * @param legs with the holds of where each foot would stand; not changed
 * @param fps frames a second
 * @returns the same where nothing is to be stepped after
 */
export function stepAfter(legs: readonly LegHolds[], placeAt: PlaceAt, fps: number): readonly LegHolds[] {
  return standings(legs).reduce((now, { start, end }) => stepWithin(now, start, end, placeAt, fps), legs);
}

interface Frames {
  readonly start: number;
  readonly end: number;
}

/** Holds that follow each other without a break, or by steps that were made: while the clip has the foot stand. */
function stances(holds: readonly Hold[]): Frames[] {
  const out: Frames[] = [];
  for (const { start, end, lift } of holds) {
    const last = out.at(-1);
    if (last && (lift !== null || start <= last.end + 1)) out[out.length - 1] = { start: last.start, end };
    else out.push({ start, end });
  }
  return out;
}

/** The spans in which all legs stand. */
function standings(legs: readonly LegHolds[]): Frames[] {
  const [first, ...others] = legs.map((l) => stances(l.holds));
  return others.reduce<Frames[]>(
    (spans, next) =>
      spans.flatMap((a) =>
        next
          .map((b) => ({ start: Math.max(a.start, b.start), end: Math.min(a.end, b.end) }))
          .filter((s) => s.end > s.start),
      ),
    first ?? [],
  );
}

function stepWithin(
  legs: readonly LegHolds[],
  start: number,
  end: number,
  placeAt: PlaceAt,
  fps: number,
): readonly LegHolds[] {
  const drift = driftOf(legs, Math.ceil(start), Math.floor(end), placeAt, fps);
  if (!drift) return legs;
  const swings = schedule(drift, fps);
  if (!swings) return drift.dragged > STRETCHED ? legs.map((leg) => letGo(leg, drift)) : legs;
  return legs.map((leg, l) =>
    withSwings(
      leg,
      swings.filter((s) => s.leg === l),
      drift,
      placeAt,
    ),
  );
}

/** The holds of a leg, those that a standing body would be dragged through let go. */
const letGo = (leg: LegHolds, { start, end }: Drift): LegHolds => ({
  ...leg,
  holds: leg.holds.map((h) => (h.end < start || h.start > end ? h : weakened(h, 0))),
});

const _spot = new Float64Array(3);

/** The hold of a leg at a frame. */
const holdAt = ({ holds }: LegHolds, frame: number): Hold | undefined =>
  holds.find((h) => h.start <= frame && frame <= h.end);

const turnAt = (hold: Hold, frame: number): number => hold.byHand?.turnAt(frame) ?? 0;

/** Null where the body is not moved by hand, or no foot is dragged further than a lock bears. */
function driftOf(
  legs: readonly LegHolds[],
  start: number,
  end: number,
  placeAt: PlaceAt,
  fps: number,
): Drift | null {
  const passed = new Float64Array(Math.max(1, end - start + 1));
  let furthest = 0;
  let before: number[] | null = null;
  for (let f = start; f <= end; f++) {
    const now = [0, 0, 0];
    for (const leg of legs) {
      const hold = holdAt(leg, f);
      if (!hold?.byHand?.steps) return null;
      // The same joint throughout: where the foot rolls over is none of the body's way.
      placeAt(f, leg.leg.ankle, _spot);
      now[0]! += _spot[0]! / legs.length;
      now[1]! += _spot[2]! / legs.length;
      now[2]! += turnAt(hold, f) / legs.length;
      placeAt(f, hold.joint, _spot);
      furthest = Math.max(furthest, Math.hypot(hold.x - _spot[0]!, hold.z - _spot[2]!));
    }
    const moves = legs.some((leg) => holdAt(leg, f)?.byHand?.movesAt(f));
    // What the clips do besides, as over a seam, is none of the hand's way.
    if (before)
      passed[f - start] =
        passed[f - start - 1]! +
        (moves ? Math.hypot(now[0]! - before[0]!, now[1]! - before[1]!) / STRIDE : 0) +
        Math.abs(now[2]! - before[2]!) / TURN;
    before = now;
  }
  const whole = passed.at(-1)!;
  if (furthest <= HELD || whole * STRIDE < HELD) return null;
  const way = { start, end, passed };
  const time = frameOf(way, 0.98) - frameOf(way, 0.02);
  const usual = Math.ceil(whole - 1e-6);
  const least = Math.ceil(whole / HURRIED);
  const inTime = (turns: Drift['turns']): number => Math.floor(time / (turns.length * SHORTEST * fps));
  const order = stepOrder(legs, way, placeAt);
  const alone = order.map((leg) => [leg]);
  const turns = inTime(alone) < least ? diagonals(legs, order) : alone;
  const steps = Math.max(1, Math.min(usual, Math.max(least, inTime(turns))));
  return { ...way, steps, turns, dragged: furthest };
}

/** The legs of a four-legged body in the pairs in which a trot moves them; others one by one. */
function diagonals(legs: readonly LegHolds[], order: readonly number[]): Drift['turns'] {
  if (legs.length !== 4) return order.map((leg) => [leg]);
  const pairOf = (l: number): boolean => {
    const { side, front } = legs[l]!.leg;
    return (side === 'left') === front;
  };
  const first = pairOf(order[0]!);
  return [order.filter((l) => pairOf(l) === first), order.filter((l) => pairOf(l) !== first)];
}

/** The first frame by which a share of the way has been passed, straight between frames. */
function frameOf({ start, passed }: Pick<Drift, 'start' | 'passed'>, share: number): number {
  const wanted = share * passed.at(-1)!;
  let i = 1;
  while (i < passed.length - 1 && passed[i]! < wanted) i++;
  const [a, b] = [passed[i - 1]!, passed[i]!];
  return start + i - 1 + (b > a ? Math.min(1, Math.max(0, (wanted - a) / (b - a))) : 0);
}

/** When each foot leaves and lands, in order; null where there is not time enough. */
function schedule(drift: Drift, fps: number): readonly Swing[] | null {
  const { turns } = drift;
  const centres = Array.from({ length: drift.steps }, (_, k) =>
    turns.map((legs, rank) => {
      const share = (at: number): number => (k + at) / drift.steps;
      const phase = (rank + 0.5) / turns.length;
      const last = k === drift.steps - 1;
      const at = last ? 1 : Math.min(1, share(phase + 0.5));
      const place = Math.min(drift.end, Math.ceil(frameOf(drift, at)));
      return { legs, place, centre: frameOf(drift, share(phase)) };
    }),
  ).flat();
  const gaps = centres.slice(1).map((c, i) => c.centre - centres[i]!.centre);
  const length = Math.round(Math.min(PREFERRED * fps, Math.max(SHORTEST * fps, Math.min(...gaps))));
  const swings: Swing[] = [];
  let free = drift.start;
  for (const { legs, place, centre } of centres) {
    const leaves = Math.max(free, Math.round(centre - length / 2));
    free = leaves + length;
    if (free > drift.end) return null;
    for (const leg of legs) swings.push({ leg, leaves, lands: free, place });
  }
  return swings;
}

/** The legs in the order in which they step: those on the side that the body is moved to first. */
function stepOrder(
  legs: readonly LegHolds[],
  { start, end }: Pick<Drift, 'start' | 'end'>,
  placeAt: PlaceAt,
): number[] {
  const at = (leg: LegHolds, frame: number): readonly [number, number] => {
    placeAt(frame, leg.leg.ankle, _spot);
    return [_spot[0]!, _spot[2]!];
  };
  const mean = (frame: number): readonly [number, number] => {
    const places = legs.map((leg) => at(leg, frame));
    const sum = (k: 0 | 1): number => places.reduce((n, p) => n + p[k], 0) / places.length;
    return [sum(0), sum(1)];
  };
  const [from, to] = [mean(start), mean(end)];
  const ahead = legs.map((leg) => {
    const [x, z] = at(leg, start);
    return (x - from[0]) * (to[0] - from[0]) + (z - from[1]) * (to[1] - from[1]);
  });
  return legs.map((_, l) => l).sort((a, b) => ahead[b]! - ahead[a]!);
}

/** The holds of a leg with those of a standing foot replaced by the stances between its swings. */
function withSwings(legHolds: LegHolds, swings: readonly Swing[], drift: Drift, placeAt: PlaceAt): LegHolds {
  const { holds } = legHolds;
  const { start, end } = stances(holds).find((s) => s.start <= drift.start && s.end >= drift.end)!;
  // What was stepped before stays: a foot may stand through several spans in which the others stand as well.
  const former = holdAt(legHolds, drift.start);
  const goesOn = former && former.lift !== null ? former : null;
  const inside = holds.filter((h) => h.end <= end && h.start >= (goesOn ? goesOn.start : start));
  const main = inside.reduce((a, b) => (b.end - b.start > a.end - a.start ? b : a));
  const stance = (from: number, to: number, place: number): Hold => {
    placeAt(place, main.joint, _spot);
    const [x, z] = [_spot[0]!, _spot[2]!];
    return { ...main, start: from, end: to, x, z, exact: false, weight: 1, turn: turnAt(main, place) };
  };
  const first = swings[0]!.leaves;
  const made = [goesOn ? { ...goesOn, end: first } : stance(start, first, drift.start)];
  swings.forEach(({ lands, place }, i) => {
    const before = made.at(-1)!;
    const next = stance(lands, swings[i + 1]?.leaves ?? end, place);
    const way = Math.hypot(next.x - before.x, next.z - before.z);
    made.push({ ...next, lift: CLEARANCE.least + CLEARANCE.share * way });
  });
  const last = made.length - 1;
  if (!goesOn) made[0] = { ...made[0]!, before: correctionAt(made[0]!, start, -1, placeAt) };
  made[last] = { ...made[last]!, after: correctionAt(made[last]!, end, 1, placeAt) };
  const others = holds.filter((h) => !inside.includes(h));
  return { ...legHolds, holds: [...others, ...made].sort((a, b) => a.start - b.start) };
}
