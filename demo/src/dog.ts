import type { Clip, Skeleton } from '@warper/core';
import { checkClip, makeSkeleton, quatFromAxis } from '@warper/core';
import { ease, quintic } from './spline';
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
const PAW = 0.02;

const names = JOINTS.map(([name]) => name);
const offset = (name: string): Vec3 => {
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
interface PawPlace {
  readonly y: number;
  readonly z: number;
  readonly bend: number;
  readonly hock?: number;
}

/** A dog's pose: place and pitch of the hips, turns of the trunk, and where the paws are. */
interface DogPose {
  readonly hips: Vec3;
  readonly pitch: number;
  readonly neck: Vec3;
  readonly head: Vec3;
  readonly tail: Vec3;
  /** Height and place along z of each paw, and how far it is raised at its tip. */
  readonly paws: Readonly<Record<Paw, PawPlace>>;
}

const PAWS = ['leftHind', 'rightHind', 'leftFront', 'rightFront'] as const;
type Paw = (typeof PAWS)[number];

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
function poseDog(p: DogPose): Map<string, Vec3> {
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

/** A gait: seconds of a stride, metres a second, the share of a stride in which a paw stands, and when each comes down. */
interface DogGait {
  readonly period: number;
  readonly speed: number;
  readonly stance: number;
  readonly phases: Readonly<Record<Paw, number>>;
  /** Metres by which a paw is raised. */
  readonly raise: number;
}

/** A trot has a little flight between its diagonal pairs. */
const TROT: DogGait = {
  period: 0.6,
  speed: 1.5,
  stance: 0.46,
  phases: { leftHind: 0, rightFront: 0, rightHind: 0.5, leftFront: 0.5 },
  raise: 0.075,
};

/** A walk sets down hind, front, hind, front of the other side: three paws stand, then two. */
const WALK: DogGait = {
  period: 28 / 30,
  speed: 0.78,
  stance: 0.63,
  phases: { leftHind: 0, leftFront: 0.25, rightHind: 0.5, rightFront: 0.75 },
  raise: 0.05,
};

/** Where a leg's paw stands under a body at rest, along z from the hips. */
function standing(paw: Paw): number {
  const chain = paw.endsWith('Hind')
    ? [`${paw}UpperLeg`, `${paw}LowerLeg`, `${paw}Hock`, `${paw}Paw`]
    : ['spine', 'chest', `${paw}UpperLeg`, `${paw}LowerLeg`, `${paw}Paw`];
  return chain.reduce((z, n) => z + offset(n)[2], 0);
}

/** Whether a paw stands. */
const standsIn =
  ({ period, phases, stance }: DogGait) =>
  (paw: Paw, t: number): boolean => {
    const beat = t / period - phases[paw] + 1e-9;
    return beat - Math.floor(beat) <= stance + 2e-9;
  };

function gaitPaw(g: DogGait, paw: Paw, t: number): PawPlace {
  const stride = g.speed * g.period;
  const beat = t / g.period - g.phases[paw];
  const n = Math.floor(beat);
  const u = beat - n;
  // In the middle of its stance a paw is where it stands at rest.
  const place = (k: number): number =>
    (k + g.phases[paw] + g.stance / 2) * stride + offset('hips')[2] + standing(paw);
  if (u <= g.stance) return { y: PAW, z: place(n), bend: 0 };
  const s = (u - g.stance) / (1 - g.stance);
  const arch = 16 * s * s * (1 - s) * (1 - s);
  return {
    y: PAW + g.raise * arch,
    z: quintic(place(n), 0, place(n + 1), 0, 1, s),
    bend: 0.9 * ease(s, 0, 0.35) * (1 - ease(s, 0.45, 1)),
  };
}

const waveOf =
  (t: number, period: number) =>
  (times: number, phase: number): number =>
    Math.sin(2 * Math.PI * ((times * t) / period + phase));

const pawsAt = (at: (paw: Paw) => PawPlace): DogPose['paws'] =>
  Object.fromEntries(PAWS.map((paw) => [paw, at(paw)])) as DogPose['paws'];

function trotPose(t: number): DogPose {
  const wave = waveOf(t, TROT.period);
  const rest = offset('hips');
  return {
    hips: [0, rest[1] - 0.026 + 0.011 * wave(2, -0.48), rest[2] + TROT.speed * t],
    pitch: 0.018 * wave(2, 0.1),
    neck: [-0.05 + 0.04 * wave(2, 0.35), 0, 0],
    head: [0.08 - 0.04 * wave(2, 0.3), 0, 0],
    tail: [0.5 + 0.06 * wave(2, 0), 0.12 * wave(1, 0.2), 0],
    paws: pawsAt((paw) => gaitPaw(TROT, paw, t)),
  };
}

function walkPose(t: number): DogPose {
  const wave = waveOf(t, WALK.period);
  const rest = offset('hips');
  return {
    hips: [0.012 * wave(1, 0.1), rest[1] - 0.03 + 0.006 * wave(2, 0.15), rest[2] + WALK.speed * t],
    pitch: 0.02 + 0.016 * wave(2, 0.4),
    // The head nods as each front paw takes the weight.
    neck: [0.1 + 0.07 * wave(2, 0.3), 0.03 * wave(1, 0.2), 0],
    head: [0.04 - 0.05 * wave(2, 0.27), 0.03 * wave(1, 0.15), 0],
    tail: [0.3 + 0.04 * wave(2, 0), 0.2 * wave(1, 0.3), 0],
    paws: pawsAt((paw) => gaitPaw(WALK, paw, t)),
  };
}

const STAND_SECONDS = 3;

function standPose(t: number): DogPose {
  const wave = waveOf(t, STAND_SECONDS);
  const rest = offset('hips');
  return {
    hips: [0, rest[1] - 0.012 + 0.003 * wave(2, 0), rest[2] + 0.004 * wave(1, 0.3)],
    pitch: 0.006 * wave(2, 0.2),
    neck: [-0.12 + 0.03 * wave(2, 0.1), 0.12 * wave(1, 0.4), 0],
    head: [0.16 - 0.03 * wave(2, 0.05), 0.16 * wave(1, 0.36), 0.05 * wave(1, 0.1)],
    tail: [0.35 + 0.05 * wave(2, 0), 0.35 * wave(5, 0), 0],
    paws: pawsAt((paw) => ({ y: PAW, z: rest[2] + standing(paw), bend: 0 })),
  };
}

const SIT_SECONDS = 3;
/** When each hind paw steps forward under the body, and how far, as the dog sits down. */
const SIT_STEPS: Readonly<Partial<Record<Paw, readonly [number, number]>>> = {
  leftHind: [0.3, 0.75],
  rightHind: [0.65, 1.1],
};
const SIT_STEP = 0.2;

/** Sits down: the hind paws step forward under the body, the hindquarters sink behind them, the front paws stay. */
function sitPose(t: number): DogPose {
  const stand = standPose(t);
  const down = ease(t, 0.5, 1.75);
  const early = ease(t, 0.15, 1.1);
  const wag = ease(t, 1.7, 2.1) * (1 - ease(t, 2.6, 3));
  const mix = (a: number, b: number): number => a + (b - a) * down;
  const [x, y, z] = stand.hips;
  const paws = pawsAt((paw) => {
    const step = SIT_STEPS[paw];
    const place = stand.paws[paw];
    if (!step) return place;
    const u = Math.min(1, Math.max(0, (t - step[0]) / (step[1] - step[0])));
    return {
      y: PAW + 0.04 * 16 * u * u * (1 - u) * (1 - u),
      z: place.z + SIT_STEP * ease(u, 0, 1),
      bend: 0,
      hock: 0.85 * down,
    };
  });
  return {
    hips: [x, mix(y, 0.17), mix(z, offset('hips')[2] + 0.03)],
    pitch: mix(stand.pitch, -0.85),
    neck: [mix(stand.neck[0], 0.42) + 0.1 * (early - down), stand.neck[1], 0],
    head: [mix(stand.head[0], 0.45), stand.head[1], stand.head[2]],
    tail: [mix(stand.tail[0], 0.75), stand.tail[1] * (1 - down) + 0.3 * wag * Math.sin(14 * (t - 1.7)), 0],
    paws,
  };
}

const standsSitting = (paw: Paw, t: number): boolean => {
  const step = SIT_STEPS[paw];
  return !step || t <= step[0] + 1e-9 || t >= step[1] - 1e-9;
};

/** A clip of the dog, and the spans in which its paws stand by construction, in samples [start, end). */
export interface DogClip {
  readonly file: string;
  readonly clip: Clip;
  readonly truth: Readonly<Record<string, readonly (readonly [number, number])[]>>;
}

const RATE = 30;

/** Makes the dog's clips: a stand, one cycle each of a trot and a walk, and sitting down. */
export function dogClips(skeleton: Skeleton = dogSkeleton()): DogClip[] {
  const always = (): boolean => true;
  return [
    dogClip('dog-stand.glb', 'Dog stand', STAND_SECONDS, standPose, skeleton, always),
    dogClip('dog-trot.glb', 'Dog trot', TROT.period, trotPose, skeleton, standsIn(TROT)),
    dogClip('dog-walk.glb', 'Dog walk', WALK.period, walkPose, skeleton, standsIn(WALK)),
    dogClip('dog-sit.glb', 'Dog sit', SIT_SECONDS, sitPose, skeleton, standsSitting),
  ];
}

function dogClip(
  file: string,
  name: string,
  seconds: number,
  pose: (t: number) => DogPose,
  skeleton: Skeleton,
  stands: (paw: Paw, t: number) => boolean,
): DogClip {
  const frames = Math.round(seconds * RATE) + 1;
  const rotations = new Float32Array(frames * names.length * 4);
  const translations = new Float32Array(frames * 3);
  for (let f = 0; f < frames; f++) {
    const p = pose(f / RATE);
    const turns = poseDog(p);
    names.forEach((joint, j) =>
      rotations.set(quatOf(turns.get(joint) ?? [0, 0, 0]), (f * names.length + j) * 4),
    );
    translations.set(p.hips, f * 3);
  }
  const clip = checkClip({
    id: `made:${name}`,
    name,
    skeleton,
    rate: RATE,
    frames,
    rotations,
    translated: Int32Array.of(skeleton.carrier),
    translations,
  });
  const truth = Object.fromEntries(
    PAWS.map((paw) => [`${paw}Paw`, spans(frames, (f) => stands(paw, f / RATE))]),
  );
  return { file, clip, truth };
}

function spans(frames: number, on: (f: number) => boolean): [number, number][] {
  const out: [number, number][] = [];
  for (let f = 0; f < frames; f++) {
    if (!on(f)) continue;
    const start = f;
    while (f < frames && on(f)) f++;
    out.push([start, f]);
  }
  return out;
}

/** Yaw, then pitch, then roll. */
function quatOf([x, y, z]: Vec3): Float64Array {
  const yaw = quatFromAxis(0, 1, 0, y, new Float64Array(4), 0) as Float64Array;
  const pitch = quatFromAxis(1, 0, 0, x, new Float64Array(4), 0) as Float64Array;
  const roll = quatFromAxis(0, 0, 1, z, new Float64Array(4), 0) as Float64Array;
  const times = (a: Float64Array, b: Float64Array): Float64Array =>
    Float64Array.of(
      a[3]! * b[0]! + a[0]! * b[3]! + a[1]! * b[2]! - a[2]! * b[1]!,
      a[3]! * b[1]! - a[0]! * b[2]! + a[1]! * b[3]! + a[2]! * b[0]!,
      a[3]! * b[2]! + a[0]! * b[1]! - a[1]! * b[0]! + a[2]! * b[3]!,
      a[3]! * b[3]! - a[0]! * b[0]! - a[1]! * b[1]! - a[2]! * b[2]!,
    );
  return times(times(yaw, pitch), roll);
}
