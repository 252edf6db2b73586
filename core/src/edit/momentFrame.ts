import { keyFrames } from '../layers/keyLists';
import { parseRate } from '../math/rate';
import type { Moment } from '../scene/link';
import type { Scene } from '../scene/scene';
import type { ClipSource } from '../timeline/lane';
import { segmentTiming } from '../timeline/timing';

/** What of a scene moments are found in. */
export type MomentScene = Pick<Scene, 'segments' | 'tethers' | 'markers' | 'lanes' | 'rate'>;

/** The frame of a moment; null where what it names is not there, is switched off, or has no end. */
export function frameOfMoment(scene: MomentScene, moment: Moment, library: ClipSource): number | null {
  const { of, id, at } = moment;
  if (of === 'keys') return hasKeysAt(scene, id, at) ? at : null;
  if (of === 'tether') {
    const tether = scene.tethers[id];
    return (at === 'start' ? tether?.start : tether?.end) ?? null;
  }
  if (of === 'marker') {
    const marker = scene.markers.find((m) => m.id === id);
    return (at === 'start' ? marker?.frame : marker?.end) ?? null;
  }
  const segment = scene.segments[id];
  if (!segment || segment.off) return null;
  if (at === 'start') return segment.start;
  if (at !== 'end') return segment.start + at;
  const clip = library.clip(segment.clip);
  return clip
    ? segment.start + segmentTiming(segment, clip, parseRate(scene.rate), library.memory).frames
    : null;
}

function hasKeysAt(scene: MomentScene, layer: string, frame: number): boolean {
  const lane = scene.lanes[layer];
  return lane?.kind === 'layer' && keyFrames(lane).includes(frame);
}
