import { InputError } from '../math/errors';
import { smoothGaussian } from '../math/smoothing';
import { legLength, legsOf } from '../skeleton/legs';
import type { Skeleton } from '../skeleton/skeleton';
import type { Clip } from '../clip/clip';
import type { JointSteps, Span, Steps } from '../clip/contacts';
import { derivation, Memory } from '../memory/memory';
import { carryThroughFlight, stepsFromLowest, stepsFromPlanted, wayOfSteps } from './footPath';
import { rootTrack } from '../clip/root';
import { jointTracks } from '../clip/jointTracks';

export type { JointSteps, Span, Steps } from '../clip/contacts';

/** Thresholds in units of the leg length L (and L a second); measured on the demonstration and on capture. */
const ON = { height: 0.04, speed: 0.35 };
const OFF = { height: 0.07, speed: 0.6 };
/** A planted joint whose places within one span lie further apart (in L) has crept: the span is split. */
const CREEP = 0.08;
const SMOOTH_SECONDS = 0.02;
const SHORTEST_GAP_SECONDS = 0.07;
const SHORTEST_SPAN_SECONDS = 0.08;
/** A joint's own floor in a clip: the height below which this share of its samples lies. */
const FLOOR_SHARE = 0.02;
/** In place: how fast (L a second) the feet go under a body, and up to what share of that the body goes itself. */
const TREADS = { speed: 0.2, share: 0.35 };
/** Height (L) within which a foot is among the lowest, and seconds over which a first guess at the way is calmed. */
const LOW = 0.012;
const GUESS_SECONDS = 0.06;
/** Rounds in which steps and way are found from each other; two settle, a third changes nothing. */
const TREAD_ROUNDS = 3;

const none: Steps = { joints: [], leftFoot: [], rightFoot: [] };

/**
 * Finds when feet are planted (foot contacts): low and slow, with hysteresis, over the joint's own floor in the clip. Clips
 * without roles of legs have no steps; a clip that was given its steps has those.
 */
export const findSteps = (clip: Clip, memory = new Memory()): Steps =>
  clip.steps ?? memory.recall(detected, clip);

const detected = derivation('steps', 5000, (memory, clip: Clip): Steps => {
  const length = legLength(clip.skeleton);
  return length === null || clip.frames < 2 ? none : detect(clip, length, memory);
});

function detect(clip: Clip, length: number, memory: Memory): Steps {
  const planted = legsOf(clip.skeleton).flatMap((leg, i) =>
    leg.planted.map((joint) => ({
      role: clip.skeleton.roles[joint]!,
      joint,
      leg: i,
      tip: joint === leg.tip,
    })),
  );
  const indices = planted.map((p) => p.joint);
  const tracks = jointTracks(clip, indices);
  const paths = (from: Float64Array): Path[] =>
    indices.map((_, i) => smoothPath(from, indices.length, i, clip));
  const spansIn = (from: Float64Array): JointSteps[] =>
    paths(from).map((path, i) => ({ ...planted[i]!, spans: plantedSpans(path, clip, length) }));
  const root = rootTrack(clip, memory);
  const guess = treadingWay(clip, root, tracks, paths(tracks), planted, length);
  if (!guess) return stepsOfJoints(clip.skeleton, spansIn(tracks));
  // In place the feet move under the body: they are looked at as if it went where they say, until both agree.
  let way = guess;
  let joints = spansIn(alongWay(tracks, root, way));
  for (let round = 0; round < TREAD_ROUNDS; round++) {
    const steps = stepsFromPlanted(tracks, root, joints);
    if (steps.weights.every((w) => w === 0)) break;
    carryThroughFlight(steps);
    way = wayOfSteps(steps, root, 0);
    joints = spansIn(alongWay(tracks, root, way));
  }
  return stepsOfJoints(clip.skeleton, joints);
}

/** Tracks as they are when the body goes along a way (frames x 2) instead of its root's own. */
function alongWay(tracks: Float64Array, root: Float64Array, way: Float64Array): Float64Array {
  const width = (tracks.length * 3) / root.length;
  return tracks.map((v, i) => {
    const f = Math.floor(i / width);
    const k = i % 3;
    return k === 1 ? v : v + way[f * 2 + k / 2]! - root[f * 3 + k / 2]!;
  });
}

/**
 * The way that the lowest feet say a body goes, where its root does not go there: a clip in place. Null for clips that
 * travel, or whose feet rest.
 */
function treadingWay(
  clip: Clip,
  root: Float64Array,
  tracks: Float64Array,
  paths: readonly Path[],
  planted: readonly Omit<JointSteps, 'spans'>[],
  length: number,
): Float64Array | null {
  // Ankles rise before their step ends; where a leg has a tip, that one is looked at.
  const heights = paths.map(({ height }, i) =>
    planted[i]!.tip || !planted.some((p) => p.leg === planted[i]!.leg && p.tip)
      ? height
      : new Float64Array(clip.frames).fill(1e3),
  );
  const steps = stepsFromLowest(tracks, root, heights, LOW * length);
  const way = wayOfSteps(steps, root, GUESS_SECONDS * clip.rate);
  let [trodden, gone] = [0, 0];
  for (let f = 1; f < clip.frames; f++) {
    trodden += Math.hypot(way[f * 2]! - way[f * 2 - 2]!, way[f * 2 + 1]! - way[f * 2 - 1]!);
    gone += Math.hypot(root[f * 3]! - root[f * 3 - 3]!, root[f * 3 + 1]! - root[f * 3 - 2]!);
  }
  const seconds = (clip.frames - 1) / clip.rate;
  return trodden > TREADS.speed * length * seconds && gone < TREADS.share * trodden ? way : null;
}

function stepsOfJoints(skeleton: Skeleton, joints: readonly JointSteps[]): Steps {
  const legs = legsOf(skeleton);
  const foot = (side: string): Span[] =>
    unite(joints.filter((j) => legs[j.leg]!.side === side && !legs[j.leg]!.front).flatMap((j) => j.spans));
  return { joints, leftFoot: foot('left'), rightFoot: foot('right') };
}

/** The tip of the same leg, where it is planted as well; undefined for a tip and for legs without. */
export const tipBeside = (joints: readonly JointSteps[], of: JointSteps): JointSteps | undefined =>
  of.tip ? undefined : joints.find((j) => j.leg === of.leg && j.tip);

/**
 * Gives a clip the steps of the one that it was made from (moved along another way, mirrored, on another skeleton), so
 * that they are found, and edited, once.
 *
 * @param jointIn the joint of the new clip's skeleton that stands for one of the old; -1 for none
 */
export function inheritSteps(
  clip: Clip,
  from: Clip,
  jointIn: (joint: number) => number = (joint) => joint,
  memory = new Memory(),
): Clip {
  const legs = legsOf(clip.skeleton);
  const joints = findSteps(from, memory).joints.flatMap((old): JointSteps[] => {
    const joint = jointIn(old.joint);
    const leg = legs.findIndex((l) => l.planted.includes(joint));
    if (leg < 0) return [];
    const role = clip.skeleton.roles[joint]!;
    return [{ role, joint, leg, tip: joint === legs[leg]!.tip, spans: old.spans }];
  });
  return { ...clip, steps: stepsOfJoints(clip.skeleton, joints) };
}

/**
 * Spans in which each planted joint rests at whatever height: for feet on stairs, bars and benches, where height over the
 * floor tells nothing.
 *
 * @returns spans by joint name, as `withSteps` takes them; none for a clip without legs
 */
export function stepsBySpeed(clip: Clip, memory = new Memory()): Record<string, Span[]> {
  const length = legLength(clip.skeleton);
  if (length === null || clip.frames < 2) return {};
  const joints = findSteps(clip, memory).joints.map((j) => j.joint);
  const tracks = jointTracks(clip, joints);
  const onFloor = new Float64Array(clip.frames);
  return Object.fromEntries(
    joints.map((joint, i) => {
      const path = smoothPath(tracks, joints.length, i, clip);
      return [clip.skeleton.names[joint]!, plantedSpans({ ...path, height: onFloor }, clip, length)];
    }),
  );
}

/** The user's own steps of a clip: by joint name, spans of samples [start, end). */
export type OwnSteps = Readonly<Record<string, readonly (readonly [number, number])[]>>;

/**
 * A clip with the user's own steps.
 *
 * @throws InputError `steps` where a joint is not one that can be planted
 */
export const withOwnSteps = (clip: Clip, steps: OwnSteps, memory = new Memory()): Clip =>
  withSteps(
    clip,
    Object.fromEntries(
      Object.entries(steps).map(([joint, list]) => [joint, list.map(([start, end]) => ({ start, end }))]),
    ),
    memory,
  );

/**
 * A clip with the user's own spans for some planted joints, by joint name; the others keep what was found.
 *
 * @throws InputError `steps` where a joint is not one that can be planted
 */
export function withSteps(
  clip: Clip,
  edited: Readonly<Record<string, readonly Span[]>>,
  memory = new Memory(),
): Clip {
  const { joints } = findSteps(clip, memory);
  for (const name of Object.keys(edited)) {
    if (joints.some((j) => clip.skeleton.names[j.joint] === name)) continue;
    throw new InputError('steps', `${name} is no joint of ${clip.name} that can be planted.`, {
      place: { bone: name },
      hint: `Those are ${joints.map((j) => clip.skeleton.names[j.joint]).join(', ')}.`,
    });
  }
  const own = joints.map((j) => ({ ...j, spans: unite(edited[clip.skeleton.names[j.joint]!] ?? j.spans) }));
  return { ...clip, steps: stepsOfJoints(clip.skeleton, own) };
}

/** One joint's track: despiked, smoothed positions, their velocities, and the height over its own floor. */
interface Path {
  readonly x: Float64Array;
  readonly z: Float64Array;
  readonly height: Float64Array;
  readonly vx: Float64Array;
  readonly vy: Float64Array;
  readonly vz: Float64Array;
}

function smoothPath(tracks: Float64Array, columns: number, column: number, clip: Clip): Path {
  const axis = (k: number): Float64Array => {
    const values = Float64Array.from(
      { length: clip.frames },
      (_, f) => tracks[(f * columns + column) * 3 + k]!,
    );
    return smoothGaussian(despike(values), SMOOTH_SECONDS * clip.rate);
  };
  const x = axis(0);
  const y = axis(1);
  const z = axis(2);
  const sorted = y.slice().sort();
  const floor = sorted[Math.floor(FLOOR_SHARE * (sorted.length - 1))]!;
  return {
    x,
    z,
    height: y.map((v) => v - floor),
    vx: differentiate(x, clip.rate),
    vy: differentiate(y, clip.rate),
    vz: differentiate(z, clip.rate),
  };
}

/** Replaces single samples that leap away and back (capture noise) by the mean of their neighbours. */
function despike(values: Float64Array): Float64Array {
  const out = values.slice();
  for (let i = 2; i < values.length - 2; i++) {
    const leap = Math.abs(values[i]! - (values[i - 1]! + values[i + 1]!) / 2);
    const around = Math.max(
      Math.abs(values[i - 1]! - values[i - 2]!),
      Math.abs(values[i + 2]! - values[i + 1]!),
      Math.abs(values[i + 1]! - values[i - 1]!),
    );
    if (leap > 0.005 && leap > 3 * around) out[i] = (values[i - 1]! + values[i + 1]!) / 2;
  }
  return out;
}

function differentiate(values: Float64Array, rate: number): Float64Array {
  const last = values.length - 1;
  return values.map((_, i) => {
    const a = Math.max(0, i - 1);
    const b = Math.min(last, i + 1);
    return ((values[b]! - values[a]!) * rate) / Math.max(1, b - a);
  });
}

function plantedSpans(path: Path, clip: Clip, length: number): Span[] {
  const speed = path.vx.map((vx, f) => Math.hypot(vx, path.vy[f]!, path.vz[f]!));
  const flags = new Uint8Array(clip.frames);
  let on = false;
  for (let f = 0; f < clip.frames; f++) {
    const limit: typeof ON = on ? OFF : ON;
    on = path.height[f]! < limit.height * length && speed[f]! < limit.speed * length;
    flags[f] = on ? 1 : 0;
  }
  let spans = closeGaps(spansOf(flags), SHORTEST_GAP_SECONDS * clip.rate);
  // Hysteresis bridges a slip in the middle of a step; at its ends a joint that has begun to move has begun to move.
  const rests = (f: number): boolean => speed[f]! < ON.speed * length;
  spans = spans.map((s) => {
    let { start, end } = s;
    while (start < end && !rests(start)) start++;
    while (end > start && !rests(end - 1)) end--;
    return { start, end };
  });
  spans = spans.filter((s) => s.end - s.start >= SHORTEST_SPAN_SECONDS * clip.rate);
  return spans.flatMap((s) => splitCreep(path, s, CREEP * length));
}

function spansOf(flags: Uint8Array): Span[] {
  const spans: Span[] = [];
  for (let f = 0; f < flags.length; f++) {
    if (!flags[f]) continue;
    const start = f;
    while (f < flags.length && flags[f]) f++;
    spans.push({ start, end: f });
  }
  return spans;
}

function closeGaps(spans: readonly Span[], gap: number): Span[] {
  const out: Span[] = [];
  for (const span of spans) {
    const last = out.at(-1);
    if (last && span.start - last.end < gap) out[out.length - 1] = { start: last.start, end: span.end };
    else out.push(span);
  }
  return out;
}

/** Cuts a span wherever the joint has moved further than `limit` metres from where the piece began. */
function splitCreep(path: Path, span: Span, limit: number): Span[] {
  const out: Span[] = [];
  let start = span.start;
  for (let f = span.start + 1; f < span.end; f++) {
    if (Math.hypot(path.x[f]! - path.x[start]!, path.z[f]! - path.z[start]!) <= limit) continue;
    out.push({ start, end: f });
    start = f;
  }
  out.push({ start, end: span.end });
  return out;
}

/** The union of spans, in order; touching ones are one. */
export function unite(spans: readonly Span[]): Span[] {
  const out: Span[] = [];
  for (const span of [...spans].sort((a, b) => a.start - b.start)) {
    const last = out.at(-1);
    if (last && span.start <= last.end)
      out[out.length - 1] = { start: last.start, end: Math.max(last.end, span.end) };
    else out.push(span);
  }
  return out;
}
