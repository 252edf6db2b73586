import { makePose } from '../clip/pose';
import { InputError } from '../math/errors';
import type { Rate } from '../math/rate';
import { parseRate } from '../math/rate';
import type { BodyLane, Character, LayerLane, Scene, Segment } from '../scene/scene';
import { bodyLane, layerLanes } from '../scene/scene';
import type { Skeleton } from '../skeleton/skeleton';
import type { ClipLookup } from '../timeline/lane';
import { laneSpan, layOut, requireClip } from '../timeline/lane';
import { compileLayer } from './compileLayer';
import type { CharacterPlan, LayerPlan, Plan } from './plan';
import { placeSegments } from './placeSegments';
import type { PreparedClip } from './prepareClip';
import { prepareClip } from './prepareClip';
import { baseSegment } from './baseSegment';
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
  readonly segments: readonly Segment[];
  readonly rate: Scene['rate'];
  readonly steps: Scene['steps'];
}

const origins = new WeakMap<CharacterPlan, Origin>();

/**
 * Compiles a scene into a plan: time maps, loops, solved fits, layers. What did not change since `previous` is taken over:
 * whole characters, and of a changed one the segments, fits and layers that an edit did not touch.
 *
 * @throws InputError where a clip or body is missing, or a clip does not fit the character's skeleton
 */
export function compile(scene: Scene, library: Library, previous?: Plan): Plan {
  const rate = parseRate(scene.rate);
  const characters = scene.characterOrder.map((id) => {
    const origin = originOf(scene, id);
    const old = previous?.characters.find((c) => c.character.id === id);
    const from = old && origins.get(old);
    if (old && from && sameOrigin(from, origin)) return old;
    const reusable = from && from.rate === origin.rate && from.steps === origin.steps ? old : undefined;
    const plan = compileCharacter(scene, origin, library, rate, reusable);
    origins.set(plan, origin);
    return plan;
  });
  const used = characters.filter((c) => c.segments.length > 0);
  return {
    rate,
    characters,
    start: used.reduce((least, c) => Math.min(least, c.start), used[0]?.start ?? 0),
    end: used.reduce((most, c) => Math.max(most, c.end), 0),
  };
}

function originOf(scene: Scene, id: string): Origin {
  const lane = bodyLane(scene, id);
  const layers = layerLanes(scene, id);
  const segments = [lane, ...layers].flatMap((l) => l?.segments.map((s) => scene.segments[s]!) ?? []);
  const { rate, steps } = scene;
  return { character: scene.characters[id]!, lane, layers, segments, rate, steps };
}

function sameOrigin(a: Origin, b: Origin): boolean {
  return (
    a.character === b.character &&
    a.lane === b.lane &&
    a.rate === b.rate &&
    a.steps === b.steps &&
    sameList(a.layers, b.layers) &&
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
  const skeleton = library.body(character.body);
  if (!skeleton) {
    throw new InputError('missing-body', `The body of ${character.name} is not in the library.`, {
      place: { path: `characters.${character.id}.body` },
      hint: 'Import the file that it came from again.',
    });
  }
  const prepared = new Map<Segment, PreparedClip>();
  for (const segment of origin.segments) {
    const clip = requireClip(segment, library.clip);
    prepared.set(segment, prepareClip(clip, segment, skeleton, scene.steps));
  }
  const moving = unionOfTranslated([...prepared.values()], skeleton);
  const base = (item: ReturnType<typeof layOut>[number]): ReturnType<typeof baseSegment> =>
    baseSegment(item, prepared.get(item.segment)!, moving);
  const placed = lane ? layOut(scene, lane, library.clip) : [];
  const span = laneSpan(placed) ?? { start: 0, end: 0 };
  const segments = placeSegments(placed, placed.map(base), character, rate, old?.segments ?? []);
  const layerPlans = layers.map((layer): LayerPlan => {
    const items = layOut(scene, layer, library.clip);
    return compileLayer(layer, items, items.map(base), skeleton, moving, old?.layers ?? []);
  });
  const same = old && sameList(old.layers, layerPlans) ? old.layers : layerPlans;
  return {
    character,
    skeleton,
    rate,
    segments,
    holdsFeet: character.footLock || segments.some((s) => s.route !== null),
    layers: same,
    ...span,
    scratch: makePose(skeleton),
    layerScratch: makePose(skeleton),
  };
}
