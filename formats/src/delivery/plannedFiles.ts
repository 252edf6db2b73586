import type { CharacterPlan, Plan } from '@warper/core';
import { InputError, bakedFrames, framesPerSecond, missingHumanoidRoles, roleWords } from '@warper/core';
import type { MotionLibrary } from '../library';
import { fileName } from './fileName';
import type { BakeFormat, BakeSettings, BakeSpan } from './settings';
import { BAKE_FORMATS } from './settings';

/** What is to be baked: who, which parts, and how. */
export interface BakeOrder {
  /** Name of the scene; the files begin with it. */
  readonly name: string;
  /** Ids of those who perform. */
  readonly characters: readonly string[];
  readonly spans: readonly BakeSpan[];
  readonly settings: BakeSettings;
}

/** A file that a bake writes. */
export interface PlannedFile {
  /** Its name, the only one of the bake. */
  readonly name: string;
  readonly characters: readonly CharacterPlan[];
  /** The takes in it. */
  readonly spans: readonly BakeSpan[];
  /** Samples of each take, before a loop's end is left out. */
  readonly frames: readonly number[];
  readonly rate: number;
  readonly joints: number;
  /** About how large it becomes; with reduced keys a third of all samples is reckoned. */
  readonly estimatedBytes: number;
}

/** The part of the samples that stays as keys, for an estimate: between what still and quick motion came to. */
const USUAL_KEYS = 1 / 3;

/**
 * The files that an order comes to, in order.
 *
 * @throws InputError `nobody` without characters, `no-span` without spans, `bake-range` for an empty one,
 * `no-humanoid` for a body that the format is not for
 */
export function plannedFiles(plan: Plan, order: BakeOrder, library: MotionLibrary): PlannedFile[] {
  const { settings, spans } = order;
  const format = BAKE_FORMATS[settings.format];
  const characters = [...new Set(order.characters)].flatMap(
    (id) => plan.characters.find((c) => c.character.id === id) ?? [],
  );
  if (characters.length === 0) {
    throw new InputError('nobody', 'Nobody is chosen.', { hint: 'Choose at least one character.' });
  }
  if (spans.length === 0) {
    throw new InputError('no-span', 'No part of the scene is chosen.', { hint: 'Choose what to bake.' });
  }
  if (settings.format === 'vrma') characters.forEach(requireHumanoid);
  const casts = settings.together && format.holdsSeveral ? [characters] : characters.map((c) => [c]);
  const takes = settings.spansTogether && format.holdsTakes ? [spans] : spans.map((s) => [s]);
  const taken = new Set<string>();
  return casts.flatMap((cast) =>
    takes.map((own): PlannedFile => {
      const [only] = cast;
      const [take] = own;
      const words = [
        order.name,
        cast.length === 1 && only ? only.character.name : '',
        spans.length > 1 && own.length === 1 && take ? take.name : '',
      ];
      const rate = settings.rate ?? framesPerSecond(plan.rate);
      const frames = own.map((span) => framesOf(span, settings.leadIn, rate, framesPerSecond(plan.rate)));
      const joints = cast.reduce((sum, c) => sum + c.skeleton.names.length, 0);
      return {
        name: freeName(fileName(words.filter(Boolean).join(' ')), format.extension, taken),
        characters: cast,
        spans: own,
        frames,
        rate,
        joints,
        estimatedBytes: estimate(cast, frames, settings, format, library),
      };
    }),
  );
}

function requireHumanoid({ character, skeleton }: CharacterPlan): void {
  const missing = missingHumanoidRoles(skeleton);
  if (missing.length === 0) return;
  throw new InputError(
    'no-humanoid',
    `${character.name} is no humanoid, which a VRM animation needs: no bone is its ${missing.slice(0, 3).map(roleWords).join(', ')}.`,
    { hint: 'Leave it out, or choose another format.' },
  );
}

function framesOf({ name, from, to }: BakeSpan, leadIn: number, rate: number, sceneRate: number): number {
  const frames = bakedFrames(from - leadIn, to, rate, sceneRate);
  if (frames >= 1 && to > from) return frames;
  throw new InputError('bake-range', `${name || 'The part'} from frame ${from} to ${to} holds no frame.`, {
    hint: 'The end is not part of it; choose one after the start.',
  });
}

function freeName(base: string, extension: string, taken: Set<string>): string {
  for (let n = 1; ; n++) {
    const name = `${base}${n > 1 ? `-${n}` : ''}.${extension}`;
    if (taken.has(name.toLowerCase())) continue;
    taken.add(name.toLowerCase());
    return name;
  }
}

/** Letters of a number in the texts that are written. */
const LETTERS = 10;

function estimate(
  cast: readonly CharacterPlan[],
  frames: readonly number[],
  settings: BakeSettings,
  format: BakeFormat,
  library: MotionLibrary,
): number {
  const samples = frames.reduce((sum, n) => sum + n, 0);
  return cast.reduce((sum, { character, skeleton, segments }) => {
    const joints = skeleton.names.length;
    const moving = segments[0]?.clip.translated.length ?? 1;
    const entry = library.bodyEntry(character.body);
    const body = settings.withBody && entry?.body.layout.kind === 'gltf' ? entry.source.bytes.length : 2000;
    if (settings.format === 'usda' || settings.format === 'usdz')
      return sum + body * 3 + samples * joints * 7 * LETTERS;
    if (settings.format === 'csv') return sum + samples * joints * 7 * LETTERS;
    if (!format.holdsKeys) return sum + samples * (joints * 3 + moving * 3) * LETTERS;
    const keys = settings.keys === 'reduced' ? USUAL_KEYS : 1;
    const motion = samples * keys * (joints * 16 + moving * 12 + (keys < 1 ? (joints + moving) * 4 : 4));
    return sum + body + motion;
  }, 0);
}
