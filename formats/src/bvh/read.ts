import type { Skeleton, InputError } from '@warper/core';
import {
  TOO_LARGE_HINT,
  MAX_FRAMES,
  MAX_JOINTS,
  checkClip,
  chooseRoles,
  makeSkeleton,
  restHeight,
} from '@warper/core';
import { withTravelBone } from '@warper/core/kernels';
import { bodyId, clipId, hashBytes, sourceId } from '../hash';
import type { Body, BvhJoint, BvhLayout, Imported, ReadOptions, Remark } from '../imported';
import { mappedRoles, ownRoles, skeletonSignature } from '../skeletonMap';
import { snapRate } from '../snapRate';
import { Cursor } from './cursor';
import { findReferenceFrame } from './referenceFrame';
import { toSamples } from './samples';

/** Metres for one unit that are tried in turn: metre, centimetre, inch, and 1/0.45 inch of one large database. */
const UNITS = [1, 0.01, 0.0254, 0.056444];
const BODY_HEIGHT = { from: 1, to: 2.5 };
const CHANNELS = ['Xposition', 'Yposition', 'Zposition', 'Xrotation', 'Yrotation', 'Zrotation'];
/** Shortest time from row to row, seconds: that of the fastest rate that a scene may have. */
const SHORTEST_FRAME = 1e-4;
/** Longest a file without rows may promise; keeps a forged header from reserving memory. */
const MOST_VALUES = 400_000_000;

/**
 * Reads a BVH file (Biovision hierarchy; Meredith and Maddock, "Motion Capture File Formats Explained", 2001): any
 * channel order, end sites, position channels on any joint. A position channel is added to the joint's offset.
 *
 * @param options metres for one unit, default whichever usual unit makes the rest pose 1 to 2.5 m high
 * @throws InputError `bvh` with the line and what was expected, `bvh-rows` with the number of missing rows
 */
export function readBvh(bytes: Uint8Array, file: string, options: ReadOptions = {}): Imported {
  const { scale, roles, hash = hashBytes(bytes) } = options;
  const cursor = new Cursor(bytes);
  const joints = readHierarchy(cursor);
  const { frames, frameTime } = readMotionHeader(cursor);
  const remarks: Remark[] = [];
  const rows = readRows(cursor, joints, frames, remarks);
  const metresPerUnit = scale ?? guessUnit(joints, remarks);
  const skeleton = toSkeleton(joints, metresPerUnit, options);
  const source = sourceId(hash, scale, roles);
  const name = file.replace(/^.*[\\/]/, '').replace(/\.bvh$/i, '');
  const clip = withTravelBone(
    checkClip({
      id: clipId(source, 0),
      name,
      skeleton,
      rate: snapRate(1 / frameTime),
      frames,
      ...toSamples(rows, joints, skeleton, frames, metresPerUnit),
    }),
  );
  const reference = findReferenceFrame(clip);
  if (reference) remarks.push(reference);
  const layout: BvhLayout = { kind: 'bvh', metresPerUnit, joints };
  const body: Body = {
    id: bodyId(source, 0),
    name,
    signature: skeletonSignature(skeleton.names, skeleton.parents),
    skeleton,
    skinned: false,
    meshed: false,
    layout,
  };
  return {
    source,
    file,
    format: 'bvh',
    bodies: [body],
    clips: [clip],
    mapped: mappedRoles([body], options),
    remarks,
  };
}

function expectWord(cursor: Cursor, expected: string): void {
  const word = cursor.word();
  if (word.toUpperCase() !== expected.toUpperCase()) {
    throw cursor.error(
      'bvh',
      `Expected ${expected}, found ${word ? `"${word.slice(0, 40)}"` : 'the end of the file'}.`,
    );
  }
}

function readNumbers(cursor: Cursor, count: number, what: string): number[] {
  return Array.from({ length: count }, () => {
    const value = cursor.hasOnLine() ? cursor.number() : NaN;
    if (!Number.isFinite(value)) throw cursor.error('bvh', `Expected ${count} numbers after ${what}.`);
    // Minus zero is zero.
    return value + 0;
  });
}

function readHierarchy(cursor: Cursor): BvhJoint[] {
  expectWord(cursor, 'HIERARCHY');
  expectWord(cursor, 'ROOT');
  const joints: BvhJoint[] = [];
  const open: number[] = [];
  readJointHead(cursor, joints, -1, open);
  while (open.length > 0) {
    const word = cursor.word();
    const joint = open.at(-1)!;
    if (word === '}') open.pop();
    else if (word.toUpperCase() === 'JOINT') readJointHead(cursor, joints, joint, open);
    else if (word.toUpperCase() === 'END') readEnd(cursor, joints, joint);
    else
      throw cursor.error(
        'bvh',
        `Expected JOINT, End Site or }, found ${word ? `"${word.slice(0, 40)}"` : 'the end of the file'}.`,
      );
  }
  if (cursor.peek().toUpperCase() === 'ROOT') {
    throw cursor.error(
      'bvh',
      'A second ROOT begins here; one skeleton a file can be read.',
      'Export one file for each character.',
    );
  }
  return joints;
}

function readJointHead(cursor: Cursor, joints: BvhJoint[], parent: number, open: number[]): void {
  const line = cursor.hasOnLine() ? cursor.rest() : '';
  const braceSeen = line.endsWith('{');
  const name = line.replace(/\s*\{$/, '');
  if (!name) throw cursor.error('bvh', 'Expected the name of a joint.');
  if (joints.length >= MAX_JOINTS)
    throw cursor.error('bvh', `More than ${MAX_JOINTS} joints.`, TOO_LARGE_HINT);
  if (!braceSeen) expectWord(cursor, '{');
  expectWord(cursor, 'OFFSET');
  const offset = readNumbers(cursor, 3, 'OFFSET') as [number, number, number];
  const channels: string[] = [];
  if (cursor.peek().toUpperCase() === 'CHANNELS') {
    cursor.word();
    const [count] = readNumbers(cursor, 1, 'CHANNELS') as [number];
    if (!Number.isInteger(count) || count < 0 || count > 6)
      throw cursor.error('bvh', `Expected 0 to 6 channels, found ${count}.`);
    for (let i = 0; i < count; i++) channels.push(readChannel(cursor, channels));
  }
  joints.push({ name, parent, offset, channels, end: null });
  open.push(joints.length - 1);
}

function readChannel(cursor: Cursor, before: readonly string[]): string {
  const word = cursor.word();
  const channel = CHANNELS.find((c) => c.toLowerCase() === word.toLowerCase());
  if (!channel || before.includes(channel)) {
    throw cursor.error(
      'bvh',
      `Expected one of ${CHANNELS.join(', ')}, each once, found "${word.slice(0, 40)}".`,
    );
  }
  return channel;
}

function readEnd(cursor: Cursor, joints: BvhJoint[], joint: number): void {
  expectWord(cursor, 'Site');
  expectWord(cursor, '{');
  expectWord(cursor, 'OFFSET');
  const end = readNumbers(cursor, 3, 'OFFSET') as [number, number, number];
  expectWord(cursor, '}');
  joints[joint] = { ...joints[joint]!, end };
}

function readMotionHeader(cursor: Cursor): { frames: number; frameTime: number } {
  expectWord(cursor, 'MOTION');
  expectWord(cursor, 'Frames:');
  const [frames] = readNumbers(cursor, 1, 'Frames:') as [number];
  if (!Number.isInteger(frames) || frames < 1 || frames > MAX_FRAMES) {
    throw cursor.error('bvh', `Expected 1 to ${MAX_FRAMES} frames, found ${frames}.`);
  }
  expectWord(cursor, 'Frame');
  expectWord(cursor, 'Time:');
  const [frameTime] = readNumbers(cursor, 1, 'Frame Time:') as [number];
  if (!(frameTime >= SHORTEST_FRAME) || frameTime > 100)
    throw cursor.error(
      'bvh',
      `Expected a frame time of ${SHORTEST_FRAME} to 100 seconds, found ${frameTime}.`,
      'Write the seconds from one row to the next, such as 0.033333.',
    );
  return { frames, frameTime };
}

function readRows(
  cursor: Cursor,
  joints: readonly BvhJoint[],
  frames: number,
  remarks: Remark[],
): Float64Array {
  const width = joints.reduce((sum, j) => sum + j.channels.length, 0);
  if (width === 0) throw cursor.error('bvh', 'No joint has a channel, so nothing moves.');
  if (width * frames > MOST_VALUES)
    throw cursor.error('bvh', `${frames} rows of ${width} numbers are too many.`, TOO_LARGE_HINT);
  // Grown as rows arrive, so that a header alone reserves nothing.
  let values = new Float64Array(Math.min(frames, 1024) * width);
  let row = 0;
  for (; row < frames && cursor.nextLine(); row++) {
    if ((row + 1) * width > values.length) {
      const larger = new Float64Array(Math.min(frames * width, values.length * 2));
      larger.set(values);
      values = larger;
    }
    const count = cursor.numbers(values, row * width, width);
    if (count < width) throw rowError(cursor, row, count, width, frames);
    if (cursor.hasOnLine()) throw cursor.error('bvh', `Expected ${width} numbers in row ${row}, found more.`);
  }
  if (row < frames) throw missingRows(cursor, row, frames);
  let extra = 0;
  while (cursor.nextLine()) {
    cursor.rest();
    extra++;
  }
  if (extra > 0) {
    remarks.push({
      code: 'extra-rows',
      message: `${extra} rows after the ${frames} that the file declares were left out.`,
    });
  }
  return values;
}

function rowError(cursor: Cursor, row: number, count: number, width: number, frames: number): InputError {
  const { line } = cursor;
  if (!cursor.hasOnLine() && !cursor.nextLine()) return missingRows(cursor, row, frames);
  cursor.line = line;
  return cursor.error('bvh', `Expected ${width} numbers in row ${row}, found ${count}.`);
}

const missingRows = (cursor: Cursor, row: number, frames: number): InputError =>
  cursor.error(
    'bvh-rows',
    `The file declares ${frames} rows and has ${row} whole ones: ${frames - row} are missing.`,
    'The file was cut short; export or copy it again.',
  );

function guessUnit(joints: readonly BvhJoint[], remarks: Remark[]): number {
  const height = restHeight(toSkeleton(joints, 1, {}));
  for (const unit of UNITS) {
    if (height * unit < BODY_HEIGHT.from || height * unit > BODY_HEIGHT.to) continue;
    if (unit !== 1) {
      remarks.push({
        code: 'unit',
        message: `Read at ${unit} m a unit, which makes the body ${(height * unit).toFixed(2)} m high.`,
      });
    }
    return unit;
  }
  remarks.push({
    code: 'unit-unknown',
    message: `The body is ${height.toFixed(2)} units high; no usual unit makes that a person's height, so units were taken as metres.`,
  });
  return 1;
}

function toSkeleton(joints: readonly BvhJoint[], metresPerUnit: number, options: ReadOptions): Skeleton {
  const names = joints.map((j) => j.name);
  const parents = joints.map((j) => j.parent);
  return makeSkeleton({
    names,
    parents,
    roles: chooseRoles(names, parents, ownRoles(names, parents, options)),
    restTranslations: joints.flatMap((j) => j.offset.map((v) => v * metresPerUnit)),
    ends: joints.map((j) => j.end && (j.end.map((v) => v * metresPerUnit) as [number, number, number])),
  });
}
