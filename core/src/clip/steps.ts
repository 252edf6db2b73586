import { smoothGaussian } from '../math/smoothing';
import type { Role } from '../skeleton/roles';
import { jointOfRole, legLength } from '../skeleton/skeleton';
import type { Clip } from './clip';
import { rootTrack } from './root';
import { jointTracks } from './track';

/** A span of samples [start, end) in which a joint is planted. */
export interface Span {
  readonly start: number;
  readonly end: number;
}

/** Spans in which one joint is planted. */
export interface JointSteps {
  readonly role: Role;
  readonly joint: number;
  readonly spans: readonly Span[];
}

/** The steps of a clip: per planted joint, and per foot as the union of its joints' spans. */
export interface Steps {
  readonly joints: readonly JointSteps[];
  readonly leftFoot: readonly Span[];
  readonly rightFoot: readonly Span[];
}

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
/** How far a treading foot's floor velocity may differ from the common one, as a share of it. */
const TREAD_TOLERANCE = 0.5;

const none: Steps = { joints: [], leftFoot: [], rightFoot: [] };
const found = new WeakMap<Clip, Steps>();

/**
 * Finds when feet are planted: low and slow, with hysteresis, over the joint's own floor in the clip. Clips
 * without roles of legs have no steps. Computed once.
 */
export function findSteps(clip: Clip): Steps {
  let steps = found.get(clip);
  if (!steps) {
    const length = legLength(clip.skeleton);
    steps = length === null || clip.frames < 2 ? none : detect(clip, length);
    found.set(clip, steps);
  }
  return steps;
}

function detect(clip: Clip, length: number): Steps {
  const roles = (['leftFoot', 'leftToes', 'rightFoot', 'rightToes'] as const).filter(
    (role) => jointOfRole(clip.skeleton, role) >= 0,
  );
  const indices = roles.map((role) => jointOfRole(clip.skeleton, role));
  const tracks = jointTracks(clip, indices);
  const paths = indices.map((_, i) => smoothPath(tracks, indices.length, i, clip));
  const treading = treadVelocity(clip, paths, length);
  const joints = roles.map((role, i) => ({
    role,
    joint: indices[i]!,
    spans: plantedSpans(paths[i]!, clip, length, treading),
  }));
  const foot = (side: string): Span[] =>
    unite(joints.filter((j) => j.role.startsWith(side)).flatMap((j) => j.spans));
  return { joints, leftFoot: foot('left'), rightFoot: foot('right') };
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

/**
 * The floor velocity, in the root's frame, at which planted feet move under a body that walks in place: the median
 * over all moments at which a foot is low and does not rise or sink. Null where low feet rest, as they do in clips that
 * travel.
 */
function treadVelocity(clip: Clip, paths: readonly Path[], length: number): [number, number] | null {
  const root = rootTrack(clip);
  const along: number[] = [];
  const aside: number[] = [];
  for (const path of paths) {
    for (let f = 0; f < clip.frames; f++) {
      if (path.height[f]! > ON.height * length || Math.abs(path.vy[f]!) > 0.25 * length) continue;
      const [a, b] = inRootFrame(path.vx[f]!, path.vz[f]!, root[f * 3 + 2]!);
      along.push(b);
      aside.push(a);
    }
  }
  if (along.length < 4) return null;
  const median = (v: number[]): number => v.sort((p, q) => p - q)[v.length >> 1]!;
  const tread: [number, number] = [median(aside), median(along)];
  return Math.hypot(...tread) > ON.speed * length ? tread : null;
}

function inRootFrame(x: number, z: number, heading: number): [number, number] {
  const s = Math.sin(heading);
  const c = Math.cos(heading);
  return [x * c - z * s, x * s + z * c];
}

function plantedSpans(path: Path, clip: Clip, length: number, tread: [number, number] | null): Span[] {
  const root = tread ? rootTrack(clip) : null;
  const speed = path.vx.map((vx, f) => {
    if (!tread || !root) return Math.hypot(vx, path.vy[f]!, path.vz[f]!);
    const [a, b] = inRootFrame(vx, path.vz[f]!, root[f * 3 + 2]!);
    const off = Math.hypot(a - tread[0], b - tread[1]) / Math.hypot(...tread);
    return Math.max(Math.abs(path.vy[f]!), (off / TREAD_TOLERANCE) * ON.speed * length);
  });
  const flags = new Uint8Array(clip.frames);
  let on = false;
  for (let f = 0; f < clip.frames; f++) {
    const limit: typeof ON = on ? OFF : ON;
    on = path.height[f]! < limit.height * length && speed[f]! < limit.speed * length;
    flags[f] = on ? 1 : 0;
  }
  let spans = spansOf(flags);
  spans = closeGaps(spans, SHORTEST_GAP_SECONDS * clip.rate);
  spans = spans.filter((s) => s.end - s.start >= SHORTEST_SPAN_SECONDS * clip.rate);
  return tread ? spans : spans.flatMap((s) => splitCreep(path, s, CREEP * length));
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
