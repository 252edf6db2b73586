import type { Edit, FootfallTimes, Join, LandingPlace, Rate, Seam, Segment, Stepping } from '@warper/core';
import { MAX_LANDING, PLAIN_STEP, settleFrames, stepFrames } from '@warper/core';

/**
 * The one edit that makes the seam before a segment of another kind: a cut and what settles share no frames, and a crossfade or
 * a step that shares none yet gets as many as the two motions ask for.
 *
 * @param overlap how many frames it shares with the segment before now
 */
export function joinEdit(
  { id, name }: Pick<Segment, 'id' | 'name'>,
  join: Join,
  overlap: number,
  rate: Rate,
): Edit {
  const frames = sharedFrames(join, overlap, rate);
  return {
    type: 'several',
    label: `seam before ${name}`,
    edits: [
      ...(frames === overlap ? [] : [{ type: 'overlap', segment: id, frames } as const]),
      { type: 'seam', segment: id, values: {}, join },
    ],
  };
}

/** The frames that a seam of a kind shares: those that it has, where they do for it. */
function sharedFrames({ kind }: Join, overlap: number, rate: Rate): number | 'auto' {
  if (kind === 'step') return Math.max(overlap, stepFrames(rate));
  return kind === 'crossfade' ? overlap || 'auto' : 0;
}

/** A seam whose step is made: as it is already, or with all its footfalls found. */
export const stepping = (seam: Seam): Join => (seam.kind === 'step' ? seam : PLAIN_STEP);

/** A seam that settles: as it does already, or in the usual time. */
export const settling = (seam: Seam, rate: Rate): Join =>
  seam.kind === 'settle' ? seam : { kind: 'settle', frames: settleFrames(rate) };

/** A made step with the times of one foot set, by the foot's role. */
export const withFootfall = (join: Stepping, role: string, times: FootfallTimes): Stepping => ({
  ...join,
  footfalls: { ...join.footfalls, [role]: times },
});

/** Metres below which a foot lands where it does by itself. */
const NOWHERE = 5e-4;

/** A made step with one foot landing elsewhere, by the foot's role; where it does by itself it is left out. */
export function withLanding(join: Stepping, role: string, { x, z }: LandingPlace): Stepping {
  const { [role]: _, ...others } = join.landings;
  const moved = Math.abs(x) > NOWHERE || Math.abs(z) > NOWHERE;
  return { ...join, landings: moved ? { ...others, [role]: { x, z } } : others };
}

const withinReach = (v: number): number => Math.min(Math.max(v, -MAX_LANDING), MAX_LANDING);

/**
 * Where a foot lands that is moved over the floor.
 *
 * @param by metres in the scene; `heading` of the root at the end of the seam, radians
 */
export function landingBy(from: LandingPlace | undefined, by: LandingPlace, heading: number): LandingPlace {
  const [s, c] = [Math.sin(heading), Math.cos(heading)];
  return {
    x: withinReach((from?.x ?? 0) + by.x * c - by.z * s),
    z: withinReach((from?.z ?? 0) + by.x * s + by.z * c),
  };
}
