import type { DogPose, Paw } from './dogPose';
import { PAW, offset, pawsAt, standing, waveOf } from './dogPose';
import { ease } from './spline';

export const STAND_SECONDS = 3;

/** Stands, breathes, looks about and wags. */
export function standPose(t: number): DogPose {
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

export const SIT_SECONDS = 3;
/** When each hind paw steps forward under the body, and how far, as the dog sits down. */
const SIT_STEPS: Readonly<Partial<Record<Paw, readonly [number, number]>>> = {
  leftHind: [0.3, 0.75],
  rightHind: [0.65, 1.1],
};
const SIT_STEP = 0.2;

/** Sits down: the hind paws step forward under the body, the hindquarters sink behind them, the front paws stay. */
export function sitPose(t: number): DogPose {
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

/** Whether a paw stands while the dog sits down. */
export const standsSitting = (paw: Paw, t: number): boolean => {
  const step = SIT_STEPS[paw];
  return !step || t <= step[0] + 1e-9 || t >= step[1] - 1e-9;
};
