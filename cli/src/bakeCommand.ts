import { existsSync, statSync } from 'node:fs';
import { extname, join } from 'node:path';
import type { CharacterPlan, KeyInterpolation, Scene } from '@warper/core';
import { InputError, continuityReport, defined } from '@warper/core';
import type { BakeFormatId, BakeOrder, BakeSpan, BakedFacts, PlannedFile } from '@warper/formats';
import {
  BAKE_FORMATS,
  BAKE_FORMAT_IDS,
  USUAL_BAKE,
  bakeFile,
  bakeReport,
  otioTimeline,
  plannedFiles,
  regionSpans,
  reportHtml,
  reportedFile,
} from '@warper/formats';
import type { Opened } from './open';
import { makeFolder, writeAllWhole } from './paths';

/** Options of `bake`. */
export interface BakeArguments {
  /** Names of those who are baked; all who perform without. */
  readonly character?: readonly string[];
  /** A file, or a folder for one file each. */
  readonly output: string;
  /** Format of the files of a folder. */
  readonly format?: BakeFormatId;
  readonly from?: number;
  readonly to?: number;
  /** Parts of the scene, each a file of a folder, or an animation of one file. */
  readonly part?: readonly BakeSpan[];
  /** The regions as parts; without any, what lies between markers. */
  readonly regions?: boolean;
  readonly rate?: number;
  readonly travel?: 'recorded' | 'in-place';
  readonly inPlace?: boolean;
  readonly keepFacing?: boolean;
  readonly fromOrigin?: boolean;
  readonly leadIn?: number;
  readonly loop?: 'as-it-is' | 'drop-doubled' | 'close';
  readonly keys?: 'every' | 'reduced';
  /** Of reduced keys, millimetres. */
  readonly error?: number;
  readonly interpolation?: KeyInterpolation;
  readonly names?: 'own' | 'roles';
  readonly scale?: number;
  readonly up?: 'y' | 'z';
  /** A file for the arrangement as OpenTimelineIO. */
  readonly otio?: string;
  /** A file for the continuity report, .html or .json. */
  readonly report?: string;
  /** False with `--no-body`. */
  readonly body?: boolean;
  /** False with `--no-cameras`. */
  readonly cameras?: boolean;
}

/** Whether a path is meant as a folder: it is one, or ends like one. */
export const isFolder = (path: string): boolean =>
  path.endsWith('/') || (existsSync(path) && statSync(path).isDirectory());

/** The format of a file by its name; null for one that cannot be written. */
export function formatOf(path: string): BakeFormatId | null {
  const extension = extname(path).slice(1).toLowerCase();
  return BAKE_FORMAT_IDS.find((id) => BAKE_FORMATS[id].extension === extension) ?? null;
}

/**
 * Bakes the performances of a scene to a file, or to one each; says what was written.
 *
 * @param guard refuses a file that must not be written
 */
export async function bakeToFiles(
  opened: Opened,
  args: BakeArguments,
  progress: (share: number) => void,
  guard: (file: string) => Promise<void>,
): Promise<object> {
  const { scene, plan, library } = opened;
  const plans = namedPerformers(opened, args.character);
  const order = orderOf(scene, plans, args);
  const files = plannedFiles(plan, order, library);
  const inFolder = isFolder(args.output);
  if (inFolder) await makeFolder(args.output);
  const pathOf = ({ name }: PlannedFile): string => (inFolder ? join(args.output, name) : args.output);
  for (const file of files) await guard(pathOf(file));
  if (args.report !== undefined) await guard(args.report);
  if (args.otio !== undefined) await guard(args.otio);
  const facts: BakedFacts[] = [];
  const baked = files.map((file, i) => {
    const share = (s: number): void => progress((i + s) / files.length);
    return { path: pathOf(file), content: keptFacts(bakeFile(opened, file, order, share), facts) };
  });
  // The last one, since it tells of the others.
  const report =
    args.report === undefined
      ? []
      : [{ path: args.report, content: reportContent(opened, files, facts, args.report) }];
  const timeline =
    args.otio === undefined
      ? []
      : [{ path: args.otio, content: `${JSON.stringify(otioTimeline(scene, plan, library), null, 2)}\n` }];
  await writeAllWhole([...baked, ...report, ...timeline]);
  return reportOf(
    order,
    files.map((file, i) => ({ path: pathOf(file), file, facts: defined(facts[i]) })),
    inFolder,
  );
}

/** The performances that are asked for by name; all of them without. */
export function namedPerformers(
  { plan }: Opened,
  names: readonly string[] | undefined,
): readonly CharacterPlan[] {
  const hint = `It has ${plan.characters.map((c) => `"${c.character.name}"`).join(', ')}.`;
  if (names === undefined) {
    const performing = plan.characters.filter((c) => c.end > c.start);
    if (performing.length > 0) return performing;
    throw new InputError('no-character', 'Nobody performs in the scene.', { hint });
  }
  return [...new Set(names)].map((name) => {
    const found = plan.characters.find((c) => c.character.name === name);
    if (found) return found;
    throw new InputError('no-character', `The scene has no character "${name}".`, { hint });
  });
}

/** What the options ask for. All files of one bake share their frames, so that they line up; those of a single character are its own. */
export function orderOf(
  scene: Pick<Scene, 'markers' | 'name'>,
  plans: readonly CharacterPlan[],
  args: BakeArguments,
): BakeOrder {
  const inFolder = isFolder(args.output);
  const format = inFolder ? (args.format ?? 'glb') : defined(formatOf(args.output));
  const holds = BAKE_FORMATS[format];
  requireHeld(args, format, inFolder ? 1 : plans.length);
  const spans = spansOf(scene, plans, args);
  if (spans.length > 1 && !inFolder && !holds.holdsTakes) {
    throw new InputError('one-part', `A ${holds.name} holds one part, and ${spans.length} are to be baked.`, {
      hint: `Give a folder: -o bakes/ --format ${format}.`,
    });
  }
  return {
    name: scene.name,
    characters: plans.map((p) => p.character.id),
    spans,
    settings: {
      ...USUAL_BAKE,
      format,
      together: !inFolder && holds.holdsSeveral,
      spansTogether: !inFolder,
      rate: args.rate ?? null,
      travel: args.inPlace === true || args.travel === 'in-place' ? 'in place' : 'recorded',
      keepFacing: args.keepFacing ?? false,
      fromOrigin: args.fromOrigin ?? false,
      leadIn: args.leadIn ?? 0,
      loop: LOOPS[args.loop ?? 'as-it-is'],
      keys: args.keys ?? 'every',
      errorMillimetres: args.error ?? USUAL_BAKE.errorMillimetres,
      interpolation: args.interpolation ?? 'linear',
      withBody: args.body ?? true,
      withCameras: args.cameras ?? true,
      jointNames: args.names ?? 'own',
      unitsPerMetre: args.scale ?? null,
      upAxis: args.up ?? 'y',
    },
  };
}

/** The parts that are asked for: all of it, frames, named parts, or the regions. */
function spansOf(
  scene: Pick<Scene, 'markers'>,
  plans: readonly CharacterPlan[],
  { from, to, part, regions }: BakeArguments,
): readonly BakeSpan[] {
  const end = Math.max(...plans.map((p) => p.end));
  if (regions !== true && !part)
    return [{ name: '', from: from ?? Math.min(...plans.map((p) => p.start)), to: to ?? end }];
  const own = regions === true ? regionSpans(scene, end) : [];
  if (regions === true && own.length === 0)
    throw new InputError('no-regions', 'The scene has no regions and no markers.', {
      hint: 'Name parts with --part, such as --part "0-90 Walk".',
    });
  return [...own, ...(part ?? [])];
}

const LOOPS = { 'as-it-is': 'as it is', 'drop-doubled': 'drop doubled', close: 'close' } as const;

/** Refuses what a format cannot hold, rather than leaving it out unsaid. */
function requireHeld(args: BakeArguments, format: BakeFormatId, characters: number): void {
  const { name, holdsSeveral, holdsKeys, hasUnits } = BAKE_FORMATS[format];
  if (args.scale !== undefined && !hasUnits) {
    throw new InputError('scale', `${name} is always in metres.`, {
      hint: 'Leave --scale out, or bake to BVH.',
    });
  }
  if (args.up === 'z' && !hasUnits) {
    throw new InputError('up', `In ${name} +Y is always up.`, {
      hint: 'Leave --up out, or bake to BVH or USD.',
    });
  }
  if (args.keys === 'reduced' && !holdsKeys) {
    throw new InputError('keys', `${name} has one key a frame.`, {
      hint: 'Leave --keys out, or bake to GLB.',
    });
  }
  if (characters > 1 && !holdsSeveral) {
    throw new InputError(
      'one-character',
      `A ${name} holds one character, and ${characters} are to be baked.`,
      {
        hint: `Name one with --character, or give a folder: -o bakes/ --format ${format}.`,
      },
    );
  }
}

/** Hands a file's content on, and keeps what is known of it at the end. */
async function* keptFacts(
  content: AsyncGenerator<Uint8Array, BakedFacts>,
  facts: BakedFacts[],
): AsyncGenerator<Uint8Array> {
  for (;;) {
    const step = await content.next();
    if (step.done) return void facts.push(step.value);
    yield step.value;
  }
}

/** The continuity report of files that are baked by then. */

async function* reportContent(
  { scene, plan }: Opened,
  files: readonly PlannedFile[],
  facts: readonly BakedFacts[],
  path: string,
): AsyncGenerator<Uint8Array> {
  const reported = files.map((file, i) => reportedFile(file, defined(facts[i])));
  const report = bakeReport(scene, plan, continuityReport(plan), reported);
  const text = /\.json$/i.test(path) ? `${JSON.stringify(report, null, 2)}\n` : reportHtml(report, plan);
  yield new TextEncoder().encode(text);
}

interface Written {
  readonly path: string;
  readonly file: PlannedFile;
  readonly facts: BakedFacts;
}

/** The parts in a file, where there may be several. */
const partsOf = ({ spans }: PlannedFile, frames: readonly number[]): object[] =>
  spans.map((span, i) => ({ ...span, frames: defined(frames[i]) }));

function reportOf(order: BakeOrder, written: readonly Written[], inFolder: boolean): object {
  const toldOf = ({ file, facts: { frames, rate, reduced } }: Written, character: CharacterPlan) => ({
    character: character.character.name,
    frames: defined(frames[0]),
    rate,
    joints: character.skeleton.names.length,
    ...(reduced && file.characters.length === 1 ? { reduced } : {}),
    ...(order.spans.length > 1 ? { parts: partsOf(file, frames) } : {}),
  });
  const files = written.map((w) => ({ file: w.path, ...toldOf(w, defined(w.file.characters[0])) }));
  if (inFolder) return { files };
  const [first] = written;
  if (!first || first.file.characters.length === 1) return defined(files[0]);
  const from = Math.min(...order.spans.map((s) => s.from));
  const to = Math.max(...order.spans.map((s) => s.to));
  const { reduced } = first.facts;
  return {
    file: first.path,
    from,
    to,
    ...(reduced ? { reduced } : {}),
    characters: first.file.characters.map((c) => toldOf(first, c)),
  };
}
