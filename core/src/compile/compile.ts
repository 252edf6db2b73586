import { makePose } from '../clip/pose';
import { InputError } from '../math/errors';
import type { Rate } from '../math/rate';
import { parseRate } from '../math/rate';
import type { BodyLane, Character, Lane, LayerLane, Scene, Segment } from '../scene/scene';
import { bodyLane, layerLanes, mutedLanes } from '../scene/lanes';
import { mutedSegments } from '../scene/scene';
import type { Skeleton } from '../skeleton/skeleton';
import { sizedSkeleton } from '../skeleton/skeleton';
import type { ClipLookup } from '../timeline/lane';
import { laneSpan, layOut, requireClip } from '../timeline/lane';
import { compileLayer } from './compileLayer';
import type { CharacterPlan, LayerPlan, Plan } from '../plan/plan';
import type { Row, Unplaced } from './placeSegments';
import { placeSegments } from './placeSegments';
import type { PreparedClip } from './prepareClip';
import { prepareClip } from './prepareClip';
import { baseSegment } from './baseSegment';
import { standingRestPose } from '../evaluate/gapPose';
import { unionOfTranslated } from './translated';

/** Where clips and bodies are found by id. */
export interface Library {
  readonly clip: ClipLookup;
  readonly body: (id: string) => Skeleton | undefined;
}

/** What a character's plan was made from; the same inputs give the same plan. */
interface Origin {
  readonly character: Character;
  readonly lane: BodyLane | undefined;
  readonly layers: readonly LayerLane[];
  /** Of the body lane, and of all layers. */
  readonly segments: readonly Segment[];
  readonly layered: readonly (readonly Segment[])[];
  readonly rate: Scene['rate'];
  readonly steps: Scene['steps'];
}

/** A character's plan with what it was made from. */
interface Made {
  readonly origin: Origin;
  readonly rows: readonly Row[];
  readonly moving: Int32Array;
}

const mades = new WeakMap<CharacterPlan, Made>();

/**
 * Compiles a scene into a plan: time maps, loops, solved fits, layers. What did not change since `previous` is taken over:
 * whole characters, and of a changed one the segments, fits and layers that an edit did not touch.
 *
 * @throws InputError where a clip or body is missing, or a clip does not fit the character's skeleton
 */
export function compile(scene: Scene, library: Library, previous?: Plan): Plan {
  const asked = parseRate(scene.rate);
  const was = previous?.rate;
  // The same object as long as it is the same rate, so that what depends on it can tell.
  const rate = was && was.num === asked.num && was.den === asked.den ? was : asked;
  const silent = mutedLanes(scene);
  const muted = mutedSegments(scene);
  const characters = scene.characterOrder.map((id) => {
    const origin = originOf(scene, id, silent, muted);
    const old = previous?.characters.find((c) => c.character.id === id);
    const made = old && mades.get(old);
    if (old && made && sameOrigin(made.origin, origin)) return old;
    const reusable = made && made.origin.rate === origin.rate && made.origin.steps === origin.steps;
    return compileCharacter(scene, origin, library, rate, reusable ? old : undefined);
  });
  const used = characters.filter((c) => c.segments.length > 0);
  return {
    rate,
    characters,
    start: used.reduce((least, c) => Math.min(least, c.start), used[0]?.start ?? 0),
    end: used.reduce((most, c) => Math.max(most, c.end), 0),
  };
}

function originOf(scene: Scene, id: string, silent: ReadonlySet<string>, muted: ReadonlySet<string>): Origin {
  const body = bodyLane(scene, id);
  const lane = body && !silent.has(body.id) ? body : undefined;
  const layers = layerLanes(scene, id).filter((l) => !silent.has(l.id));
  const performed = (l: Lane): Segment[] =>
    l.segments.map((s) => scene.segments[s]!).filter((s) => !s.off && !muted.has(s.id));
  const segments = lane ? performed(lane) : [];
  const layered = layers.map(performed);
  const { rate, steps } = scene;
  return { character: scene.characters[id]!, lane, layers, segments, layered, rate, steps };
}

function sameOrigin(a: Origin, b: Origin): boolean {
  return (
    a.character === b.character &&
    a.lane === b.lane &&
    a.rate === b.rate &&
    a.steps === b.steps &&
    sameList(a.layers, b.layers) &&
    sameList(a.layered.flat(), b.layered.flat()) &&
    sameList(a.segments, b.segments)
  );
}

const sameList = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((v, i) => v === b[i]);

function compileCharacter(
  scene: Scene,
  origin: Origin,
  library: Library,
  rate: Rate,
  old: CharacterPlan | undefined,
): CharacterPlan {
  const { character, lane, layers } = origin;
  const body = library.body(character.body);
  if (!body) {
    throw new InputError('missing-body', `The body of ${character.name} is not in the library.`, {
      place: { path: `characters.${character.id}.body` },
      hint: 'Import the file that it came from again.',
    });
  }
  const skeleton = sizedSkeleton(body, character.size);
  const made = old?.skeleton === skeleton ? mades.get(old) : undefined;
  const known = counterparts(made?.rows ?? [], origin.segments);
  const prepare = (segment: Segment): PreparedClip =>
    prepareClip(requireClip(segment, library.clip), segment, body, character.size, scene.steps);
  const prepared = origin.segments.map((segment, i) => known(i)?.prepared ?? prepare(segment));
  const layered = new Map(origin.layered.flat().map((s) => [s, prepare(s)]));
  const moving = unionOfTranslated([...prepared, ...layered.values()], skeleton, made?.moving);
  const onLane = (l: Lane, performed: readonly Segment[]): Lane => ({
    ...l,
    segments: performed.map((s) => s.id),
  });
  const placed = lane
    ? layOut(scene, onLane(lane, origin.segments), library.clip, (i) => known(i)?.placed)
    : [];
  const items = placed.map((item, i): Unplaced => {
    const was = moving === made?.moving ? known(i) : undefined;
    if (was?.placed === item) return was;
    const own = prepared[i]!;
    const same = was && was.placed.timing === item.timing && was.placed.overlap === item.overlap;
    const base = same ? was.base : baseSegment(item, own, moving);
    return { segment: item.segment, prepared: own, placed: item, base };
  });
  const span = laneSpan(placed) ?? { start: 0, end: 0 };
  const rows = placeSegments(items, character, rate, moving === made?.moving ? known : () => undefined);
  const segments = rows.map((r) => r.plan);
  const layerPlans = layers.map((layer, l): LayerPlan => {
    const items = layOut(scene, onLane(layer, origin.layered[l]!), library.clip);
    const bases = items.map((item) => baseSegment(item, layered.get(item.segment)!, moving));
    return compileLayer(layer, items, bases, skeleton, moving, old?.layers ?? []);
  });
  const same = old && sameList(old.layers, layerPlans) ? old.layers : layerPlans;
  const plan: CharacterPlan = {
    character,
    skeleton,
    rate,
    segments,
    travelBone: travelBoneOf(prepared),
    holdsFeet: character.footLock || segments.some((s) => s.route !== null),
    leadIn: segments.length > 0 ? character.leadIn : 0,
    rest: standingRestPose(skeleton),
    layers: same,
    start: segments.length > 0 ? span.start - character.leadIn : span.start,
    end: span.end,
    scratch: makePose(skeleton),
    layerScratch: makePose(skeleton),
  };
  mades.set(plan, { origin, rows, moving });
  return plan;
}

/** The joint that carries the travel of any clip; it turns with the body if it does so in any. */
function travelBoneOf(prepared: readonly PreparedClip[]): CharacterPlan['travelBone'] {
  let found: CharacterPlan['travelBone'] = null;
  for (const { clip } of prepared)
    if (clip.travelBone && (!found || clip.travelBone.turned)) {
      const { joint, turned } = clip.travelBone;
      found = { joint, turned };
    }
  return found;
}

/**
 * For each of the segments the row that it was before, if nothing but its start has changed: an edit touches a stretch of a
 * lane, and at most pushes what comes behind.
 */
function counterparts(rows: readonly Row[], segments: readonly Segment[]): (i: number) => Row | undefined {
  const most = Math.min(rows.length, segments.length);
  let head = 0;
  while (head < most && sameButStart(rows[head]!.segment, segments[head]!)) head++;
  const shift = rows.length - segments.length;
  let tail = segments.length;
  while (
    tail > head &&
    tail + shift > head &&
    sameButStart(rows[tail + shift - 1]!.segment, segments[tail - 1]!)
  )
    tail--;
  return (i) => (i < head ? rows[i] : i >= tail ? rows[i + shift] : undefined);
}

function sameButStart(a: Segment, b: Segment): boolean {
  if (a === b) return true;
  for (const key in a) {
    const k = key as keyof Segment;
    if (k !== 'start' && a[k] !== b[k]) return false;
  }
  return true;
}
