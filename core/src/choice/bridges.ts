import type { Clip } from '../clip/clip';
import type { Library } from '../compile/compile';
import type { SeamMeasures } from '../continuity/measureSeam';
import { applyEdit } from '../edit/edit';
import type { Edit } from '../edit/edit';
import type { Join } from '../edit/edits/join';
import { InputError } from '../math/errors';
import { framesPerSecond, parseRate } from '../math/rate';
import type { Memory } from '../memory/memory';
import type { ChoiceLimits } from '../scene/choice';
import { PLAIN_SEAM } from '../scene/seam';
import type { Scene } from '../scene/scene';
import type { Segment } from '../scene/segment';
import { PLAIN_SEGMENT } from '../scene/segment';
import { clipOnSkeleton, clipThatSuits } from '../steps/mapClip';
import { layOut, requireClip } from '../timeline/lane';
import type { Placed } from '../timeline/lane';
import { GRADE_COST, chooseJoin, joinCost } from './chooseJoin';
import { neighboursOf } from './neighbours';
import type { Moments } from './poseFeatures';
import { leastDistances, poseFeatures } from './poseFeatures';

/** A clip put between two segments that do not join well, with both its joins. */
export interface Bridge {
  readonly clip: Clip;
  /** What puts it there, as one edit. */
  readonly edit: Edit;
  /** Seconds by which the scene becomes longer. */
  readonly seconds: number;
  /** The join before it, and the one behind it. */
  readonly measures: readonly [SeamMeasures, SeamMeasures];
  readonly cost: number;
}

/** Clips that are tried in full. */
const TRIED = 6;
/** Seconds of a bridge that stay at least, and those of either neighbour from which it may be entered and left. */
const SHORTEST_SECONDS = 1;
const REACH_SECONDS = 1;
/** What a second of a bridge counts, in metres of distance, and in thresholds of a measure. */
const SECOND_METRES = 0.03;
const SECOND_COST = 0.2;

/**
 * Looks for clips that lead from one segment to the next where the two do not join well by themselves (a motion graph searched
 * on demand; Kovar, Gleicher, Pighin, "Motion Graphs", SIGGRAPH 2002). Yields the finished share.
 *
 * @param segment the incoming one
 * @param clips what may be put between; what does not fit the body is passed over
 * @param freshId makes the id of the segment that is put there
 * @returns cheapest first; those whose joins are no better than the one that is there are left out
 */
export function* bridgesSteps(
  scene: Scene,
  segment: string,
  clips: readonly Clip[],
  library: Library,
  freshId: () => string,
  limits = scene.segments[segment]?.seam.limits ?? scene.choice,
): Generator<number, Bridge[]> {
  const sides = sidesOf(scene, segment, library);
  if (!sides) return [];
  const direct = chooseJoin(scene, segment, library, limits);
  const asBad = direct ? GRADE_COST[direct.measures.grade] : Infinity;
  if (asBad === GRADE_COST.good) return [];
  const found = clips
    .filter((clip) => clip.frames > 1)
    .flatMap((clip) => partBetween(sides, clip, library.memory) ?? [])
    .sort((a, b) => a.rough - b.rough)
    .slice(0, TRIED);
  const bridges: Bridge[] = [];
  for (const [i, part] of found.entries()) {
    const bridge = tryBridge(scene, sides, part, library, freshId(), limits, asBad);
    if (bridge) bridges.push(bridge);
    yield (i + 1) / found.length;
  }
  return bridges.sort((a, b) => a.cost - b.cost);
}

/** Both segments of a join, and their clips on the character's skeleton. */
interface Sides {
  readonly lane: string;
  readonly before: Placed;
  readonly item: Placed;
  readonly skeletonOf: Clip;
  /** Moments near the end of the one and the start of the other. */
  readonly leave: readonly [Moments, number, number];
  readonly enter: readonly [Moments, number, number];
}

function sidesOf(scene: Scene, id: string, library: Library): Sides | null {
  const pair = neighboursOf(scene, id, library);
  const body = pair && library.body(scene.characters[pair.lane.character]!.body);
  if (!pair || !body) return null;
  const { lane, before, item } = pair;
  const { memory } = library;
  const on = (p: Placed): Clip => clipOnSkeleton(requireClip(p.segment, library), body, memory);
  const [a, b] = [on(before), on(item)];
  const [left, right] = [poseFeatures(a, memory), poseFeatures(b, memory)];
  const momentsOf = (clip: Clip, moments: Moments, from: number, to: number): [Moments, number, number] => [
    moments,
    Math.max(0, Math.ceil(from / moments.step)),
    Math.floor(Math.min(to, clip.frames - 1) / moments.step) + 1,
  ];
  const reach = (clip: Clip): number => REACH_SECONDS * clip.rate;
  return {
    lane: lane.id,
    before,
    item,
    skeletonOf: a,
    leave: momentsOf(a, left, before.segment.out - reach(a), before.segment.out),
    enter: momentsOf(b, right, item.segment.in, item.segment.in + reach(b)),
  };
}

/** The part of a clip that leads over, and how well it seems to. */
interface Part {
  readonly clip: Clip;
  readonly in: number;
  readonly out: number;
  readonly rough: number;
}

function partBetween(sides: Sides, original: Clip, memory: Memory): Part | null {
  const clip = clipThatSuits(original, sides.skeletonOf.skeleton, memory);
  if (!clip) return null;
  const moments = poseFeatures(clip, memory);
  const shortest = Math.ceil((SHORTEST_SECONDS * clip.rate) / moments.step);
  const entering = leastDistances(moments, ...sides.leave);
  const leaving = leastDistances(moments, ...sides.enter);
  const seconds = moments.step / clip.rate;
  let best: Part | null = null;
  // The best moment to come in by, while the moment to go out by moves on.
  let [first, least] = [-1, Infinity];
  for (let m = shortest; m < moments.count; m++) {
    const into = m - shortest;
    const value = entering[into]! - into * seconds * SECOND_METRES;
    if (value < least) [first, least] = [into, value];
    const rough = least + leaving[m]! + m * seconds * SECOND_METRES;
    if (!best || rough < best.rough)
      best = {
        clip: original,
        in: Math.round(first * moments.step),
        out: Math.min(clip.frames, Math.round(m * moments.step) + 1),
        rough,
      };
  }
  return best;
}

/** A bridge by a part of a clip; null where it cannot be, or where either of its joins costs as much as `asBad` by its grade. */
function tryBridge(
  scene: Scene,
  sides: Sides,
  part: Part,
  library: Library,
  id: string,
  limits: ChoiceLimits,
  asBad: number,
): Bridge | null {
  const { before, item, lane } = sides;
  const fps = framesPerSecond(parseRate(scene.rate));
  // Either end may go as far beyond the part as its overlaps need.
  const margin = Math.round((SHORTEST_SECONDS / 2) * part.clip.rate);
  const segment: Segment = {
    ...PLAIN_SEGMENT,
    id,
    name: part.clip.name,
    clip: part.clip.id,
    in: Math.max(0, part.in - margin),
    out: Math.min(part.clip.frames, part.out + margin),
    seam: { ...PLAIN_SEAM, fit: 'planted foot', gap: 'ease', auto: true },
  };
  const place: Edit = { type: 'place', lane, segment, at: before.end - 1 };
  const edits: Edit[] = [place];
  try {
    let current = applyEdit(scene, place, library);
    const measures: SeamMeasures[] = [];
    for (const joined of [id, item.segment.id]) {
      const choice = chooseJoin(current, joined, library, limits);
      if (!choice || GRADE_COST[choice.measures.grade] >= asBad) return null;
      const edit = asBridge(choice.edit);
      edits.push(edit);
      measures.push(choice.measures);
      current = applyEdit(current, edit, library);
    }
    const end = (s: Scene): number => layOut(s, s.lanes[lane]!, library).at(-1)!.end;
    const seconds = (end(current) - end(scene)) / fps;
    const costs = measures.map((m) => joinCost(m) + GRADE_COST[m.grade]);
    return {
      clip: part.clip,
      edit: { type: 'several', label: `bridge with ${part.clip.name}`, edits },
      seconds,
      measures: [measures[0]!, measures[1]!],
      cost: Math.max(...costs) + SECOND_COST * Math.max(0, seconds),
    };
  } catch (error) {
    if (error instanceof InputError) return null;
    throw error;
  }
}

/** A join of a bridge says that it is one. */
const asBridge = (edit: Join): Join => {
  const { chosen } = edit.values;
  return chosen
    ? { ...edit, values: { ...edit.values, chosen: { ...chosen, why: `Bridge. ${chosen.why}` } } }
    : edit;
};

/** The bridges in one go. */
export function findBridges(...args: Parameters<typeof bridgesSteps>): Bridge[] {
  const steps = bridgesSteps(...args);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}
