import type { Channel, ChannelCurve, LayerLane, RootCurve, ValueKey } from '@warper/core';
import {
  ROOT_CURVES,
  channelId,
  channelKeys,
  channelsOf,
  defined,
  jointCurves,
  keysEdit,
  moveChannelKeys,
  reducePoseKeys,
  reduceValueKeys,
  rootChannelCurve,
  weightCurve,
  withChannelKeys,
} from '@warper/core';
import type { CurveSource, Track } from './curveSource';

const AXES = ['X', 'Y', 'Z'] as const;
const ROOT_NAMES: Readonly<Record<RootCurve, string>> = {
  left: 'Root left',
  up: 'Root up',
  forward: 'Root forward',
  turn: 'Root turn',
};
const NO_KEYS: readonly ValueKey[] = [];
const RADIANS = Math.PI / 180;

/** Curves by what they are made from, so that those of which nothing has changed stay the very ones. */
export type KeptCurves = Map<string, { readonly from: unknown; readonly curves: readonly ChannelCurve[] }>;

/** The curves of a layer: its weight, the root, and the angles of its joints. */
export function layerSource(layer: LayerLane, kept: KeptCurves): CurveSource {
  // Weight and root can be keyed at any time; joints are where they are posed.
  const channels: Channel[] = [
    { kind: 'weight' },
    ...ROOT_CURVES.map((curve): Channel => ({ kind: 'root', curve })),
    ...channelsOf(layer).filter((c) => c.kind === 'joint'),
  ];
  const byId = new Map(channels.map((channel) => [channelId(channel), channel]));
  const channelOf = (id: string): Channel => defined(byId.get(id));
  return {
    name: layer.name,
    tracks: tracksOf(layer, channels, kept),
    hasSlopes: true,
    keysOf: (id) => channelKeys(layer, channelOf(id)),
    move: (chosen, frames, value) => {
      const keys = [...chosen].map(([id, at]) => ({ channel: channelOf(id), frames: at }));
      return keysEdit(layer, moveChannelKeys(layer, keys, frames, value), 'move of keys');
    },
    change: (label, changes) => {
      let after = layer;
      for (const [id, change] of changes) {
        const channel = channelOf(id);
        after = withChannelKeys(after, channel, change(channelKeys(after, channel)));
      }
      return keysEdit(layer, after, label);
    },
    reduce: (ids, error) => keysEdit(layer, reduced(layer, ids.map(channelOf), error), 'fewer keys'),
  };
}

function tracksOf(layer: LayerLane, channels: readonly Channel[], kept: KeptCurves): Track[] {
  const curves = (
    name: string,
    from: unknown,
    make: () => readonly ChannelCurve[],
  ): readonly ChannelCurve[] => {
    const known = kept.get(name);
    if (known && known.from === from) return known.curves;
    const made = make();
    kept.set(name, { from, curves: made });
    return made;
  };
  const joints = [...new Set(channels.flatMap((c) => (c.kind === 'joint' ? [c.joint] : [])))];
  return channels.map((channel): Track => {
    const id = channelId(channel);
    switch (channel.kind) {
      case 'weight': {
        const [curve] = curves(`${id} ${layer.weightShape}`, layer.weight, () => [
          weightCurve(layer.weight, layer.weightShape),
        ]);
        return { id, name: 'Weight', unit: '%', hue: 0, dash: 0, curve: defined(curve) };
      }
      case 'root': {
        const keys = layer.rootKeys[channel.curve] ?? NO_KEYS;
        const [curve] = curves(id, keys, () => [rootChannelCurve(channel.curve, keys)]);
        const hue = 1 + ROOT_CURVES.indexOf(channel.curve);
        const unit = channel.curve === 'turn' ? '°' : 'cm';
        return { id, name: ROOT_NAMES[channel.curve], unit, hue, dash: 0, curve: defined(curve) };
      }
      case 'joint': {
        const { joint, axis } = channel;
        const keys = layer.keys[joint] ?? [];
        const three = curves(`joint ${joint}`, keys, () => jointCurves(keys));
        const hue = (5 + joints.indexOf(joint) * 3) % 8;
        return {
          id,
          name: `${joint} ${AXES[axis]}`,
          unit: '°',
          hue,
          dash: axis,
          curve: defined(three[axis]),
        };
      }
    }
  });
}

function reduced(layer: LayerLane, channels: readonly Channel[], error: number): LayerLane {
  const keys = { ...layer.keys };
  const rootKeys = { ...layer.rootKeys };
  const done = new Set<string>();
  for (const channel of channels) {
    if (channel.kind === 'joint' && !done.has(channel.joint)) {
      done.add(channel.joint);
      keys[channel.joint] = reducePoseKeys(keys[channel.joint] ?? [], error * RADIANS);
    } else if (channel.kind === 'root') {
      const unit = channel.curve === 'turn' ? 1 : 0.01;
      rootKeys[channel.curve] = reduceValueKeys(rootKeys[channel.curve] ?? [], error * unit);
    }
  }
  return { ...layer, keys, rootKeys };
}
