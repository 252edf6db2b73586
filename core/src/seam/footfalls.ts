import { bump, minimumJerk } from '../math/curve';
import type { Swing } from '../steps/swings';

/** One step of one foot, in frames from the start of its seam. */
export interface Footfall {
  /** When the foot leaves its old place, and when it comes to its new one. */
  readonly leaves: number;
  readonly lands: number;
  /** Metres by which it is raised in its middle, on top of what the clips raise it themselves. */
  readonly lift: number;
  /** Whether it takes a step; where both places are one it only goes along, and may stand all the while. */
  readonly swings: boolean;
}

/** Frames that are known before the start and after the end of a seam. */
export const FOOT_MARGIN = 2;

/** A foot over a seam of `length` frames: index i is frame i - FOOT_MARGIN, up to length + FOOT_MARGIN. */
export interface FootTracks {
  /** Places of the ankle on the outgoing and on the incoming side, x 3, metres. */
  readonly from: Float64Array;
  readonly to: Float64Array;
  /** Places of the toes, or of the ankle where there are none. */
  readonly tipFrom: Float64Array;
  readonly tipTo: Float64Array;
  /** Whether the foot stands there. */
  readonly plantedFrom: Uint8Array;
  readonly plantedTo: Uint8Array;
  /** Places of the joint that the leg hangs on, x 3, and how far the leg reaches, metres. */
  readonly hip: Float64Array;
  readonly reach: number;
}

/** Share of its full length to which a leg is stretched at most before the hips come down, and how far they do, metres. */
export const SURE_STEP_REACH = 0.985;
export const MAX_STEP_LOWERING = 0.05;

/** Shortest, longest and preferred swing, seconds (common practice: 7, 17 and 12 frames at 30 a second). */
const SHORTEST = 7 / 30;
const LONGEST = 17 / 30;
const PREFERRED = 0.4;
/** Weight of the share by which a swing misses the preferred one. */
const PREFERENCE = 0.2;
/** Cost of a frame (at 30 a second) in which too many feet are up though they are not in the clips. */
const AIRBORNE = 0.5;
/** Metres beyond reach that cost as much as one ordinary swing. */
const OVERREACH = 0.02;
/** Metres up to which two places of a standing foot are one, and two of its toes, about which it may turn a little. */
const SAME_PLACE = 0.004;
const SAME_TIP = 0.01;
/** How high a foot is raised: so many metres, less on a way that is shorter than it, and this share of its way. */
const CLEARANCE = { least: 0.025, short: 0.5, share: 0.08 };

interface Candidate {
  readonly footfall: Footfall;
  readonly cost: number;
  /** Whether the foot is up, by frame. */
  readonly up: Uint8Array;
}

/**
 * Chooses when each foot leaves and lands so that its swing asks for little more than an ordinary one: pop^2 + acceleration^2 +
 * speed^2, each over its ordinary value, with both feet in the air only where they are in the clips.
 *
 * @param given the times of feet that the user has set, null for those to be found
 * @returns one for each foot
 */
export function chooseFootfalls(
  feet: readonly FootTracks[],
  length: number,
  framesPerSecond: number,
  ordinary: Swing,
  given: readonly (readonly [number, number] | null)[] = [],
): Footfall[] {
  const candidates = feet.map((foot, i) =>
    candidatesOf(foot, length, framesPerSecond, ordinary, given[i] ?? null),
  );
  const allowed = airborneInClips(feet, length);
  const weight = (AIRBORNE * 30) / framesPerSecond;
  let chosen = candidates.map((list) => list.reduce((a, b) => (b.cost < a.cost ? b : a)));
  if (feet.length === 2) {
    let least = Infinity;
    const [left, right] = candidates as [Candidate[], Candidate[]];
    for (const a of left)
      for (const b of right) {
        const cost = a.cost + b.cost;
        if (cost >= least) continue;
        const whole = cost + weight * excessInAir([a, b], allowed);
        if (whole < least) [least, chosen] = [whole, [a, b]];
      }
  } else for (let round = 0; round < 2; round++) chosen = improve(candidates, chosen, allowed, weight);
  return chosen.map((c) => c.footfall);
}

/** Each foot in turn takes what is best beside the others. */
function improve(
  candidates: readonly Candidate[][],
  chosen: readonly Candidate[],
  allowed: Uint8Array,
  weight: number,
): Candidate[] {
  const current = [...chosen];
  candidates.forEach((list, i) => {
    let least = Infinity;
    let best = current[i]!;
    for (const c of list) {
      current[i] = c;
      const cost = c.cost + weight * excessInAir(current, allowed);
      if (cost < least) [least, best] = [cost, c];
    }
    current[i] = best;
  });
  return current;
}

/** How many feet may be up at each frame: as many as in either clip, but all of them only where they are in a clip. */
function airborneInClips(feet: readonly FootTracks[], length: number): Uint8Array {
  return Uint8Array.from({ length: length + 1 }, (_, f) => {
    const up = (side: 'plantedFrom' | 'plantedTo'): number =>
      feet.reduce((n, foot) => n + (foot[side][f + FOOT_MARGIN] ? 0 : 1), 0);
    return Math.max(up('plantedFrom'), up('plantedTo'), Math.floor(feet.length / 2));
  });
}

function excessInAir(chosen: readonly Candidate[], allowed: Uint8Array): number {
  let sum = 0;
  for (let f = 0; f < allowed.length; f++) {
    let up = 0;
    for (let i = 0; i < chosen.length; i++) up += chosen[i]!.up[f]!;
    if (up > allowed[f]!) sum += up - allowed[f]!;
  }
  return sum;
}

function candidatesOf(
  foot: FootTracks,
  length: number,
  framesPerSecond: number,
  ordinary: Swing,
  given: readonly [number, number] | null,
): Candidate[] {
  if (given) {
    const leaves = Math.min(Math.max(given[0], 0), Math.max(0, length - 1));
    const lands = Math.min(Math.max(given[1], leaves + 1), length);
    return [candidate(foot, length, leaves, lands, framesPerSecond, ordinary)];
  }
  if (staysInPlace(foot, length)) {
    const footfall: Footfall = { leaves: 0, lands: length, lift: 0, swings: false };
    return [{ footfall, cost: 0, up: new Uint8Array(length + 1) }];
  }
  const shortest = Math.min(length, Math.max(2, Math.round(SHORTEST * framesPerSecond)));
  const longest = Math.min(length, Math.round(LONGEST * framesPerSecond));
  const stride = Math.max(1, Math.round(framesPerSecond / 30));
  const out: Candidate[] = [];
  for (let swing = shortest; swing <= Math.max(shortest, longest); swing += stride)
    for (let leaves = 0; leaves + swing <= length; leaves += stride)
      out.push(candidate(foot, length, leaves, leaves + swing, framesPerSecond, ordinary));
  return out;
}

/** Whether a foot stands on both sides all the while, on one place and facing one way. */
function staysInPlace(foot: FootTracks, length: number): boolean {
  const apart = (a: Float64Array, b: Float64Array, f: number): number =>
    Math.hypot(a[f * 3]! - b[f * 3]!, a[f * 3 + 2]! - b[f * 3 + 2]!);
  for (let f = FOOT_MARGIN; f <= length + FOOT_MARGIN; f++) {
    if (!foot.plantedFrom[f] || !foot.plantedTo[f]) return false;
    if (apart(foot.from, foot.to, f) > SAME_PLACE || apart(foot.tipFrom, foot.tipTo, f) > SAME_TIP)
      return false;
  }
  return true;
}

function candidate(
  foot: FootTracks,
  length: number,
  leaves: number,
  lands: number,
  framesPerSecond: number,
  ordinary: Swing,
): Candidate {
  const footfall: Footfall = { leaves, lands, lift: liftOf(foot, leaves, lands), swings: true };
  const path = footPath(foot, footfall, length);
  const worst = { pop: 0, acceleration: 0, speed: 0, beyond: 0 };
  for (let f = 0; f <= length; f++) {
    const i = f + FOOT_MARGIN;
    worst.beyond = Math.max(worst.beyond, distance(path, i, foot.hip, i) - foot.reach);
    if (f < leaves || f > lands) continue;
    worst.speed = Math.max(worst.speed, differenceOf(path, i, SPEED));
    worst.acceleration = Math.max(worst.acceleration, differenceOf(path, i + 1, ACCELERATION));
    worst.pop = Math.max(worst.pop, differenceOf(path, i + 1, POP));
  }
  const preference = (lands - leaves) / framesPerSecond / PREFERRED - 1;
  const cost =
    (worst.pop / ordinary.pop) ** 2 +
    (worst.acceleration / ordinary.acceleration) ** 2 +
    (worst.speed / ordinary.speed) ** 2 +
    (Math.max(0, worst.beyond) / OVERREACH) ** 2 +
    PREFERENCE * preference * preference;
  const up = Uint8Array.from({ length: length + 1 }, (_, f) =>
    f > leaves && f < lands ? 1 : (f <= leaves ? foot.plantedFrom : foot.plantedTo)[f + FOOT_MARGIN] ? 0 : 1,
  );
  return { footfall, cost, up };
}

/** How far a foot has to be raised beyond what the clips raise it to clear the floor. */
function liftOf({ from, to, tipFrom, tipTo }: FootTracks, leaves: number, lands: number): number {
  const place = (side: Float64Array, frame: number, k: number): number => {
    const last = side.length / 3 - 1;
    const x = Math.min(Math.max(frame + FOOT_MARGIN, 0), last);
    const a = Math.floor(x);
    const v = side[a * 3 + k]!;
    return v + (x - a) * (side[Math.min(a + 1, last) * 3 + k]! - v);
  };
  const wayOf = (a: Float64Array, b: Float64Array): number =>
    Math.hypot(place(b, lands, 0) - place(a, leaves, 0), place(b, lands, 2) - place(a, leaves, 2));
  // A foot that turns where it stands is raised for its toes.
  const way = Math.max(wayOf(from, to), wayOf(tipFrom, tipTo));
  const wanted = Math.min(CLEARANCE.least, CLEARANCE.short * way) + CLEARANCE.share * way;
  const middle = (leaves + lands) / 2;
  const raised = (place(from, middle, 1) + place(to, middle, 1)) / 2;
  const flat = (place(from, leaves, 1) + place(to, lands, 1)) / 2;
  return Math.min(wanted, Math.max(0, wanted - (raised - flat)));
}

/** The way of the ankle over the seam: frames x 3. */
export function footPath(
  { from, to }: FootTracks,
  { leaves, lands, lift }: Footfall,
  length: number,
): Float64Array {
  const out = new Float64Array(from.length);
  for (let f = -FOOT_MARGIN; f <= length + FOOT_MARGIN; f++) {
    const u = (f - leaves) / (lands - leaves);
    const w = minimumJerk(u);
    const o = (f + FOOT_MARGIN) * 3;
    // A side without samples beyond its own end says nothing there.
    for (let k = 0; k < 3; k++)
      out[o + k] =
        w <= 0 ? from[o + k]! : w >= 1 ? to[o + k]! : from[o + k]! + w * (to[o + k]! - from[o + k]!);
    out[o + 1]! += lift * bump(u);
  }
  return out;
}

const SPEED = [1, -1];
const ACCELERATION = [1, -2, 1];
const POP = [-0.5, 1.5, -1.5, 0.5];

/** Length of a weighted sum of places at index i and before it. */
function differenceOf(path: Float64Array, i: number, weights: readonly number[]): number {
  let square = 0;
  for (let k = 0; k < 3; k++) {
    let sum = 0;
    for (let n = 0; n < weights.length; n++) sum += weights[n]! * path[(i - n) * 3 + k]!;
    square += sum * sum;
  }
  return Math.sqrt(square);
}

const distance = (a: Float64Array, i: number, b: Float64Array, j: number): number =>
  Math.hypot(a[i * 3]! - b[j * 3]!, a[i * 3 + 1]! - b[j * 3 + 1]!, a[i * 3 + 2]! - b[j * 3 + 2]!);
