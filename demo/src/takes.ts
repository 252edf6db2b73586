import type { Build } from './build';
import { standingHip } from './build';
import type { Footfall, Footwork, Manner, TrueSteps } from './gait';
import { STANDING_FORWARD, trueSteps, walkBody } from './gait';
import type { Arm, Stance } from './pose';
import { ease } from './spline';

/** A take: a stance for every moment of [from, to], at a rate, with the true spans in which the feet stand. */
export interface Take {
  readonly name: string;
  readonly rate: number;
  readonly from: number;
  readonly to: number;
  readonly stance: (t: number) => Stance;
  readonly left: TrueSteps;
  readonly right: TrueSteps;
  /** Holds the pelvis over the start, as if on a treadmill. */
  readonly inPlace?: boolean;
}

export const DEG = Math.PI / 180;
/** Seconds of one step in a level walk: 109 steps a minute (Winter: 100 to 120; from memory). */
export const STEP_SECONDS = 0.5;
/** Metres of a full step; with the time of one it gives 1.3 m/s (Perry & Burnfield: 1.2 to 1.4; from memory). */
export const STEP = 0.65;
export const HALF_WIDTH = 0.048;
export const TOE_OUT = 5 * DEG;
/** Stance is 61 % of a cycle of two steps (Perry & Burnfield: 60 to 62 %; from memory). */
const STANCE_SECONDS = 0.61 * 2 * STEP_SECONDS;
const MANNER: Manner = { arms: 1, trunk: 1, lean: 1 };
/** Transitions begin and end with this much of the motion that they join, so that a default crossfade is in step. */
export const HANDLE_SECONDS = 8 / 30;

export const full = (x: number, z: number, heading: number, strike: number, part = 1): Footfall => ({
  x,
  z,
  heading,
  strike,
  lift: strike + STANCE_SECONDS,
  strikePitch: 19 * DEG * part,
  liftPitch: (22 + 36 * part) * DEG,
  landing: 0.085,
  peeling: 0.27,
});

/** Steady steps: the left foot strikes at 0 at z = 0, then every step the other one. */
export function steady(
  fromStep: number,
  toStep: number,
  place: (z: number, side: number) => Pick<Footfall, 'x' | 'z' | 'heading'>,
): Footwork {
  const left: Footfall[] = [];
  const right: Footfall[] = [];
  for (let n = fromStep; n <= toStep; n++) {
    const side = n % 2 === 0 ? 1 : -1;
    const p = place(n * STEP, side);
    (side === 1 ? left : right).push(full(p.x, p.z, p.heading, n * STEP_SECONDS));
  }
  return { left, right };
}

export const ahead = (z: number, side: number) => ({ x: side * HALF_WIDTH, z, heading: side * TOE_OUT });

/** A take that steps as some footwork says, over [from, to]. */
export const stepping = (
  name: string,
  work: Footwork,
  stance: Take['stance'],
  [from, to]: readonly [number, number],
): Take => ({
  name,
  rate: 30,
  from,
  to,
  stance,
  left: trueSteps(work.left),
  right: trueSteps(work.right),
});

export const travelling = (b: Build, name: string, work: Footwork, from: number, to: number): Take =>
  stepping(name, work, walkBody(b, work, MANNER), [from, to]);

export const walk = (b: Build): Take => travelling(b, 'Walk', steady(-8, 10, ahead), 0, 1);

export const walkInPlace = (b: Build): Take => ({ ...walk(b), name: 'Walk in place', inPlace: true });

const STAND_HALF = 0.085;
const STAND_OUT = 8 * DEG;

export function walkStart(b: Build): Take {
  const lengths = [0.4, 0.58];
  const first = 0.95;
  const left: Footfall[] = [
    { ...full(STAND_HALF, 0, STAND_OUT, -Infinity, 0.6), lift: first + 0.15, peeling: 0.3 },
  ];
  const right: Footfall[] = [
    { ...full(-STAND_HALF, 0, -STAND_OUT, -Infinity, 0.35), lift: 0.5, peeling: 0.26 },
  ];
  right.push({ ...full(-HALF_WIDTH - 0.012, lengths[0]!, -TOE_OUT, first, 0.7), lift: first + 0.68 });
  const z = lengths[0]! + lengths[1]!;
  left.push({ ...full(HALF_WIDTH, z, TOE_OUT, first + 0.55, 0.9), lift: first + 0.55 + STANCE_SECONDS });
  const later = first + 0.55;
  for (let n = 1; n <= 8; n++) {
    const side = n % 2 === 0 ? 1 : -1;
    const p = ahead(z + n * STEP, side);
    (side === 1 ? left : right).push(full(p.x, p.z, p.heading, later + n * STEP_SECONDS));
  }
  return travelling(b, 'Walk start', { left, right }, 0, later + 2 * STEP_SECONDS + HANDLE_SECONDS);
}

export function walkStop(b: Build): Take {
  const { left, right } = steady(-8, 0, ahead);
  const stand = (side: 1 | -1, z: number, strike: number, part: number): Footfall => ({
    ...full(side * STAND_HALF, z, side * STAND_OUT, strike, part),
    lift: Infinity,
    landing: 0.13,
  });
  const ls = left as Footfall[];
  const rs = right as Footfall[];
  rs.push({
    ...full(-HALF_WIDTH - 0.01, 0.55, -TOE_OUT, 0.51, 0.8),
    lift: 1.32,
    peeling: 0.3,
    liftPitch: 34 * DEG,
  });
  ls.push(stand(1, 0.9, 1.06, 0.5));
  rs.push(stand(-1, 0.9, 1.68, 0.05));
  return travelling(b, 'Walk stop', { left, right }, -HANDLE_SECONDS, 2.6);
}

/** Turns about over a half circle to the left in the middle of a walk and walks back. */
export function turnRound(b: Build): Take {
  const { left, right } = steady(-8, 0, ahead);
  const radius = 0.17;
  const z0 = 0.72;
  const at = (degrees: number, side: 1 | -1, width = 0.075): Pick<Footfall, 'x' | 'z' | 'heading'> => {
    const a = degrees * DEG;
    return {
      x: radius * (1 - Math.cos(a)) + side * width * Math.cos(a),
      z: z0 + radius * Math.sin(a) - side * width * Math.sin(a),
      heading: a + side * TOE_OUT,
    };
  };
  const fall = (
    p: Pick<Footfall, 'x' | 'z' | 'heading'>,
    strike: number,
    part: number,
    lift: number,
  ): Footfall => ({
    ...full(p.x, p.z, p.heading, strike, part),
    lift,
    landing: 0.1,
    peeling: 0.24,
  });
  const ls = left as Footfall[];
  const rs = right as Footfall[];
  rs.push(fall({ x: -HALF_WIDTH - 0.01, z: 0.56, heading: 6 * DEG }, 0.52, 0.6, 1.2));
  ls.push(fall(at(52, 1), 1.06, 0.25, 1.76));
  rs.push(fall(at(112, -1), 1.62, 0.2, 2.3));
  ls.push(fall(at(166, 1, 0.06), 2.16, 0.3, 2.8));
  const back = (z: number, side: number): Pick<Footfall, 'x' | 'z' | 'heading'> => ({
    x: 2 * radius - side * HALF_WIDTH,
    z,
    heading: Math.PI + side * TOE_OUT,
  });
  const from = 2.67;
  rs.push({ ...full(0, 0, 0, from, 0.85), ...back(z0 - 0.5, -1) });
  for (let n = 1; n <= 8; n++) {
    const side = n % 2 === 1 ? 1 : -1;
    (side === 1 ? ls : rs).push({
      ...full(0, 0, 0, from + n * STEP_SECONDS),
      ...back(z0 - 0.5 - n * STEP, side),
    });
  }
  return travelling(
    b,
    'Turn round',
    { left, right },
    -HANDLE_SECONDS,
    from + 3 * STEP_SECONDS + HANDLE_SECONDS,
  );
}

const stand = (side: 1 | -1): Footfall => ({
  ...full(side * STAND_HALF, 0, side * STAND_OUT, -Infinity, 0),
  lift: Infinity,
});
/** Both feet at rest side by side. */
export const STANDING: Footwork = { left: [stand(1)], right: [stand(-1)] };

/** An arm at rest. */
export const hanging: Arm = {
  flex: 2 * DEG,
  spread: 8.5 * DEG,
  elbow: 14 * DEG,
  twist: 8 * DEG,
  forearm: 14 * DEG,
  wrist: 4 * DEG,
  curl: 24 * DEG,
  shrug: -4 * DEG,
};

/** A quiet stand that breathes and shifts its weight; `period` seconds make one round. */
export function quietStance(b: Build, period: number): (t: number) => Stance {
  const wave = (t: number, times: number, phase = 0): number =>
    Math.sin(2 * Math.PI * ((times * t) / period + phase));
  const foot = (fall: Footfall) => ({
    ankle: [fall.x, b.ankleHeight, fall.z] as const,
    heading: fall.heading,
    pitch: 0,
    toes: 0,
  });
  return (t) => {
    const sway = wave(t, 1, 0.05);
    const breath = wave(t, 2, 0.2);
    const breathLate = wave(t, 2, 0.13);
    return {
      pelvis: [
        0.016 * sway,
        standingHip(b) - 0.0083 * b.height - 0.002 * Math.abs(sway) ** 2,
        STANDING_FORWARD + 0.004 * wave(t, 1, 0.3),
      ],
      pelvisTurn: { yaw: 0.012 * wave(t, 1, 0.4), pitch: 2 * DEG, roll: 0.022 * sway },
      torso: { yaw: 0.01 * wave(t, 1, 0.1), pitch: -0.5 * DEG - 0.9 * DEG * breath, roll: -0.026 * sway },
      head: {
        yaw: 0.05 * wave(t, 1, 0.65),
        pitch: 0.6 * DEG + 0.8 * DEG * breathLate,
        roll: 0.008 * wave(t, 1, 0.2),
      },
      arms: {
        left: {
          ...hanging,
          flex: hanging.flex + 0.012 * breathLate,
          shrug: hanging.shrug + 0.014 * breath,
          elbow: hanging.elbow + 0.02 * wave(t, 1, 0.5),
        },
        right: {
          ...hanging,
          flex: hanging.flex + 0.01 * breathLate,
          shrug: hanging.shrug + 0.014 * breath,
          elbow: hanging.elbow - 0.015 * wave(t, 1, 0.5),
        },
      },
      feet: { left: foot(STANDING.left[0]!), right: foot(STANDING.right[0]!) },
    };
  };
}

/** A take in which both feet stand throughout. */
export const standingTake = (
  name: string,
  rate: number,
  seconds: number,
  stance: (t: number) => Stance,
): Take => ({
  name,
  rate,
  from: 0,
  to: seconds,
  stance,
  left: { foot: [[-Infinity, Infinity]], toes: [[-Infinity, Infinity]] },
  right: { foot: [[-Infinity, Infinity]], toes: [[-Infinity, Infinity]] },
});

export const idle = (b: Build): Take => standingTake('Idle', 30, 4, quietStance(b, 4));

/** Mixes two arms. */
export const mixArm = (a: Arm, c: Arm, w: number): Arm => {
  const mix = (x: number, y: number): number => x + (y - x) * w;
  return {
    flex: mix(a.flex, c.flex),
    spread: mix(a.spread, c.spread),
    elbow: mix(a.elbow, c.elbow),
    twist: mix(a.twist, c.twist),
    forearm: mix(a.forearm, c.forearm),
    wrist: mix(a.wrist, c.wrist),
    curl: mix(a.curl, c.curl),
    shrug: mix(a.shrug, c.shrug),
  };
};

/** Raises the right arm and waves three times. */
export function wave(b: Build): Take {
  const quiet = quietStance(b, 4);
  return standingTake('Wave', 24, 4, (t) => {
    const s = quiet(t);
    const up = ease(t, 0.3, 1.1) * (1 - ease(t, 2.95, 3.75));
    const early = ease(t, 0.2, 0.95) * (1 - ease(t, 3.05, 3.8));
    const beat = Math.sin(2 * Math.PI * 1.6 * (t - 1)) * ease(t, 0.95, 1.3) * (1 - ease(t, 2.75, 3.1));
    const beatLate = Math.sin(2 * Math.PI * 1.6 * (t - 1.06)) * ease(t, 1, 1.35) * (1 - ease(t, 2.8, 3.15));
    const raised: Arm = { ...hanging, wrist: (-2 - 14 * beatLate) * DEG, curl: 6 * DEG, shrug: 8 * DEG };
    const point = {
      upper: [-0.8, -0.22 + 0.04 * beat, 0.42] as const,
      lower: [-0.12 + 0.34 * beat, 0.95, 0.2] as const,
      weight: up,
    };
    return {
      ...s,
      pelvis: [s.pelvis[0] + 0.018 * early, s.pelvis[1], s.pelvis[2]],
      torso: {
        yaw: s.torso.yaw - 0.03 * early,
        pitch: s.torso.pitch - 0.02 * early,
        roll: s.torso.roll - 0.055 * early + 0.01 * beat,
      },
      head: {
        yaw: s.head.yaw - 0.06 * early,
        pitch: s.head.pitch - 0.05 * early,
        roll: s.head.roll + 0.06 * early,
      },
      arms: { left: s.arms.left, right: { ...mixArm(s.arms.right, raised, up), point } },
    };
  });
}

/** Crouches, sets something down before the right foot, and rises. */
export function setDown(b: Build): Take {
  const quiet = quietStance(b, 5);
  return standingTake('Crouch and set down', 30, 5, (t) => {
    const s = quiet(t);
    const down = ease(t, 0.35, 1.75) * (1 - ease(t, 2.9, 4.35));
    const lean = ease(t, 0.2, 1.6) * (1 - ease(t, 3.05, 4.4));
    const look = ease(t, 0.1, 0.8) * (1 - ease(t, 2.8, 3.6));
    const reach = ease(t, 0.7, 2.0) * (1 - ease(t, 2.45, 3.5));
    const release = ease(t, 2.1, 2.4) * (1 - ease(t, 3, 3.6));
    const drop = 0.4 * (b.height / 1.78);
    const brace = ease(t, 0.6, 1.7) * (1 - ease(t, 3.1, 4.2));
    return {
      pelvis: [s.pelvis[0] - 0.01 * down, s.pelvis[1] - drop * down, s.pelvis[2] - 0.15 * down],
      pelvisTurn: {
        yaw: s.pelvisTurn.yaw + 0.06 * down,
        pitch: s.pelvisTurn.pitch + 26 * DEG * lean,
        roll: s.pelvisTurn.roll,
      },
      torso: {
        yaw: s.torso.yaw + 0.22 * reach,
        pitch: s.torso.pitch + 30 * DEG * lean,
        roll: s.torso.roll - 0.06 * reach,
      },
      head: {
        yaw: s.head.yaw - 0.15 * reach,
        pitch: s.head.pitch + (10 * look - 18 * down) * DEG,
        roll: s.head.roll,
      },
      arms: {
        left: {
          ...mixArm(
            s.arms.left,
            {
              ...hanging,
              flex: 38 * DEG,
              spread: 14 * DEG,
              elbow: 62 * DEG,
              twist: 26 * DEG,
              forearm: 30 * DEG,
            },
            brace,
          ),
          reach: { to: [0.14, 0.62, 0.2], weight: brace * 0.75 },
        },
        right: {
          ...s.arms.right,
          flex: s.arms.right.flex + 18 * DEG * reach,
          elbow: s.arms.right.elbow + 14 * DEG * reach,
          curl: (24 + 26 * (1 - release) * reach - 14 * release) * DEG,
          reach: { to: [-0.17, 0.33, 0.36], weight: reach },
        },
      },
      feet: s.feet,
    };
  });
}
