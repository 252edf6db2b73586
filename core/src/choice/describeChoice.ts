import type { SeamValues } from '../scene/thresholds';
import type { SeamMeasures } from '../continuity/measureSeam';
import type { SegmentPlan } from '../plan/plan';
import { isPlanted } from '../plan/planted';
import { sampleAt } from '../plan/segmentPose';
import type { Chosen } from '../scene/choice';
import type { Pair } from './momentMap';

/** A choice as it is kept with its seam, and in a line of words. */
export function describeChoice(
  pair: Pair,
  changed: Chosen['changed'],
  {
    sides,
    measures,
  }: { readonly sides: readonly [SegmentPlan, SegmentPlan]; readonly measures: SeamMeasures },
  before: SeamMeasures,
): Chosen {
  const [outgoing, incoming] = sides;
  // Without an overlap the two meet behind the last frame that the outgoing one shows.
  const frame = Math.min(outgoing.start + pair.out, outgoing.end - 1);
  const out = Math.max(0, sampleAt(outgoing, frame));
  const into = Math.max(0, sampleAt(incoming, measures.frame + measures.overlap / 2));
  const { fit, kind, overlap: length } = measures;
  const how = {
    cut: 'cut',
    crossfade: `${length} frames`,
    settle: `settles in ${measures.settle} frames`,
    step: `a step over ${length} frames`,
  };
  const why = `Frame ${out} onto ${into}, ${feetAt(outgoing, incoming, frame)}, ${how[kind]}: ${valueOf(measures)}; as dropped ${valueOf(before)}.`;
  return { out, in: into, overlap: length, kind, fit: typeof fit === 'string' ? fit : 'joint', changed, why };
}

/** Which feet stand on both sides. */
function feetAt(outgoing: SegmentPlan, incoming: SegmentPlan, frame: number): string {
  const names = [...outgoing.steps().joints]
    .filter(({ joint }) => isPlanted(outgoing, joint, frame) && isPlanted(incoming, joint, frame))
    .map(({ role }) => (role.startsWith('left') ? 'left' : 'right'));
  const sides = [...new Set(names)];
  if (sides.length === 0) return 'no foot planted on both';
  return sides.length === 2 ? 'both feet planted' : `${sides[0]} foot planted`;
}

const NAMES: Readonly<Record<keyof SeamValues, string>> = {
  popCm: 'pop',
  surgeCm: 'glide',
  turnDegrees: 'turn',
  slideCm: 'slide',
  hitch: 'hitch',
};

/** The worst measure in words. */
function valueOf(measures: SeamMeasures): string {
  const key = measures.worst;
  const unit = key === 'turnDegrees' ? '°' : key === 'hitch' ? ' times' : ' cm';
  return `${NAMES[key]} ${measures[key].toFixed(1)}${unit}`;
}
