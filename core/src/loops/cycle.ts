import { derivation, Memory } from '../memory/memory';
import { curveWeight } from '../math/curve';
import type { FloorMove } from '../math/floorMove';
import { quatMultiply, quatSlerp, quatTurn } from '../math/quaternion';
import { smoothGaussian } from '../math/smoothing';
import type { Clip } from '../clip/clip';
import type { Loop } from './loop';
import { examineLoop } from './loop';
import { HEADING_SIGMA_SECONDS, rawHeadings, rootTrack } from '../clip/root';

/** Length of the end that is bent where a span has to be closed. */
const CLOSING_SECONDS = 0.2;

/** A span of samples ready to be repeated: sample `period` is sample 0 after `cycle`. */
export interface Cycle {
  /** Samples 0..period-1 (and more, unused) of one cycle. */
  readonly clip: Clip;
  readonly offset: number;
  readonly period: number;
  readonly cycle: FloorMove;
  /** x, z, heading of each sample of the clip; the heading is calmed across the join. */
  readonly root: Float64Array;
}

/** Prepares [from, to) for repeating: closes it where it has to be closed, and calms the root across the join. */
export function prepareCycle(
  clip: Clip,
  from: number,
  to: number,
  verdict: Loop['verdict'] | null = null,
  memory = new Memory(),
): Cycle {
  return memory.recall(cycleOf, clip, examineLoop(clip, from, to, verdict, memory));
}

const cycleOf = derivation('cycle', 2000, (memory, clip: Clip, loop: Loop): Cycle => {
  const closed = loop.verdict === 'closes' || loop.verdict === 'none' ? closeLoop(clip, loop) : clip;
  return {
    clip: closed,
    offset: loop.in,
    period: loop.period,
    cycle: loop.cycle,
    root: cyclicRoot(closed, loop, memory),
  };
});

/**
 * Bends the last samples of a span so that its last pose is the first one after the cycle's floor move. Where the
 * clip has samples before the span they are blended in, which mends the velocity as well; else the difference of
 * the poses is spread over the end. The floor move stays as it is.
 */
function closeLoop(clip: Clip, loop: Loop): Clip {
  const a = Math.ceil(loop.in);
  const b = a + loop.period;
  const n = Math.max(1, Math.min(Math.round(CLOSING_SECONDS * clip.rate), loop.period >> 1));
  const rotations = clip.rotations.slice();
  const translations = clip.translations.slice();
  const lead = a >= n;
  const width = clip.translated.length * 3;
  const joints = clip.skeleton.names.length;
  const target = new Float64Array(joints * 4);
  const place = new Float64Array(width);
  for (let s = b - n; s <= b; s++) {
    const w = curveWeight('smooth', (s - (b - n)) / n);
    // Without lead-in the difference between the last and the first pose is added bit by bit; with it, the
    // samples before the start are faded in.
    readMoved(clip, lead ? s - loop.period : a, loop.cycle, target, place);
    for (let j = 0; j < joints; j++) {
      if (lead) quatSlerp(rotations, (s * joints + j) * 4, target, j * 4, w, rotations, (s * joints + j) * 4);
      else addPart(clip, s, b, j, target, w, rotations);
    }
    for (let i = 0; i < width; i++) {
      const own = clip.translations[s * width + i]!;
      const difference = place[i]! - (lead ? own : clip.translations[b * width + i]!);
      translations[s * width + i] = own + w * difference;
    }
  }
  return { ...clip, id: `${clip.id}~${loop.in}:${loop.out}`, rotations, translations };
}

/** Reads a sample with the root bone moved on the floor. */
function readMoved(
  clip: Clip,
  sample: number,
  move: FloorMove,
  rotations: Float64Array,
  places: Float64Array,
): void {
  const joints = clip.skeleton.names.length;
  const width = clip.translated.length * 3;
  for (let i = 0; i < joints * 4; i++) rotations[i] = clip.rotations[sample * joints * 4 + i]!;
  for (let i = 0; i < width; i++) places[i] = clip.translations[sample * width + i]!;
  quatTurn(rotations, clip.skeleton.rootBone * 4, move.turn);
  const s = Math.sin(move.turn);
  const c = Math.cos(move.turn);
  const x = places[0]!;
  const z = places[2]!;
  places[0] = move.x + x * c + z * s;
  places[2] = move.z - x * s + z * c;
}

const _residual = new Float64Array(8);

/** Rotates joint j of sample s by the share w of what takes the pose at b onto the target. */
function addPart(
  clip: Clip,
  s: number,
  b: number,
  j: number,
  target: Float64Array,
  w: number,
  out: Float32Array,
): void {
  const joints = clip.skeleton.names.length;
  const at = (s * joints + j) * 4;
  const end = (b * joints + j) * 4;
  // q * slerp(1, q_b^-1 * target, w), written as q * (q_b^-1 * slerp(q_b, target, w)).
  quatSlerp(clip.rotations, end, target, j * 4, w, _residual, 0);
  const [x, y, z, v] = [
    clip.rotations[end]!,
    clip.rotations[end + 1]!,
    clip.rotations[end + 2]!,
    clip.rotations[end + 3]!,
  ];
  _residual.set([-x, -y, -z, v], 4);
  quatMultiply(_residual, 4, _residual, 0, _residual, 0);
  quatMultiply(clip.rotations, at, _residual, 0, _residual, 0);
  const n = Math.hypot(_residual[0]!, _residual[1]!, _residual[2]!, _residual[3]!) || 1;
  for (let k = 0; k < 4; k++) out[at + k] = _residual[k]! / n;
}

/** Root of a cycle: its heading is calmed over three cycles on end, so that no end bends it. */
function cyclicRoot(clip: Clip, loop: Loop, memory: Memory): Float64Array {
  const track = rootTrack(clip, memory).slice();
  if (clip.travelBone) return track;
  const a = Math.ceil(loop.in);
  const raw = rawHeadings(clip, memory);
  const P = loop.period;
  const b = Math.min(a + P, clip.frames - 1);
  const turn =
    loop.cycle.turn + 2 * Math.PI * Math.round((raw[b]! - raw[a]! - loop.cycle.turn) / (2 * Math.PI));
  const sides = Math.max(1, Math.ceil((HEADING_SIGMA_SECONDS * clip.rate * 4) / P));
  const unrolled = new Float64Array((2 * sides + 1) * P);
  for (let i = 0; i < unrolled.length; i++) {
    const n = Math.floor(i / P) - sides;
    unrolled[i] = raw[Math.min(a + (i % P), clip.frames - 1)]! + n * turn;
  }
  const calm = smoothGaussian(unrolled, HEADING_SIGMA_SECONDS * clip.rate);
  for (let i = 0; i < P && a + i < clip.frames; i++) track[(a + i) * 3 + 2] = calm[sides * P + i]!;
  return track;
}
