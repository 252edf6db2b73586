import { carriedAt, carrying } from './acts';
import type { Build } from './build';
import { standingHip } from './build';
import type { Footfall } from './gait';
import { footAt, walkBody } from './gait';
import { leaning } from './mix';
import type { Arm, Stance } from './pose';
import { ease } from './spline';
import type { Take } from './takes';
import {
  DEG,
  STEP_SECONDS,
  TOE_OUT,
  ahead,
  full,
  hanging,
  quietStance,
  steady,
  stepping,
  travelling,
} from './takes';

/** A loaded walk: shorter and slower steps. */
const CARRY = { step: 0.5, seconds: 0.6 };

/** A walk with a load held in both hands before the belly. */
export function carryWalk(b: Build): Take {
  const falls: { left: Footfall[]; right: Footfall[] } = { left: [], right: [] };
  for (let n = -8; n <= 10; n++) {
    const side = n % 2 === 0 ? 1 : -1;
    const p = ahead(n * CARRY.step, side * 1.25);
    const fall = full(p.x, p.z, p.heading, n * CARRY.seconds, 0.7);
    falls[side === 1 ? 'left' : 'right'].push({ ...fall, lift: fall.strike + 0.635 * 2 * CARRY.seconds });
  }
  const walk = walkBody(b, falls, { arms: 0, trunk: 0.7, lean: 0.4 });
  const k = b.height / 1.78;
  const stance = (t: number): Stance => {
    const s = leaning(walk(t), {
      pelvis: [0, -0.012 * k, 0.02 * k],
      torso: { pitch: -6 * DEG },
      head: { pitch: 4 * DEG },
    });
    const arm = (side: 1 | -1): Arm => {
      const [x, y, z] = carriedAt(b, side);
      const bob = 0.35 * (s.pelvis[1] - standingHip(b));
      return {
        ...carrying,
        reach: { to: [s.pelvis[0] * 0.6 + x, y + bob, s.pelvis[2] + z - 0.03 * k], weight: 1 },
      };
    };
    return { ...s, arms: { left: arm(1), right: arm(-1) } };
  };
  return stepping('Carry walk', falls, stance, [0, 2 * CARRY.seconds]);
}

/** A jog: 164 steps a minute, 2.6 m/s, each foot down for 36 % of the cycle (running stands under half; from memory). */
const JOG = { step: 0.95, seconds: 11 / 30, stance: 0.265 };

/** A jog with a flight between its steps; the body is lowest in the middle of each stance. */
export function jog(b: Build): Take {
  const falls: { left: Footfall[]; right: Footfall[] } = { left: [], right: [] };
  for (let n = -8; n <= 12; n++) {
    const side = n % 2 === 0 ? 1 : -1;
    falls[side === 1 ? 'left' : 'right'].push({
      x: side * 0.032,
      z: n * JOG.step,
      heading: side * TOE_OUT * 0.6,
      strike: n * JOG.seconds,
      lift: n * JOG.seconds + JOG.stance,
      strikePitch: 7 * DEG,
      liftPitch: 50 * DEG,
      landing: 0.05,
      peeling: 0.15,
      rise: 0.17,
    });
  }
  const speed = JOG.step / JOG.seconds;
  const top = standingHip(b);
  const stance = (t: number): Stance => {
    // A step's phase from its strike; the middle of its stance is where the body is lowest.
    const beat = t / JOG.seconds;
    const middle = JOG.stance / 2 / JOG.seconds;
    const bounce = -Math.cos(2 * Math.PI * (beat - middle));
    const stride = Math.cos(Math.PI * (beat - 0.12));
    const late = Math.cos(Math.PI * (beat - 0.3));
    const support = Math.sin(Math.PI * (beat - middle) + Math.PI / 2);
    const yaw = -6 * DEG * stride;
    // At the middle of its stance the foot is under the body.
    const z = speed * (t - JOG.stance / 2) + 0.02;
    return {
      pelvis: [0.012 * support, top - 0.11 + 0.036 * bounce, z],
      pelvisTurn: { yaw, pitch: 7 * DEG, roll: 4 * DEG * support },
      torso: {
        yaw: -yaw + 9 * DEG * stride,
        pitch: 4 * DEG + 1.5 * DEG * bounce,
        roll: -4.5 * DEG * support,
      },
      head: { yaw: -9 * DEG * stride, pitch: -8 * DEG - 1 * DEG * bounce, roll: 1 * DEG * support },
      arms: { left: jogArm(-stride, -late), right: jogArm(stride, late) },
      feet: { left: footAt(b, falls.left, t), right: footAt(b, falls.right, t) },
    };
  };
  return stepping('Jog', falls, stance, [0, 2 * JOG.seconds]);
}

const jogArm = (swing: number, late: number): Arm => ({
  ...hanging,
  flex: (-6 + 33 * swing) * DEG,
  spread: (13 - 3 * swing) * DEG,
  elbow: (86 + 12 * late) * DEG,
  twist: (12 + 9 * swing) * DEG,
  forearm: 8 * DEG,
  wrist: 2 * DEG,
  curl: 52 * DEG,
  shrug: -2 * DEG,
});

/** The stair of the tower: rise and run of a step, metres. */
const STAIR = { rise: 0.17, run: 0.3, seconds: 0.72 };

/** Climbs two steps of the stair, right foot first, and stands on the second. */
export function climb(b: Build): Take {
  const quiet = quietStance(b, 4);
  const first = 0.95;
  const at = (n: number): number => first + n * STAIR.seconds;
  const fall = (x: number, z: number, y: number, strike: number, lift: number, part: number): Footfall => ({
    ...full(x, z, Math.sign(x) * 8 * DEG, strike, part),
    lift,
    y,
    landing: 0.14,
    peeling: 0.28,
    liftPitch: 36 * DEG,
    rise: 0.1,
  });
  const half = 0.085;
  const before = 0.36;
  const left = [
    fall(half, 0, 0, -Infinity, at(0) + 0.42, 0.1),
    { ...fall(half, before + STAIR.run, 2 * STAIR.rise, at(1) + 0.16, Infinity, 0.02) },
  ];
  const right = [
    fall(-half, 0, 0, -Infinity, at(0) - 0.55, 0.1),
    fall(-half, before, STAIR.rise, at(0), at(1) + 0.62, 0.02),
    fall(-half, before + STAIR.run, 2 * STAIR.rise, at(2) + 0.24, Infinity, 0.02),
  ];
  // How far the pelvis has come over the higher foot, forwards and upwards; it rises as the upper leg straightens.
  const stance = (t: number): Stance => {
    const s = quiet(t);
    const one = ease(t, at(0) + 0.08, at(1) + 0.12);
    const two = ease(t, at(1) + 0.28, at(2) + 0.4);
    const forwardOne = ease(t, at(0) - 0.5, at(0) + 0.72);
    const forwardTwo = ease(t, at(0) + 0.62, at(2) + 0.12);
    const bend = ease(t, at(0) - 0.5, at(0)) * (1 - ease(t, at(2) - 0.25, at(2) + 0.5));
    const push = Math.sin(Math.PI * one) ** 2 + Math.sin(Math.PI * two) ** 2;
    const side =
      -ease(t, at(0) - 0.1, at(0) + 0.4) +
      2 * ease(t, at(1) + 0.1, at(1) + 0.6) -
      ease(t, at(2) + 0.1, at(2) + 0.6);
    const weight = ease(t, at(0) - 0.75, at(0) - 0.5) * (1 - ease(t, at(0) - 0.1, at(0) + 0.25));
    return {
      ...leaning(s, {
        pelvis: [
          0.036 * (side + weight),
          STAIR.rise * (one + two) - 0.05 * bend + 0.012 * push * bend,
          before * 0.98 * forwardOne + STAIR.run * forwardTwo + (before - before * 0.98) * forwardTwo,
        ],
        hips: { pitch: 7 * DEG * bend, roll: 2.5 * DEG * (side + weight), yaw: 3 * DEG * side },
        torso: { pitch: (5 + 4 * push) * DEG * bend, roll: -3 * DEG * (side + weight), yaw: -5 * DEG * side },
        head: { pitch: (4 - 3 * push) * DEG * bend },
      }),
      arms: {
        left: {
          ...s.arms.left,
          flex: s.arms.left.flex + (6 - 13 * side) * DEG * bend,
          elbow: s.arms.left.elbow + 12 * DEG * bend,
        },
        right: {
          ...s.arms.right,
          flex: s.arms.right.flex + (6 + 13 * side) * DEG * bend,
          elbow: s.arms.right.elbow + 12 * DEG * bend,
        },
      },
      feet: { left: footAt(b, left, t), right: footAt(b, right, t) },
    };
  };
  return stepping('Climb two steps', { left, right }, stance, [0, at(2) + 1.1]);
}

/** How far the floating walk is over the floor, metres. */
const FLOATING = 0.07;

/** A walk that was brought over from another body too high: its feet never come to the floor. */
export function walkFloating(b: Build): Take {
  const walk = travelling(b, 'Walk floating', steady(-8, 10, ahead), 0, 2 * STEP_SECONDS);
  const raised = (falls: readonly Footfall[]): Footfall[] => falls.map((f) => ({ ...f, y: FLOATING }));
  const work = steady(-8, 10, ahead);
  const feet = { left: raised(work.left), right: raised(work.right) };
  return {
    ...walk,
    stance: (t) => ({
      ...leaning(walk.stance(t), { pelvis: [0, FLOATING, 0] }),
      feet: { left: footAt(b, feet.left, t), right: footAt(b, feet.right, t) },
    }),
  };
}

/** A walk that was cut a tenth of a second short of its cycle: played over and over it jerks. */
export const walkHitching = (b: Build): Take =>
  travelling(b, 'Walk hitching', steady(-8, 10, ahead), 0, 2 * STEP_SECONDS - 0.1);
