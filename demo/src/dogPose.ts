import type { Skeleton } from '@warper/core';
import { makeSkeleton } from '@warper/core';
import type { Vec3 } from './pose';

/**
 * The Keeper's dog: four legs, each in its own upright plane. Hind legs have a hock over the paw, front legs bend at the
 * elbow; paws stand exactly while they are down.
 */
const JOINTS: readonly (readonly [name: string, parent: string, x: number, y: number, z: number])[] = [
  ['hips', '', 0, 0.5, -0.24],
  ['spine', 'hips', 0, 0.015, 0.16],
  ['chest', 'spine', 0, -0.005, 0.2],
  ['neck', 'chest', 0, 0.05, 0.11],
  ['head', 'neck', 0, 0.13, 0.09],
  ['tail', 'hips', 0, 0.03, -0.09],
  ['tail_tip', 'tail', 0, -0.03, -0.15],
  ...(['left', 'right'] as const).flatMap((side) => {
    const s = side === 'left' ? 1 : -1;
    return [
      [`${side}HindUpperLeg`, 'hips', s * 0.065, -0.04, 0],
      [`${side}HindLowerLeg`, `${side}HindUpperLeg`, 0, -0.19, 0.07],
      [`${side}HindHock`, `${side}HindLowerLeg`, 0, -0.14, -0.12],
      [`${side}HindPaw`, `${side}HindHock`, 0, -0.11, 0.02],
      [`${side}FrontUpperLeg`, 'chest', s * 0.065, -0.09, 0.05],
      [`${side}FrontLowerLeg`, `${side}FrontUpperLeg`, 0, -0.16, -0.06],
      [`${side}FrontPaw`, `${side}FrontLowerLeg`, 0, -0.24, 0.03],
    ] as const;
  }),
];

/** Height of the paws' joints over the floor. */
export const PAW = 0.02;

/** Names of the dog's joints. */
export const names = JOINTS.map(([name]) => name);
/** Where a joint rests, from its parent. */
export const offset = (name: string): Vec3 => {
  const [, , x, y, z] = JOINTS[names.indexOf(name)]!;
  return [x, y, z];
};

/** The dog's skeleton. */
export const dogSkeleton = (): Skeleton =>
  makeSkeleton({
    names,
    parents: JOINTS.map(([, parent]) => names.indexOf(parent)),
    restTranslations: JOINTS.flatMap(([, , x, y, z]) => [x, y, z]),
    ends: names.map((n) => (n === 'head' ? [0, -0.03, 0.14] : n === 'tail_tip' ? [0, 0.02, -0.12] : null)),
  });

/** Where a paw is, how far it is raised at its tip, and how far the hock over it leans back onto the floor. */
export interface PawPlace {
  readonly y: number;
  readonly z: number;
  readonly bend: number;
  readonly hock?: number;
}

/** A dog's pose: place and pitch of the hips, turns of the trunk, and where the paws are. */
export interface DogPose {
  readonly hips: Vec3;
  readonly pitch: number;
  readonly neck: Vec3;
  readonly head: Vec3;
  readonly tail: Vec3;
  /** Height and place along z of each paw, and how far it is raised at its tip. */
  readonly paws: Readonly<Record<Paw, PawPlace>>;
}

export const PAWS = ['leftHind', 'rightHind', 'leftFront', 'rightFront'] as const;
export type Paw = (typeof PAWS)[number];

/** Turn about x that takes one direction in the y-z plane to another. */
const turnTo = (from: readonly [number, number], to: readonly [number, number]): number =>
  Math.atan2(from[0] * to[1] - from[1] * to[0], from[0] * to[0] + from[1] * to[1]);

const turned = ([y, z]: readonly [number, number], a: number): [number, number] => [
  y * Math.cos(a) - z * Math.sin(a),
  y * Math.sin(a) + z * Math.cos(a),
];

/** Turns of the upper and the lower bone (world, about x) that bring the end of a leg to a place under its start. */
function bendLeg(
  a: readonly [number, number],
  b: readonly [number, number],
  way: readonly [number, number],
  forwards: boolean,
): [number, number] {
  const [la, lb] = [Math.hypot(...a), Math.hypot(...b)];
  const d = Math.min(Math.hypot(...way), (la + lb) * 0.9995);
  const inner = Math.acos(Math.min(1, Math.max(-1, (la * la + d * d - lb * lb) / (2 * la * d))));
  const aim = Math.atan2(way[1], -way[0]);
  const direction = aim + (forwards ? inner : -inner);
  const upper: [number, number] = [-la * Math.cos(direction), la * Math.sin(direction)];
  const scale = d / Math.hypot(...way);
  const lower: [number, number] = [way[0] * scale - upper[0], way[1] * scale - upper[1]];
  return [turnTo(a, upper), turnTo(b, lower)];
}

/** Local turns of every joint, x y z in that order of axes: yaw, pitch, roll are kept small and apart. */
export function poseDog(p: DogPose): Map<string, Vec3> {
  const turns = new Map<string, Vec3>([
    ['hips', [p.pitch, 0, 0]],
    ['spine', [0, 0, 0]],
    ['chest', [0, 0, 0]],
    ['neck', p.neck],
    ['head', p.head],
    ['tail', p.tail],
    ['tail_tip', [p.tail[0] * 0.5, p.tail[1] * 1.3, 0]],
  ]);
  const trunk = (name: string): [number, number] => {
    const chain = ['spine', 'chest'].slice(0, name === 'chest' ? 2 : 0);
    const sum = chain.reduce<[number, number]>((v, n) => [v[0] + offset(n)[1], v[1] + offset(n)[2]], [0, 0]);
    return sum;
  };
  for (const paw of PAWS) {
    const hind = paw.endsWith('Hind');
    const up = offset(`${paw}UpperLeg`);
    const from = trunk(hind ? 'hips' : 'chest');
    const [y, z] = turned([from[0] + up[1], from[1] + up[2]], p.pitch);
    const start: [number, number] = [p.hips[1] + y, p.hips[2] + z];
    const { y: py, z: pz, bend, hock = 0 } = p.paws[paw];
    const a = offset(`${paw}LowerLeg`);
    const b = offset(hind ? `${paw}Hock` : `${paw}Paw`);
    // The hock leans with the leg: back under the body, forward before it.
    const lean = hind ? 0.55 * Math.atan2(pz - start[1], start[0] - py) - bend + hock : 0;
    const foot = offset(`${paw}Paw`);
    const [fy, fz] = hind ? turned([foot[1], foot[2]], -lean) : [0, 0];
    const way: [number, number] = [py - fy - start[0], pz - fz - start[1]];
    const [upper, lower] = bendLeg([a[1], a[2]], [b[1], b[2]], way, hind);
    turns.set(`${paw}UpperLeg`, [upper - p.pitch, 0, 0]);
    turns.set(`${paw}LowerLeg`, [lower - upper, 0, 0]);
    if (hind) {
      turns.set(`${paw}Hock`, [-lean - lower, 0, 0]);
      turns.set(`${paw}Paw`, [lean + bend * 0.5, 0, 0]);
    } else turns.set(`${paw}Paw`, [-lower + bend, 0, 0]);
  }
  return turns;
}

/** Where a leg's paw stands under a body at rest, along z from the hips. */
export function standing(paw: Paw): number {
  const chain = paw.endsWith('Hind')
    ? [`${paw}UpperLeg`, `${paw}LowerLeg`, `${paw}Hock`, `${paw}Paw`]
    : ['spine', 'chest', `${paw}UpperLeg`, `${paw}LowerLeg`, `${paw}Paw`];
  return chain.reduce((z, n) => z + offset(n)[2], 0);
}

/** The places of all paws. */
export const pawsAt = (at: (paw: Paw) => PawPlace): DogPose['paws'] =>
  Object.fromEntries(PAWS.map((paw) => [paw, at(paw)])) as DogPose['paws'];

/** A wave that goes so many times through a period, from a phase. */
export const waveOf =
  (t: number, period: number) =>
  (times: number, phase: number): number =>
    Math.sin(2 * Math.PI * ((times * t) / period + phase));
