import type { Clip, Skeleton } from '@warper/core';
import { quatMultiply, quatRotate } from '@warper/core/kernels';
import type { BvhJoint } from '../imported';

const HALF_RADIAN = Math.PI / 360;

/** Where the values of each joint stand in a row; joints x 3, -1 for a channel that it does not have. */
interface Columns {
  /** Columns of the rotations in the order in which they are multiplied, and the axis of each (0 = x). */
  readonly turns: Int32Array;
  readonly axes: Int32Array;
  /** Columns of the positions along x, y and z. */
  readonly places: Int32Array;
  readonly width: number;
}

const axisOf = (channel: string): number => channel.charCodeAt(0) - 'X'.charCodeAt(0);
const isRotation = (channel: string): boolean => channel.endsWith('rotation');

function columnsOf(joints: readonly BvhJoint[]): Columns {
  const [turns, axes, places] = [0, 0, 0].map(() => new Int32Array(joints.length * 3).fill(-1)) as [
    Int32Array,
    Int32Array,
    Int32Array,
  ];
  let width = 0;
  joints.forEach(({ channels }, j) => {
    let turn = j * 3;
    for (const channel of channels) {
      if (isRotation(channel)) {
        turns[turn] = width;
        axes[turn++] = axisOf(channel);
      } else places[j * 3 + axisOf(channel)] = width;
      width++;
    }
  });
  return { turns, axes, places, width };
}

/**
 * Rows of channel values, turned into samples. Written as one loop over the numbers: this is most of the work of reading
 * a capture.
 *
 * @param rows frames x channels, as they stand in the file: degrees, and its own units
 */
export function toSamples(
  rows: Float64Array,
  joints: readonly BvhJoint[],
  skeleton: Skeleton,
  frames: number,
  metresPerUnit: number,
): Pick<Clip, 'rotations' | 'translated' | 'translations'> {
  const { rootBone } = skeleton;
  const columns = columnsOf(joints);
  const rotations = new Float32Array(frames * joints.length * 4);
  for (let f = 0; f < frames; f++)
    writeRotations(rows, f * columns.width, columns, joints.length, rotations, f * joints.length * 4);
  const moving = joints
    .map((_, i) => i)
    .filter((i) => i !== rootBone && joints[i]!.channels.some((c) => !isRotation(c)));
  const translated = Int32Array.of(rootBone, ...moving);
  const translations = new Float32Array(frames * translated.length * 3);
  const place = new Float64Array(3);
  const turn = new Float64Array(4);
  for (let f = 0; f < frames; f++) {
    const row = f * columns.width;
    for (let i = 1; i < translated.length; i++) {
      localPlace(rows, row, columns, joints, translated[i]!, place);
      for (let k = 0; k < 3; k++)
        translations[(f * translated.length + i) * 3 + k] = place[k]! * metresPerUnit;
    }
    rootBoneInScene(rows, row, columns, joints, rootBone, turn, place);
    rotations.set(turn, (f * joints.length + rootBone) * 4);
    for (let k = 0; k < 3; k++) translations[f * translated.length * 3 + k] = place[k]! * metresPerUnit;
  }
  return { rotations, translated, translations };
}

/** Writes the rotations of `count` joints of a row, from joint `first` on. */
function writeRotations(
  rows: Float64Array,
  row: number,
  { turns, axes }: Columns,
  count: number,
  out: Float32Array | Float64Array,
  o: number,
  first = 0,
): void {
  for (let j = first; j < first + count; j++, o += 4) {
    let x = 0;
    let y = 0;
    let z = 0;
    let w = 1;
    for (let i = j * 3; i < j * 3 + 3; i++) {
      const column = turns[i]!;
      if (column < 0) break;
      const half = rows[row + column]! * HALF_RADIAN;
      const s = Math.sin(half);
      const c = Math.cos(half);
      const px = x;
      const py = y;
      const pz = z;
      const pw = w;
      // The product with a turn about one of the axes.
      if (axes[i] === 0) {
        x = px * c + pw * s;
        y = py * c + pz * s;
        z = pz * c - py * s;
        w = pw * c - px * s;
      } else if (axes[i] === 1) {
        x = px * c - pz * s;
        y = py * c + pw * s;
        z = pz * c + px * s;
        w = pw * c - py * s;
      } else {
        x = px * c + py * s;
        y = py * c - px * s;
        z = pz * c + pw * s;
        w = pw * c - pz * s;
      }
    }
    out[o] = x;
    out[o + 1] = y;
    out[o + 2] = z;
    out[o + 3] = w;
  }
}

/** Writes where a joint stands relative to its parent, in the file's units: its offset and what its channels add. */
function localPlace(
  rows: Float64Array,
  row: number,
  { places }: Columns,
  joints: readonly BvhJoint[],
  joint: number,
  out: Float64Array,
): void {
  for (let k = 0; k < 3; k++) {
    const column = places[joint * 3 + k]!;
    out[k] = joints[joint]!.offset[k]! + (column < 0 ? 0 : rows[row + column]!);
  }
}

const _turn = new Float64Array(4);
const _step = new Float64Array(3);

/** Writes the root bone's transform in scene space, through whatever moves above it; the place in the file's units. */
function rootBoneInScene(
  rows: Float64Array,
  row: number,
  columns: Columns,
  joints: readonly BvhJoint[],
  rootBone: number,
  turn: Float64Array,
  place: Float64Array,
): void {
  writeRotations(rows, row, columns, 1, turn, 0, rootBone);
  localPlace(rows, row, columns, joints, rootBone, place);
  for (let up = joints[rootBone]!.parent; up >= 0; up = joints[up]!.parent) {
    writeRotations(rows, row, columns, 1, _turn, 0, up);
    localPlace(rows, row, columns, joints, up, _step);
    quatMultiply(_turn, 0, turn, 0, turn, 0);
    quatRotate(_turn, 0, place, 0, place, 0);
    for (let k = 0; k < 3; k++) place[k]! += _step[k]!;
  }
}
