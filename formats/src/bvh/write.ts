import type { Clip, MotionPieces, Pose, PoseBuffer, Skeleton } from '@warper/core';
import type { EulerOrder } from '@warper/core/kernels';
import { InputError, makePoseBuffer, piecesOf, samplePose } from '@warper/core';
import { eulerFromQuat, eulerNearest, quatConjugate, quatMultiply, quatRotate } from '@warper/core/kernels';
import type { BvhJoint, BvhLayout } from '../imported';
import type { UpAxis } from '../upAxis';
import { turnUp } from '../upAxis';

/** Options of the writer. */
export interface BvhWriteOptions {
  /** Units of the file for one metre; default the layout's, 1 where the body came from another format. */
  readonly unitsPerMetre?: number;
  /** How the body's own file wrote it, if that was BVH. */
  readonly layout?: BvhLayout;
  /** Names of the joints in the file; default those of the layout. */
  readonly names?: readonly string[];
  /** Which axis points up; y by default. */
  readonly upAxis?: UpAxis;
}

/** Digits behind the point: a millionth of a degree or unit. */
const DIGITS = 6;
const DEGREES = 180 / Math.PI;

/**
 * Writes a clip as BVH. In the body's own layout it keeps names, hierarchy, channel order, offsets and units; a body of
 * another format gets one position and three rotation channels at the top, three rotations elsewhere. BVH has no rest
 * rotations: where the skeleton has some, rotations are written relative to the rest pose.
 */
export function writeBvh(clip: Clip, options: BvhWriteOptions = {}): string {
  const text = new BvhText(piecesOf(clip), options);
  return text.head() + text.rows(clip);
}

/** A motion as the text of a BVH, from its head on piece by piece; see `writeBvh`. */
export class BvhText {
  private readonly joints: readonly BvhJoint[];
  private readonly units: number;
  private readonly upAxis: UpAxis;
  private readonly relative: RestRelative;
  private readonly buffer: PoseBuffer;
  /** Angles of the row before, of all joints; null before the first. */
  private before: Float64Array | null = null;

  /** @throws InputError `scale` where the units are no number above zero */
  constructor(
    private readonly motion: MotionPieces,
    { layout, unitsPerMetre, names, upAxis = 'y' }: BvhWriteOptions,
  ) {
    const { skeleton } = motion;
    const layoutUnits = layout ? 1 / layout.metresPerUnit : 1;
    const units = unitsPerMetre ?? layoutUnits;
    if (!(units > 0) || !Number.isFinite(units)) {
      throw new InputError('scale', `${units} is not a number of units a metre.`);
    }
    this.units = units;
    const joints = layout
      ? rescale(layout.joints, (units / layoutUnits) * skeleton.size)
      : plainJoints(motion.translated, skeleton, units);
    this.upAxis = upAxis;
    this.joints = joints.map((joint, j) => ({ ...standing(joint, upAxis), name: names?.[j] ?? joint.name }));
    this.relative = restRelative(skeleton);
    this.buffer = makePoseBuffer(skeleton);
  }

  /** All that comes before the rows. */
  head(): string {
    const { frames, rate } = this.motion;
    const lines = ['HIERARCHY', ...hierarchy(this.joints), 'MOTION', `Frames: ${frames}`];
    return [...lines, `Frame Time: ${(1 / rate).toFixed(9)}`, ''].join('\n');
  }

  /** The rows of the next piece. */
  rows(piece: Clip): string {
    const { skeleton } = piece;
    const top = this.joints[skeleton.rootBone]!.channels;
    const lift = skeleton.rootBone > 0 && !top.some((c) => c.endsWith('position'));
    const lines: string[] = [];
    for (let f = 0; f < piece.frames; f++) {
      const pose = samplePose(piece, f, this.buffer);
      if (lift) carryByTop(skeleton, pose);
      lines.push(this.row(pose));
    }
    return lines.join('\n') + '\n';
  }

  private row(pose: Pose): string {
    const turned = new Float64Array(4);
    const angles = new Float64Array(3);
    const step = new Float64Array(3);
    const row: string[] = [];
    const isFirst = this.before === null;
    const before = (this.before ??= new Float64Array(this.joints.length * 3));
    this.joints.forEach((joint, j) => {
      this.relative.rotation(pose.rotations, j, turned);
      this.relative.offset(pose.translations, j, step);
      turnUp(this.upAxis, turned);
      turnUp(this.upAxis, step);
      const order = rotationOrder(joint.channels);
      eulerFromQuat(turned, 0, order, angles, 0);
      if (!isFirst) eulerNearest(angles, 0, before, j * 3);
      before.set(angles, j * 3);
      for (const channel of joint.channels) {
        const axis = channel.charCodeAt(0) - 'X'.charCodeAt(0);
        const value = channel.endsWith('rotation')
          ? angles[order.indexOf(axis)]! * DEGREES
          : step[axis]! * this.units - joint.offset[axis]!;
        row.push(value.toFixed(DIGITS));
      }
    });
    return row.join(' ');
  }
}

/** A joint with its offsets as they are with another axis up. */
function standing(joint: BvhJoint, upAxis: UpAxis): BvhJoint {
  if (upAxis === 'y') return joint;
  const offset: [number, number, number] = [...joint.offset];
  const end: [number, number, number] | null = joint.end && [...joint.end];
  turnUp(upAxis, offset);
  if (end) turnUp(upAxis, end);
  return { ...joint, offset, end };
}

/** Offsets in other units; the same numbers where the units are the file's own. */
const rescale = (joints: readonly BvhJoint[], factor: number): readonly BvhJoint[] =>
  Math.abs(factor - 1) < 1e-12
    ? joints
    : joints.map((j) => ({
        ...j,
        offset: j.offset.map((v) => v * factor) as [number, number, number],
        end: j.end && (j.end.map((v) => v * factor) as [number, number, number]),
      }));

function plainJoints(translated: Int32Array, skeleton: Skeleton, units: number): BvhJoint[] {
  const { positions, rotations } = skeleton.rest;
  const turned = (joint: number, v: readonly number[]): [number, number, number] => {
    const out = new Float64Array(3);
    quatRotate(rotations, joint * 4, Float64Array.from(v), 0, out, 0);
    return [out[0]! * units, out[1]! * units, out[2]! * units];
  };
  const hasChildren = new Set(skeleton.parents);
  return skeleton.names.map((name, i) => {
    const parent = skeleton.parents[i]!;
    const offset = [0, 1, 2].map(
      (k) => (positions[i * 3 + k]! - (parent < 0 ? 0 : positions[parent * 3 + k]!)) * units,
    );
    const moves = parent < 0 || translated.includes(i);
    const end = skeleton.ends[i];
    return {
      name,
      parent,
      // The top joint's place is all in its channels.
      offset: (parent < 0 ? [0, 0, 0] : offset) as [number, number, number],
      channels: [
        ...(moves ? ['Xposition', 'Yposition', 'Zposition'] : []),
        'Zrotation',
        'Xrotation',
        'Yrotation',
      ],
      end: end ? turned(i, end) : hasChildren.has(i) ? null : [0, 0, 0],
    };
  });
}

function hierarchy(joints: readonly BvhJoint[]): string[] {
  const lines: string[] = [];
  const children = joints.map((_, i) => joints.map((__, j) => j).filter((j) => joints[j]!.parent === i));
  const visit = (i: number, depth: number): void => {
    const joint = joints[i]!;
    const tab = '\t'.repeat(depth);
    lines.push(`${tab}${depth === 0 ? 'ROOT' : 'JOINT'} ${joint.name}`, `${tab}{`);
    lines.push(`${tab}\tOFFSET ${joint.offset.map(plainNumber).join(' ')}`);
    lines.push(`${tab}\tCHANNELS ${joint.channels.length} ${joint.channels.join(' ')}`);
    for (const child of children[i]!) visit(child, depth + 1);
    if (joint.end) {
      lines.push(`${tab}\tEnd Site`, `${tab}\t{`);
      lines.push(`${tab}\t\tOFFSET ${joint.end.map(plainNumber).join(' ')}`, `${tab}\t}`);
    }
    lines.push(`${tab}}`);
  };
  visit(0, 0);
  return lines;
}

/** A number without exponent, as short as it can be kept. */
function plainNumber(value: number): string {
  const text = String(value);
  return text.includes('e') ? value.toFixed(12) : text;
}

/** Where the root bone has no position channels, the top joint carries its travel instead. */
function carryByTop(skeleton: Skeleton, { rotations, translations }: Pose): void {
  const { rootBone, parents, restTranslations } = skeleton;
  const away = new Float64Array(3);
  for (let k = 0; k < 3; k++) away[k] = translations[rootBone * 3 + k]! - restTranslations[rootBone * 3 + k]!;
  for (let up = parents[rootBone]!; up >= 0; up = parents[up]!)
    quatRotate(rotations, up * 4, away, 0, away, 0);
  for (let k = 0; k < 3; k++) {
    translations[k]! += away[k]!;
    translations[rootBone * 3 + k] = restTranslations[rootBone * 3 + k]!;
  }
}

function rotationOrder(channels: readonly string[]): EulerOrder {
  const axes = channels.filter((c) => c.endsWith('rotation')).map((c) => c.charCodeAt(0) - 'X'.charCodeAt(0));
  for (const axis of [0, 1, 2]) if (!axes.includes(axis)) axes.push(axis);
  return axes as unknown as EulerOrder;
}

interface RestRelative {
  readonly rotation: (rotations: Float64Array, joint: number, out: Float64Array) => void;
  readonly offset: (translations: Float64Array, joint: number, out: Float64Array) => void;
}

/** Rotations and offsets of joints as a format without rest rotations means them. */
function restRelative(skeleton: Skeleton): RestRelative {
  const rest = skeleton.rest.rotations;
  const inverse = new Float64Array(4);
  return {
    // parent_rest * local * own_rest^-1: the local rotation seen from world-aligned axes.
    rotation: (rotations, joint, out) => {
      const parent = skeleton.parents[joint]!;
      quatConjugate(rest, joint * 4, inverse, 0);
      quatMultiply(rotations, joint * 4, inverse, 0, out, 0);
      if (parent >= 0) quatMultiply(rest, parent * 4, out, 0, out, 0);
    },
    offset: (translations, joint, out) => {
      const parent = skeleton.parents[joint]!;
      if (parent >= 0) quatRotate(rest, parent * 4, translations, joint * 3, out, 0);
      else for (let k = 0; k < 3; k++) out[k] = translations[joint * 3 + k]!;
    },
  };
}
