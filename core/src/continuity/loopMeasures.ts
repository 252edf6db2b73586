import type { Clip } from '../clip/clip';
import { jointTracks } from '../clip/jointTracks';
import { cloudJoints } from '../clip/pointCloud';
import { derivation } from '../memory/memory';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';

/** What closing a loop asks of the motion, at the end of each of its cycles. */
export interface LoopMeasure {
  /** By how much a joint is carried faster than in the clip as it was recorded, at most, centimetres a frame. */
  readonly surgeCm: number;
  readonly joint: string;
  /** First frame of the bent end of the first cycle, and the one after it. */
  readonly frame: number;
  readonly end: number;
}

const NOTHING = { metres: 0, joint: '', first: 0 };

/** The most that the bent end of a clip asks beyond the clip as it was recorded, metres a sample. */
const bentBy = derivation('bent by', 500, (_, played: Clip, recorded: Clip, last: number) => {
  const joints = cloudJoints(played.skeleton);
  const [bent, own] = [played, recorded].map((clip) => jointTracks(clip, joints)) as [
    Float64Array,
    Float64Array,
  ];
  const width = joints.length * 3;
  const step = (tracks: Float64Array, s: number, j: number): number =>
    Math.hypot(
      ...[0, 1, 2].map((k) => tracks[(s + 1) * width + j * 3 + k]! - tracks[s * width + j * 3 + k]!),
    );
  let most = NOTHING;
  let first = last;
  for (let s = last - 1; s >= 0; s--) {
    const differs = bent.subarray(s * width, (s + 1) * width).some((v, i) => v !== own[s * width + i]);
    if (!differs) break;
    first = s;
  }
  for (let s = Math.max(0, first - 1); s < last; s++)
    joints.forEach((joint, j) => {
      const metres = step(bent, s, j) - step(own, s, j);
      if (metres > most.metres) most = { metres, joint: played.skeleton.names[joint]!, first };
    });
  return { ...most, first };
});

/** Measures how a looped segment is closed; null where it is played once, or closes by itself. */
export function measureLoop(plan: CharacterPlan, segment: SegmentPlan): LoopMeasure | null {
  const { clip, recorded, loop, period, settings, start, end } = segment;
  if (!loop || clip === recorded || settings.repeat <= 1) return null;
  const last = Math.ceil(segment.in) + period;
  const { metres, joint, first } = plan.memory.recall(
    bentBy,
    clip,
    recorded,
    Math.min(last, clip.frames - 1),
  );
  if (metres <= 0) return null;
  const frames = (end - start) / settings.repeat;
  const bent = (Math.max(1, last - first) / period) * frames;
  return {
    surgeCm: (metres * 100 * period) / frames,
    joint,
    frame: Math.floor(start + frames - bent),
    end: Math.ceil(start + frames),
  };
}
