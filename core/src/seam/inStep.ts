import { curveWeight } from '../math/curve';
import type { Handle, Spline } from '../math/spline';
import { monotoneSpline, splineSlope } from '../math/spline';

/** A foot's strike or lift, so many frames after a crossfade begins. */
export interface StepEvent {
  readonly joint: number;
  readonly kind: 'strike' | 'lift';
  readonly frame: number;
}

/** How time is bent on both sides of a crossfade: frames after its start -> frames after its start. */
export interface StepWarp {
  readonly outgoing: Spline;
  readonly incoming: Spline;
}

/** Slowest and fastest that a side may run. */
const SPEEDS = { least: 0.5, most: 2 };
/** Points of an overlap at which speeds are checked. */
const CHECKS = 64;

/**
 * Bends the time of both sides within an overlap so that their feet strike and lift together (after Kovar and Gleicher,
 * "Flexible Automatic Motion Blending with Registration Curves", SCA 2003): each pair of like events meets where the
 * weights say. A side runs as it is where it has full weight; its other end is free. Speeds stay between a half and two.
 *
 * @param frames length of the overlap
 * @returns null where there is nothing to bring together, or a reason why it cannot be
 */
export function alignSteps(
  outgoing: readonly StepEvent[],
  incoming: readonly StepEvent[],
  frames: number,
): StepWarp | string | null {
  if (outgoing.length === 0 && incoming.length === 0) return null;
  const pairs = pairEvents(outgoing, incoming, frames);
  if (pairs.length === 0) return 'The two sides have no like steps within the overlap.';
  for (let left = pairs; left.length > 0; left = withoutWorst(left)) {
    const warp = makeWarp(left, frames);
    if (warp) return warp;
  }
  return 'The steps of the two sides are too far apart: one would have to run more than twice as fast, or as slow.';
}

/** Two like events, and where they meet. */
interface Pair {
  readonly out: number;
  readonly into: number;
  readonly meet: number;
}

function pairEvents(outgoing: readonly StepEvent[], incoming: readonly StepEvent[], frames: number): Pair[] {
  const pairs: Pair[] = [];
  for (const a of outgoing) {
    const like = incoming.filter((b) => b.joint === a.joint && b.kind === a.kind);
    if (like.length === 0) continue;
    const b = like.reduce((best, e) =>
      Math.abs(e.frame - a.frame) < Math.abs(best.frame - a.frame) ? e : best,
    );
    const w = curveWeight('smooth', (a.frame + b.frame) / 2 / frames);
    const meet = a.frame + w * (b.frame - a.frame);
    if (meet > 0 && meet < frames) pairs.push({ out: a.frame, into: b.frame, meet });
  }
  return pairs.sort((p, q) => p.meet - q.meet);
}

function withoutWorst(pairs: readonly Pair[]): Pair[] {
  const apart = (p: Pair): number => Math.abs(p.out - p.into);
  const worst = pairs.reduce((w, p) => (apart(p) > apart(w) ? p : w));
  return pairs.filter((p) => p !== worst);
}

function makeWarp(pairs: readonly Pair[], frames: number): StepWarp | null {
  const first = pairs[0]!;
  const last = pairs.at(-1)!;
  const out: Handle[] = [
    [0, 0],
    ...pairs.map((p): Handle => [p.meet, p.out]),
    [frames, last.out + frames - last.meet],
  ];
  const into: Handle[] = [
    [0, first.into - first.meet],
    ...pairs.map((p): Handle => [p.meet, p.into]),
    [frames, frames],
  ];
  for (const points of [out, into])
    for (let i = 1; i < points.length; i++)
      if (points[i]![0] - points[i - 1]![0] < 0.5 || points[i]![1] <= points[i - 1]![1]) return null;
  const outgoing = monotoneSpline(out);
  const incoming = monotoneSpline(into);
  outgoing.slope[0] = 1;
  incoming.slope[incoming.slope.length - 1] = 1;
  return bearable(outgoing, frames) && bearable(incoming, frames) ? { outgoing, incoming } : null;
}

function bearable(spline: Spline, frames: number): boolean {
  for (let i = 0; i <= CHECKS; i++) {
    const speed = splineSlope(spline, (frames * i) / CHECKS);
    if (speed < SPEEDS.least || speed > SPEEDS.most) return false;
  }
  return true;
}
