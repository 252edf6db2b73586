import type { Channel, ChannelCurve, LayerLane, RootCurve, ValueChannel } from '@warper/core';
import {
  DIALS,
  ROOT_CURVES,
  channelId,
  channelKeys,
  channelKeysAt,
  channelsOf,
  copyListKeys,
  defined,
  jointCurves,
  keysEdit,
  listOfChannel,
  moveChannelKeys,
  pasteListKeys,
  reducePoseKeys,
  reduceValueKeys,
  valueChannelCurve,
  valueKeysOf,
  valueScale,
  weightCurve,
  withChannelKeys,
  withKeyList,
} from '@warper/core';
import { DIAL_LOOKS, DIAL_NAMES } from '../../../ui/dialLooks';
import type { CurveSource, Track } from './curveSource';

const AXES = ['X', 'Y', 'Z'] as const;
const ROOT_NAMES: Readonly<Record<RootCurve, string>> = {
  left: 'Root left',
  up: 'Root up',
  forward: 'Root forward',
  turn: 'Root turn',
};
const RADIANS = Math.PI / 180;

/** Curves by what they are made from, so that those of which nothing has changed stay the very ones. */
export type KeptCurves = Map<string, { readonly from: unknown; readonly curves: readonly ChannelCurve[] }>;

/** The curves of a layer: its weight, the root, dials, and the angles of its joints. */
export function layerSource(layer: LayerLane, kept: KeptCurves): CurveSource {
  // Weight, root and dials can be keyed at any time; joints are where they are posed.
  const channels: Channel[] = [
    { kind: 'weight' },
    ...ROOT_CURVES.map((curve): Channel => ({ kind: 'root', curve })),
    ...DIAL_NAMES.map((curve): Channel => ({ kind: 'dial', curve })),
    ...channelsOf(layer).filter((c) => c.kind === 'joint'),
  ];
  const byId = new Map(channels.map((channel) => [channelId(channel), channel]));
  const channelOf = (id: string): Channel => defined(byId.get(id));
  return {
    name: layer.name,
    tracks: tracksOf(layer, channels, kept),
    hasSlopes: true,
    keysAt: (id, frames) => channelKeysAt(layer, channelOf(id), frames),
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
    clipboard: {
      copy: (chosen) => {
        const lists = [...chosen].flatMap(([id, at]) => {
          const channel = channelOf(id);
          return channel.kind === 'weight' ? [] : [[listOfChannel(channel).join(' '), at] as const];
        });
        return copyListKeys(layer, new Map(lists));
      },
      paste: (copied, frame) => {
        const pasted = pasteListKeys(layer, copied, frame);
        const chosen = channelsOf(pasted.layer).flatMap((channel) => {
          const at = channel.kind === 'weight' ? null : pasted.chosen.get(listOfChannel(channel).join(' '));
          return at ? [[channelId(channel), at] as const] : [];
        });
        return { edit: keysEdit(layer, pasted.layer, 'paste of keys'), chosen: new Map(chosen) };
      },
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
      case 'root':
      case 'dial': {
        const keys = valueKeysOf(layer, channel);
        const [curve] = curves(id, keys, () => [valueChannelCurve(channel, keys)]);
        return { id, ...valueLook(channel), curve: defined(curve) };
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

/** How a curve of numbers is shown: dials are dashed, beside the root. */
function valueLook(channel: ValueChannel): Pick<Track, 'name' | 'unit' | 'hue' | 'dash'> {
  if (channel.kind === 'root') {
    const hue = 1 + ROOT_CURVES.indexOf(channel.curve);
    const unit = channel.curve === 'turn' ? '°' : 'cm';
    return { name: ROOT_NAMES[channel.curve], unit, hue, dash: 0 };
  }
  const { label, unit } = DIAL_LOOKS[channel.curve];
  const isShare = DIALS[channel.curve].none === 1;
  return {
    name: label,
    unit: isShare ? '%' : unit,
    hue: (2 + DIAL_NAMES.indexOf(channel.curve)) % 8,
    dash: 1,
  };
}

function reduced(layer: LayerLane, channels: readonly Channel[], error: number): LayerLane {
  let out = layer;
  const done = new Set<string>();
  for (const channel of channels) {
    if (channel.kind === 'joint' && !done.has(channel.joint)) {
      done.add(channel.joint);
      const keys = reducePoseKeys(out.keys[channel.joint] ?? [], error * RADIANS);
      out = withKeyList(out, 'keys', channel.joint, keys);
    } else if (channel.kind === 'root' || channel.kind === 'dial') {
      const keys = reduceValueKeys(valueKeysOf(out, channel), error / valueScale(channel));
      out = withKeyList(out, channel.kind === 'root' ? 'rootKeys' : 'dialKeys', channel.curve, keys);
    }
  }
  return out;
}
