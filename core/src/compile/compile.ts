import type { Dials } from '../clip/dials';
import { areFeetHeld } from '../plan/upToLayer';
import { makePoseBuffer } from '../clip/pose';
import { Memory } from '../memory/memory';
import { InputError } from '../math/errors';
import type { Rate } from '../math/rate';
import { framesPerSecond, parseRate } from '../math/rate';
import { MAX_FRAMES } from '../clip/clip';
import type { Character } from '../scene/character';
import type { BodyLane, Lane, LayerLane } from '../scene/lane';
import type { Scene } from '../scene/scene';
import type { Segment } from '../scene/segment';
import type { Lead } from '../scene/tether';
import { SHOT_SIZES } from '../scene/thresholds';
import { bodyLane, layerLanes, mutedLanes } from '../scene/lanes';
import { mutedSegments } from '../scene/group';
import type { Skeleton } from '../skeleton/skeleton';
import { sizedSkeleton } from '../skeleton/skeleton';
import type { ClipSource } from '../timeline/lane';
import { laneSpan, layOut, requireClip } from '../timeline/lane';
import type { MadeLayer } from './compileLayer';
import { compileLayer } from './compileLayer';
import type { Looking } from './linkLooks';
import { createStaging } from './stageAll';
import { bodyLooks } from './bodyLooks';
import { inGuidingOrder, leadsOf, performedOn } from './guiding';
import { leadPath } from './leads';
import { filming } from './filming';
import { linkLooks } from './linkLooks';
import { meetAll } from './meetAll';
import type { CharacterPlan, Plan, SegmentPlan } from '../plan/plan';
import { makeHoldScratch } from '../steps/footHolds';
import { segmentContent } from './segmentContent';
import type { Row, Unplaced } from './placeSegments';
import { placeSegments } from './placeSegments';
import type { PreparedClip } from './prepareClip';
import { prepareClip } from './prepareClip';
import { baseSegment } from './baseSegment';
import { wheelsOf } from '../scene/wheels';
import { standingRestPose } from '../plan/standingRest';
import { unionOfTranslated } from './translated';

/** Clips of layers are laid over as they are. */
const NO_DIALS: Dials = {};

/** Where clips and bodies are found by id. */
export interface Library extends ClipSource {
  readonly body: (id: string) => Skeleton | undefined;
  /** Changes whenever a clip or body comes, goes, or is read anew under the same id. */
  readonly version: number;
}

/** A library whose clips and bodies never change, with a memory of its own. */
export const fixedLibrary = (lookup: Pick<Library, 'clip' | 'body'>): Library => ({
  ...lookup,
  memory: new Memory(),
  version: 0,
});

/** What a character's plan was made from; the same inputs give the same plan. */
interface Origin {
  readonly character: Character;
  readonly lane: BodyLane | undefined;
  readonly layers: readonly LayerLane[];
  /** Of the body lane, and of all layers. */
  readonly segments: readonly Segment[];
  readonly layered: readonly (readonly Segment[])[];
  /** Those whom segments meet, in the order of the segments that do. */
  readonly met: readonly (CharacterPlan | undefined)[];
  readonly leads: readonly Lead[];
  /** Those who hold the leads. */
  readonly leaders: readonly (CharacterPlan | undefined)[];
  readonly rate: Rate;
  readonly steps: Scene['steps'];
  readonly shotSize: Scene['shotSize'];
  readonly libraryVersion: number;
}

/** A character's plan with what it was made from. */
interface Made {
  readonly origin: Origin;
  readonly plan: CharacterPlan;
  readonly rows: readonly Row[];
  readonly layers: readonly MadeLayer[];
  readonly moving: Int32Array;
}

/** Turns scenes of one library into plans, one after the other. */
export interface Compiler {
  /**
   * Compiles a scene: time maps, loops, solved fits, layers. What an edit did not touch is taken over from the scene that was
   * compiled before: whole characters, and of a changed one the segments, fits and layers. The plan is the same to the bit
   * as one that is compiled afresh.
   *
   * @throws InputError where a clip or body is missing, or a clip does not fit the character's skeleton
   */
  readonly compile: (scene: Scene) => Plan;
  /** Lets go of what is taken over, and of the library's memory. */
  readonly drop: () => void;
}

/**
 * Makes a compiler that owns what it takes over from one scene to the next.
 *
 * @example
 * const compiler = createCompiler(library);
 * const plan = compiler.compile(scene);
 * evaluate(plan.characters[0], 30, makePoseBuffer(plan.characters[0].skeleton));
 */
export function createCompiler(library: Library): Compiler {
  let made = new Map<string, Made>();
  let looking = new Map<string, Looking>();
  let stage = createStaging();
  let stageSeen = createStaging();
  let last: Rate | null = null;
  return {
    compile: (scene) => {
      const asked = parseRate(scene.rate);
      // The same object as long as it is the same rate, so that what depends on it can tell.
      const rate = last && last.num === asked.num && last.den === asked.den ? last : asked;
      const disabled = mutedLanes(scene);
      const muted = mutedSegments(scene);
      const done = new Map<string, Made>();
      // Those who are met, or lead somebody, come before those who depend on them.
      for (const id of inGuidingOrder(scene, disabled, muted)) {
        const origin = originOf(scene, id, disabled, muted, rate, library.version, done);
        const before = made.get(id);
        done.set(
          id,
          before && sameOrigin(before.origin, origin)
            ? before
            : compileCharacter(scene, origin, library, before),
        );
      }
      const next = new Map(scene.characterOrder.map((id) => [id, done.get(id)!]));
      made = next;
      last = rate;
      const plain = [...next.values()].map((m) => m.plan);
      const used = plain.filter((c) => c.segments.length > 0);
      const start = used.reduce((least, c) => Math.min(least, c.start), used[0]?.start ?? 0);
      const end = used.reduce((most, c) => Math.max(most, c.end), 0);
      // Whoever is looked at is seen where others hold them, with nobody's looks.
      const seenBy = (): readonly CharacterPlan[] => stageSeen(scene, plain, start, end);
      looking = linkAll(next, looking, hasHolds(scene) ? seenBy : () => plain);
      const alone = [...next].map(([id, m]) => looking.get(id)?.plan ?? m.plan);
      const { cameras, cameraOrder, shots, aspect } = scene;
      const seen = library.memory.recall(filming, cameras, cameraOrder, shots, aspect);
      return { rate, characters: stage(scene, alone, start, end), start, end, filming: seen };
    },
    drop: () => {
      made = new Map();
      looking = new Map();
      stage = createStaging();
      stageSeen = createStaging();
      library.memory.drop();
    },
  };
}

/** Compiles one scene by itself; see `Compiler.compile`. */
export const compile = (scene: Scene, library: Library): Plan => createCompiler(library).compile(scene);

const hasHolds = ({ tethers }: Scene): boolean =>
  Object.values(tethers).some((t) => t.kind === 'hold' && !t.muted);

/**
 * The performances that look at something, by character.
 *
 * @param seen gives all performances as others see them
 */
function linkAll(
  made: ReadonlyMap<string, Made>,
  before: ReadonlyMap<string, Looking>,
  seen: () => readonly CharacterPlan[],
): Map<string, Looking> {
  const next = new Map<string, Looking>();
  let plans: Map<string, CharacterPlan> | null = null;
  for (const [id, { origin, plan }] of made) {
    const looks = origin.layers.map((l) => l.look);
    const own = bodyLooks(plan);
    if (own.length === 0 && looks.every((look) => look === null)) continue;
    plans ??= new Map(seen().map((p) => [p.character.id, p]));
    next.set(id, linkLooks(plan, own, looks, plans, before.get(id)));
  }
  return next;
}

function originOf(
  scene: Scene,
  id: string,
  disabled: ReadonlySet<string>,
  muted: ReadonlySet<string>,
  rate: Rate,
  libraryVersion: number,
  done: ReadonlyMap<string, Made>,
): Origin {
  const body = bodyLane(scene, id);
  const lane = body && !disabled.has(body.id) ? body : undefined;
  const layers = layerLanes(scene, id).filter((l) => !disabled.has(l.id));
  const performed = (l: Lane): Segment[] => performedOn(scene, l, muted);
  const segments = lane ? performed(lane) : [];
  const leads = leadsOf(scene, id);
  const layered = layers.map(performed);
  return {
    character: scene.characters[id]!,
    lane,
    layers,
    segments,
    layered,
    met: segments.flatMap(({ meet }) => (meet ? [done.get(meet.character)?.plan] : [])),
    leads,
    leaders: leads.map((l) => done.get(l.parent)?.plan),
    rate,
    steps: scene.steps,
    shotSize: scene.shotSize,
    libraryVersion,
  };
}

function sameOrigin(a: Origin, b: Origin): boolean {
  return (
    a.character === b.character &&
    a.lane === b.lane &&
    a.rate === b.rate &&
    a.steps === b.steps &&
    a.shotSize === b.shotSize &&
    a.libraryVersion === b.libraryVersion &&
    sameList(a.met, b.met) &&
    sameList(a.leads, b.leads) &&
    sameList(a.leaders, b.leaders) &&
    sameList(a.layers, b.layers) &&
    sameList(a.layered.flat(), b.layered.flat()) &&
    sameList(a.segments, b.segments)
  );
}

const sameList = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((v, i) => v === b[i]);

function compileCharacter(scene: Scene, origin: Origin, library: Library, before: Made | undefined): Made {
  const { character, lane, layers, rate } = origin;
  const { memory } = library;
  const body = requireBody(character, library);
  const skeleton = sizedSkeleton(body, character.size, memory);
  const reusable =
    before &&
    before.plan.skeleton === skeleton &&
    before.plan.character.dials === character.dials &&
    before.origin.rate === rate &&
    before.origin.steps === origin.steps &&
    before.origin.libraryVersion === origin.libraryVersion;
  const cached = counterparts(reusable ? before.rows : [], origin.segments);
  const prepare = (segment: Segment, dials: Dials = NO_DIALS): PreparedClip =>
    prepareClip(
      requireClip(segment, library),
      segmentContent(segment, memory),
      body,
      character.size,
      scene.steps,
      dials,
      memory,
    );
  const prepared = origin.segments.map(
    (segment, i) => cached(i)?.prepared ?? prepare(segment, character.dials),
  );
  const layered = new Map(origin.layered.flat().map((s) => [s, prepare(s)]));
  const moving = unionOfTranslated([...prepared, ...layered.values()], skeleton, memory);
  const movesAlike = reusable && before.moving === moving;
  const onLane = (l: Lane, performed: readonly Segment[]): Lane => ({
    ...l,
    segments: performed.map((s) => s.id),
  });
  const placed = lane ? layOut(scene, onLane(lane, origin.segments), library, (i) => cached(i)?.placed) : [];
  const items = placed.map((item, i): Unplaced => {
    const row = movesAlike ? cached(i) : undefined;
    if (row?.placed === item) return row;
    const same = row && row.placed.timing === item.timing && row.placed.overlap === item.overlap;
    const base = same ? row.base : baseSegment(item, prepared[i]!, moving, rate, memory);
    return { segment: item.segment, prepared: prepared[i]!, placed: item, base };
  });
  const span = laneSpan(placed) ?? { start: 0, end: 0 };
  requireLength(character, span, skeleton, framesPerSecond(rate));
  const madeLayers = layers.map((layer, l): MadeLayer => {
    const laidOut = layOut(scene, onLane(layer, origin.layered[l]!), library);
    const bases = laidOut.map((item) => baseSegment(item, layered.get(item.segment)!, moving, rate, memory));
    const previous = reusable ? before.layers.find((m) => m.plan.id === layer.id) : undefined;
    return compileLayer(layer, laidOut, bases, skeleton, moving, previous);
  });
  const layerPlans = madeLayers.map((m) => m.plan);
  const planOf = (segments: readonly SegmentPlan[]): CharacterPlan => ({
    character,
    skeleton,
    rate,
    segments,
    travelBone: travelBoneOf(prepared),
    holdsFeet: areFeetHeld(character, segments, layerPlans),
    leadIn: segments.length > 0 ? character.leadIn : 0,
    rest: standingRestPose(skeleton),
    wheels: wheelsOf(character.prop, skeleton),
    looks: [],
    staging: null,
    layers: before && sameList(before.plan.layers, layerPlans) ? before.plan.layers : layerPlans,
    start: segments.length > 0 ? span.start - character.leadIn : span.start,
    end: span.end,
    scratch: makePoseBuffer(skeleton),
    layerScratch: makePoseBuffer(skeleton),
    holdScratch: makeHoldScratch(skeleton),
    locks: new Array<undefined>(segments.length),
    rootFrames: new Array<undefined>(layerPlans.length),
    heldHands: layerPlans.map(() => []),
    branches: new Array<undefined>(segments.length),
    thresholds: SHOT_SIZES[scene.shotSize],
    memory,
  });
  const leads = origin.leads.flatMap((lead, i) => {
    const leader = origin.leaders[i];
    return leader ? [memory.recall(leadPath, leader, lead)] : [];
  });
  const rows = meetAll(origin, planOf, (meets) =>
    placeSegments(items, character, { meets, leads }, rate, memory, movesAlike ? cached : () => undefined),
  );
  const plan = planOf(rows.map((r) => r.plan));
  return { origin, plan, rows, layers: madeLayers, moving };
}

/** Bytes that a performance may take when it is computed into one clip. */
const MOST_BYTES = 1_000_000_000;
const BYTES_A_ROTATION = 16;

/** A number typed wrongly must not reserve gigabytes somewhere later. */
function requireLength(
  { id, name }: Character,
  { start, end }: { readonly start: number; readonly end: number },
  skeleton: Skeleton,
  perSecond: number,
): void {
  const frames = end - start;
  const most = Math.min(MAX_FRAMES, Math.floor(MOST_BYTES / (skeleton.names.length * BYTES_A_ROTATION)));
  if (frames <= most) return;
  const hours = frames / perSecond / 3600;
  throw new InputError(
    'too-many-frames',
    `${name} would perform for ${frames} frames (${hours.toFixed(1)} hours); up to ${most} can be computed.`,
    {
      place: { path: `characters.${id}` },
      hint: 'Look for a length, a repeat or a speed that was mistyped.',
    },
  );
}

function requireBody(character: Character, library: Library): Skeleton {
  const body = library.body(character.body);
  if (body) return body;
  throw new InputError('missing-body', `The body of ${character.name} is not in the library.`, {
    place: { path: `characters.${character.id}.body` },
    hint: 'Import the file that it came from again.',
  });
}

/** The joint that carries the travel of any clip; it turns with the body if it does so in any. */
function travelBoneOf(prepared: readonly PreparedClip[]): CharacterPlan['travelBone'] {
  let bone: CharacterPlan['travelBone'] = null;
  for (const { clip } of prepared)
    if (clip.travelBone && (!bone || clip.travelBone.turned)) {
      const { joint, turned } = clip.travelBone;
      bone = { joint, turned };
    }
  return bone;
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
