import { cloudJoints } from '../clip/pointCloud';
import { sampleAt } from '../plan/segmentPose';
import { matchMap } from '../math/matchMap';
import type { Skeleton } from '../skeleton/skeleton';
import type { JoinSide } from './joinSides';

/** Seconds of the window in which two moments are compared. */
const WINDOW_SECONDS = 1 / 3;

/** Two moments that may meet: frames from the starts of both segments, and how far apart they are, metres. */
export interface Pair {
  readonly out: number;
  readonly in: number;
  readonly distance: number;
  readonly sameFeet: boolean;
}

/** Whole numbers, both ends included. */
export interface Bounds {
  readonly least: number;
  readonly most: number;
}

/** Frames of half a window: those that a side is read further than its moments reach. */
export const halfWindow = (fps: number): number => Math.max(1, Math.round((WINDOW_SECONDS * fps) / 2));

/** The distances of the moments of two sides, each but for half a window at either end. */
export class MomentMap {
  private readonly map: Float32Array;

  constructor(
    private readonly a: JoinSide,
    private readonly b: JoinSide,
    private readonly half: number,
  ) {
    this.map = matchMap({
      outgoing: a.places,
      outgoingFrames: a.frames,
      incoming: b.places,
      incomingFrames: b.frames,
      joints: cloudJoints(a.segment.clip.skeleton).length,
      half,
    });
  }

  /** The body of both sides. */
  get skeleton(): Skeleton {
    return this.a.segment.clip.skeleton;
  }

  /** The sample that a side's clip shows at a frame from its start; -1 outside of it. */
  sample(side: 'out' | 'in', frame: number): number {
    const { segment } = side === 'out' ? this.a : this.b;
    return sampleAt(segment, segment.start + frame);
  }

  /** How far apart two frames are, metres; NaN where their windows reach beyond what was read. */
  distance(out: number, into: number): number {
    return this.pair(out, into)?.distance ?? NaN;
  }

  /** The pair of two frames; null where their windows reach beyond what was read. */
  pair(out: number, into: number): Pair | null {
    const [i, j] = [out - this.a.first, into - this.b.first];
    const { half } = this;
    if (i < half || j < half || i >= this.a.frames - half || j >= this.b.frames - half) return null;
    return { out, in: into, distance: this.map[i * this.b.frames + j]!, sameFeet: this.sameFeet(i, j) };
  }

  /** The local minima, least first. */
  minima(): Pair[] {
    const { half } = this;
    const [rows, columns] = [this.a.frames - half, this.b.frames - half];
    const out: Pair[] = [];
    for (let i = half; i < rows; i++)
      for (let j = half; j < columns; j++)
        if (this.isMinimum(i, j, rows, columns)) out.push(this.pair(i + this.a.first, j + this.b.first)!);
    return out.sort((p, q) => p.distance - q.distance);
  }

  /**
   * The least of a box; null where it is empty.
   *
   * @param apart frames by which the outgoing moment comes after the incoming one, null for any
   */
  least(out: Bounds, into: Bounds, apart: number | null = null): Pair | null {
    let best: Pair | null = null;
    for (let i = out.least; i <= out.most; i++)
      for (let j = into.least; j <= into.most; j++) {
        if (apart !== null && i - j !== apart) continue;
        const p = this.pair(i, j);
        if (p && (!best || p.distance < best.distance)) best = p;
      }
    return best;
  }

  private isMinimum(i: number, j: number, rows: number, columns: number): boolean {
    const value = this.map[i * this.b.frames + j]!;
    for (let r = Math.max(this.half, i - 1); r <= Math.min(rows - 1, i + 1); r++)
      for (let c = Math.max(this.half, j - 1); c <= Math.min(columns - 1, j + 1); c++) {
        const other = this.map[r * this.b.frames + c]!;
        if (other < value || (other === value && (r < i || (r === i && c < j)))) return false;
      }
    return true;
  }

  private sameFeet(i: number, j: number): boolean {
    const feet = this.a.planted.length / Math.max(1, this.a.frames);
    for (let k = 0; k < feet; k++)
      if (this.a.planted[i * feet + k] !== this.b.planted[j * feet + k]) return false;
    return true;
  }
}
