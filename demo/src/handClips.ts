import type { Clip, Skeleton } from '@warper/core';
import { checkClip } from '@warper/core';
import type { Build, Joint, Side } from './build';
import { JOINT_NAMES } from './build';
import type { HandShape } from './hand';
import { HAND_SHAPES, fingerRotations, mixHand } from './hand';
import type { Arm, Vec3 } from './pose';
import { poseBody } from './pose';
import { ease } from './spline';
import { DEG, hanging, quietStance } from './takes';

/** A clip that moves some joints only; the others stay in the rest pose. */
export interface PartClip {
  readonly file: string;
  readonly clip: Clip;
}

const RATE = 30;

/** A clip from the rotations of the joints that move, by frame; the hips stay where the rest pose has them. */
function partClip(
  name: string,
  frames: number,
  skeleton: Skeleton,
  rotationsAt: (seconds: number) => Map<Joint, Float64Array>,
): Clip {
  const joints = JOINT_NAMES.length;
  const rotations = new Float32Array(frames * joints * 4);
  const translations = new Float32Array(frames * 3);
  for (let f = 0; f < frames; f++) {
    for (let j = 0; j < joints; j++) rotations[(f * joints + j) * 4 + 3] = 1;
    for (const [joint, q] of rotationsAt(f / RATE))
      rotations.set(q, (f * joints + JOINT_NAMES.indexOf(joint)) * 4);
    translations.set(skeleton.restTranslations.slice(0, 3), f * 3);
  }
  const translated = Int32Array.of(skeleton.rootBone);
  return checkClip({
    id: `made:${name}`,
    name,
    skeleton,
    rate: RATE,
    frames,
    rotations,
    translated,
    translations,
  });
}

/** A second of each shape of a hand, left and right, never quite still. */
export function handClips(skeleton: Skeleton): PartClip[] {
  return (Object.keys(HAND_SHAPES) as (keyof typeof HAND_SHAPES)[]).flatMap((name) =>
    (['left', 'right'] as const).map((side) => ({
      file: `hand-${side}-${name.replace(' ', '-')}.glb`,
      clip: partClip(`${side === 'left' ? 'Left' : 'Right'} hand ${name}`, RATE + 1, skeleton, (t) =>
        fingerRotations(side, breathing(HAND_SHAPES[name], t)),
      ),
    })),
  );
}

/** A shape whose fingers give by a degree or two, once a second. */
function breathing(shape: HandShape, t: number): HandShape {
  return mixHand(shape, HAND_SHAPES.relaxed, 0.015 + 0.015 * Math.sin(2 * Math.PI * t));
}

/** Where an arm points during a signal: the upper arm and the forearm, in the rib cage's axes for a right arm. */
interface Signal {
  readonly upper: Vec3;
  readonly lower: Vec3;
  readonly arm: Partial<Arm>;
  readonly shape: HandShape;
}

const swing = (t: number, beats: number): number => 0.5 - 0.5 * Math.cos(2 * Math.PI * beats * t);

/** The harbour signals of the right arm: how it is held while they last, by the share of the signal that has gone by. */
const SIGNALS: Readonly<Record<string, (share: number) => Signal>> = {
  stop: () => ({
    upper: [-0.22, 0.12, 0.97],
    lower: [-0.05, 0.42, 0.9],
    arm: { wrist: -52 * DEG, forearm: 92 * DEG, shrug: 6 * DEG },
    shape: HAND_SHAPES.flat,
  }),
  come: (share) => {
    const beat = swing(share, 2);
    return {
      upper: [-0.4, -0.35, 0.85],
      lower: [-0.1 + 0.3 * beat, 0.35 + 0.55 * beat, 0.93 - 0.95 * beat],
      arm: { wrist: (-6 + 34 * beat) * DEG, forearm: -38 * DEG, shrug: 4 * DEG },
      shape: mixHand(HAND_SHAPES.flat, HAND_SHAPES.hook, 0.55 * beat),
    };
  },
  wait: (share) => {
    const beat = swing(share, 3);
    return {
      upper: [-0.45, -0.72, 0.53],
      lower: [-0.2, 0.02 - 0.24 * beat, 0.97],
      arm: { wrist: (-26 + 22 * beat) * DEG, forearm: 96 * DEG, shrug: 2 * DEG },
      shape: mixHand(HAND_SHAPES.flat, HAND_SHAPES.spread, 0.4),
    };
  },
};

/** Seconds in which an arm comes up to a signal, and in which it goes down again. */
const UP_SECONDS = 0.6;
const SIGNAL_SECONDS = 3;

/** The harbour signals, made to be laid over any motion: the right arm comes up, signals, and hangs again. */
export function signalClips(b: Build, skeleton: Skeleton): PartClip[] {
  return Object.entries(SIGNALS).map(([name, signalAt]) => ({
    file: `signal-${name}.glb`,
    clip: partClip(`Signal ${name}`, SIGNAL_SECONDS * RATE + 1, skeleton, (t) => {
      const up = ease(t, 0, UP_SECONDS) * (1 - ease(t, SIGNAL_SECONDS - UP_SECONDS, SIGNAL_SECONDS));
      const held = (t - UP_SECONDS) / (SIGNAL_SECONDS - 2 * UP_SECONDS);
      return rightArm(b, signalAt(Math.min(1, Math.max(0, held))), up);
    }),
  }));
}

/** The rotations of the right arm that signals by a share. */
function rightArm(b: Build, { upper, lower, arm, shape }: Signal, up: number): Map<Joint, Float64Array> {
  const mix = (key: 'wrist' | 'forearm' | 'shrug'): number =>
    hanging[key] + ((arm[key] ?? hanging[key]) - hanging[key]) * up;
  const still = quietStance(b, SIGNAL_SECONDS)(0);
  const posed = poseBody(b, {
    ...still,
    arms: {
      ...still.arms,
      right: {
        ...hanging,
        wrist: mix('wrist'),
        forearm: mix('forearm'),
        shrug: mix('shrug'),
        point: { upper, lower, weight: up },
        fingers: mixHand(HAND_SHAPES.relaxed, shape, up),
      },
    },
  });
  const side: Side = 'right';
  const isOfArm = (joint: Joint): boolean =>
    joint.startsWith(side) && !/Leg|Foot|Toes/.test(joint.slice(side.length));
  return new Map(
    JOINT_NAMES.flatMap((joint, j) =>
      isOfArm(joint) ? [[joint, posed.rotations.slice(j * 4, j * 4 + 4)] as const] : [],
    ),
  );
}
