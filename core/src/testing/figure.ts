import type { Clip } from '../clip/clip';
import { checkClip } from '../clip/clip';
import { quatFromEuler } from '../math/euler';
import type { Skeleton } from '../skeleton/skeleton';
import { makeSkeleton } from '../skeleton/skeleton';

/** A small person for tests: 15 joints, T pose, 1.7 m, facing +Z. */
const JOINTS: readonly (readonly [name: string, parent: string, x: number, y: number, z: number])[] = [
  ['hips', '', 0, 0.95, 0],
  ['spine', 'hips', 0, 0.2, 0],
  ['chest', 'spine', 0, 0.2, 0],
  ['head', 'chest', 0, 0.25, 0],
  ['leftUpperArm', 'chest', 0.18, 0.1, 0],
  ['leftLowerArm', 'leftUpperArm', 0.28, 0, 0],
  ['rightUpperArm', 'chest', -0.18, 0.1, 0],
  ['rightLowerArm', 'rightUpperArm', -0.28, 0, 0],
  ['leftUpperLeg', 'hips', 0.09, -0.05, 0],
  ['leftLowerLeg', 'leftUpperLeg', 0, -0.42, 0],
  ['leftFoot', 'leftLowerLeg', 0, -0.41, 0],
  ['leftToes', 'leftFoot', 0, -0.05, 0.13],
  ['rightUpperLeg', 'hips', -0.09, -0.05, 0],
  ['rightLowerLeg', 'rightUpperLeg', 0, -0.42, 0],
  ['rightFoot', 'rightLowerLeg', 0, -0.41, 0],
  ['rightToes', 'rightFoot', 0, -0.05, 0.13],
];

/** The skeleton of the small person. */
export function figureSkeleton(): Skeleton {
  const names = JOINTS.map(([name]) => name);
  return makeSkeleton({
    names,
    parents: JOINTS.map(([, parent]) => names.indexOf(parent)),
    restTranslations: JOINTS.flatMap(([, , x, y, z]) => [x, y, z]),
  });
}

/** Where the small person is, and how its joints are turned (radians about x, y, z), at a sample. */
export interface FigurePose {
  readonly x: number;
  readonly y?: number;
  readonly z: number;
  readonly turn: number;
  readonly joints?: Readonly<Record<string, readonly [number, number, number]>>;
}

/** A clip of the small person, given by a pose for every sample. */
export function figureClip(
  frames: number,
  pose: (sample: number) => FigurePose,
  options: { rate?: number; skeleton?: Skeleton; id?: string } = {},
): Clip {
  const skeleton = options.skeleton ?? figureSkeleton();
  const joints = skeleton.names.length;
  const rotations = new Float32Array(frames * joints * 4);
  const translations = new Float32Array(frames * 3);
  const q = new Float64Array(4);
  for (let f = 0; f < frames; f++) {
    const p = pose(f);
    skeleton.names.forEach((name, j) => {
      const [x, y, z] = p.joints?.[name] ?? [0, 0, 0];
      quatFromEuler(y + (j === 0 ? p.turn : 0), x, z, [1, 0, 2], q, 0);
      rotations.set(q, (f * joints + j) * 4);
    });
    translations.set([p.x, p.y ?? 0.95, p.z], f * 3);
  }
  return checkClip({
    id: options.id ?? 'figure',
    name: options.id ?? 'figure',
    skeleton,
    rate: options.rate ?? 30,
    frames,
    rotations,
    translated: Int32Array.of(skeleton.rootBone),
    translations,
  });
}

/** Swinging legs and arms at a phase in radians: enough of a walk to tell poses apart. */
export const strideJoints = (phase: number): FigurePose['joints'] => ({
  leftUpperLeg: [-0.5 * Math.sin(phase), 0, 0],
  rightUpperLeg: [0.5 * Math.sin(phase), 0, 0],
  leftLowerLeg: [0.35 - 0.35 * Math.cos(phase), 0, 0],
  rightLowerLeg: [0.35 + 0.35 * Math.cos(phase), 0, 0],
  leftUpperArm: [0, 0, -1.2 + 0.3 * Math.sin(phase)],
  rightUpperArm: [0, 0, 1.2 + 0.3 * Math.sin(phase)],
});
