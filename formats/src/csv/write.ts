import type { Clip } from '@warper/core';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '@warper/core';
import { rootTrack } from '@warper/core/kernels';
import type { UpAxis } from '../upAxis';
import { turnUp } from '../upAxis';

const DEGREES = 180 / Math.PI;
const PER_JOINT = ['x', 'y', 'z', 'qx', 'qy', 'qz', 'qw'] as const;

/** A field as RFC 4180 has it: in quotes where it holds a comma, a quote or the end of a line. */
const field = (text: string): string => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

/**
 * The first line of a motion as CSV (RFC 4180): frame and seconds, the root on the floor (x, z and heading in degrees, positive towards +X),
 * then of every joint its place and its rotation (a unit quaternion) in the scene. With Z up the floor is x and y, and a heading of 0 looks to -Y.
 */
export const csvHead = (names: readonly string[], upAxis: UpAxis = 'y'): string =>
  [
    'frame',
    'seconds',
    'root x',
    upAxis === 'y' ? 'root z' : 'root y',
    'root heading',
    ...names.flatMap((name) => PER_JOINT.map((part) => `${name} ${part}`)),
  ]
    .map(field)
    .join(',') + '\r\n';

/**
 * Lines of samples [from, to) of a clip.
 *
 * @param unitsPerMetre of places
 */
export function csvRows(
  clip: Clip,
  from: number,
  to: number,
  unitsPerMetre: number,
  upAxis: UpAxis = 'y',
): string {
  const { skeleton, rate } = clip;
  const buffer = makePoseBuffer(skeleton);
  const world = makeWorldPose(skeleton);
  const root = rootTrack(clip);
  let text = '';
  for (let f = from; f < to; f++) {
    const { positions, rotations } = poseToWorld(skeleton, samplePose(clip, f, buffer), world);
    const row: number[] = [
      f,
      f / rate,
      root[f * 3]! * unitsPerMetre,
      root[f * 3 + 1]! * unitsPerMetre * (upAxis === 'y' ? 1 : -1),
      root[f * 3 + 2]! * DEGREES,
    ];
    for (let j = 0; j < skeleton.names.length; j++) {
      turnUp(upAxis, positions, j * 3);
      turnUp(upAxis, rotations, j * 4);
      for (let k = 0; k < 3; k++) row.push(positions[j * 3 + k]! * unitsPerMetre);
      for (let k = 0; k < 4; k++) row.push(rotations[j * 4 + k]!);
    }
    text += row.map((v) => Number(v.toFixed(6))).join(',') + '\r\n';
  }
  return text;
}
