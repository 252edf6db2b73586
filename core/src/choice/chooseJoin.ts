import { cloudJoints } from '../clip/pointCloud';
import { compile } from '../compile/compile';
import type { Library } from '../compile/compile';
import type { SeamValues } from '../continuity/grade';
import { DEFAULT_THRESHOLDS } from '../continuity/grade';
import type { SeamMeasures } from '../continuity/seamMeasures';
import { measureSeam } from '../continuity/seamMeasures';
import { applyEdit } from '../edit/edit';
import type { Join } from '../edit/edits/join';
import { repeatsLoop } from '../edit/sceneEditor';
import { InputError } from '../math/errors';
import { matchMap } from '../math/matchMap';
import { framesPerSecond, parseRate } from '../math/rate';
import type { ChoiceLimits, Chosen } from '../scene/choice';
import type { FitMode, Join as JoinKind } from '../scene/seam';
import { PLAIN_CROSSFADE, PLAIN_STEP } from '../scene/seam';
import type { Scene } from '../scene/scene';
import type { SegmentPlan } from '../plan/plan';
import type { Placed } from '../timeline/lane';
import { layOut, requireClip, settleFrames } from '../timeline/lane';
import { framesAt30 } from '../timeline/freeFrames';
import type { JoinSide } from './joinSides';
import { readSide } from './joinSides';

/** A join that was chosen. */
export interface JoinChoice {
  /** What makes the join so; null where it stays as it is. */
  readonly edit: Join | null;
  readonly chosen: Chosen;
  readonly measures: SeamMeasures;
  /** The join as it was. */
  readonly before: SeamMeasures;
}

/** Frames of crossfades, and of made steps, that are tried, at 30 a second; even, so that two frames meet in the middle. */
const CROSSFADES = [8, 12, 16, 24, 32, 40];
const STEPS = [16, 20, 24, 28];
/** Pairs of frames that are looked at, and joins that are measured in full. */
const PAIRS = Number(process.env.PAIRS ?? 10);
const MEASURED = Number(process.env.MEASURED ?? 1000);
/** Seconds of either clip that stay at least. */
const KEPT_SECONDS = 1;
/** Seconds of the window in which two moments are compared. */
const WINDOW_SECONDS = 1 / 3;
/** Metres by which a pair with other feet planted ranks behind. */
const OTHER_FEET = 0.06;
/** What a second that is lost, or gained, at either end costs, in thresholds of a measure. */
const LOST_SECOND = 0.5;
/** What a step costs that is made though it need not be. */
const STEP_COST = 0.1;

/** Two moments that may meet: frames from the starts of both segments, and how far apart they are, metres. */
interface Pair {
  readonly out: number;
  readonly in: number;
  readonly distance: number;
  readonly sameFeet: boolean;
}

interface Candidate {
  readonly edit: Join;
  readonly pair: Pair;
  readonly lostSeconds: number;
  /** By which those to be measured are chosen. */
  readonly prior: number;
}

/** How badly a join misses its thresholds: the fourth root of the sum of fourth powers, so that the worst counts most. */
export function joinCost(values: SeamValues): number {
  let sum = 0;
  for (const key of Object.keys(DEFAULT_THRESHOLDS) as (keyof SeamValues)[])
    sum += (values[key] / DEFAULT_THRESHOLDS[key].watch) ** 4;
  return Math.sqrt(Math.sqrt(sum));
}

/**
 * Chooses how a segment joins the one before it: which frames meet, over how many frames, by a crossfade, a settle or a made step,
 * fitted by what. Candidates are the best matches of the two motions within the limits; the most promising are measured, and the
 * one that costs least is taken.
 *
 * @returns null for a segment that has none before it, or goes on with its loop
 */
export function chooseJoin(
  scene: Scene,
  segment: string,
  library: Library,
  limits: ChoiceLimits,
): JoinChoice | null {
  const pair = pairOf(scene, segment, library);
  if (!pair) return null;
  const before = measured(pair.scene, library);
  let best = { cost: joinCost(before), measures: before, candidate: null as Candidate | null };
  const candidates = candidatesOf(pair, library, limits, scene.rate)
    .sort((a, b) => a.prior - b.prior)
    .slice(0, MEASURED);
  for (const candidate of candidates) {
    const measures = tried(pair.scene, candidate.edit, library);
    if (!measures) continue;
    const step = candidate.edit.join.kind === 'step' ? STEP_COST : 0;
    const cost = joinCost(measures) + LOST_SECOND * candidate.lostSeconds + step;
    if (cost < best.cost) best = { cost, measures, candidate };
  }
  const { candidate, measures } = best;
  return {
    edit: candidate && candidate.edit,
    chosen: {
      out: candidate?.pair.out ?? 0,
      in: candidate?.pair.in ?? 0,
      overlap: measures.overlap,
      kind: measures.kind,
      fit: typeof measures.fit === 'string' ? measures.fit : 'joint',
      why: '',
    },
    measures,
    before,
  };
}

/** Two neighbours by themselves, and what holds them in their lane. */
interface PairOnLane {
  readonly scene: Scene;
  readonly before: Placed;
  readonly item: Placed;
  /** Frames that the next segment shares with the incoming one. */
  readonly tail: number;
}

function pairOf(scene: Scene, id: string, library: Library): PairOnLane | null {
  const lane = Object.values(scene.lanes).find((l) => l.segments.includes(id));
  if (!lane || lane.kind === 'layer') return null;
  const placed = layOut(scene, lane, library);
  const i = placed.findIndex((p) => p.segment.id === id);
  const [before, item] = [placed[i - 1], placed[i]];
  if (!before || !item || repeatsLoop(before.segment, item.segment)) return null;
  const character = scene.characters[lane.character]!;
  return {
    scene: {
      ...scene,
      characters: { [character.id]: { ...character, leadIn: 0 } },
      characterOrder: [character.id],
      lanes: { [lane.id]: { ...lane, muted: false, locked: false, segments: [before.segment.id, id] } },
      laneOrder: [lane.id],
      segments: {
        [before.segment.id]: { ...before.segment, start: 0 },
        [id]: { ...item.segment, start: item.start - before.start },
      },
      groups: {},
    },
    before,
    item,
    tail: placed[i + 1]?.overlap ?? 0,
  };
}

function measured(scene: Scene, library: Library): SeamMeasures {
  const plan = compile(scene, library);
  return measureSeam(plan.characters[0]!, 0, framesPerSecond(plan.rate));
}

/** The measures of a join that is tried; null where it cannot be. */
function tried(scene: Scene, edit: Join, library: Library): SeamMeasures | null {
  try {
    return measured(applyEdit(scene, edit, library), library);
  } catch (error) {
    if (error instanceof InputError) return null;
    throw error;
  }
}

/** Whole numbers, both ends included. */
interface Bounds {
  readonly least: number;
  readonly most: number;
}

/** How many frames the outgoing segment may fill, and how many the incoming one may lose at its start. */
function boundsOf(
  { before, item, tail }: PairOnLane,
  library: Library,
  limits: ChoiceLimits,
  fps: number,
): { filled: Bounds; lost: Bounds } {
  const within = Math.round(limits.within * fps);
  const kept = Math.round(KEPT_SECONDS * fps);
  const filled = before.timing.frames;
  const own = item.timing.frames;
  const fixedEnd = limits.keepEnd || !movable(before, 'end');
  const fixedStart = limits.keepStart || !movable(item, 'start');
  return {
    filled: fixedEnd
      ? { least: filled, most: filled }
      : {
          least: Math.max(filled - within, Math.min(filled, Math.max(kept, before.overlap + 1))),
          most: filled + Math.min(within, spareFrames(before, 'end', library)),
        },
    lost: fixedStart
      ? { least: 0, most: 0 }
      : {
          least: -Math.min(within, spareFrames(item, 'start', library)),
          most: Math.min(within, own - Math.min(own, Math.max(kept, tail + 1))),
        },
  };
}

/** Whether an edge can be trimmed without anything else of the segment changing. */
const movable = ({ segment }: Placed, edge: 'start' | 'end'): boolean =>
  segment.speedCurve === null &&
  segment.hold[edge] === 0 &&
  segment.path.length === 0 &&
  segment.marks.length === 0;

function spareFrames({ segment, timing }: Placed, edge: 'start' | 'end', library: Library): number {
  if (segment.loop) return Infinity;
  const { frames } = requireClip(segment, library);
  const samples = (edge === 'end') !== segment.reverse ? frames - segment.out : segment.in;
  return Math.max(0, Math.floor(samples / timing.samplesPerFrame + 1e-9));
}

function candidatesOf(
  pair: PairOnLane,
  library: Library,
  limits: ChoiceLimits,
  rateText: number | string,
): Candidate[] {
  const rate = parseRate(rateText);
  const fps = framesPerSecond(rate);
  const { filled, lost } = boundsOf(pair, library, limits, fps);
  const [outgoing, incoming] = compile(pair.scene, library).characters[0]!.segments as [
    SegmentPlan,
    SegmentPlan,
  ];
  const longest = framesAt30(Math.max(...CROSSFADES), rate);
  const a = readSide(outgoing, Math.max(0, filled.least - longest / 2), filled.most + 1);
  const b = readSide(incoming, lost.least, lost.most + longest / 2 + 1);
  const map = new MomentMap(a, b, fps);
  const minima = map.minima().filter((p) => p.sameFeet || !limits.sameFeet);
  const out: Candidate[] = [];
  const own = pair.item.timing.frames;
  const add = (p: Pair, overlap: number, join: JoinKind, fit: FitMode): void => {
    const before = p.out + overlap / 2;
    const cut = p.in - overlap / 2;
    if (before < filled.least || before > filled.most || cut < lost.least || cut > lost.most) return;
    if (overlap + pair.before.overlap >= before || overlap + pair.tail >= own - cut) return;
    if (limits.keepLength && before - cut !== pair.before.timing.frames) return;
    const lostSeconds = (Math.abs(before - pair.before.timing.frames) + Math.abs(cut)) / fps;
    const edit: Join = {
      type: 'join',
      segment: pair.item.segment.id,
      before,
      own: own - cut,
      overlap,
      values: { fit },
      join,
    };
    out.push({ edit, pair: p, lostSeconds, prior: p.distance + LOST_SECOND * 0.1 * lostSeconds });
  };
  const kinds: { overlap: number; join: JoinKind; fits: readonly FitMode[] }[] = [
    ...CROSSFADES.map((n) => ({
      overlap: framesAt30(n, rate),
      join: PLAIN_CROSSFADE,
      fits: ['planted foot', 'whole body'] as const,
    })),
    { overlap: 0, join: { kind: 'settle', frames: settleFrames(rate) }, fits: ['whole body'] },
    ...(limits.steps
      ? STEPS.map((n) => ({ overlap: framesAt30(n, rate), join: PLAIN_STEP, fits: ['whole body'] as const }))
      : []),
  ];
  for (const { overlap, join, fits } of kinds) {
    const even = overlap - (overlap % 2);
    const half = even / 2;
    const box = map.least(
      { least: filled.least - half, most: filled.most - half },
      { least: lost.least + half, most: lost.most + half },
    );
    const dropped = map.pair(pair.before.timing.frames - half, half);
    const inBox = minima.filter(
      (p) =>
        p.out + half >= filled.least &&
        p.out + half <= filled.most &&
        p.in - half >= lost.least &&
        p.in - half <= lost.most,
    );
    const ranked = join.kind === 'step' ? inBox : [...inBox].sort((p, q) => rank(p) - rank(q));
    const tried = new Set<string>();
    for (const p of [...(box ? [box] : []), ...(dropped ? [dropped] : []), ...ranked.slice(0, PAIRS)]) {
      const key = `${p.out}:${p.in}`;
      if (tried.has(key)) continue;
      tried.add(key);
      for (const fit of fits) add(p, even, join, fit);
    }
  }
  return out;
}

const rank = (p: Pair): number => p.distance + (p.sameFeet ? 0 : OTHER_FEET);

/** The distances of the moments of two sides. */
class MomentMap {
  private readonly map: Float32Array;

  constructor(
    private readonly a: JoinSide,
    private readonly b: JoinSide,
    fps: number,
  ) {
    this.map = matchMap({
      outgoing: a.places,
      outgoingFrames: a.frames,
      incoming: b.places,
      incomingFrames: b.frames,
      joints: cloudJoints(a.segment.clip.skeleton).length,
      half: Math.max(1, Math.round((WINDOW_SECONDS * fps) / 2)),
    });
  }

  /** The pair of two frames; null beyond what was read. */
  pair(out: number, into: number): Pair | null {
    const [i, j] = [out - this.a.first, into - this.b.first];
    if (i < 0 || j < 0 || i >= this.a.frames || j >= this.b.frames) return null;
    return { out, in: into, distance: this.map[i * this.b.frames + j]!, sameFeet: this.sameFeet(i, j) };
  }

  /** The local minima, least first. */
  minima(): Pair[] {
    const { frames: rows } = this.a;
    const { frames: columns } = this.b;
    const out: Pair[] = [];
    for (let i = 0; i < rows; i++)
      for (let j = 0; j < columns; j++)
        if (this.isMinimum(i, j, rows, columns)) out.push(this.pair(i + this.a.first, j + this.b.first)!);
    return out.sort((p, q) => p.distance - q.distance);
  }

  /** The least of a box; null where it is empty. */
  least(out: Bounds, into: Bounds): Pair | null {
    let best: Pair | null = null;
    for (let i = out.least; i <= out.most; i++)
      for (let j = into.least; j <= into.most; j++) {
        const p = this.pair(i, j);
        if (p && (!best || p.distance < best.distance)) best = p;
      }
    return best;
  }

  private isMinimum(i: number, j: number, rows: number, columns: number): boolean {
    const value = this.map[i * columns + j]!;
    for (let r = Math.max(0, i - 1); r <= Math.min(rows - 1, i + 1); r++)
      for (let c = Math.max(0, j - 1); c <= Math.min(columns - 1, j + 1); c++) {
        const other = this.map[r * columns + c]!;
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
