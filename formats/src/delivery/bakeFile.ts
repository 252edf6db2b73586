import type { CharacterPlan, Clip, MotionPieces, Plan } from '@warper/core';
import { bakeCamera, bakePieces, bakeSteps, loopClip, piecesOf, plantedSpans } from '@warper/core';
import { BvhText } from '../bvh/write';
import { csvHead, csvRows } from '../csv/write';
import { textGltf } from '../gltf/textGltf';
import type { KeyChoice, MotionTracks, WrittenMotion } from '../gltf/motionTracks';
import type { FilmedTakes } from '../gltf/cameras';
import type { GltfSource, Performer } from '../gltf/write';
import { glbOfPerformers } from '../gltf/write';
import type { Body } from '../imported';
import { joinBytes } from '../joinBytes';
import type { MotionLibrary, Source } from '../library';
import { usdz } from '../usd/usdz';
import type { UsdPerformer } from '../usd/write';
import { usdParts } from '../usd/write';
import { vrmaParts } from '../vrm/write';
import type { BakeOrder, PlannedFile } from './plannedFiles';
import type { BakeFormatId, BakeSettings, BakeSpan } from './settings';
import { holdsCameras } from './settings';

/** What a bake needs beside the file that it writes. */
export interface BakeSource {
  readonly plan: Plan;
  readonly library: MotionLibrary;
}

/** Gets the finished share of a file; what it throws, or rejects with, ends the bake. */
export type BakeProgress = (share: number) => void | Promise<void>;

/** What became of a file. */
export interface BakedFacts {
  /** Samples of each take. */
  readonly frames: readonly number[];
  readonly rate: number;
  readonly joints: number;
  readonly bytes: number;
  /** Keys of all tracks, and the furthest that a joint comes off its place, where keys were left out; else null. */
  readonly reduced: { readonly keys: number; readonly of: number; readonly errorMillimetres: number } | null;
}

/** Formats that a motion is made for as a whole: a table says where the root is, which is calmed over time. */
const IN_ONE: ReadonlySet<BakeFormatId> = new Set(['csv', 'vrma']);

/** Rows of a table that are made at once. */
const ROWS = 256;

/** Of a file's time, what goes into computing the motion; the rest makes keys fewer, or writes it. */
const COMPUTING = { every: 0.9, reduced: 0.2 } as const;

/**
 * Bakes a planned file: its content in parts that follow each other, and at the end what became of it. A motion that is written sample
 * by sample is there one piece at a time.
 */
export async function* bakeFile(
  { plan, library }: BakeSource,
  file: PlannedFile,
  order: Pick<BakeOrder, 'name' | 'settings'>,
  progress: BakeProgress,
): AsyncGenerator<Uint8Array, BakedFacts> {
  const { settings } = order;
  const takes = file.characters.length * file.spans.length;
  const computing = COMPUTING[settings.keys];
  let done = 0;
  const motions: WrittenMotion[][] = [];
  for (const character of file.characters) {
    const own: WrittenMotion[] = [];
    for (const span of file.spans) {
      const before = done++;
      const share = (s: number): void | Promise<void> => progress(((before + s) / takes) * computing);
      own.push(await motionOf(plan, character, span, settings, share));
    }
    motions.push(own);
  }
  const entries = file.characters.map((c) => library.bodyEntry(c.character.body));
  const writing = (share: number): void | Promise<void> => progress(computing + share * (1 - computing));
  const job: Job = { file, order, motions, entries, cameras: camerasOf(plan, file, settings), writing };
  const counted = { bytes: 0 };
  const reduced = { keys: 0, of: 0, errorMillimetres: 0 };
  for await (const part of partsOf(job, reduced)) {
    counted.bytes += part.length;
    yield part;
  }
  await progress(1);
  return {
    frames: motions[0]?.map((m) => m.frames) ?? [],
    rate: file.rate,
    joints: file.joints,
    ...counted,
    reduced: settings.keys === 'reduced' && reduced.keys > 0 ? reduced : null,
  };
}

/** A character's motion over a span, as it goes into the file: in pieces, or whole where its end or its keys depend on all of it. */
async function motionOf(
  plan: Plan,
  character: CharacterPlan,
  { from, to }: BakeSpan,
  settings: BakeSettings,
  progress: BakeProgress,
): Promise<WrittenMotion> {
  const { format, travel, keepFacing, fromOrigin, leadIn, loop, keys } = settings;
  const rate = settings.rate ?? undefined;
  const options = { from, to, rate, travel, keepFacing, fromOrigin, leadIn };
  if (loop === 'as it is' && keys === 'every' && !IN_ONE.has(format))
    return withProgress(bakePieces(character, plan.rate, options), progress);
  const steps = bakeSteps(character, plan.rate, options);
  for (;;) {
    const step = steps.next();
    if (!step.done) {
      await progress(step.value);
      continue;
    }
    const clip = loopClip(step.value, loop);
    return keys === 'every' ? piecesOf(clip) : { ...piecesOf(clip), exact: plantedSpans(clip) };
  }
}

/** A motion that reports how much of it has been computed. */
function withProgress(motion: MotionPieces, progress: BakeProgress): MotionPieces {
  async function* pieces(): AsyncGenerator<Clip> {
    let done = 0;
    for await (const piece of motion.pieces()) {
      yield piece;
      done += piece.frames;
      await progress(done / motion.frames);
    }
  }
  return { ...motion, pieces };
}

interface Job {
  readonly file: PlannedFile;
  readonly order: Pick<BakeOrder, 'name' | 'settings'>;
  /** By character and take. */
  readonly motions: readonly (readonly WrittenMotion[])[];
  readonly entries: readonly ({ readonly body: Body; readonly source: Source } | undefined)[];
  readonly cameras: readonly FilmedTakes[];
  /** Gets the share of the writing. */
  readonly writing: BakeProgress;
}

async function* partsOf(job: Job, reduced: Sum): AsyncGenerator<Uint8Array> {
  const { settings } = job.order;
  const [motion] = job.motions[0] ?? [];
  if (!motion) return;
  const names = jointNames(motion, settings);
  switch (settings.format) {
    case 'glb':
      yield* await glbParts(job, reduced);
      return;
    case 'gltf':
      yield textGltf(joinBytes(await glbParts(job, reduced)));
      return;
    case 'vrma':
      yield* await vrmaOf(job, reduced);
      return;
    case 'usda':
      yield* usdOf(job);
      return;
    case 'usdz':
      yield usdz(joinBytes(await allOf(usdOf(job))), job.file.name.replace(/\.usdz$/, ''));
      return;
    case 'bvh': {
      const layout = job.entries[0]?.body.layout;
      const text = new BvhText(motion, {
        layout: layout?.kind === 'bvh' ? layout : undefined,
        unitsPerMetre: settings.unitsPerMetre ?? undefined,
        names,
        upAxis: settings.upAxis,
      });
      yield encode(text.head());
      for await (const piece of motion.pieces()) yield encode(text.rows(piece));
      return;
    }
    case 'csv': {
      yield encode(csvHead(names ?? motion.skeleton.names, settings.upAxis));
      for await (const clip of motion.pieces())
        for (let first = 0; first < clip.frames; first += ROWS)
          yield encode(
            csvRows(
              clip,
              first,
              Math.min(first + ROWS, clip.frames),
              settings.unitsPerMetre ?? 1,
              settings.upAxis,
            ),
          );
    }
  }
}

/** What is left of keys, summed up over a file. */
interface Sum {
  keys: number;
  of: number;
  errorMillimetres: number;
}

const adder =
  (sum: Sum) =>
  ({ keys, of, errorMetres }: MotionTracks): void => {
    sum.keys += keys;
    sum.of += of;
    sum.errorMillimetres = Math.max(sum.errorMillimetres, errorMetres * 1000);
  };

/** What the takes of a file are called: as their spans, or one alone as who performs it. */
function takeNames({ file, order }: Job): string[] {
  const [only] = file.characters;
  const whole = file.characters.length === 1 && only ? only.character.name : order.name;
  return file.spans.map((span) => (file.spans.length > 1 ? span.name : whole));
}

const keyChoice = ({ keys, errorMillimetres, interpolation }: BakeSettings): KeyChoice =>
  keys === 'every' ? 'every' : { errorMetres: errorMillimetres / 1000, interpolation };

async function vrmaOf(job: Job, reduced: Sum): Promise<Uint8Array[]> {
  const names = takeNames(job);
  const takes: { name: string; clip: Clip }[] = [];
  for (const motion of job.motions[0] ?? [])
    for await (const clip of motion.pieces()) takes.push({ name: names[takes.length] ?? clip.name, clip });
  const keys = keyChoice(job.order.settings);
  return vrmaParts(takes, { keys, progress: job.writing, onTracks: adder(reduced) });
}

function usdOf({ file, order, motions, entries, cameras }: Job): AsyncGenerator<Uint8Array> {
  const performers = file.characters.flatMap(({ character }, i): UsdPerformer[] => {
    const [motion] = motions[i] ?? [];
    if (!motion) return [];
    const source = sourceOf(entries[i], order.settings);
    return [{ name: character.name, motion, source, jointNames: jointNames(motion, order.settings) }];
  });
  const { unitsPerMetre, upAxis } = order.settings;
  const filmed = cameras.flatMap(({ takes }) => takes.slice(0, 1));
  return usdParts(performers, order.name, { unitsPerMetre: unitsPerMetre ?? 1, upAxis, cameras: filmed });
}

async function allOf(parts: AsyncIterable<Uint8Array>): Promise<Uint8Array[]> {
  const all: Uint8Array[] = [];
  for await (const part of parts) all.push(part);
  return all;
}

/** A body's own file, where its mesh goes with it. */
function sourceOf(entry: Job['entries'][number], { withBody }: BakeSettings): GltfSource | undefined {
  const layout = entry?.body.layout;
  return withBody && entry && layout?.kind === 'gltf' ? { bytes: entry.source.bytes, layout } : undefined;
}

function glbParts(job: Job, reduced: Sum): Promise<Uint8Array[]> {
  const { file, order, motions, entries, cameras, writing } = job;
  const { settings } = order;
  const performers = file.characters.map(({ character }, i): Performer => {
    const takes = motions[i] ?? [];
    return {
      name: character.name,
      takes,
      source: sourceOf(entries[i], settings),
      jointNames: takes[0] && jointNames(takes[0], settings),
    };
  });
  return glbOfPerformers(performers, {
    scene: order.name,
    takes: takeNames(job),
    keys: keyChoice(settings),
    cameras,
    progress: writing,
    onTracks: adder(reduced),
  });
}

/**
 * The cameras of a file: all of the scene, where those who perform are where they are in the scene and all of their frames are there, so that the
 * cameras fit them.
 */
function camerasOf(plan: Plan, { spans, rate }: PlannedFile, settings: BakeSettings): FilmedTakes[] {
  if (!holdsCameras(settings)) return [];
  return plan.filming.cameras.map((camera) => ({
    name: camera.name,
    takes: spans.map(({ from, to }) => bakeCamera(plan, camera, { from: from - settings.leadIn, to }, rate)),
  }));
}

/** Names by roles, for joints that have one; undefined where the skeleton's own are kept. */
const jointNames = ({ skeleton }: MotionPieces, settings: BakeSettings): readonly string[] | undefined =>
  settings.jointNames === 'own' ? undefined : skeleton.names.map((name, j) => skeleton.roles[j] ?? name);

const encoder = new TextEncoder();
const encode = (text: string): Uint8Array => encoder.encode(text);
