import type { EulerOrder } from '../math/euler';
import { eulerFromQuat, quatFromEuler } from '../math/euler';
import type { PoseKey } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import type { Channel } from './channels';
import { listOfChannel, valueKeysOf, valueScale } from './channels';
import { movedInTime, withKeyList } from './keyLists';

/** Keys of a channel, by their frames. */
export interface ChosenKeys {
  readonly channel: Channel;
  readonly frames: ReadonlySet<number>;
}

const ORDER: EulerOrder = [0, 1, 2];
const RADIANS = Math.PI / 180;

/**
 * A layer with keys of its channels moved: by whole frames, where a joint's three angles go together, and by a value in the unit of the
 * channel. Keys on which others come to stand give way. Only what is moved is made anew, so that one of many keys is quickly dragged.
 */
export function moveChannelKeys(
  layer: LayerLane,
  chosen: readonly ChosenKeys[],
  frames: number,
  value: number,
): LayerLane {
  let out = layer;
  if (value !== 0) for (const { channel, frames: at } of chosen) out = raised(out, channel, at, value);
  const by = Math.round(frames);
  return by === 0
    ? out
    : [...listsOf(chosen)].reduce((next, [, { channel, at }]) => delayed(next, channel, at, by), out);
}

/** The lists that keys are on: the three angles of a joint share one. */
function listsOf(chosen: readonly ChosenKeys[]): Map<string, { channel: Channel; at: ReadonlySet<number> }> {
  const lists = new Map<string, { channel: Channel; at: ReadonlySet<number> }>();
  for (const { channel, frames } of chosen) {
    const name = channel.kind === 'weight' ? 'weight' : listOfChannel(channel).join(' ');
    const at = new Set([...(lists.get(name)?.at ?? []), ...frames]);
    lists.set(name, { channel, at });
  }
  return lists;
}

function raised(layer: LayerLane, channel: Channel, at: ReadonlySet<number>, value: number): LayerLane {
  switch (channel.kind) {
    case 'weight': {
      const weight = layer.weight.map((point) =>
        at.has(point[0]) ? ([point[0], Math.min(1, Math.max(0, point[1] + value / 100))] as const) : point,
      );
      return { ...layer, weight };
    }
    case 'root':
    case 'dial': {
      const by = value / valueScale(channel);
      const keys = valueKeysOf(layer, channel).map((k) =>
        at.has(k.frame) ? { ...k, value: k.value + by } : k,
      );
      return withKeyList(layer, ...listOfChannel(channel), keys);
    }
    case 'joint': {
      const turn = (key: PoseKey): PoseKey => ({
        ...key,
        rotation: turned(key, channel.axis, value * RADIANS),
      });
      const keys = (layer.keys[channel.joint] ?? []).map((k) => (at.has(k.frame) ? turn(k) : k));
      return { ...layer, keys: { ...layer.keys, [channel.joint]: keys } };
    }
  }
}

/** A key's rotation with one of its angles larger. */
function turned({ rotation }: PoseKey, axis: 0 | 1 | 2, by: number): PoseKey['rotation'] {
  const angles = eulerFromQuat(Float64Array.from(rotation), 0, ORDER, new Float64Array(3), 0);
  angles[axis]! += by;
  const [x = 0, y = 0, z = 0, w = 1] = quatFromEuler(
    angles[0]!,
    angles[1]!,
    angles[2]!,
    ORDER,
    new Float64Array(4),
    0,
  );
  return [x, y, z, w];
}

function delayed(layer: LayerLane, channel: Channel, at: ReadonlySet<number>, by: number): LayerLane {
  switch (channel.kind) {
    case 'weight': {
      const points = layer.weight.map(([frame, weight]) => ({ frame, weight }));
      const weight = movedInTime(points, at, by).map((p) => [p.frame, p.weight] as const);
      return { ...layer, weight };
    }
    case 'root':
    case 'dial':
      return withKeyList(layer, ...listOfChannel(channel), movedInTime(valueKeysOf(layer, channel), at, by));
    case 'joint':
      return withKeyList(layer, 'keys', channel.joint, movedInTime(layer.keys[channel.joint] ?? [], at, by));
  }
}
