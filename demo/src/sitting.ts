import type { Build } from './build';
import { standingHip } from './build';
import { leaning, mixStance } from './mix';
import type { Arm, Stance } from './pose';
import { ease } from './spline';
import type { Take } from './takes';
import { DEG, hanging, quietStance, standingTake } from './takes';

/** Height of the hip joints over the floor on the bench, and how far behind the ankles they are, metres of a body of 1.78 m. */
const SEAT = { height: 0.49, back: 0.4 };

const SIT_SECONDS = 2.6;
const STAND_SECONDS = 2.4;
const SITTING_SECONDS = 5;

/** Sits on the bench, hands on the thighs; `period` seconds make one round. */
function sittingStance(b: Build, period: number): (t: number) => Stance {
  const quiet = quietStance(b, period);
  const k = b.height / 1.78;
  const wave = (t: number, times: number, phase: number): number =>
    Math.sin(2 * Math.PI * ((times * t) / period + phase));
  return (t) => {
    const s = quiet(t);
    const breath = wave(t, 2, 0.2);
    const sway = wave(t, 1, 0.05);
    const pelvis = [0.004 * sway, SEAT.height * k, -SEAT.back * k + 0.004 * wave(t, 1, 0.3)] as const;
    const arm = (side: 1 | -1): Arm => ({
      ...hanging,
      flex: 24 * DEG,
      spread: 16 * DEG,
      elbow: 64 * DEG,
      twist: 20 * DEG,
      forearm: 8 * DEG,
      wrist: 10 * DEG,
      curl: 18 * DEG,
      reach: { to: [side * 0.145 * k, 0.615 * k + 0.002 * breath, -0.1 * k], weight: 1 },
    });
    return {
      ...s,
      pelvis,
      pelvisTurn: { yaw: 0.008 * sway, pitch: -9 * DEG, roll: 0.008 * sway },
      torso: { yaw: 0.02 * wave(t, 1, 0.1), pitch: 10 * DEG - 0.9 * DEG * breath, roll: -0.012 * sway },
      head: { yaw: 0.16 * wave(t, 1, 0.65), pitch: 1 * DEG + 0.8 * DEG * breath, roll: 0.01 * sway },
      arms: { left: arm(1), right: arm(-1) },
    };
  };
}

/** From one stance to another by the pelvis's way of sitting down: back and down at once, the trunk leaning out before. */
function lowered(
  b: Build,
  up: Stance,
  seat: Stance,
  down: number,
  back: number,
  lean: number,
  hands: number,
): Stance {
  const k = b.height / 1.78;
  const mixed = mixStance(up, seat, down);
  const arms = mixStance(up, seat, hands).arms;
  const pelvis = [
    mixed.pelvis[0],
    up.pelvis[1] + (seat.pelvis[1] - up.pelvis[1]) * down,
    up.pelvis[2] + (seat.pelvis[2] - up.pelvis[2]) * back,
  ] as const;
  const top = standingHip(b) - 0.004 * k;
  return leaning(
    { ...mixed, pelvis: [pelvis[0], Math.min(pelvis[1], top), pelvis[2]], arms },
    {
      hips: { pitch: 24 * DEG * lean },
      torso: { pitch: 20 * DEG * lean },
      head: { pitch: -22 * DEG * lean },
    },
  );
}

/** Sits down on the bench behind. */
export function sitDown(b: Build): Take {
  const quiet = quietStance(b, SITTING_SECONDS);
  const seat = sittingStance(b, SITTING_SECONDS);
  return standingTake('Sit down', 30, SIT_SECONDS, (t) => {
    const down = ease(t, 0.25, 1.7);
    const back = ease(t, 0.15, 1.6);
    const lean = ease(t, 0.1, 1.0) * (1 - ease(t, 1.25, 2.3));
    const hands = ease(t, 0.4, 1.7);
    return lowered(b, quiet(t), seat(t - SIT_SECONDS), down, back, lean, hands);
  });
}

/** Sits and looks about. */
export const sitting = (b: Build): Take =>
  standingTake('Sitting', 30, SITTING_SECONDS, sittingStance(b, SITTING_SECONDS));

/** Stands up from the bench: leans out first, until the weight is over the feet. */
export function standUp(b: Build): Take {
  const quiet = quietStance(b, SITTING_SECONDS);
  const seat = sittingStance(b, SITTING_SECONDS);
  return standingTake('Stand up', 30, STAND_SECONDS, (t) => {
    const up = ease(t, 0.55, 1.95);
    const forward = ease(t, 0.35, 1.75);
    const lean = ease(t, 0.05, 0.85) * (1 - ease(t, 0.95, 2.1));
    const hands = 1 - ease(t, 0.8, 2.0);
    return lowered(b, quiet(t - STAND_SECONDS), seat(t), 1 - up, 1 - forward, lean * 1.1, hands);
  });
}
