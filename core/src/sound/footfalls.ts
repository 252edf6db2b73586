import { makePoseBuffer } from '../clip/pose';
import { evaluate } from '../footlock/evaluate';
import { isPlanted } from '../plan/planted';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { segmentAt } from '../plan/segmentAt';
import { legsOf } from '../skeleton/legs';

/** A foot that comes down in a performance. */
export interface Footfall {
  /** The first frame at which it stands. */
  readonly frame: number;
  /** Number of the leg in `legsOf`. */
  readonly leg: number;
  /** How fast the character went while the foot was up, m/s. */
  readonly speed: number;
}

/** Seconds for which a foot must be up for its landing to be heard, and over which the speed is taken. */
const UP_SECONDS = 0.08;
const SPEED_SECONDS = 0.25;

/**
 * When the feet of a character come down, as they are performed: by the steps of the clips, of a crossfade by those of the side that weighs more,
 * and by the steps that a seam makes. A foot that stood before its segment began does not come down with it.
 */
export function footfallsOf(plan: CharacterPlan, fps: number): Footfall[] {
  const legs = new Set(plan.segments.flatMap((s) => s.steps().joints.map((j) => j.leg)));
  const least = Math.max(1, Math.round(UP_SECONDS * fps));
  const found: Omit<Footfall, 'speed'>[] = [];
  for (const leg of legs) {
    // Whoever is there at first stands there.
    let up = 0;
    for (let frame = Math.ceil(plan.start); frame < plan.end; frame++) {
      const stands = standsAt(plan, leg, frame);
      if (stands && up >= least) found.push({ frame, leg });
      up = stands ? 0 : up + 1;
    }
  }
  const buffer = makePoseBuffer(plan.skeleton);
  const placeAt = (frame: number): readonly [number, number] => {
    const { root } = evaluate(plan, frame, buffer);
    return [root[0]!, root[1]!];
  };
  return found
    .sort((a, b) => a.frame - b.frame || a.leg - b.leg)
    .map(({ frame, leg }) => {
      const before = Math.max(plan.start, frame - SPEED_SECONDS * fps);
      const [[x, z], [oldX, oldZ]] = [placeAt(frame), placeAt(before)];
      const seconds = (frame - before) / fps;
      return { frame, leg, speed: seconds > 0 ? Math.hypot(x - oldX, z - oldZ) / seconds : 0 };
    });
}

/** Whether a leg stands at a frame. Between segments, where a pose is held, it does. */
function standsAt(plan: CharacterPlan, leg: number, frame: number): boolean {
  const index = segmentAt(plan.segments, frame);
  const segment = plan.segments[index];
  if (!segment || frame >= segment.end) return true;
  const passed = frame - segment.start;
  const made = segment.madeStep;
  if (made && passed < segment.overlap) {
    const ankle = legsOf(plan.skeleton)[leg]?.ankle;
    const foot = made.feet[made.legs.findIndex((l) => l.ankle === ankle)];
    if (foot) return !(foot.swings && passed > foot.leaves && passed < foot.lands);
  }
  const outgoing = plan.segments[index - 1];
  const heard = outgoing && passed < segment.overlap / 2 ? outgoing : segment;
  return legStands(heard, leg, frame);
}

const legStands = (segment: SegmentPlan, leg: number, frame: number): boolean =>
  segment.steps().joints.some((j) => j.leg === leg && isPlanted(segment, j.joint, frame));
