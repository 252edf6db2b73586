import type {
  Character,
  Clip,
  Lane,
  Placed,
  Rate,
  Scene,
  Segment,
  SegmentTiming,
  Memory,
} from '@warper/core';
import {
  InputError,
  PLAIN_CHARACTER,
  PLAIN_LANE,
  PLAIN_SEAM,
  emptyScene,
  parseRate,
  repeatsLoop,
  settleFrames,
  segmentTiming,
} from '@warper/core';
import { autoOverlap, defaultOverlap } from '@warper/core/kernels';
import type { Body } from '../imported';
import { filesBeside, packGltf } from '../gltf/pack';
import { MotionLibrary } from '../library';
import { assembleLayers } from './assembleLayers';
import { matchCues } from './matchCues';
import { partSegment } from './part';
import type { Cue, CueCharacter, CuePart, CueSeam, CueSheet } from './sheet';

/** Reads a file that a sheet names; the path is as the sheet writes it. */
export type LoadFile = (path: string) => Promise<Uint8Array>;

/** A scene laid out from a sheet, with the files that it uses. */
export interface Assembled {
  readonly scene: Scene;
  readonly library: MotionLibrary;
}

/**
 * Lays out the lanes of a scene from a cue sheet; the arithmetic of spans is the sheet's own (docs/cue-sheet.md).
 *
 * @throws InputError with the path of the cue where a span, an overlap or a take is not possible
 */
export async function assembleCues(
  sheet: CueSheet,
  load: LoadFile,
  library = new MotionLibrary(),
): Promise<Assembled> {
  const scene = {
    ...emptyScene(sheet.name ?? sheet.characters.map((c) => c.name).join(', '), sheet.rate),
    characters: {} as Record<string, Character>,
    characterOrder: [] as string[],
    lanes: {} as Record<string, Lane>,
    laneOrder: [] as string[],
    segments: {} as Record<string, Segment>,
    steps: {} as Record<string, Record<string, (readonly [number, number])[]>>,
  };
  const rate = parseRate(sheet.rate);
  for (const [i, entry] of sheet.characters.entries()) {
    const made = await assembleCharacter(entry, i, rate, load, library);
    scene.characters[made.character.id] = made.character;
    scene.characterOrder.push(made.character.id);
    for (const lane of made.lanes) {
      scene.lanes[lane.id] = lane;
      scene.laneOrder.push(lane.id);
    }
    for (const segment of made.segments) scene.segments[segment.id] = segment;
    for (const [clip, steps] of made.steps) scene.steps[clip] = { ...scene.steps[clip], ...steps };
  }
  return { scene, library };
}

interface AssembledCharacter {
  readonly character: Character;
  readonly lanes: readonly Lane[];
  readonly segments: readonly Segment[];
  readonly steps: readonly (readonly [string, Record<string, (readonly [number, number])[]>])[];
}

async function assembleCharacter(
  entry: CueCharacter,
  index: number,
  rate: Rate,
  load: LoadFile,
  library: MotionLibrary,
): Promise<AssembledCharacter> {
  const path = `characters[${index}]`;
  let body: Body | null = null;
  if (entry.body !== undefined) {
    const source = await library.add(await loadWhole(entry.body, load), entry.body, entry.scale);
    body = source.imported.bodies.find((b) => b.skinned) ?? source.imported.bodies[0]!;
  }
  const steps: [string, Record<string, (readonly [number, number])[]>][] = [];
  const open = async (cue: CuePart, where: string): Promise<Clip> => {
    const source = await library.add(await loadWhole(cue.clip, load), cue.clip, cue.scale);
    const clip = chooseTake(source.imported.clips, cue, where);
    if (cue.steps) steps.push([clip.id, structuredClone(cue.steps) as Record<string, [number, number][]>]);
    return clip;
  };
  const clips: Clip[] = [];
  for (const [j, cue] of entry.cues.entries()) clips.push(await open(cue, `${path}.cues[${j}]`));
  body ??= library.bodyOfClip(clips[0]!);
  const cues = matchCues(entry.cues, clips, rate, path, library.memory);
  const lane: PlacedCue[] = [];
  cues.forEach((cue, j) =>
    lane.push(
      placeCue(
        cue,
        clips[j]!,
        lane.at(-1),
        rate,
        library.memory,
        `c${index + 1}s${j + 1}`,
        `${path}.cues[${j}]`,
      ),
    ),
  );
  const start = entry.start
    ? { x: entry.start.x ?? 0, z: entry.start.z ?? 0, heading: entry.start.heading ?? 0 }
    : null;
  const id = `c${index + 1}`;
  const layers = await assembleLayers(entry.layers ?? [], id, path, open);
  const segments = lane.map((p) => p.segment);
  return {
    character: {
      ...PLAIN_CHARACTER,
      id,
      name: entry.name,
      body: body.id,
      hue: index % 8,
      start,
      footLock: entry.footLock ?? false,
    },
    lanes: [
      { ...PLAIN_LANE, id: `${id}body`, kind: 'body', character: id, segments: segments.map((s) => s.id) },
      ...layers.lanes,
    ],
    segments: [...segments, ...layers.segments],
    steps,
  };
}

/** Loads a file; a .gltf is packed with what lies beside it. */
async function loadWhole(path: string, load: LoadFile): Promise<Uint8Array> {
  const bytes = await load(path);
  const names = filesBeside(bytes);
  if (names.length === 0) return bytes;
  const folder = path.replace(/[^/]*$/, '');
  const files = new Map<string, Uint8Array>();
  for (const name of names) files.set(name, await load(folder + name));
  return packGltf(bytes, (uri) => files.get(uri));
}

/** A cue with its sums and its clip. */
interface PlacedCue {
  readonly segment: Segment;
  readonly timing: SegmentTiming;
  readonly overlap: number;
  readonly clip: Clip;
}

function chooseTake(clips: readonly Clip[], cue: CuePart, path: string): Clip {
  const names = clips.map((c) => `"${c.name}"`).join(', ');
  const fail = (message: string, key: string): never => {
    throw new InputError('take', message, {
      place: { path: `${path}.${key}`, file: cue.clip },
      hint: clips.length > 0 ? `The file has ${names}.` : 'Give a file with an animation.',
    });
  };
  if (cue.take !== undefined) {
    return clips.find((c) => c.name === cue.take) ?? fail(`The file has no take "${cue.take}".`, 'take');
  }
  const motions = clips.filter((c) => c.frames > 1);
  if (motions.length > 1) return fail(`The file has ${motions.length} takes: say which with "take".`, 'take');
  return motions[0] ?? clips[0] ?? fail('The file has no motion.', 'clip');
}

function placeCue(
  cue: Cue,
  clip: Clip,
  before: PlacedCue | undefined,
  rate: Rate,
  memory: Memory,
  id: string,
  path: string,
): PlacedCue {
  const seam = cue.seam ?? {};
  const settle = seam.frames ?? settleFrames(rate);
  const segment: Segment = {
    ...partSegment(cue, clip, id, path),
    travel: cue.travel === 'in-place' ? 'in place' : (cue.travel ?? 'recorded'),
    holdFacing: cue.holdFacing ?? false,
    straighten: cue.straighten ?? false,
    path: cue.path ?? [],
    marks: cue.marks ?? [],
    seam: {
      fit: seam.fit ?? 'whole body',
      facing: seam.facing ?? true,
      height: seam.height ?? false,
      curve: seam.curve ?? 'smooth',
      gap: 'hold',
      inStep: seam.inStep ?? false,
      nudge: { ...PLAIN_SEAM.nudge, ...seam.nudge },
      settle: seam.kind === 'settle' ? settle : null,
    },
  };
  const timing = segmentTiming(segment, clip, rate, memory);
  if (!before) return { segment: { ...segment, start: cue.gap ?? 0 }, timing, overlap: 0, clip };
  const overlap = chooseOverlap(cue, segment, timing, clip, before, rate, memory, path);
  const start = before.segment.start + before.timing.frames - overlap + (cue.gap ?? 0);
  // Where the rule leaves no room for a crossfade, the cut settles.
  const settles = seam.overlap === 'auto' && overlap === 0 && !repeatsLoop(before.segment, segment);
  const joined = settles ? { ...segment, seam: { ...segment.seam, settle } } : segment;
  return { segment: { ...joined, start }, timing, overlap, clip };
}

function chooseOverlap(
  cue: Cue,
  segment: Segment,
  timing: SegmentTiming,
  clip: Clip,
  before: PlacedCue,
  rate: Rate,
  memory: Memory,
  path: string,
): number {
  const seam: CueSeam = cue.seam ?? {};
  const cut =
    seam.kind === 'cut' ||
    seam.kind === 'settle' ||
    (cue.gap ?? 0) > 0 ||
    (seam.kind === undefined && seam.overlap === undefined && repeatsLoop(before.segment, segment));
  if (cut) return 0;
  if (seam.overlap === undefined) {
    return defaultOverlap(rate, { frames: before.timing.frames, overlap: before.overlap }, timing.frames);
  }
  if (seam.overlap === 'auto') {
    if (repeatsLoop(before.segment, segment)) return 0;
    const { segment: earlier } = before;
    const placed: Placed = {
      segment: earlier,
      timing: before.timing,
      start: earlier.start,
      end: earlier.start + before.timing.frames,
      overlap: before.overlap,
      gap: 0,
    };
    return autoOverlap(rate, { placed, clip: before.clip }, { segment, timing, clip }, memory);
  }
  if (seam.overlap === 0 && seam.kind === undefined) return 0;
  const most = Math.min(before.timing.frames - before.overlap, timing.frames);
  if (seam.overlap < 1 || seam.overlap > most) {
    throw new InputError('overlap', `An overlap of ${seam.overlap} is not possible here.`, {
      place: { path: `${path}.seam.overlap` },
      hint:
        most >= 1
          ? `Choose 1 to ${most}.`
          : 'The cue before is overlapped over its whole length: make this a cut.',
    });
  }
  return seam.overlap;
}
