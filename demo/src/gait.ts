import type { Build } from './build';
import { standingHip } from './build';
import type { Arm, Foot, Stance, Vec3 } from './pose';
import type { Key } from './spline';
import { ease, quintic, spline } from './spline';

/**
 * One planting of a foot. The ankle stands over (x, z) while the sole is flat; before that the foot rolls over its heel,
 * after it over its ball. Times in seconds; a foot that stands from the start or to the end has no strike or lift.
 */
export interface Footfall {
  readonly x: number;
  readonly z: number;
  readonly heading: number;
  /** First contact. */
  readonly strike: number;
  /** Last contact. */
  readonly lift: number;
  /** Pitch (radians, toes up) at the strike, and heel-up pitch at the lift. */
  readonly strikePitch: number;
  readonly liftPitch: number;
  /** How long the roll over the heel and over the ball take. */
  readonly landing: number;
  readonly peeling: number;
  /** Height of the ground under it, metres; default the floor. */
  readonly y?: number;
  /** Metres by which the foot is raised in the swing after it, beyond what a walk does. */
  readonly rise?: number;
}

/** The footfalls of both feet, in order. */
export interface Footwork {
  readonly left: readonly Footfall[];
  readonly right: readonly Footfall[];
}

/** Spans in seconds in which a joint stands still, exactly. */
export interface TrueSteps {
  readonly foot: readonly (readonly [number, number])[];
  readonly toes: readonly (readonly [number, number])[];
}

export const trueSteps = (falls: readonly Footfall[]): TrueSteps => ({
  foot: falls.map((f) => [f.strike + f.landing, f.lift - f.peeling] as const),
  toes: falls.map((f) => [f.strike + f.landing, f.lift] as const),
});

const turnY = (heading: number, v: Vec3): Vec3 => [
  v[0] * Math.cos(heading) + v[2] * Math.sin(heading),
  v[1],
  -v[0] * Math.sin(heading) + v[2] * Math.cos(heading),
];

/** The ankle of a foot that rolls over its heel (pitch up) or its ball (pitch down). */
function rolledAnkle(b: Build, fall: Footfall, pitch: number): Vec3 {
  const pivot: Vec3 = pitch > 0 ? [0, 0, -b.heelBack] : [0, b.ballHeight, b.ballForward];
  const y = b.ankleHeight - pivot[1];
  const z = -pivot[2];
  const s = Math.sin(pitch);
  const c = Math.cos(pitch);
  const rolled: Vec3 = [0, pivot[1] + y * c + z * s, pivot[2] - y * s + z * c];
  const [dx, dy, dz] = turnY(fall.heading, rolled);
  return [fall.x + dx, (fall.y ?? 0) + dy, fall.z + dz];
}

/** Pitch of a planted foot: down from the strike, flat, up on the ball. */
function plantedPitch(fall: Footfall, t: number): number {
  const landing = !Number.isFinite(fall.strike)
    ? 0
    : fall.strikePitch * (1 - ease(t, fall.strike - fall.landing * 0.35, fall.strike + fall.landing));
  const peel = fall.lift - fall.peeling;
  const u = Math.max(0, (t - peel) / fall.peeling);
  return Math.max(0, landing) - fall.liftPitch * u * u * (0.7 + 0.3 * u);
}

/** Where a foot is at any time; planted exactly between its footfalls' flat spans. */
export function footAt(b: Build, falls: readonly Footfall[], t: number): Foot {
  for (let i = 0; i < falls.length; i++) {
    const fall = falls[i]!;
    if (t >= fall.strike && t <= fall.lift) {
      const pitch = plantedPitch(fall, t);
      return {
        ankle: rolledAnkle(b, fall, pitch),
        heading: fall.heading,
        pitch,
        toes: pitch < 0 ? -pitch : 0,
      };
    }
    const next = falls[i + 1];
    if (next && t > fall.lift && t < next.strike) return swinging(b, fall, next, t);
  }
  const fall = t < falls[0]!.strike ? falls[0]! : falls.at(-1)!;
  return { ankle: rolledAnkle(b, fall, 0), heading: fall.heading, pitch: 0, toes: 0 };
}

function swinging(b: Build, from: Footfall, to: Footfall, t: number): Foot {
  const span = to.strike - from.lift;
  const u = (t - from.lift) / span;
  const e = 1e-4;
  const speedOf = (fall: Footfall, at: number): Vec3 => {
    const p = rolledAnkle(b, fall, plantedPitch(fall, at - e));
    const q = rolledAnkle(b, fall, plantedPitch(fall, at + e));
    return [(q[0] - p[0]) / (2 * e), (q[1] - p[1]) / (2 * e), (q[2] - p[2]) / (2 * e)];
  };
  const a = rolledAnkle(b, from, plantedPitch(from, from.lift));
  const z = rolledAnkle(b, to, plantedPitch(to, to.strike));
  const va = speedOf(from, from.lift);
  const vz = speedOf(to, to.strike);
  const at = (k: 0 | 1 | 2): number => quintic(a[k], va[k], z[k], vz[k], span, u);
  const distance = Math.hypot(z[0] - a[0], z[2] - a[2]);
  // A small arch lifts the foot over the floor; long steps have most of it from the push of the ball already.
  const bump = 16 * u * u * (1 - u) * (1 - u);
  const arch = ((0.035 + 0.02 * Math.min(1, distance)) * (b.height / 1.78) + (from.rise ?? 0)) * bump;
  const pitchA = plantedPitch(from, from.lift);
  const pitchZ = plantedPitch(to, to.strike);
  const rate = (fall: Footfall, when: number): number =>
    (plantedPitch(fall, when + e) - plantedPitch(fall, when - e)) / (2 * e);
  const pitch = quintic(
    pitchA,
    rate(from, from.lift) * 0.6,
    pitchZ,
    rate(to, to.strike),
    span,
    Math.min(1, u),
  );
  return {
    ankle: [at(0), at(1) + arch, at(2)],
    heading: from.heading + (to.heading - from.heading) * ease(u, 0.05, 0.95),
    pitch,
    toes: -pitchA * (1 - ease(u, 0, 0.45)) + 0.12 * ease(u, 0.5, 0.9) * (1 - ease(u, 0.9, 1)),
  };
}

/** How a body carries itself; factors of the usual movement. */
export interface Manner {
  /** Swing of the arms, turn of the trunk, sway and list of the pelvis. */
  readonly arms: number;
  readonly trunk: number;
  readonly lean: number;
}

const DEG = Math.PI / 180;

/** Trunk, pelvis and arms that go with some footwork, and the feet themselves. */
export function walkBody(b: Build, work: Footwork, manner: Manner): (t: number) => Stance {
  const events = stepEvents(work);
  const channel = (pick: (e: StepEvent) => number | null): ((t: number) => number) => {
    const keys: Key[] = [];
    for (const e of events) {
      const v = pick(e);
      if (v !== null) keys.push([e.time, v]);
    }
    return spline(keys);
  };
  const top = standingHip(b) - 0.0085 * b.height;
  const x = channel((e) => e.x);
  const z = channel((e) => e.z);
  const heading = channel((e) => e.heading);
  const height = channel((e) => Math.min(top, hipHeight(b, e)));
  const stride = channel((e) => e.stride);
  const support = channel((e) => e.support);
  const effort = channel((e) => Math.abs(e.effort));
  return (t) => {
    const s = stride(t);
    const c = support(t);
    const k = Math.max(0, Math.min(1.2, effort(t)));
    const h = heading(t);
    const yaw = -5 * DEG * s * manner.trunk;
    const list = 3.6 * DEG * c * manner.trunk;
    const lean = (1.5 + 2.5 * k) * DEG * manner.lean;
    const lag = stride(t - 0.035);
    const forearmLag = stride(t - 0.075);
    return {
      pelvis: [x(t), height(t), z(t)],
      pelvisTurn: { yaw: h + yaw, pitch: 2 * DEG + 1 * DEG * k * Math.cos(2 * Math.PI * s), roll: list },
      torso: { yaw: -yaw + 4.5 * DEG * s * manner.trunk, pitch: lean - 2 * DEG, roll: -list * 1.15 },
      head: { yaw: -4 * DEG * s * manner.trunk, pitch: -lean * 0.6 + 1.5 * DEG, roll: list * 0.25 },
      arms: {
        left: swingArm(-lag, -forearmLag, k, manner.arms),
        right: swingArm(lag, forearmLag, k, manner.arms),
      },
      feet: { left: footAt(b, work.left, t), right: footAt(b, work.right, t) },
    };
  };
}

/** An arm that swings with a signal from -1 (behind) to 1 (before). */
function swingArm(signal: number, late: number, effort: number, amount: number): Arm {
  return {
    flex: (2 - 2 * effort + (signal > 0 ? 22 : 19) * signal * amount) * DEG,
    spread: (8.5 - 1.5 * effort) * DEG,
    elbow: (14 + 8 * effort + 13 * late * amount) * DEG,
    twist: (2 + 3 * signal) * DEG,
    forearm: 14 * DEG,
    wrist: (4 + 3 * late) * DEG,
    curl: 24 * DEG,
    shrug: (-4 + 1.2 * Math.abs(signal)) * DEG,
  };
}

/** A moment that shapes the trunk: a strike, or the middle between two strikes. */
interface StepEvent {
  readonly time: number;
  readonly x: number;
  readonly z: number;
  readonly heading: number;
  /** +1 at a full left step's strike, -1 at a right one's, 0 between. */
  readonly stride: number;
  /** +1 in the middle of support by the left foot, -1 by the right, 0 at strikes. */
  readonly support: number;
  /** Length of the step in units of a full one. */
  readonly effort: number;
  /** Distances on the floor of the ankles from the middle of the pelvis, with the height at which the ankle stands. */
  readonly legs: readonly { readonly distance: number; readonly height: number }[];
}

/** Length of a full step in body heights. */
const FULL_STEP = 0.38;

function stepEvents(work: Footwork): StepEvent[] {
  const all = [
    ...work.left.map((f) => ({ ...f, side: 1 })),
    ...work.right.map((f) => ({ ...f, side: -1 })),
  ].sort((p, q) => p.strike - q.strike);
  const events: StepEvent[] = [];
  const standing = (side: number, time: number) =>
    all.filter((f) => f.side === side && f.strike <= time + 1e-9).at(-1) ?? all.find((f) => f.side === side)!;
  all.forEach((fall) => {
    if (!Number.isFinite(fall.strike)) return;
    const other = standing(-fall.side, fall.strike);
    const step = along(fall, other);
    const effort = step / (FULL_STEP * 1.78);
    const before = standing(fall.side, fall.strike - 1e-3);
    const swing = { from: before === fall ? fall.strike - 0.38 : before.lift, to: fall.strike };
    const middle = (swing.from + swing.to) / 2;
    const inward = -other.side * 0.032;
    const [ix, , iz] = turnY(other.heading, [inward, 0, 0]);
    const turning = fall.heading - other.heading;
    events.push({
      time: middle,
      x: other.x + ix,
      z: other.z + iz,
      heading: other.heading + turning * 0.1,
      stride: 0,
      support: other.side * Math.min(1, 0.35 + 0.65 * Math.abs(effort)),
      effort,
      legs: [],
    });
    events.push({
      time: fall.strike,
      x: (fall.x + other.x) / 2,
      z: (fall.z + other.z) / 2,
      heading: (fall.heading + other.heading) / 2,
      stride: fall.side * effort,
      support: 0,
      effort,
      legs: [
        {
          distance: Math.hypot(fall.x - other.x, fall.z - other.z) / 2,
          height: Math.sin(Math.max(0, fall.strikePitch)),
        },
      ],
    });
  });
  return withRest(
    events.sort((p, q) => p.time - q.time),
    all,
  );
}

/** How far a foot was set before the other, along its own heading. */
function along(fall: Footfall, other: Footfall): number {
  const [, , z] = turnY(-fall.heading, [fall.x - other.x, 0, fall.z - other.z]);
  return z;
}

/** How far before the ankles the pelvis stands: the weight rests on the middle of the feet, not on the heels. */
export const STANDING_FORWARD = 0.03;

function standingPlace(feet: readonly Footfall[]): { x: number; z: number } {
  const heading = (feet[0]!.heading + feet[1]!.heading) / 2;
  const [dx, , dz] = turnY(heading, [0, 0, STANDING_FORWARD]);
  return { x: (feet[0]!.x + feet[1]!.x) / 2 + dx, z: (feet[0]!.z + feet[1]!.z) / 2 + dz };
}

/** Adds the standing still before the first and after the last step, where there is some. */
function withRest(events: StepEvent[], all: readonly (Footfall & { side: number })[]): StepEvent[] {
  const still = (time: number, pick: readonly (Footfall & { side: number })[]): StepEvent => ({
    time,
    ...standingPlace(pick),
    heading: (pick[0]!.heading + pick[1]!.heading) / 2,
    stride: 0,
    support: 0,
    effort: 0,
    legs: [],
  });
  const start = [1, -1].map((side) => all.filter((f) => f.side === side)[0]!);
  const end = [1, -1].map((side) => all.filter((f) => f.side === side).at(-1)!);
  const out = [...events];
  if (start.every((f) => !Number.isFinite(f.strike))) {
    const lift = Math.min(...start.map((f) => f.lift));
    for (const t of [-3, -2, -1, -0.5, 0]) out.unshift(still(lift - 0.42 + Math.min(t, 0), start));
  }
  if (end.every((f) => !Number.isFinite(f.lift))) {
    const last = Math.max(...end.map((f) => f.strike));
    for (const t of [0.42, 0.9, 1.4, 2, 3]) out.push(still(last + t, end));
  }
  return out.sort((p, q) => p.time - q.time);
}

/** Height of the hip joints: as high as the longer leg reaches at strikes, a little under straight between them. */
function hipHeight(b: Build, e: StepEvent): number {
  const top = standingHip(b) - 0.0085 * b.height;
  const leg = e.legs[0];
  if (!leg) return e.support === 0 ? top : top - 0.004 * b.height;
  const reach = (b.thigh + b.shank) * 0.965;
  const ankle = b.ankleHeight + leg.height * b.heelBack;
  const distance = Math.max(0, leg.distance - leg.height * b.ankleHeight * 1.3 - 0.004);
  return ankle + Math.sqrt(Math.max(0.01, reach * reach - distance * distance));
}
