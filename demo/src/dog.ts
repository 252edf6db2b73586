import type { Clip, Skeleton } from '@warper/core';
import { checkClip } from '@warper/core';
import { quatFromAxis } from '@warper/core/kernels';
import {
  SETTING_OFF,
  SETTING_OFF_SECONDS,
  STOPPING,
  STOPPING_SECONDS,
  TROT,
  TROTTING,
  WALK,
  WALKING,
  standsOn,
  trotPose,
  trotStartPose,
  trotStopPose,
  walkPose,
} from './dogGaits';
import type { DogPose, Paw } from './dogPose';
import { PAWS, dogSkeleton, names, poseDog } from './dogPose';
import { SIT_SECONDS, STAND_SECONDS, sitPose, standPose, standsSitting } from './dogStanding';
import type { Vec3 } from './pose';

/** A clip of the dog, and the spans in which its paws stand by construction, in samples [start, end). */
export interface DogClip {
  readonly file: string;
  readonly clip: Clip;
  readonly truth: Readonly<Record<string, readonly (readonly [number, number])[]>>;
}

const RATE = 30;

/** Makes the dog's clips: a stand, setting off into a trot, one cycle each of a trot and a walk, stopping, and sitting down. */
export function dogClips(skeleton: Skeleton = dogSkeleton()): DogClip[] {
  const always = (): boolean => true;
  const make = (file: string, name: string, act: Act): DogClip => dogClip(file, name, act, skeleton);
  const once = (seconds: number): Act['span'] => ({ from: 0, to: seconds });
  return [
    make('dog-stand.glb', 'Dog stand', { span: once(STAND_SECONDS), pose: standPose, stands: always }),
    make('dog-trot-start.glb', 'Dog trot start', {
      span: SETTING_OFF_SECONDS,
      pose: trotStartPose,
      stands: standsOn(SETTING_OFF),
    }),
    make('dog-trot.glb', 'Dog trot', {
      span: once(TROT.period),
      pose: (t) => trotPose(t),
      stands: standsOn(TROTTING),
    }),
    make('dog-trot-stop.glb', 'Dog trot stop', {
      span: STOPPING_SECONDS,
      pose: trotStopPose,
      stands: standsOn(STOPPING),
    }),
    make('dog-walk.glb', 'Dog walk', { span: once(WALK.period), pose: walkPose, stands: standsOn(WALKING) }),
    make('dog-sit.glb', 'Dog sit', { span: once(SIT_SECONDS), pose: sitPose, stands: standsSitting }),
  ];
}

/** What the dog does in a clip: from when to when (seconds), its poses, and when its paws stand. */
interface Act {
  readonly span: { readonly from: number; readonly to: number };
  readonly pose: (t: number) => DogPose;
  readonly stands: (paw: Paw, t: number) => boolean;
}

function dogClip(file: string, name: string, { span, pose, stands }: Act, skeleton: Skeleton): DogClip {
  const frames = Math.round((span.to - span.from) * RATE) + 1;
  const rotations = new Float32Array(frames * names.length * 4);
  const translations = new Float32Array(frames * 3);
  for (let f = 0; f < frames; f++) {
    const p = pose(span.from + f / RATE);
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
    translated: Int32Array.of(skeleton.rootBone),
    translations,
  });
  const truth = Object.fromEntries(
    PAWS.map((paw) => [`${paw}Paw`, spans(frames, (f) => stands(paw, span.from + f / RATE))]),
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
