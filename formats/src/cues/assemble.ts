import type {
  ChoiceLimits,
  Clip,
  Edit,
  Join,
  Rate,
  Scene,
  SeamPlacing,
  Segment,
  Skeleton,
} from '@warper/core';
import {
  InputError,
  PLAIN_CHARACTER,
  PLAIN_CROSSFADE,
  PLAIN_LIMITS,
  PLAIN_SEAM,
  PLAIN_STEP,
  SEAM_FIELDS,
  emptyScene,
  parseRate,
  repeatsLoop,
  requireLikeLegs,
  settleFrames,
  stepFrames,
  withSeam,
  defined,
} from '@warper/core';
import type { Body } from '../imported';
import { filesBeside, packGltf } from '../gltf/pack';
import { MotionLibrary } from '../library';
import { withAlternates } from './alternateSheet';
import { characterId, cueId, layerEdits, lookEdits, pairEdits } from './assembleLayers';
import { propFile } from '../props/propFile';
import { filmingEdits } from './filmSheet';
import { partSegment } from './part';
import { propOf } from './propSheet';
import type { SoundFile } from '../sound/soundFile';
import { soundEdits } from './soundSheet';
import { stagingEdits, withPushes } from './stagingSheet';
import type { Tethered } from './tetherSheet';
import { tetherEdits } from './tetherSheet';
import type { PlacedEdit } from './placedEdit';
import { applyPlaced } from './placedEdit';
import type { CuePart } from './partSheet';
import type { Cue, CueCharacter, CueSeam, CueSheet } from './sheet';

/** Reads a file that a sheet names; the path is as the sheet writes it. */
export type LoadFile = (path: string) => Promise<Uint8Array>;

/** A scene laid out from a sheet, with the files that it uses. */
export interface Assembled {
  readonly scene: Scene;
  readonly library: MotionLibrary;
}

/**
 * Makes a scene of a cue sheet: every line of it becomes an edit, and the scene is what an empty one is after them (see
 * docs/cue-sheet.md for the arithmetic of spans).
 *
 * @throws InputError with the path of the cue where a span, an overlap or a take is not possible
 */
export async function assembleCues(
  sheet: CueSheet,
  load: LoadFile,
  library = new MotionLibrary(),
): Promise<Assembled> {
  const layOut = (one: CueSheet): Promise<Scene> => layOutSheet(one, load, library);
  return { scene: await withAlternates(await layOut(sheet), sheet, library, layOut), library };
}

/** Lays a sheet out, but for its alternates. */
async function layOutSheet(sheet: CueSheet, load: LoadFile, library: MotionLibrary): Promise<Scene> {
  const rate = parseRate(sheet.rate);
  const edits: PlacedEdit[] = [];
  for (const file of sheet.bridges ?? []) await library.add(await loadWhole(file, load), file);
  const cast: Tethered[] = [];
  for (const [i, entry] of sheet.characters.entries()) {
    const own = await characterEdits(entry, i, rate, load, library, sheet.seams === 'auto');
    edits.push(...own.edits);
    cast.push({ id: characterId(i), name: entry.name, skeleton: own.skeleton });
  }
  edits.push(...tetherEdits(sheet.tethers ?? [], cast));
  edits.push(
    ...lookEdits(sheet.characters),
    ...pairEdits(sheet.characters),
    ...stagingEdits(sheet, cast),
    ...filmingEdits(sheet, cast),
    ...(await loadedSounds(sheet, cast, load, library)),
  );
  const name = sheet.name ?? sheet.characters.map((c) => c.name).join(', ');
  const scene = applyPlaced(emptyScene(name, sheet.rate), edits, library);
  return withPushes(scene, sheet, cast, library);
}

/** Reads the sound files of a sheet, keeps them, and puts them on their lanes. */
async function loadedSounds(
  sheet: CueSheet,
  cast: readonly Tethered[],
  load: LoadFile,
  library: MotionLibrary,
): Promise<PlacedEdit[]> {
  const files: SoundFile[] = [];
  for (const [i, { file }] of (sheet.sounds ?? []).entries()) {
    // What reads sounds is not needed where there are none.
    const { readSoundFile } = await import('../sound/soundFile');
    try {
      files.push(library.keepSound(await readSoundFile(await load(file), file)));
    } catch (error) {
      throw error instanceof InputError ? error.at({ path: `sounds[${i}].file` }) : error;
    }
  }
  return soundEdits(sheet, cast, files);
}

async function characterEdits(
  entry: CueCharacter,
  index: number,
  rate: Rate,
  load: LoadFile,
  library: MotionLibrary,
  auto: boolean,
): Promise<{ readonly edits: readonly PlacedEdit[]; readonly skeleton: Skeleton }> {
  const path = `characters[${index}]`;
  const id = characterId(index);
  const cues = entry.cues ?? [];
  const prop = entry.prop ? propOf(entry.prop) : null;
  let body: Body | null = null;
  if (prop && prop.shape !== 'own file') {
    const source = await library.add(await propFile(prop), `${prop.shape}.glb`);
    body = defined(source.imported.bodies[0]);
  }
  if (entry.body !== undefined) {
    const source = await library.add(await loadWhole(entry.body, load), entry.body, entry.scale);
    body = source.imported.bodies.find((b) => b.skinned) ?? defined(source.imported.bodies[0]);
  }
  const steps: PlacedEdit[] = [];
  const open = async (cue: CuePart, where: string): Promise<Clip> => {
    const source = await library.add(await loadWhole(cue.clip, load), cue.clip, cue.scale);
    const clip = chooseTake(source.imported.clips, cue, where);
    for (const [joint, spans] of Object.entries(cue.steps ?? {}))
      steps.push({ path: `${where}.steps`, edit: { type: 'steps', clip: clip.id, joint, spans } });
    return clip;
  };
  const clips: Clip[] = [];
  for (const [j, cue] of cues.entries()) clips.push(await open(cue, `${path}.cues[${j}]`));
  body ??= library.bodyOfClip(defined(clips[0]));
  for (const [j, cue] of cues.entries())
    if (!cue.otherLegs) refuseOtherLegs(`${path}.cues[${j}]`, cue, defined(clips[j]), body);
  const lane = `${id}body`;
  const layers = await layerEdits(entry.layers ?? [], id, body.skeleton, path, open);
  const character = {
    ...PLAIN_CHARACTER,
    id,
    name: entry.name,
    body: body.id,
    hue: index % 8,
    start: entry.start ? { ...ORIGIN, ...entry.start } : null,
    footLock: entry.footLock ?? false,
    dials: entry.dials ?? {},
    prop,
  };
  const edits: PlacedEdit[] = [
    { path, edit: { type: 'add character', character, lane } },
    ...beatEdits(cues, clips, { lane, id, path, rate, auto }),
    ...layers,
    ...steps,
  ];
  return { edits, skeleton: body.skeleton };
}

/** Refuses a cue whose clip was recorded on other legs than the character's. */
function refuseOtherLegs(path: string, cue: Cue, clip: Clip, body: Body): void {
  try {
    requireLikeLegs(clip, body.skeleton);
  } catch (error) {
    throw error instanceof InputError ? error.at({ path, file: cue.clip }) : error;
  }
}

const ORIGIN = { x: 0, z: 0, heading: 0 };

/** Where beats go, and what they are called. */
interface BeatPlaces {
  readonly lane: string;
  /** Of the character. */
  readonly id: string;
  readonly path: string;
  readonly rate: Rate;
  /** Whether joins that no cue sets itself are chosen. */
  readonly auto: boolean;
}

/** The edits that put beats behind each other. */
function beatEdits(
  cues: readonly Cue[],
  clips: readonly Clip[],
  { lane, id, path, rate, auto }: BeatPlaces,
): PlacedEdit[] {
  let before: Segment | null = null;
  return cues.map((cue, j) => {
    const where = `${path}.cues[${j}]`;
    const part = partSegment(cue, defined(clips[j]), cueId(id, j), where);
    const segment: Segment = { ...part, seam: seamOf(cue.seam ?? {}, rate) };
    const overlap = askedOverlap(cue, before !== null && repeatsLoop(before, segment), rate);
    if (cue.seam?.kind === 'crossfade' && cue.seam.overlap === 0) {
      throw new InputError('overlap', 'A crossfade needs an overlap.', {
        place: { path: `${where}.seam.overlap` },
        hint: 'Give it at least 1 frame, or make it a cut.',
      });
    }
    before = segment;
    const edit: Edit = { type: 'place', lane, segment, at: 'end', overlap, gap: cue.gap ?? 0 };
    return { path: where, edit, choose: choiceOf(cue, j, auto), match: cue.match?.within };
  });
}

/** The overlap that a cue asks for: none where it is a cut, or goes on with the loop before it. */
function askedOverlap({ seam = {}, gap = 0 }: Cue, repeats: boolean, rate: Rate): number | 'auto' | 'plain' {
  if (seam.kind === 'cut' || seam.kind === 'settle' || gap > 0) return 0;
  if (seam.kind === undefined && seam.overlap === undefined && repeats) return 0;
  if (seam.kind === 'step') return seam.overlap ?? stepFrames(rate);
  return seam.overlap ?? 'plain';
}

/** What the choice of a join keeps to; null where it is not chosen. */
function choiceOf({ seam, match, gap = 0, choose }: Cue, j: number, auto: boolean): ChoiceLimits | null {
  if (j === 0 || !(choose ?? (auto && !seam && !match && gap === 0))) return null;
  const { bridge = false, ...limits } = choose ?? {};
  return { ...PLAIN_LIMITS, ...limits, bridges: bridge };
}

/** The seam that a cue asks for; plain where it says nothing. */
function seamOf(seam: CueSeam, rate: Rate): Segment['seam'] {
  const values = Object.fromEntries(
    Object.keys(SEAM_FIELDS).map((name) => [name, seam[name as keyof CueSeam]]),
  ) as Partial<SeamPlacing>;
  const nudge = { ...PLAIN_SEAM.nudge, ...seam.nudge };
  return withSeam(PLAIN_SEAM, { ...values, nudge }, askedJoin(seam, rate));
}

function askedJoin({ kind = 'crossfade', frames, curve, inStep, ...step }: CueSeam, rate: Rate): Join {
  switch (kind) {
    case 'cut':
      return { kind };
    case 'settle':
      return { kind, frames: frames ?? settleFrames(rate) };
    case 'step':
      return {
        kind,
        footfalls: step.footfalls ?? PLAIN_STEP.footfalls,
        landings: step.landings ?? PLAIN_STEP.landings,
      };
    case 'crossfade':
      return { kind, curve: curve ?? PLAIN_CROSSFADE.curve, inStep: inStep ?? PLAIN_CROSSFADE.inStep };
  }
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
