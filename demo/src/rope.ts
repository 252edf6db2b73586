import type { Build } from './build';
import { leaning, mixStance } from './mix';
import type { Arm, Stance } from './pose';
import { ease } from './spline';
import type { Take } from './takes';
import { DEG, HANDLE_SECONDS, hanging, quietStance, standingTake } from './takes';

/** Seconds in which both hands pull once. */
const ROUND = 1.8;
/** Share of a round in which a hand holds the rope. */
const PULL = 0.6;
/** The rope before the body, and the heights between which a hand pulls it, metres of a body of 1.78 m. */
const ROPE = { x: 0, z: 0.34, top: 1.74, low: 1.06 };

const START_SECONDS = 1.5;
const STOP_SECONDS = 1.6;

/** Height of a hand on the rope, and how far it is beside it, at a share of its round. */
function hand(u: number): { y: number; aside: number; grip: number } {
  const { top, low } = ROPE;
  if (u < PULL) return { y: top + (low - top) * ease(u, 0, PULL), aside: 0, grip: 1 };
  const s = (u - PULL) / (1 - PULL);
  return {
    y: low + (top - low) * ease(s, 0, 1),
    aside: 0.11 * 16 * s * s * (1 - s) * (1 - s),
    grip: 1 - ease(s, 0, 0.25) * (1 - ease(s, 0.7, 1)),
  };
}

/** Hauls on the lamp rope hand over hand. */
function hauling(b: Build): (t: number) => Stance {
  const quiet = quietStance(b, ROUND * 2);
  const k = b.height / 1.78;
  return (t) => {
    const share = (phase: number): number => {
      const u = t / ROUND + phase;
      return u - Math.floor(u);
    };
    const wave = (times: number, phase: number): number =>
      Math.sin(2 * Math.PI * ((times * t) / ROUND + phase));
    const pull = wave(1, -0.06);
    const dip = 0.5 - 0.5 * Math.cos(4 * Math.PI * (t / ROUND - 0.04));
    const posed = leaning(quiet(0), {
      pelvis: [0.012 * k * pull, (-0.035 - 0.045 * dip) * k, -0.03 * k],
      hips: { yaw: 5 * DEG * pull, pitch: (3 + 5 * dip) * DEG, roll: 1.5 * DEG * pull },
      torso: { yaw: 9 * DEG * pull, pitch: (3 + 7 * dip) * DEG, roll: -5 * DEG * pull },
      head: { yaw: -9 * DEG * pull, pitch: (-16 - 3 * dip) * DEG },
    });
    const arm = (side: 1 | -1, phase: number): Arm => {
      const { y, aside, grip } = hand(share(phase));
      return {
        ...hanging,
        flex: 40 * DEG,
        spread: 24 * DEG,
        elbow: 60 * DEG,
        twist: 6 * DEG,
        forearm: 34 * DEG,
        wrist: -4 * DEG,
        curl: (18 + 48 * grip) * DEG,
        shrug: 9 * DEG * ((y - ROPE.low) / (ROPE.top - ROPE.low)) - 3 * DEG,
        reach: { to: [(ROPE.x + side * (0.02 + aside)) * k, y * k, ROPE.z * k], weight: 1 },
      };
    };
    return { ...posed, arms: { left: arm(1, 0), right: arm(-1, 0.5) } };
  };
}

/** One round of hauling on the rope. */
export const ropeHaul = (b: Build): Take => standingTake('Rope haul', 30, ROUND, hauling(b));

/** Takes hold of the rope and begins to haul. */
export function ropeStart(b: Build): Take {
  const quiet = quietStance(b, ROUND * 2);
  const haul = hauling(b);
  return standingTake('Rope start', 30, START_SECONDS + HANDLE_SECONDS, (t) => {
    const s = mixStance(quiet(t), haul(t - START_SECONDS), ease(t, 0.1, 1.2));
    return leaning(s, { head: { pitch: -8 * DEG * ease(t, 0, 0.5) * (1 - ease(t, 0.5, 1.3)) } });
  });
}

/** Lets go of the rope and stands. */
export function ropeStop(b: Build): Take {
  const quiet = quietStance(b, ROUND * 2);
  const haul = hauling(b);
  return standingTake('Rope stop', 30, HANDLE_SECONDS + STOP_SECONDS, (t) =>
    mixStance(haul(t - HANDLE_SECONDS), quiet(t), ease(t, HANDLE_SECONDS, HANDLE_SECONDS + 1.35)),
  );
}
