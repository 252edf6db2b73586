import type { Clip, ContinuityItem, Edit, Mend, Plan, RoleMap, Scene } from '@warper/core';
import {
  InputError,
  Memory,
  chooseJoinsSteps,
  clipEntry,
  continuityReport,
  createCompiler,
  mendSteps,
} from '@warper/core';
import {
  MotionLibrary,
  ZipStream,
  bakeFile,
  clipPreview,
  listBody,
  listClip,
  filesBeside,
  packGltf,
  plannedFiles,
  readMotionFile,
  sourceOfId,
  sourcesOfScene,
} from '@warper/formats';
import type { Imported } from '@warper/formats';
import { transfer } from 'comlink';
import type { StoredEntry, StoredFile, StoredMapping } from './kept';
import { bytesOf, storedBytes } from './kept';
import { EXACT, followSegment, rankByEntries } from './followSegment';
import type {
  Answer,
  BakeRequest,
  BakeResult,
  BakeShare,
  BakedFile,
  ChoiceRequest,
  FollowRequest,
  Following,
  MendRequest,
  MotionWorker,
  ReadHow,
  ReadResult,
  StudyRequest,
} from './protocol';
import type { SeamStudy } from './studySeam';
import { studySeam } from './studySeam';

/** Shortest time between two reports of progress, milliseconds. */
const REPORT_EVERY = 50;

/** What the browser keeps of files, as the worker needs it. */
export interface KeptFiles {
  readonly file: (id: string) => Promise<StoredFile | undefined>;
  readonly mappings: () => Promise<readonly StoredMapping[]>;
  /** Gives the clips of a source the user's own steps. */
  readonly applySteps: (to: MotionLibrary, source: string) => Promise<void>;
  /** How the clips of the library begin. */
  readonly entries: () => Promise<readonly StoredEntry[]>;
  /** Some files with clips of which it is not known yet how they begin. */
  readonly filesWithoutEntries: () => Promise<readonly string[]>;
  readonly keepEntries: (entries: readonly StoredEntry[]) => Promise<void>;
}

const NOTHING_NEW = { clips: [], previews: [], entries: [], bodies: [] };

const entryOf = (clip: Clip): StoredEntry => ({ id: clip.id, ...clipEntry(clip, new Memory()) });

/** What the library lists of a file: its clips with their facts and figures, and its bodies. */
function listed(
  { clips, bodies, source }: Imported,
  file: string,
): Pick<ReadResult, 'clips' | 'previews' | 'entries' | 'bodies'> {
  return {
    clips: clips.map((clip, i) => ({
      ...listClip(clip, source, file),
      order: Date.now() + i,
      tags: [],
      collections: [],
    })),
    previews: clips.map((clip) => ({ id: clip.id, ...clipPreview(clip) })),
    entries: clips.map(entryOf),
    bodies: bodies.map((body) => listBody(body, source)),
  };
}

/** Reads, bakes and compares away from the page, from the files that the browser keeps. */
export class MotionDesk implements MotionWorker {
  private library = new MotionLibrary();
  /** Takes over what an edit did not touch. */
  private compiler = createCompiler(this.library);
  /** Which mappings the library was read with. */
  private readWith = '';
  private readonly cancelled = new Set<string>();

  constructor(private readonly kept: KeptFiles) {}

  async read(content: Uint8Array | Blob, file: string, how: ReadHow): Promise<Answer<ReadResult>> {
    const result = await answer(() => this.readFile(content, file, how));
    return result.ok ? transfer(result, buffersOf(result.value)) : result;
  }

  bake(id: string, request: BakeRequest, progress: BakeShare): Promise<Answer<BakeResult>> {
    return answer(() => this.bakeScene(id, request, progress));
  }

  study(
    id: string,
    { scene, segment }: StudyRequest,
    progress: (share: number) => void,
  ): Promise<Answer<SeamStudy>> {
    return answer(async () => {
      await this.open(scene);
      return this.finish(id, studySeam(scene, segment, this.library), progress, 'study');
    });
  }

  choose(
    id: string,
    { scene, segments }: ChoiceRequest,
    progress: (share: number) => void,
  ): Promise<Answer<readonly Edit[]>> {
    return answer(async () => {
      await this.open(scene);
      const steps = chooseJoinsSteps(scene, segments, this.library);
      return (await this.finish(id, steps, progress, 'choice')).edits;
    });
  }

  continuity(scene: Scene): Promise<Answer<readonly ContinuityItem[]>> {
    return answer(async () => continuityReport(await this.planOf(scene)));
  }

  follow({ scene, segment, exactly }: FollowRequest): Promise<Answer<readonly Following[]>> {
    return answer(async () => {
      await this.enterAll(scene);
      const entries = await this.kept.entries();
      const plan = await this.planOf(scene);
      const ranked = rankByEntries(plan, segment, entries);
      if (!exactly) return ranked;
      const best = ranked.slice(0, EXACT).map((f) => f.clip);
      await this.open(scene, [...new Set(best.map(sourceOfId))]);
      return followSegment(this.compiler.compile(scene), segment, ranked, this.clips());
    });
  }

  /** Finds how clips begin that came in before that was kept. */
  private async enterAll(scene: Scene): Promise<void> {
    const sources = await this.kept.filesWithoutEntries();
    if (sources.length === 0) return;
    await this.open(scene, sources);
    const clips = this.clips().filter((clip) => sources.includes(sourceOfId(clip.id)));
    await this.kept.keepEntries(clips.map(entryOf));
  }

  /** The clips of all files that are open. */
  private clips(): Clip[] {
    return this.library.sources().flatMap((s) => s.imported.clips.map((c) => this.library.clip(c.id) ?? c));
  }

  mend(
    id: string,
    { scene, item, sources }: MendRequest,
    progress: (share: number) => void,
  ): Promise<Answer<readonly Mend[]>> {
    return answer(async () => {
      await this.open(scene, sources);
      const clips = this.clips();
      const steps = mendSteps(scene, item, clips, this.library, () => `b${id}`);
      return this.finish(id, steps, progress, 'mend');
    });
  }

  cancel(id: string): void {
    this.cancelled.add(id);
  }

  private async readFile(
    content: Uint8Array | Blob,
    file: string,
    { scale, roles, beside = {}, trial, known = false }: ReadHow,
  ): Promise<ReadResult> {
    const given = await bytesOf({ bytes: content });
    const whole =
      filesBeside(given).length > 0
        ? await packGltf(given, (uri) => beside[uri.replace(/^.*\//, '')])
        : given;
    const { mapped } = await this.keptMappings();
    const imported = await readMotionFile(whole, file, {
      scale,
      roles,
      mapped: (signature) => (signature === trial?.signature ? trial.roles : mapped(signature)),
    });
    const source = imported.source;
    const bytes = imported.converted ?? whole;
    return {
      imported,
      file: {
        id: source,
        file,
        ...(scale === undefined ? {} : { scale }),
        ...(roles === undefined ? {} : { roles }),
        bytes,
        ...blobOf(content, bytes, given),
        addedAt: Date.now(),
      },
      ...(known ? NOTHING_NEW : listed(imported, file)),
    };
  }

  /** Carries out long work in steps that give its finished share. */
  private async finish<T>(
    id: string,
    steps: Generator<number, T>,
    progress: (share: number) => void,
    what: string,
  ): Promise<T> {
    const turn = this.turns(id, progress, what);
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
      await turn(step.value);
    }
  }

  /**
   * What long work calls between its steps: now and then it reports the finished share, and a cancel that came meanwhile gets its turn
   * and ends the work.
   */
  private turns(
    id: string,
    progress: (share: number) => void,
    what: string,
  ): (share: number) => Promise<void> {
    let reported = performance.now();
    return async (share) => {
      if (performance.now() - reported < REPORT_EVERY) return;
      reported = performance.now();
      progress(share);
      await new Promise((resolve) => setTimeout(resolve));
      if (this.cancelled.delete(id)) throw new InputError('cancelled', `The ${what} was cancelled.`);
    };
  }

  /** What the user has mapped by hand, and a word that changes with it. */
  private async keptMappings(): Promise<{
    mapped: (signature: string) => RoleMap | undefined;
    state: string;
  }> {
    const all = new Map((await this.kept.mappings()).map((m) => [m.id, m]));
    const state = [...all.values()].map((m) => `${m.id} ${m.changedAt}`).join();
    return { mapped: (signature) => all.get(signature)?.roles, state };
  }

  /** The plan of a scene. */
  private async planOf(scene: Scene): Promise<Plan> {
    await this.open(scene);
    return this.compiler.compile(scene);
  }

  /** Reads what a scene uses from the files kept in this browser. */
  private async open(scene: Scene, others: readonly string[] = []): Promise<void> {
    const { mapped, state } = await this.keptMappings();
    if (state !== this.readWith) {
      this.library = new MotionLibrary();
      this.compiler = createCompiler(this.library);
    }
    this.readWith = state;
    for (const source of new Set([...sourcesOfScene(scene), ...others])) {
      const stored = await this.kept.file(source);
      if (stored) {
        const { file, scale, roles } = stored;
        await this.library.add(await bytesOf(stored), file, scale, undefined, roles, mapped);
        await this.kept.applySteps(this.library, source);
      }
    }
  }

  private async bakeScene(
    id: string,
    { scene, order }: BakeRequest,
    progress: BakeShare,
  ): Promise<BakeResult> {
    const plan = await this.planOf(scene);
    const planned = plannedFiles(plan, order, this.library);
    const zipped: BlobPart[] = [];
    const zip = new ZipStream((part) => zipped.push(part as Uint8Array<ArrayBuffer>));
    const files: BakedFile[] = [];
    for (const [i, file] of planned.entries()) {
      const turn = this.turns(id, (share) => progress(i, share), 'bake');
      const parts: BlobPart[] = [];
      zip.begin(file.name);
      const content = bakeFile({ plan, library: this.library }, file, order, turn);
      let step = await content.next();
      for (; !step.done; step = await content.next()) {
        parts.push(step.value as Uint8Array<ArrayBuffer>);
        if (planned.length > 1) zip.push(step.value);
      }
      zip.end();
      files.push({ name: file.name, file: new Blob(parts), facts: step.value });
      progress(i, 1);
    }
    zip.finish();
    return { files, zip: planned.length > 1 ? new Blob(zipped) : null };
  }
}

async function answer<T>(work: () => Promise<T>): Promise<Answer<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (error) {
    const e = error as Error;
    const cached = error instanceof InputError ? error : null;
    return {
      ok: false,
      error: {
        name: e.name,
        code: cached?.code ?? 'unexpected',
        message: e.message,
        place: { ...cached?.place },
        hint: cached?.hint ?? '',
      },
    };
  }
}

/** A large file as a blob: the one that was given, unless it was packed with the files beside it. */
function blobOf(content: Uint8Array | Blob, bytes: Uint8Array, given: Uint8Array): { blob?: Blob } {
  if (content instanceof Blob && bytes === given) return { blob: content };
  const kept = storedBytes(bytes);
  return kept instanceof Blob ? { blob: kept } : {};
}

/** The big arrays of what was read: they are handed over, not copied. */
function buffersOf({ imported, file, previews, entries }: ReadResult): ArrayBuffer[] {
  const arrays = [
    file.bytes,
    ...imported.clips.flatMap((c) => [c.rotations, c.translations]),
    ...previews.map((p) => p.places),
    ...entries.map((e) => e.features),
  ];
  return [...new Set(arrays.map((a) => a.buffer as ArrayBuffer))];
}
