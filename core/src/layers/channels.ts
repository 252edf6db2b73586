import type { Dial } from '../clip/dials';
import { DIALS } from '../clip/dials';
import { angleAt, angleRates, anglesOfTrack } from './jointAngles';
import { defined } from '../math/defined';
import type { Handle } from '../math/spline';
import type { KeyCurve, PoseKey, RootCurve, ValueKey } from '../scene/keys';
import { ROOT_CURVES } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import type { KeysOfLayer, KeyTable } from './keyLists';
import { keyTrack } from './keys';
import type { ValueCurve } from './valueCurve';
import { valueCurve, valueOn } from './valueCurve';

/** One curve of a layer: its weight, a direction of the root, a dial, or a joint's angle about one of its own axes. */
export type Channel =
  | { readonly kind: 'weight' }
  | { readonly kind: 'root'; readonly curve: RootCurve }
  | { readonly kind: 'dial'; readonly curve: Dial }
  | { readonly kind: 'joint'; readonly joint: string; readonly axis: 0 | 1 | 2 };

/**
 * A curve as it is read: weights and amplitudes in per cent, the root and dials in centimetres and degrees, joints in degrees. Angles x, y, z are those with
 * R = Rx(x) Ry(y) Rz(z), next to each other from key to key.
 */
export interface ChannelCurve {
  readonly frames: Float64Array;
  readonly values: Float64Array;
  /** The value at a frame, as it is evaluated. */
  readonly valueAt: (frame: number) => number;
}

/** A key of a curve that is read. */
export interface ChannelKey {
  readonly frame: number;
  readonly value: number;
  readonly curve: KeyCurve;
  /** Slopes a frame with which it is arrived at and left, in the units of its values. */
  readonly into: number;
  readonly out: number;
  /** Whether these two are set apart. */
  readonly broken: boolean;
  /** Which key of the layer's list it is; null for one that is not there yet. */
  readonly source: number | null;
}

/** Degrees of a radian, and per cent of a whole: the units in which curves are read. */
export const DEGREES = 180 / Math.PI;
export const PER_CENT = 100;
const CENTIMETRES = 100;

/** Units of a curve of the root, or of a dial, in those of its keys. */
export function valueScale({ kind, curve }: ValueChannel): number {
  if (kind === 'root') return curve === 'turn' ? 1 : CENTIMETRES;
  if (DIALS[curve].none === 1) return PER_CENT;
  return curve === 'stance' || curve === 'crouch' ? CENTIMETRES : 1;
}

/** A channel whose keys are numbers. */
export type ValueChannel = Extract<Channel, { readonly kind: 'root' | 'dial' }>;

const NO_KEYS: readonly ValueKey[] = [];

/** The keys of a channel whose keys are numbers. */
export const valueKeysOf = (layer: KeysOfLayer, channel: ValueChannel): readonly ValueKey[] =>
  (channel.kind === 'root' ? layer.rootKeys[channel.curve] : layer.dialKeys[channel.curve]) ?? NO_KEYS;

/** The name of the list that a channel's keys are on, and of its table. */
export const listOfChannel = (channel: Exclude<Channel, { kind: 'weight' }>): readonly [KeyTable, string] =>
  channel.kind === 'joint'
    ? ['keys', channel.joint]
    : [channel.kind === 'root' ? 'rootKeys' : 'dialKeys', channel.curve];

/** A name for a channel, the same for the same channel. */
export function channelId(channel: Channel): string {
  switch (channel.kind) {
    case 'weight':
      return 'weight';
    case 'root':
    case 'dial':
      return `${channel.kind} ${channel.curve}`;
    case 'joint':
      return `joint ${channel.axis} ${channel.joint}`;
  }
}

/** The channels of a layer that have keys: its weight, its root, its dials, its joints. */
export function channelsOf({
  weight,
  rootKeys,
  dialKeys,
  keys,
}: KeysOfLayer & Pick<LayerLane, 'weight'>): Channel[] {
  const channels: Channel[] = weight.length > 0 ? [{ kind: 'weight' }] : [];
  for (const curve of ROOT_CURVES)
    if ((rootKeys[curve] ?? []).length > 0) channels.push({ kind: 'root', curve });
  for (const curve of Object.keys(DIALS) as Dial[])
    if ((dialKeys[curve] ?? []).length > 0) channels.push({ kind: 'dial', curve });
  for (const joint of Object.keys(keys))
    for (const axis of [0, 1, 2] as const) channels.push({ kind: 'joint', joint, axis });
  return channels;
}

/** The points of a weight as the keys that they come to: straight between them, or flat at each. */
const weightKeys = (points: readonly Handle[], shape: LayerLane['weightShape']): ValueKey[] =>
  points.map(([frame, value]) => ({
    frame,
    value,
    curve: shape === 'smooth' ? 'flat' : 'linear',
    tangent: null,
    into: null,
  }));

function curveOfValues(keys: readonly ValueKey[], scale: number, none: number): ChannelCurve {
  const curve = valueCurve(keys);
  return {
    frames: curve.frames,
    values: curve.values.map((v) => v * scale),
    valueAt: (frame) => valueOn(curve, frame, none) * scale,
  };
}

/** A layer's weight as a curve; 100 % without points. */
export const weightCurve = (points: readonly Handle[], shape: LayerLane['weightShape']): ChannelCurve =>
  curveOfValues(weightKeys(points, shape), PER_CENT, 1);

/** A direction of the root, or a dial, as a curve. */
export const valueChannelCurve = (channel: ValueChannel, keys: readonly ValueKey[]): ChannelCurve =>
  curveOfValues(keys, valueScale(channel), channel.kind === 'dial' ? DIALS[channel.curve].none : 0);

/** The three angles of a joint's keys as curves. */
export function jointCurves(keys: readonly PoseKey[]): readonly [ChannelCurve, ChannelCurve, ChannelCurve] {
  const track = keyTrack(0, keys);
  const angles = anglesOfTrack(track);
  const axis = (k: 0 | 1 | 2): ChannelCurve => ({
    frames: track.frames,
    values: Float64Array.from(track.frames, (_, i) => angles[i * 3 + k]! * DEGREES),
    valueAt: (frame) => angleAt(track, angles, frame)[k]! * DEGREES,
  });
  return [axis(0), axis(1), axis(2)];
}

/** The curve of a channel. */
export function channelCurve(layer: LayerLane, channel: Channel): ChannelCurve {
  switch (channel.kind) {
    case 'weight':
      return weightCurve(layer.weight, layer.weightShape);
    case 'root':
    case 'dial':
      return valueChannelCurve(channel, valueKeysOf(layer, channel));
    case 'joint':
      return jointCurves(layer.keys[channel.joint] ?? [])[channel.axis];
  }
}

/** The keys of a channel, with the slopes that they come to. */
export function channelKeys(layer: LayerLane, channel: Channel): ChannelKey[] {
  switch (channel.kind) {
    case 'weight':
      return keysOfValues(weightKeys(layer.weight, layer.weightShape), PER_CENT);
    case 'root':
    case 'dial':
      return keysOfValues(valueKeysOf(layer, channel), valueScale(channel));
    case 'joint':
      return keysOfJoint(layer.keys[channel.joint] ?? [], channel.axis);
  }
}

/** Keys asked for at once, up to which each is looked up alone. */
const FEW = 24;

/**
 * The keys of a channel at some frames, in order: those of `channelKeys`, without going through all of them for a few. Slopes depend on
 * the neighbours of a key alone; the angles of a joint on those of all keys before.
 */
export function channelKeysAt(
  layer: LayerLane,
  channel: Channel,
  frames: ReadonlySet<number>,
): readonly ChannelKey[] {
  if (frames.size === 0) return [];
  if (channel.kind === 'joint' || frames.size > FEW)
    return channelKeys(layer, channel).filter((key) => frames.has(key.frame));
  const ordered = [...frames].sort((a, b) => a - b);
  if (channel.kind === 'weight') {
    const { weight, weightShape } = layer;
    return keysAround(
      weight,
      ([at]) => at,
      ordered,
      (few) => keysOfValues(weightKeys(few, weightShape), PER_CENT),
    );
  }
  const scale = valueScale(channel);
  return keysAround(
    valueKeysOf(layer, channel),
    (key) => key.frame,
    ordered,
    (few) => keysOfValues(few, scale),
  );
}

/** What the entries at some frames come to, each read together with its neighbours. */
function keysAround<T>(
  list: readonly T[],
  frameOf: (entry: T) => number,
  frames: readonly number[],
  read: (few: readonly T[]) => readonly ChannelKey[],
): ChannelKey[] {
  return frames.flatMap((frame) => {
    const i = list.findIndex((entry) => frameOf(entry) === frame);
    if (i < 0) return [];
    const first = Math.max(0, i - 1);
    return [{ ...defined(read(list.slice(first, i + 2))[i - first]), source: i }];
  });
}

function keysOfValues(keys: readonly ValueKey[], scale: number): ChannelKey[] {
  const { into, out }: ValueCurve = valueCurve(keys);
  return keys.map(({ frame, value, curve, into: own }, i) => ({
    frame,
    value: value * scale,
    curve,
    into: into[i]! * scale,
    out: out[i]! * scale,
    broken: own !== null,
    source: i,
  }));
}

/** A joint's keys as those of one of its angles. */
export function keysOfJoint(keys: readonly PoseKey[], axis: 0 | 1 | 2): ChannelKey[] {
  const track = keyTrack(0, keys);
  const angles = anglesOfTrack(track);
  return keys.map(({ frame, curve, into }, i) => ({
    frame,
    value: angles[i * 3 + axis]! * DEGREES,
    curve,
    into: angleRates(angles, i, track.into)[axis] * DEGREES,
    out: angleRates(angles, i, track.out)[axis] * DEGREES,
    broken: into !== null,
    source: i,
  }));
}
