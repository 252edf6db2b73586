import { defined } from '../math/defined';
import { quatFromEuler } from '../math/euler';
import type { Handle } from '../math/spline';
import type { PoseKey, ValueKey } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import type { Channel, ChannelKey } from './channels';
import { DEGREES, PER_CENT, keysOfJoint, listOfChannel, valueScale } from './channels';
import type { Triple } from './jointAngles';
import { ANGLE_ORDER, angleAt, angleRates, anglesOfTrack, vectorOfRates } from './jointAngles';
import { withKeyList } from './keyLists';
import type { KeyTrack } from './keys';
import { keyTrack } from './keys';

/**
 * A layer whose channel has these keys. A key that is new, or was not changed, leaves the other angles of its joint as they are;
 * slopes count for free keys only. Keys are put in order; of two at one frame the later in the list stays.
 */
export function withChannelKeys(
  layer: LayerLane,
  channel: Channel,
  changed: readonly ChannelKey[],
): LayerLane {
  const keys = inOrder(changed);
  switch (channel.kind) {
    case 'weight': {
      const weight = keys.map(({ frame, value }): Handle => [
        frame,
        Math.min(1, Math.max(0, value / PER_CENT)),
      ]);
      // Its points share one shape: what one of them is set to, all are.
      const shapes = keys.map(({ curve }) => (curve === 'linear' ? 'linear' : 'smooth'));
      const weightShape = shapes.find((shape) => shape !== layer.weightShape) ?? layer.weightShape;
      return { ...layer, weight, weightShape };
    }
    case 'root':
    case 'dial': {
      const scale = valueScale(channel);
      return withKeyList(
        layer,
        ...listOfChannel(channel),
        keys.map((key) => valueKeyOf(key, scale)),
      );
    }
    case 'joint': {
      const list = poseKeysOf(layer.keys[channel.joint] ?? [], channel.axis, keys);
      return withKeyList(layer, 'keys', channel.joint, list);
    }
  }
}

function inOrder(keys: readonly ChannelKey[]): ChannelKey[] {
  const byFrame = new Map(keys.map((key) => [key.frame, key]));
  return [...byFrame.values()].sort((a, b) => a.frame - b.frame);
}

const valueKeyOf = ({ frame, value, curve, into, out, broken }: ChannelKey, scale: number): ValueKey => ({
  frame,
  value: value / scale,
  curve,
  tangent: curve === 'free' ? out / scale : null,
  into: (curve === 'free' || curve === 'hold') && broken ? into / scale : null,
});

/** A joint's keys with one of the angles as given. */
function poseKeysOf(before: readonly PoseKey[], axis: 0 | 1 | 2, keys: readonly ChannelKey[]): PoseKey[] {
  const track = keyTrack(0, before);
  const angles = anglesOfTrack(track);
  const previous = keysOfJoint(before, axis);
  return keys.map((key) => {
    const source = key.source === null ? undefined : before[key.source];
    const was = key.source === null ? undefined : previous[key.source];
    if (source && was && isSameShape(key, was)) return { ...source, frame: key.frame };
    const here = source
      ? angles.slice(defined(key.source) * 3, defined(key.source) * 3 + 3)
      : before.length > 0
        ? Float64Array.from(angleAt(track, angles, key.frame))
        : new Float64Array(3);
    here[axis] = key.value / DEGREES;
    const rotation =
      source && was && key.value === was.value
        ? source.rotation
        : quadruple(quatFromEuler(here[0]!, here[1]!, here[2]!, ANGLE_ORDER, new Float64Array(4), 0));
    return { frame: key.frame, rotation, curve: key.curve, ...slopesOfKey(key, track, angles, here, axis) };
  });
}

const isSameShape = (a: ChannelKey, b: ChannelKey): boolean =>
  a.value === b.value && a.curve === b.curve && a.into === b.into && a.out === b.out && a.broken === b.broken;

/** The slopes of a joint's free key: those about the other axes stay what they come to. */
function slopesOfKey(
  { curve, source, into, out, broken }: ChannelKey,
  track: KeyTrack,
  angles: Float64Array,
  here: Float64Array,
  axis: 0 | 1 | 2,
): { tangent: Triple | null; into: Triple | null } {
  if (curve !== 'free' && curve !== 'hold') return { tangent: null, into: null };
  const slope = (value: number, vectors: Float64Array): Triple => {
    const rates: Triple = source === null ? [0, 0, 0] : angleRates(angles, source, vectors);
    rates[axis] = value / DEGREES;
    return vectorOfRates(here, rates);
  };
  return {
    tangent: curve === 'free' ? slope(out, track.out) : null,
    into: broken ? slope(into, track.into) : null,
  };
}

const quadruple = ([x = 0, y = 0, z = 0, w = 1]: Iterable<number>): PoseKey['rotation'] => [x, y, z, w];
