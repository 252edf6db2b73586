import type { Dial } from '../clip/dials';
import { DIALS } from '../clip/dials';
import type { EulerOrder } from '../math/euler';
import { eulerFromQuat, eulerNearest, quatFromEuler } from '../math/euler';
import { defined } from '../math/defined';
import type { Handle } from '../math/spline';
import type { KeyCurve, PoseKey, RootCurve, ValueKey } from '../scene/keys';
import { ROOT_CURVES } from '../scene/keys';
import type { LayerLane } from '../scene/lane';
import type { KeysOfLayer, KeyTable } from './keyLists';
import { withKeyList } from './keyLists';
import type { KeyTrack } from './keys';
import { keyTrack, keyedRotation } from './keys';
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

const ORDER: EulerOrder = [0, 1, 2];
const DEGREES = 180 / Math.PI;
const PER_CENT = 100;
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

/** Angles of every key, keys x 3, radians, each next to those of the key before. */
function anglesOfTrack({ frames, rotations }: KeyTrack): Float64Array {
  const out = new Float64Array(frames.length * 3);
  for (let i = 0; i < frames.length; i++) {
    eulerFromQuat(rotations, i * 4, ORDER, out, i * 3);
    if (i > 0) eulerNearest(out, i * 3, out, i * 3 - 3);
  }
  return out;
}

const _rotation = new Float64Array(4);
const _angles = new Float64Array(3);
const _near = new Float64Array(3);

/** The angles at a frame, next to those on the straight way between the keys around. */
function angleAt(track: KeyTrack, angles: Float64Array, frame: number): Float64Array {
  const { frames } = track;
  keyedRotation(track, frame, _rotation, 0);
  eulerFromQuat(_rotation, 0, ORDER, _angles, 0);
  let i = 0;
  let high = frames.length - 1;
  while (i < high) {
    const middle = (i + high + 1) >> 1;
    if (frames[middle]! <= frame) i = middle;
    else high = middle - 1;
  }
  const next = Math.min(i + 1, frames.length - 1);
  const span = frames[next]! - frames[i]!;
  const t = span > 0 ? Math.min(1, Math.max(0, (frame - frames[i]!) / span)) : 0;
  for (let k = 0; k < 3; k++)
    _near[k] = angles[i * 3 + k]! + t * (angles[next * 3 + k]! - angles[i * 3 + k]!);
  return eulerNearest(_angles, 0, _near, 0) as Float64Array;
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

function keysOfJoint(keys: readonly PoseKey[], axis: 0 | 1 | 2): ChannelKey[] {
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

type Triple = [number, number, number];

/** Cosine of the middle angle below which the rates of the others are not to be told apart. */
const GIMBAL = 1e-3;

/**
 * Rates of the angles of R = Rx(a) Ry(b) Rz(c) from a rotation vector a frame in the body's axes:
 * w = (cos b cos c a' + sin c b', -cos b sin c a' + cos c b', sin b a' + c') solved for a', b', c'
 * (Diebel, "Representing Attitude", 2006, section 5.6, for this order).
 */
function angleRates(angles: Float64Array, i: number, vectors: Float64Array): Triple {
  const [b, c] = [angles[i * 3 + 1]!, angles[i * 3 + 2]!];
  const [x, y, z] = [vectors[i * 3]!, vectors[i * 3 + 1]!, vectors[i * 3 + 2]!];
  const cosine = Math.cos(b);
  const safe = Math.abs(cosine) < GIMBAL ? GIMBAL * (cosine < 0 ? -1 : 1) : cosine;
  const a = (Math.cos(c) * x - Math.sin(c) * y) / safe;
  return [a, Math.sin(c) * x + Math.cos(c) * y, z - Math.sin(b) * a];
}

/** The rotation vector a frame in the body's axes from rates of the angles. */
function vectorOfRates(angles: ArrayLike<number>, [a, b, c]: Triple): Triple {
  const [y, z] = [angles[1]!, angles[2]!];
  const across = Math.cos(y) * a;
  return [
    across * Math.cos(z) + b * Math.sin(z),
    -across * Math.sin(z) + b * Math.cos(z),
    Math.sin(y) * a + c,
  ];
}

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
        : quadruple(quatFromEuler(here[0]!, here[1]!, here[2]!, ORDER, new Float64Array(4), 0));
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
