import type { Clip } from '../clip/clip';
import type { Memory } from '../memory/memory';
import type { Span } from '../clip/contacts';
import type { MatchedPair } from '../seam/matchClips';
import { matchClips } from '../seam/matchClips';
import { REACH_SECONDS } from './entries';
import { featureDistance, poseFeatures } from './poseFeatures';

/** A clip that may follow, and where the two would meet. */
export interface Follower {
  readonly clip: Clip;
  /** The best pair of samples, of the clip before and of this one. */
  readonly pair: MatchedPair;
}

/** Clips whose best pair is looked for exactly. */
const EXACT = 20;

/**
 * Ranks clips by how well they follow a clip at a sample: by what their moments are like, and the best of them exactly, by the map
 * of distances. All clips are to be on one skeleton.
 *
 * @param at sample of the clip before around whose second it is to be left
 * @returns best first, at most `top`
 */
export function followersOf(
  before: Clip,
  at: number,
  clips: readonly Clip[],
  top: number,
  memory: Memory,
): Follower[] {
  const near = byLikeness(before, at, clips, memory).slice(0, Math.max(EXACT, top));
  return exactly(before, at, near, memory).slice(0, top);
}

/** Ranks all of the clips, however many: the best twenty exactly, the others by what their moments are like; best first. */
export function rankFollowers(
  before: Clip,
  at: number,
  clips: readonly Clip[],
  memory: Memory,
): { readonly clip: Clip; readonly pair: MatchedPair | null }[] {
  const near = byLikeness(before, at, clips, memory);
  const best = exactly(before, at, near.slice(0, EXACT), memory);
  const others = near.filter((clip) => !best.some((f) => f.clip === clip));
  return [...best, ...others.map((clip) => ({ clip, pair: null }))];
}

const byLikeness = (before: Clip, at: number, clips: readonly Clip[], memory: Memory): Clip[] =>
  clips
    .map((clip) => ({ clip, distance: roughDistance(before, at, clip, memory) }))
    .sort((a, b) => a.distance - b.distance)
    .map(({ clip }) => clip);

function exactly(before: Clip, at: number, clips: readonly Clip[], memory: Memory): Follower[] {
  const outgoing = around(before, at, REACH_SECONDS);
  return clips
    .flatMap((clip): Follower[] => {
      const incoming: Span = { start: 0, end: Math.min(clip.frames, Math.ceil(REACH_SECONDS * clip.rate)) };
      const [pair] = matchClips(before, clip, { outgoing, incoming, top: 1 }, memory);
      return pair ? [{ clip, pair }] : [];
    })
    .sort((a, b) => a.pair.distanceCm - b.pair.distanceCm);
}

/** The samples within reach of one. */
function around(clip: Clip, at: number, seconds: number): Span {
  const reach = Math.ceil(seconds * clip.rate);
  return { start: Math.max(0, Math.floor(at) - reach), end: Math.min(clip.frames, Math.ceil(at) + reach) };
}

function roughDistance(before: Clip, at: number, clip: Clip, memory: Memory): number {
  const [a, b] = [poseFeatures(before, memory), poseFeatures(clip, memory)];
  const { start, end } = around(before, at, REACH_SECONDS);
  const last = Math.min(b.count, Math.ceil((REACH_SECONDS * clip.rate) / b.step) + 1);
  let least = Infinity;
  for (let i = Math.ceil(start / a.step); i < a.count && i * a.step < end; i++)
    for (let j = 0; j < last; j++) least = Math.min(least, featureDistance(a.features, i, b.features, j));
  return least;
}
