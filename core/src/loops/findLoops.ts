import { Memory } from '../memory/memory';
import type { Clip } from '../clip/clip';
import { cloudJoints } from '../clip/pointCloud';
import type { Loop } from './loop';
import { examineLoop } from './loop';
import { jointTracks } from '../clip/jointTracks';
import { matchMap } from '../math/matchMap';

/** A part of a clip that repeats well. */
export interface LoopCandidate extends Loop {
  /** Gap by motion over the cycle: under 0.15 good, over 0.3 poor, over 0.45 no loop. */
  readonly quality: number;
}

/** Shortest cycle that is offered, seconds. */
const SHORTEST_SECONDS = 0.4;
/** Moments of a clip that are compared at most; longer clips are looked at less often. */
const MOST_MOMENTS = 400;
/** Candidates whose ends lie closer than this (seconds) are one. */
const APART_SECONDS = 0.15;
/** Above this a candidate is no loop. */
const WORST_QUALITY = 0.45;

/**
 * The parts of a clip that repeat best, best first: local minima of the map of distances of the clip with itself, refined
 * to whole samples, ranked by gap over motion.
 *
 * @param top how many to give
 */
export function findLoops(clip: Clip, top = 5, memory = new Memory()): LoopCandidate[] {
  const joints = cloudJoints(clip.skeleton);
  const stride = Math.max(1, Math.ceil(clip.frames / MOST_MOMENTS));
  const frames = Math.floor((clip.frames - 1) / stride) + 1;
  if (frames < 4) return [];
  const width = joints.length * 3;
  const tracks = jointTracks(clip, joints);
  const places = new Float64Array(frames * width);
  for (let f = 0; f < frames; f++)
    places.set(tracks.subarray(f * stride * width, (f * stride + 1) * width), f * width);
  const side = { outgoing: places, outgoingFrames: frames, incoming: places, incomingFrames: frames };
  const half = Math.max(1, Math.round(clip.rate / 10 / stride));
  const map = matchMap({ ...side, joints: joints.length, half });
  const least = Math.max(2, Math.round((SHORTEST_SECONDS * clip.rate) / stride));
  const pairs: { a: number; b: number; score: number }[] = [];
  for (let a = 0; a + least < frames; a++) {
    let motion = 0;
    for (let b = a + 1; b < frames; b++) {
      const d = map[a * frames + b]!;
      motion = Math.max(motion, d);
      if (b - a >= least && motion > 0 && isLow(map, frames, a, b)) pairs.push({ a, b, score: d / motion });
    }
  }
  pairs.sort((p, q) => p.score - q.score);
  const near = Math.max(1, Math.round((APART_SECONDS * clip.rate) / stride));
  const matches: LoopCandidate[] = [];
  for (const { a, b } of pairs.slice(0, 200)) {
    const like = (c: LoopCandidate): boolean =>
      Math.abs(c.in / stride - a) < near && Math.abs((c.out - 1) / stride - b) < near;
    if (matches.some(like)) continue;
    const best = refine(clip, tracks, a * stride, b * stride, stride, memory);
    if (best && best.quality <= WORST_QUALITY && !matches.some((c) => c.in === best.in && c.out === best.out))
      matches.push(best);
    if (matches.length >= 3 * top) break;
  }
  return matches.sort((p, q) => p.quality - q.quality).slice(0, top);
}

/** Whether a pair is no further apart than its neighbours in the map; those on its edge count as they are. */
function isLow(map: Float32Array, frames: number, a: number, b: number): boolean {
  const value = map[a * frames + b]!;
  for (let i = -1; i <= 1; i++)
    for (let j = -1; j <= 1; j++) {
      const [r, c] = [a + i, b + j];
      if (r < 0 || c >= frames || (i === 0 && j === 0)) continue;
      if (map[r * frames + c]! < value) return false;
    }
  return true;
}

/** Ends of a candidate that are looked at in one round; of long clips every so many, then closer around the best. */
const MOST_ENDS = 16;

/** The best end for a start among the samples around it, and how good it is. */
function refine(
  clip: Clip,
  tracks: Float64Array,
  a: number,
  b: number,
  stride: number,
  memory: Memory,
): LoopCandidate | null {
  let best: LoopCandidate | null = null;
  let [from, to] = [b - stride + 1, b + stride - 1];
  for (;;) {
    const step = Math.max(1, Math.ceil((to - from + 1) / MOST_ENDS));
    for (let end = from; end <= to; end += step) {
      if (end <= a + 1 || end >= clip.frames) continue;
      const loop = examineLoop(clip, a, end + 1, null, memory);
      const quality = qualityOf(clip, tracks, loop);
      if (!best || quality < best.quality) best = { ...loop, quality };
    }
    if (step === 1 || !best) return best;
    [from, to] = [best.out - 1 - step + 1, best.out - 1 + step - 1];
  }
}

/** Moments of a cycle that are looked at for the motion in it. */
const MOST_CYCLE_MOMENTS = 1000;

function qualityOf(clip: Clip, tracks: Float64Array, loop: Loop): number {
  if (loop.verdict === 'doubled' || loop.verdict === 'ordinary') return 0;
  const width = tracks.length / clip.frames;
  const a = Math.ceil(loop.in);
  const length = Math.ceil(loop.out) - a;
  const stride = Math.ceil(length / MOST_CYCLE_MOMENTS);
  const frames = Math.ceil(length / stride);
  const incoming = new Float64Array(frames * width);
  for (let f = 0; f < frames; f++) {
    const at = (a + f * stride) * width;
    incoming.set(tracks.subarray(at, at + width), f * width);
  }
  const map = matchMap({
    outgoing: tracks.subarray(a * width, (a + 1) * width),
    outgoingFrames: 1,
    incoming,
    incomingFrames: frames,
    joints: width / 3,
    half: 0,
  });
  const motion = map.reduce((most, v) => Math.max(most, v), 0);
  return motion > 0 ? loop.gapMetres / motion : 0;
}
