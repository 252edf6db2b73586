import type { Clip } from '../clip/clip';
import { prepareCycle } from '../clip/cycle';
import { clipOnSkeleton } from '../clip/mapping';
import { makePose } from '../clip/pose';
import { rootTrack } from '../clip/root';
import { InputError } from '../math/errors';
import type { FloorMove } from '../math/floorMove';
import { STILL, composeMoves, invertMove } from '../math/floorMove';
import type { Rate } from '../math/rate';
import { parseRate } from '../math/rate';
import type { Character, Lane, Scene } from '../scene/scene';
import { bodyLane } from '../scene/scene';
import type { Skeleton } from '../skeleton/skeleton';
import type { ClipLookup, Placed } from '../timeline/lane';
import { laneSpan, layOut, requireClip } from '../timeline/lane';
import type { CharacterPlan, Plan, SegmentPlan } from './plan';
import { segmentPose } from './segmentPose';
import { makeSettle } from './makeSettle';
import type { SolvedFit } from './solveFit';
import { solveFit } from './solveFit';

/** Where clips and bodies are found by id. */
export interface Library {
  readonly clip: ClipLookup;
  readonly body: (id: string) => Skeleton | undefined;
}

/** What a character's plan was made from; the same inputs give the same plan. */
interface Origin {
  readonly character: Character;
  readonly lane: Lane | undefined;
  readonly segments: readonly unknown[];
  readonly rate: Scene['rate'];
}

const origins = new WeakMap<CharacterPlan, Origin>();

/**
 * Compiles a scene into a plan: time maps, loops, solved fits. Characters whose part of the scene is the same as
 * in `previous` are taken over as they are.
 *
 * @throws InputError where a clip or body is missing, or a clip does not fit the character's skeleton
 */
export function compile(scene: Scene, library: Library, previous?: Plan): Plan {
  const rate = parseRate(scene.rate);
  const characters = scene.characterOrder.map((id) => {
    const character = scene.characters[id]!;
    const lane = bodyLane(scene, id);
    const origin: Origin = {
      character,
      lane,
      segments: lane?.segments.map((s) => scene.segments[s]) ?? [],
      rate: scene.rate,
    };
    const old = previous?.characters.find((c) => c.character.id === id);
    if (old && sameOrigin(origins.get(old), origin)) return old;
    const plan = compileCharacter(scene, character, lane, library, rate);
    origins.set(plan, origin);
    return plan;
  });
  const used = characters.filter((c) => c.segments.length > 0);
  return {
    rate,
    characters,
    start: used.length > 0 ? Math.min(...used.map((c) => c.start)) : 0,
    end: used.length > 0 ? Math.max(...used.map((c) => c.end)) : 0,
  };
}

function sameOrigin(a: Origin | undefined, b: Origin): boolean {
  return (
    a !== undefined &&
    a.character === b.character &&
    a.lane === b.lane &&
    a.rate === b.rate &&
    a.segments.length === b.segments.length &&
    a.segments.every((s, i) => s === b.segments[i])
  );
}

function compileCharacter(
  scene: Scene,
  character: Character,
  lane: Lane | undefined,
  library: Library,
  rate: Rate,
): CharacterPlan {
  const skeleton = library.body(character.body);
  if (!skeleton) {
    throw new InputError('missing-body', `The body of ${character.name} is not in the library.`, {
      place: { path: `characters.${character.id}.body` },
      hint: 'Import the file that it came from again.',
    });
  }
  const onSkeleton = new Map<string, Clip>();
  for (const id of lane?.segments ?? []) {
    const segment = scene.segments[id]!;
    if (!onSkeleton.has(segment.clip)) {
      onSkeleton.set(segment.clip, clipOnSkeleton(requireClip(segment, library.clip), skeleton));
    }
  }
  const moving = unionOfTranslated([...onSkeleton.values()], skeleton);
  const clip = (id: string): Clip | undefined => {
    const found = onSkeleton.get(id);
    return found && withTranslated(found, moving);
  };
  const placed = lane ? layOut(scene, lane, clip) : [];
  const span = laneSpan(placed) ?? { start: 0, end: 0 };
  const segments: SegmentPlan[] = [];
  for (const item of placed) {
    const own = segmentPlan(item, clip(item.segment.clip)!);
    const before = segments.at(-1);
    const solved = before
      ? solveFit(before, own, item.segment.seam)
      : { move: startMove(own, character, item.start), lift: 0, remark: null };
    const placedPlan = place(own, solved);
    const { settle } = item.segment.seam;
    const settles = before && settle !== null && item.overlap === 0;
    const seconds = settles ? (settle * rate.den) / rate.num : 0;
    segments.push(
      settles ? { ...placedPlan, settle: makeSettle(before, placedPlan, seconds, rate) } : placedPlan,
    );
  }
  return { character, skeleton, segments, ...span, scratch: makePose(skeleton) };
}

/** A segment's plan as if its clip stayed where it was recorded. */
function segmentPlan(item: Placed, clip: Clip): SegmentPlan {
  const { segment, timing } = item;
  const cycle = segment.loop ? prepareCycle(clip, segment.in, segment.out) : null;
  const plan: SegmentPlan = {
    id: segment.id,
    name: segment.name,
    clip: cycle?.clip ?? clip,
    root: cycle?.root ?? rootTrack(clip),
    start: item.start,
    end: item.end,
    in: segment.in,
    out: segment.out,
    repeat: segment.repeat,
    period: timing.period,
    speed: timing.speed,
    samplesPerFrame: timing.samplesPerFrame,
    loop: segment.loop,
    cycle: cycle?.cycle ?? STILL,
    travel: segment.travel,
    move: new Float64Array(3),
    lift: 0,
    held: new Float64Array(2),
    overlap: item.overlap,
    curve: segment.seam.curve,
    settle: null,
    fit: segment.seam.fit,
    fitRemark: null,
  };
  holdAtStart(plan);
  return plan;
}

function place(plan: SegmentPlan, { move, lift, remark }: SolvedFit): SegmentPlan {
  const placed = {
    ...plan,
    move: Float64Array.of(move.x, move.z, move.turn),
    lift,
    held: new Float64Array(2),
    fitRemark: remark,
  };
  holdAtStart(placed);
  return placed;
}

/** Finds the floor place at which a segment in place stays: its root's at the first frame. */
function holdAtStart(plan: SegmentPlan): void {
  if (plan.travel !== 'in place') return;
  const pose = makePose(plan.clip.skeleton);
  segmentPose({ ...plan, travel: 'recorded' }, plan.start, false, pose);
  plan.held[0] = pose.root[0]!;
  plan.held[1] = pose.root[1]!;
}

/** The move that puts the root of the character's first frame where the character starts. */
function startMove(plan: SegmentPlan, character: Character, frame: number): FloorMove {
  if (!character.start) return STILL;
  const pose = makePose(plan.clip.skeleton);
  segmentPose(plan, frame, false, pose);
  const [x, z, turn] = pose.root as unknown as [number, number, number];
  const wanted = {
    x: character.start.x,
    z: character.start.z,
    turn: (character.start.heading * Math.PI) / 180,
  };
  return composeMoves(wanted, invertMove({ x, z, turn }));
}

/** All joints that move relative to their parents in any of the clips; the carrier first. */
function unionOfTranslated(clips: readonly Clip[], skeleton: Skeleton): Int32Array {
  const joints = new Set([skeleton.carrier]);
  for (const clip of clips) clip.translated.forEach((j) => joints.add(j));
  return Int32Array.from(joints);
}

/** The clip with translations of the given joints; those that it does not move keep their rest offset. */
function withTranslated(clip: Clip, joints: Int32Array): Clip {
  if (clip.translated.length === joints.length && joints.every((j, i) => clip.translated[i] === j))
    return clip;
  let known = widened.get(clip);
  const key = joints.join();
  if (known?.key !== key) {
    const translations = new Float32Array(clip.frames * joints.length * 3);
    const from = Array.from(joints, (j) => clip.translated.indexOf(j));
    const { restTranslations } = clip.skeleton;
    for (let f = 0; f < clip.frames; f++)
      joints.forEach((joint, i) => {
        for (let k = 0; k < 3; k++) {
          translations[(f * joints.length + i) * 3 + k] =
            from[i]! >= 0
              ? clip.translations[(f * clip.translated.length + from[i]!) * 3 + k]!
              : restTranslations[joint * 3 + k]!;
        }
      });
    known = { key, clip: { ...clip, translated: joints, translations } };
    widened.set(clip, known);
  }
  return known.clip;
}

const widened = new WeakMap<Clip, { key: string; clip: Clip }>();
