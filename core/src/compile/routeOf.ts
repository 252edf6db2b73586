import { makePoseBuffer } from '../clip/pose';
import type { Segment } from '../scene/segment';
import { movesBetween, wayAlongPath, wayThroughSpots } from '../travel/route';
import type { SegmentPlan } from '../plan/plan';
import { segmentPose } from '../plan/segmentPose';

/** The floor moves of each frame that bend a placed segment's way along its path and through its marks. */
export function routeOf(plan: SegmentPlan, segment: Segment, framesPerSecond: number): Float64Array {
  const frames = plan.end - plan.start + 1;
  const way = new Float64Array(frames * 3);
  const buffer = makePoseBuffer(plan.clip.skeleton);
  for (let f = 0; f < frames; f++) {
    way.set(segmentPose(plan, plan.start + f, true, buffer).root, f * 3);
  }
  const along =
    segment.travel === 'path' && segment.path.length > 0
      ? wayAlongPath(way, segment.path, framesPerSecond)
      : way;
  const spots = segment.marks.map((m) => ({
    frame: m.frame,
    x: m.x,
    z: m.z,
    turn: (m.heading * Math.PI) / 180,
  }));
  return movesBetween(way, spots.length > 0 ? wayThroughSpots(along, spots, framesPerSecond) : along);
}
