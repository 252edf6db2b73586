import type { DogPose, Paw, PawPlace } from './dogPose';
import { PAW, offset, pawsAt, standing, waveOf } from './dogPose';
import { standPose } from './dogStanding';
import { ease, quintic } from './spline';
import { HANDLE_SECONDS } from './takes';

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
export const TROT: DogGait = {
  period: 0.5,
  speed: 1.5,
  stance: 0.45,
  phases: { leftHind: 0, rightFront: 0, rightHind: 0.5, leftFront: 0.5 },
  raise: 0.075,
};

/** A walk sets down hind, front, hind, front of the other side: three paws stand, then two. */
export const WALK: DogGait = {
  period: 24 / 30,
  speed: 0.7,
  stance: 0.63,
  phases: { leftHind: 0, leftFront: 0.25, rightHind: 0.5, rightFront: 0.75 },
  raise: 0.05,
};

/** How a body goes along: how far it has come at a time, and how fast it is. */
interface Way {
  readonly gait: DogGait;
  /** Metres. */
  readonly at: (t: number) => number;
  /** Of the gait's speed, 0 to 1. */
  readonly share: (t: number) => number;
  /** How hard the speed is changing, -1 (braking) to 1. */
  readonly push: (t: number) => number;
  /** Where it stands before or after it moves. */
  readonly rest: number | null;
}

const evenly = (gait: DogGait): Way => ({
  gait,
  at: (t) => gait.speed * t,
  share: () => 1,
  push: () => 0,
  rest: null,
});

const part = (t: number, from: number, to: number): number =>
  Math.min(1, Math.max(0, (t - from) / (to - from)));
const risen = (u: number): number => u * u * (3 - 2 * u);
const pushed = (u: number): number => 4 * u * (1 - u);

/** Stands until `from`, and has its speed at `to`, seconds. */
const setsOff = (gait: DogGait, from: number, to: number): Way => ({
  gait,
  at: (t) => {
    const u = part(t, from, to);
    return gait.speed * ((to - from) * u ** 3 * (1 - u / 2) + Math.max(0, t - to));
  },
  share: (t) => risen(part(t, from, to)),
  push: (t) => pushed(part(t, from, to)),
  rest: 0,
});

/** Goes at its speed until `from`, and stands from `to`, seconds. */
const stops = (gait: DogGait, from: number, to: number): Way => ({
  gait,
  at: (t) => {
    const u = part(t, from, to);
    return gait.speed * (Math.min(t, from) + (to - from) * (u - u ** 3 * (1 - u / 2)));
  },
  share: (t) => 1 - risen(part(t, from, to)),
  push: (t) => -pushed(part(t, from, to)),
  rest: (gait.speed * (from + to)) / 2,
});

/** A step that would end so near (metres) to where the dog stands ends there. */
const NEARLY = 0.04;
/** The share of a stride from which a step is raised to its full height. */
const FULL_STEP = 0.4;

interface Step {
  /** How far into the stride it is, 0 to 1: standing up to the gait's stance, then in the air. */
  readonly u: number;
  /** Where the paw stands, and where it goes next, along z. */
  readonly here: number;
  readonly next: number;
}

/** Where a paw is in its step: in the middle of its stance it stands where it does at rest. */
function stepOf({ gait, at, rest }: Way, paw: Paw, t: number): Step {
  const beat = t / gait.period - gait.phases[paw] + 1e-9;
  const n = Math.floor(beat);
  const place = (k: number): number => {
    const way = at((k + gait.phases[paw] + gait.stance / 2) * gait.period);
    const settled = rest !== null && Math.abs(way - rest) < NEARLY ? rest : way;
    return settled + offset('hips')[2] + standing(paw);
  };
  return { u: beat - n, here: place(n), next: place(n + 1) };
}

/** Whether a paw stands: while it is down, and where its next step goes nowhere. */
export const standsOn =
  (way: Way) =>
  (paw: Paw, t: number): boolean => {
    const { u, here, next } = stepOf(way, paw, t);
    return u <= way.gait.stance + 3e-9 || next === here;
  };

function pawOn(way: Way, paw: Paw, t: number): PawPlace {
  const { u, here, next } = stepOf(way, paw, t);
  const { stance, raise, speed, period } = way.gait;
  if (u <= stance + 3e-9 || next === here) return { y: PAW, z: here, bend: 0 };
  const s = (u - stance) / (1 - stance);
  const arch = 16 * s * s * (1 - s) * (1 - s);
  const share = Math.min(1, (next - here) / (FULL_STEP * speed * period));
  return {
    y: PAW + raise * share * arch,
    z: quintic(here, 0, next, 0, 1, s),
    bend: 0.9 * share * ease(s, 0, 0.35) * (1 - ease(s, 0.45, 1)),
  };
}

export const TROTTING = evenly(TROT);
export const WALKING = evenly(WALK);
/** It stands a moment, and is in its trot, at the beginning of a stride, after three of them; it trots on for a crossfade. */
export const SETTING_OFF = setsOff(TROT, 0.3, 1.2);
export const SETTING_OFF_SECONDS = { from: 0, to: 3 * TROT.period + HANDLE_SECONDS };
/** It comes out of a trot, from a crossfade before the beginning of a stride, and stands at the end. */
export const STOPPING = stops(TROT, 0.3, 1.3);
export const STOPPING_SECONDS = { from: -HANDLE_SECONDS, to: 2 };

export function trotPose(t: number, way = TROTTING): DogPose {
  const wave = waveOf(t, TROT.period);
  const rest = offset('hips');
  return {
    hips: [0, rest[1] - 0.044 + 0.011 * wave(2, -0.48), rest[2] + way.at(t)],
    pitch: 0.018 * wave(2, 0.1),
    neck: [-0.05 + 0.04 * wave(2, 0.35), 0, 0],
    head: [0.08 - 0.04 * wave(2, 0.3), 0, 0],
    tail: [0.5 + 0.06 * wave(2, 0), 0.12 * wave(1, 0.2), 0],
    paws: pawsAt((paw) => pawOn(way, paw, t)),
  };
}

/** A pose between standing and trotting, as fast as the way is; the body rises before as it pushes off, and dips as it brakes. */
function between(way: Way, t: number, stand: DogPose): DogPose {
  const trot = trotPose(t, way);
  const w = way.share(t);
  const mix = (a: number, b: number): number => a + (b - a) * w;
  const mixed = (a: DogPose['hips'], b: DogPose['hips']): DogPose['hips'] => [
    mix(a[0], b[0]),
    mix(a[1], b[1]),
    mix(a[2], b[2]),
  ];
  const [x, y, z] = stand.hips;
  return {
    hips: mixed([x, y, z + way.at(t)], trot.hips),
    pitch: mix(stand.pitch, trot.pitch) - 0.04 * way.push(t),
    neck: mixed(stand.neck, trot.neck),
    head: mixed(stand.head, trot.head),
    tail: mixed(stand.tail, trot.tail),
    paws: trot.paws,
  };
}

export const trotStartPose = (t: number): DogPose => between(SETTING_OFF, t, standPose(t));

/** Ends as a stand begins. */
export const trotStopPose = (t: number): DogPose => between(STOPPING, t, standPose(t - STOPPING_SECONDS.to));

export function walkPose(t: number): DogPose {
  const wave = waveOf(t, WALK.period);
  const rest = offset('hips');
  return {
    hips: [0, rest[1] - 0.03 + 0.006 * wave(2, 0.15), rest[2] + WALKING.at(t)],
    pitch: 0.02 + 0.016 * wave(2, 0.4),
    // The head nods as each front paw takes the weight.
    neck: [0.1 + 0.07 * wave(2, 0.3), 0.03 * wave(1, 0.2), 0],
    head: [0.04 - 0.05 * wave(2, 0.27), 0.03 * wave(1, 0.15), 0],
    tail: [0.3 + 0.04 * wave(2, 0), 0.2 * wave(1, 0.3), 0],
    paws: pawsAt((paw) => pawOn(WALKING, paw, t)),
  };
}
