import { makePoseBuffer } from '../clip/pose';
import type { Rate } from '../math/rate';
import type { Memory } from '../memory/memory';
import type { CharacterPlan, SegmentPlan } from '../plan/plan';
import { standingRestPose } from '../plan/standingRest';
import { DEFAULT_THRESHOLDS } from '../scene/thresholds';
import { PLAIN_CHARACTER } from '../scene/character';
import type { Skeleton } from '../skeleton/skeleton';
import { makeHoldScratch } from '../steps/footHolds';

/** The plan of a nameless character that performs the given segments, with neither layers, held feet nor tethers. */
export function standAlone(
  skeleton: Skeleton,
  rate: Rate,
  segments: readonly SegmentPlan[],
  leadIn: number,
  memory: Memory,
): CharacterPlan {
  return {
    character: { ...PLAIN_CHARACTER, id: '', name: '', body: '' },
    skeleton,
    rate,
    segments,
    travelBone: null,
    holdsFeet: false,
    leadIn,
    rest: standingRestPose(skeleton),
    wheels: [],
    looks: [],
    staging: null,
    layers: [],
    start: (segments[0]?.start ?? 0) - leadIn,
    end: segments.at(-1)?.end ?? 0,
    scratch: makePoseBuffer(skeleton),
    layerScratch: makePoseBuffer(skeleton),
    holdScratch: makeHoldScratch(skeleton),
    locks: new Array<undefined>(segments.length),
    rootFrames: [],
    heldHands: [],
    branches: new Array<undefined>(segments.length),
    thresholds: DEFAULT_THRESHOLDS,
    memory,
  };
}
