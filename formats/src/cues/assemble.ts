import type { Character, Clip, Lane, Rate, Scene, Segment, SegmentTiming } from '@warper/core';
import {
  InputError,
  PLAIN_SEAM,
  defaultOverlap,
  emptyScene,
  framesPerSecond,
  parseRate,
  segmentTiming,
} from '@warper/core';
import type { Body } from '../imported';
import { filesBeside, packGltf } from '../gltf/pack';
import { MotionLibrary } from '../library';
import type { Cue, CueCharacter, CueSheet } from './sheet';

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
  };
  const rate = parseRate(sheet.rate);
  for (const [i, entry] of sheet.characters.entries()) {
    const made = await assembleCharacter(entry, i, rate, load, library);
    scene.characters[made.character.id] = made.character;
    scene.characterOrder.push(made.character.id);
    scene.lanes[made.lane.id] = made.lane;
    scene.laneOrder.push(made.lane.id);
    for (const segment of made.segments) scene.segments[segment.id] = segment;
  }
  return { scene, library };
}

async function assembleCharacter(
  entry: CueCharacter,
  index: number,
  rate: Rate,
  load: LoadFile,
  library: MotionLibrary,
): Promise<{ character: Character; lane: Lane; segments: Segment[] }> {
  const path = `characters[${index}]`;
  let body: Body | null = null;
  if (entry.body !== undefined) {
    const source = await library.add(await loadWhole(entry.body, load), entry.body, entry.scale);
    body = source.imported.bodies.find((b) => b.skinned) ?? source.imported.bodies[0]!;
  }
  const lane: Placed[] = [];
  for (const [j, cue] of entry.cues.entries()) {
    const where = `${path}.cues[${j}]`;
    const source = await library.add(await loadWhole(cue.clip, load), cue.clip, cue.scale);
    const clip = chooseTake(source.imported.clips, cue, where);
    body ??= library.bodyOfClip(clip);
    lane.push(placeCue(cue, clip, lane.at(-1), rate, `c${index + 1}s${j + 1}`, where));
  }
  const start = entry.start
    ? { x: entry.start.x ?? 0, z: entry.start.z ?? 0, heading: entry.start.heading ?? 0 }
    : null;
  const id = `c${index + 1}`;
  return {
    character: { id, name: entry.name, body: body!.id, hue: index % 8, start },
    lane: { id: `${id}body`, kind: 'body', character: id, segments: lane.map((p) => p.segment.id) },
    segments: lane.map((p) => p.segment),
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

/** Seconds in which a seam settles unless its frames are given. */
const SETTLE_SECONDS = 0.3;

/** A cue with its sums. */
interface Placed {
  readonly segment: Segment;
  readonly timing: SegmentTiming;
  readonly overlap: number;
}

function chooseTake(clips: readonly Clip[], cue: Cue, path: string): Clip {
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
  before: Placed | undefined,
  rate: Rate,
  id: string,
  path: string,
): Placed {
  const from = cue.in ?? 0;
  const to = cue.out ?? clip.frames;
  if (!(from < to) || to > clip.frames) {
    throw new InputError(
      'cues',
      `In ${from} and out ${to} are no part of ${clip.name}, which has ${clip.frames} samples.`,
      {
        place: { path: `${path}.${to > clip.frames ? 'out' : 'in'}` },
        hint: `Choose 0 <= in < out <= ${clip.frames}.`,
      },
    );
  }
  const repeat = cue.repeat ?? 1;
  const segment: Segment = {
    id,
    name: clip.name,
    clip: clip.id,
    start: 0,
    in: from,
    out: to,
    repeat,
    loop: cue.loop ?? repeat !== 1,
    speed: cue.speed ?? 1,
    length: cue.length ?? null,
    travel: cue.travel === undefined || cue.travel === 'recorded' ? 'recorded' : 'in place',
    seam: {
      ...PLAIN_SEAM,
      fit: cue.seam?.fit ?? 'whole body',
      facing: cue.seam?.facing ?? true,
      height: cue.seam?.height ?? false,
      curve: cue.seam?.curve ?? 'smooth',
      nudge: { ...PLAIN_SEAM.nudge, ...cue.seam?.nudge },
      settle:
        cue.seam?.kind === 'settle'
          ? (cue.seam.frames ?? Math.max(1, Math.round(SETTLE_SECONDS * framesPerSecond(rate))))
          : null,
    },
  };
  const timing = segmentTiming(segment, clip, rate);
  if (!before) return { segment: { ...segment, start: cue.gap ?? 0 }, timing, overlap: 0 };
  const overlap = chooseOverlap(cue, segment, timing, before, rate, path);
  const start = before.segment.start + before.timing.frames - overlap + (cue.gap ?? 0);
  return { segment: { ...segment, start }, timing, overlap };
}

function chooseOverlap(
  cue: Cue,
  segment: Segment,
  timing: SegmentTiming,
  before: Placed,
  rate: Rate,
  path: string,
): number {
  const seam = cue.seam ?? {};
  const repeats =
    before.segment.loop &&
    segment.loop &&
    before.segment.clip === segment.clip &&
    before.segment.in === segment.in &&
    before.segment.out === segment.out;
  const cut =
    seam.kind === 'cut' ||
    seam.kind === 'settle' ||
    (cue.gap ?? 0) > 0 ||
    (seam.kind === undefined && seam.overlap === undefined && repeats);
  if (cut) return 0;
  if (seam.overlap === undefined) {
    return defaultOverlap(rate, { frames: before.timing.frames, overlap: before.overlap }, timing.frames);
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
