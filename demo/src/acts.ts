import type { Build } from './build';
import { leaning } from './mix';
import type { Arm, Stance } from './pose';
import { ease } from './spline';
import type { Take } from './takes';
import { DEG, hanging, mixArm, quietStance, standingTake } from './takes';

/** Up over [a, b], and down again over [c, d]. */
const hold = (t: number, a: number, b: number, c: number, d: number): number =>
  ease(t, a, b) * (1 - ease(t, c, d));

/** Shades the eyes with the right hand and looks over the sea from left to right. */
export function lookOut(b: Build): Take {
  const quiet = quietStance(b, 6);
  const k = b.height / 1.78;
  return standingTake('Look out', 30, 6, (t) => {
    const up = hold(t, 0.35, 1.25, 4.6, 5.6);
    const lean = hold(t, 0.2, 1.4, 4.5, 5.7);
    const side = hold(t, 0.9, 1.9, 2.3, 3.1) - hold(t, 2.35, 3.5, 4.2, 5.2);
    const late = hold(t, 1.0, 2.05, 2.45, 3.3) - hold(t, 2.5, 3.7, 4.3, 5.3);
    const s = quiet(t);
    const shading: Arm = {
      ...hanging,
      spread: 34 * DEG,
      elbow: 96 * DEG,
      wrist: -24 * DEG,
      curl: 3 * DEG,
      shrug: 5 * DEG,
    };
    const posed = leaning(s, {
      pelvis: [0.02 * side, -0.004 * lean, 0.012 * lean],
      hips: { yaw: 8 * DEG * late, pitch: 1.5 * DEG * lean },
      torso: { yaw: 22 * DEG * late, pitch: 3 * DEG * lean, roll: -2.5 * DEG * late },
      head: { yaw: 30 * DEG * side, pitch: -3 * DEG * lean, roll: 2 * DEG * side },
    });
    const yaw = posed.pelvisTurn.yaw + posed.torso.yaw + posed.head.yaw * 0.9;
    const eyes = [Math.sin(yaw), Math.cos(yaw)] as const;
    // The wrist hangs beside the brow, a hand's length before it, and goes round with the head.
    const aside = [-eyes[1], eyes[0]] as const;
    const to = [
      posed.pelvis[0] + 0.13 * k * eyes[0] + 0.13 * k * aside[0],
      1.63 * k,
      posed.pelvis[2] + 0.13 * k * eyes[1] + 0.13 * k * aside[1],
    ] as const;
    const right = { ...mixArm(s.arms.right, shading, up), reach: { to, weight: up } };
    return { ...posed, arms: { left: s.arms.left, right } };
  });
}

/** Height of the gallery's rail, and how far before the feet it is, for somebody of 1.78 m; metres. */
export const RAIL = { height: 0.98, ahead: 0.36 } as const;

/** Leans on a rail with both hands and looks down over it, from right to left. */
export function leanOut(b: Build): Take {
  const quiet = quietStance(b, 6);
  const k = b.height / 1.78;
  return standingTake('Lean over the rail', 30, 6, (t) => {
    const s = quiet(t);
    const lean = hold(t, 0.45, 1.7, 4.35, 5.6);
    const early = hold(t, 0.25, 1.2, 4.6, 5.5);
    const out = hold(t, 0.3, 1.15, 4.75, 5.6);
    const side = hold(t, 2.35, 3.4, 4.1, 5.0) - hold(t, 1.0, 1.9, 2.25, 3.2);
    const late = hold(t, 2.5, 3.6, 4.2, 5.15) - hold(t, 1.15, 2.1, 2.45, 3.35);
    const posed = leaning(s, {
      pelvis: [0.016 * late, -0.012 * lean, -0.05 * k * lean],
      hips: { pitch: 13 * DEG * lean, yaw: 4 * DEG * late },
      torso: { pitch: 19 * DEG * lean, yaw: 9 * DEG * late, roll: -2 * DEG * late },
      head: { yaw: 27 * DEG * side, pitch: 4 * DEG * early - 13 * DEG * lean, roll: 2 * DEG * side },
    });
    const arm = (side: 1 | -1): Arm => {
      const arm = side === 1 ? s.arms.left : s.arms.right;
      const bracing: Arm = {
        ...hanging,
        spread: 16 * DEG,
        elbow: 26 * DEG,
        wrist: -34 * DEG,
        curl: 30 * DEG,
        shrug: 7 * DEG,
      };
      // The wrist is above the rail, the palm on it.
      const to = [side * 0.29 * k, (RAIL.height + 0.075) * k, (RAIL.ahead - 0.03) * k] as const;
      return { ...mixArm(arm, bracing, out), reach: { to, weight: out } };
    };
    return { ...posed, arms: { left: arm(1), right: arm(-1) } };
  });
}

/** Where a carried load is held: both wrists before the belly. */
export const carriedAt = (b: Build, side: 1 | -1): readonly [number, number, number] => {
  const k = b.height / 1.78;
  return [side * 0.17 * k, 1.02 * k, 0.34 * k];
};

/** An arm that holds a load. */
export const carrying: Arm = {
  ...hanging,
  flex: 22 * DEG,
  spread: 13 * DEG,
  elbow: 72 * DEG,
  twist: 14 * DEG,
  forearm: 58 * DEG,
  wrist: 2 * DEG,
  curl: 42 * DEG,
  shrug: -1 * DEG,
};

/** Crouches, takes up a load with both hands, and stands with it. */
export function lift(b: Build): Take {
  const quiet = quietStance(b, 5);
  const k = b.height / 1.78;
  return standingTake('Lift', 30, 4.2, (t): Stance => {
    const s = quiet(t);
    const down = hold(t, 0.25, 1.45, 1.95, 3.3);
    const bend = hold(t, 0.1, 1.3, 1.9, 3.35);
    const out = ease(t, 0.35, 1.4);
    const held = ease(t, 1.55, 1.9);
    const raised = ease(t, 1.85, 3.5);
    const back = ease(t, 2.5, 3.7);
    const posed = leaning(s, {
      pelvis: [0, -0.42 * k * down, -0.16 * k * down - 0.03 * k * back],
      hips: { pitch: 27 * DEG * bend - 2 * DEG * back },
      torso: { pitch: 24 * DEG * bend - 4 * DEG * back },
      head: { pitch: 12 * DEG * hold(t, 0, 0.7, 1.3, 2.6) - 22 * DEG * bend },
    });
    const arm = (side: 1 | -1): Arm => {
      const arm = side === 1 ? s.arms.left : s.arms.right;
      const [x, y, z] = carriedAt(b, side);
      const low = [side * 0.19 * k, 0.33 * k, 0.4 * k] as const;
      // The load comes up close to the body, not in a straight line.
      const close = -0.05 * k * Math.sin(Math.PI * raised);
      return {
        ...mixArm(arm, { ...carrying, curl: (20 + 22 * held) * DEG }, out),
        reach: {
          to: [
            low[0] + (x - low[0]) * raised,
            low[1] + (y - low[1]) * raised,
            low[2] + (z - low[2]) * raised + close,
          ],
          weight: out,
        },
      };
    };
    return { ...posed, arms: { left: arm(1), right: arm(-1) } };
  });
}

/** Waits: shifts the weight from one leg to the other, hands joined, and looks about. */
export function wait(b: Build): Take {
  const quiet = quietStance(b, 8);
  const k = b.height / 1.78;
  return { ...standingTake('Wait', 30, 8, (t) => waiting(t)) };

  function waiting(t: number): Stance {
    const s = quiet(t);
    const shift = Math.sin((2 * Math.PI * t) / 8) + 0.16 * Math.sin((6 * Math.PI * t) / 8);
    const look = hold(t, 1.6, 2.4, 3.2, 4.0) - 0.8 * hold(t, 5.0, 5.8, 6.4, 7.3);
    const posed = leaning(s, {
      pelvis: [0.034 * k * shift, -0.006 * k * shift * shift, 0],
      hips: { roll: 3.2 * DEG * shift, yaw: 2 * DEG * shift },
      torso: { roll: -4.2 * DEG * shift, yaw: 8 * DEG * look, pitch: 1.5 * DEG },
      head: { yaw: 26 * DEG * look, roll: 1.5 * DEG * shift, pitch: 2 * DEG * (1 - Math.abs(look)) },
    });
    const arm = (side: 1 | -1): Arm => ({
      ...hanging,
      flex: 14 * DEG,
      spread: 10 * DEG,
      elbow: 58 * DEG,
      twist: 34 * DEG,
      forearm: 30 * DEG,
      curl: 30 * DEG,
      reach: {
        to: [
          posed.pelvis[0] + side * 0.045 * k,
          posed.pelvis[1] + (side === 1 ? 0.085 : 0.065) * k,
          posed.pelvis[2] + 0.2 * k,
        ],
        weight: 1,
      },
    });
    return { ...posed, arms: { left: arm(1), right: arm(-1) } };
  }
}

/** Points out over the rail with the right arm, looks along it, and lets it sink. */
export function pointOut(b: Build): Take {
  const quiet = quietStance(b, 4);
  return standingTake('Point', 30, 4, (t) => {
    const s = quiet(t);
    const early = hold(t, 0.1, 0.7, 2.9, 3.6);
    const up = hold(t, 0.25, 1.0, 2.7, 3.6);
    // A beat as it arrives: the arm settles back a little.
    const beat = Math.sin(2 * Math.PI * 1.4 * (t - 1)) * hold(t, 0.95, 1.1, 1.2, 2.2);
    const posed = leaning(s, {
      pelvis: [-0.012 * up, 0, 0.014 * up],
      hips: { yaw: -7 * DEG * up },
      torso: { yaw: -12 * DEG * up, pitch: 2 * DEG * up, roll: -2 * DEG * up },
      head: { yaw: -20 * DEG * early, pitch: -2 * DEG * early },
    });
    const pointing: Arm = {
      ...hanging,
      spread: 20 * DEG,
      elbow: 8 * DEG,
      wrist: -2 * DEG,
      curl: 5 * DEG,
      shrug: 6 * DEG,
    };
    const point = {
      upper: [-0.42, 0.1 + 0.03 * beat, 0.9] as const,
      lower: [-0.36, 0.2 + 0.05 * beat, 0.91] as const,
      weight: up,
    };
    return { ...posed, arms: { left: s.arms.left, right: { ...mixArm(s.arms.right, pointing, up), point } } };
  });
}

/** Nods twice, the second time less. */
export function nod(b: Build): Take {
  const quiet = quietStance(b, 2.4);
  return standingTake('Nod', 30, 2.4, (t) => {
    const first = hold(t, 0.25, 0.6, 0.6, 1.0);
    const second = hold(t, 0.95, 1.25, 1.25, 1.65);
    const late = hold(t, 0.3, 0.7, 0.7, 1.1) + 0.6 * hold(t, 1.0, 1.35, 1.35, 1.75);
    return leaning(quiet(t), {
      torso: { pitch: 2.5 * DEG * late },
      head: { pitch: 17 * DEG * first + 11 * DEG * second },
    });
  });
}
