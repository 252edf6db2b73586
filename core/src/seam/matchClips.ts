import { Memory } from '../memory/memory';
import type { Clip } from '../clip/clip';
import { isFineRole } from '../skeleton/roles';
import type { Span, Steps } from '../steps/steps';
import { findSteps } from '../steps/steps';
import { makePoseBuffer, makeWorldPose, poseToWorld, samplePose } from '../clip/pose';
import { InputError } from '../math/errors';
import { matchMapSteps } from '../math/matchMap';

/** A pair of samples at which one clip can go over into the other. */
export interface MatchedPair {
  /** Sample of the outgoing, and of the incoming clip. */
  readonly out: number;
  readonly in: number;
  readonly distanceCm: number;
  /** Whether the same feet are planted. */
  readonly sameFeet: boolean;
}

/** What a comparison of two clips gives. */
export interface Match {
  /** Best first. */
  readonly pairs: readonly MatchedPair[];
  /** Distances in metres, outgoing moments x incoming moments; the first of each is where its span begins. */
  readonly distances: Float32Array;
  readonly outgoingMoments: number;
  readonly incomingMoments: number;
  /** Samples of the incoming clip from one moment to the next; of the outgoing one it is one. */
  readonly incomingStep: number;
}

/** Which samples are compared; default all. */
export interface MatchOptions {
  /** Samples [start, end) of the outgoing clip. */
  readonly outgoing?: Span;
  readonly incoming?: Span;
  /** How many pairs to give. */
  readonly top?: number;
}

/** Seconds of the window in which two moments are compared. */
const WINDOW_SECONDS = 1 / 3;
/** By how much a pair with other feet planted ranks behind (centimetres). */
const OTHER_FEET_CM = 6;

/**
 * Finds the pairs of samples at which two clips are most alike, best first: the local minima of the map of distances,
 * those with other feet planted ranked behind. Yields the finished share.
 *
 * @throws InputError `match` where the clips share fewer than three joints
 */
export function* matchClipsSteps(
  outgoing: Clip,
  incoming: Clip,
  options: MatchOptions = {},
  memory = new Memory(),
): Generator<number, Match> {
  const a = options.outgoing ?? { start: 0, end: outgoing.frames };
  const b = options.incoming ?? { start: 0, end: incoming.frames };
  const joints = sharedJoints(outgoing, incoming);
  // The incoming clip is read at the outgoing one's rate, so that windows last equally long.
  const step = incoming.rate / outgoing.rate;
  const half = Math.max(1, Math.round((WINDOW_SECONDS * outgoing.rate) / 2));
  // Half a window more is read on every side: cut windows compare too little.
  const left = read(
    outgoing,
    joints.map(([j]) => j),
    { start: a.start - half, end: a.end + half },
    1,
  );
  const right = read(
    incoming,
    joints.map(([, j]) => j),
    { start: b.start - half * step, end: b.end + half * step },
    step,
  );
  const wide = yield* matchMapSteps({
    outgoing: left.places,
    outgoingFrames: left.frames,
    incoming: right.places,
    incomingFrames: right.frames,
    joints: joints.length,
    half,
  });
  const [rows, columns] = [momentsIn(a, 1), momentsIn(b, step)];
  const map = new Float32Array(rows * columns);
  for (let i = 0; i < rows; i++) {
    const from = (i + half) * right.frames + half;
    map.set(wide.subarray(from, from + columns), i * columns);
  }
  const [feetOut, feetIn] = [findSteps(outgoing, memory), findSteps(incoming, memory)];
  const pairs = localMinima(map, rows, columns)
    .map(([i, j]): MatchedPair => {
      const out = a.start + i;
      const into = Math.min(incoming.frames - 1, Math.round(b.start + j * step));
      return {
        out,
        in: into,
        distanceCm: map[i * columns + j]! * 100,
        sameFeet: plantedFeet(feetOut, out) === plantedFeet(feetIn, into),
      };
    })
    .sort((p, q) => rank(p) - rank(q))
    .slice(0, options.top ?? 10);
  return {
    pairs,
    distances: map,
    outgoingMoments: rows,
    incomingMoments: columns,
    incomingStep: step,
  };
}

/** The pairs in one go. */
export function matchClips(
  outgoing: Clip,
  incoming: Clip,
  options: MatchOptions = {},
  memory = new Memory(),
): readonly MatchedPair[] {
  const steps = matchClipsSteps(outgoing, incoming, options, memory);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value.pairs;
  }
}

const rank = (pair: MatchedPair): number => pair.distanceCm + (pair.sameFeet ? 0 : OTHER_FEET_CM);

/** Pairs of joints of the same role, else of the same name, without fingers and face. */
function sharedJoints(a: Clip, b: Clip): [number, number][] {
  const pairs = a.skeleton.names.flatMap((name, i): [number, number][] => {
    const role = a.skeleton.roles[i];
    if (role && isFineRole(role)) return [];
    const j = role ? b.skeleton.roles.indexOf(role) : b.skeleton.names.indexOf(name);
    return j >= 0 ? [[i, j]] : [];
  });
  const named = pairs.filter(([i]) => a.skeleton.roles[i]);
  const used = named.length >= 3 ? named : pairs;
  if (used.length < 3) {
    throw new InputError(
      'match',
      `${a.name} and ${b.name} share only ${used.length} joints; three are needed to compare them.`,
      {
        hint: 'Compare clips of the same or of mapped skeletons.',
      },
    );
  }
  return used;
}

/** Moments of a span, so many samples apart. */
const momentsIn = (span: Span, step: number): number =>
  Math.max(1, Math.floor((span.end - 1 - span.start) / step + 1e-9) + 1);

/** Places of joints over a span; before its first and beyond its last sample a clip goes on as it moves there. */
function read(
  clip: Clip,
  joints: readonly number[],
  span: Span,
  step: number,
): { places: Float64Array; frames: number } {
  const frames = momentsIn(span, step);
  const places = new Float64Array(frames * joints.length * 3);
  const pose = makePoseBuffer(clip.skeleton);
  const world = makeWorldPose(clip.skeleton);
  const write = (sample: number, weight: number, o: number): void => {
    poseToWorld(clip.skeleton, samplePose(clip, sample, pose), world);
    joints.forEach((joint, j) => {
      for (let k = 0; k < 3; k++) places[o + j * 3 + k]! += weight * world.positions[joint * 3 + k]!;
    });
  };
  const last = clip.frames - 1;
  for (let f = 0; f < frames; f++) {
    const sample = span.start + f * step;
    const o = f * joints.length * 3;
    const inside = Math.min(Math.max(sample, 0), last);
    const beyond = Math.abs(sample - inside);
    write(inside, 1 + beyond, o);
    if (beyond > 0) write(inside === 0 ? Math.min(1, last) : Math.max(0, last - 1), -beyond, o);
  }
  return { places, frames };
}

/** Which feet are planted at a sample, as a word to compare. */
function plantedFeet({ leftFoot, rightFoot }: Steps, sample: number): string {
  const on = (spans: readonly Span[]): boolean => spans.some((s) => sample >= s.start && sample < s.end);
  return `${on(leftFoot) ? 'left' : ''} ${on(rightFoot) ? 'right' : ''}`;
}

/** Places of a map that are no larger than their eight neighbours; of equal neighbours the first. */
function localMinima(map: Float32Array, rows: number, columns: number): [number, number][] {
  const matches: [number, number][] = [];
  for (let i = 0; i < rows; i++) {
    for (let j = 0; j < columns; j++) if (isMinimum(map, rows, columns, i, j)) matches.push([i, j]);
  }
  return matches;
}

function isMinimum(map: Float32Array, rows: number, columns: number, i: number, j: number): boolean {
  const value = map[i * columns + j]!;
  for (let di = -1; di <= 1; di++) {
    for (let dj = -1; dj <= 1; dj++) {
      const [r, c] = [i + di, j + dj];
      if ((di === 0 && dj === 0) || r < 0 || c < 0 || r >= rows || c >= columns) continue;
      const other = map[r * columns + c]!;
      if (other < value || (other === value && (di < 0 || (di === 0 && dj < 0)))) return false;
    }
  }
  return true;
}
