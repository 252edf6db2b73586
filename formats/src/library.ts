import type { Clip, Library, OwnSteps, RoleMap, Skeleton } from '@warper/core';
import { InputError, Memory, withOwnSteps } from '@warper/core';
import { sourceOfId } from './hash';
import type { Body, Imported, ReadOptions } from './imported';
import { readMotionFile } from './read';
import type { SoundFile } from './sound/soundFile';

/** A source file in memory: its bytes as they came, and what was read from them. */
export interface Source {
  readonly file: string;
  readonly bytes: Uint8Array;
  readonly scale?: number;
  readonly roles?: RoleMap;
  readonly imported: Imported;
}

/** Source files, and the clips and bodies in them by id. */
export class MotionLibrary implements Library {
  readonly memory = new Memory();
  private changes = 0;
  private readonly bySource = new Map<string, Source>();
  private readonly clips = new Map<string, Clip>();
  /** Of the clips that have the user's own steps, those steps as text. */
  private readonly ownSteps = new Map<string, string>();
  private readonly bodies = new Map<string, { body: Body; source: Source }>();
  private readonly soundFiles = new Map<string, SoundFile>();

  /** @param roles the user's own roles of joints, for every file that is read */
  constructor(private readonly roles?: RoleMap) {}

  /** Changes whenever a clip or body comes, goes, or is read anew. */
  get version(): number {
    return this.changes;
  }

  /** Reads a file and keeps it; the same content is read once. */
  async add(
    bytes: Uint8Array,
    file: string,
    scale?: number,
    beside?: (uri: string) => Uint8Array | undefined,
    roles = this.roles,
    mapped?: ReadOptions['mapped'],
  ): Promise<Source> {
    const imported = await readMotionFile(bytes, file, { scale, beside, roles, mapped });
    return this.keep({ file, bytes: imported.converted ?? bytes, scale, roles, imported });
  }

  /** Keeps a file that was read already. */
  keep(source: Source): Source {
    const kept = this.bySource.get(source.imported.source);
    if (kept) return kept;
    this.bySource.set(source.imported.source, source);
    for (const clip of source.imported.clips) this.clips.set(clip.id, clip);
    for (const body of source.imported.bodies) this.bodies.set(body.id, { body, source });
    this.changes++;
    return source;
  }

  /** Lets go of a source, so that it can be read anew. */
  forget(id: string): void {
    const source = this.bySource.get(id);
    if (!source) return;
    this.bySource.delete(id);
    for (const clip of source.imported.clips) {
      this.clips.delete(clip.id);
      this.ownSteps.delete(clip.id);
    }
    for (const body of source.imported.bodies) this.bodies.delete(body.id);
    this.changes++;
  }

  /**
   * Gives a clip the user's own steps in place of those that are found; undefined goes back to these.
   *
   * @throws InputError `steps` where a joint is not one that can be planted
   */
  setSteps(id: string, steps: OwnSteps | undefined): void {
    const match = this.foundClip(id);
    const content = steps && JSON.stringify(steps);
    if (!match || this.ownSteps.get(id) === content) return;
    this.clips.set(id, steps ? withOwnSteps(match, steps, this.memory) : match);
    this.changes++;
    if (content === undefined) this.ownSteps.delete(id);
    else this.ownSteps.set(id, content);
  }

  /** A clip with the steps that are found in it, whatever the user's own are. */
  foundClip(id: string): Clip | undefined {
    return this.bySource.get(sourceOfId(id))?.imported.clips.find((c) => c.id === id);
  }

  readonly clip = (id: string): Clip | undefined => this.clips.get(id);
  readonly body = (id: string): Skeleton | undefined => this.bodies.get(id)?.body.skeleton;

  /** A body with the file that it came from. */
  bodyEntry(id: string): { body: Body; source: Source } | undefined {
    return this.bodies.get(id);
  }

  /** Keeps a sound file; the same content is kept once. */
  keepSound(sound: SoundFile): SoundFile {
    const kept = this.soundFiles.get(sound.id);
    if (!kept) this.soundFiles.set(sound.id, sound);
    return kept ?? sound;
  }

  sounds(): SoundFile[] {
    return [...this.soundFiles.values()];
  }

  sources(): Source[] {
    return [...this.bySource.values()];
  }

  /** The body that a clip was recorded on. */
  bodyOfClip(clip: Clip): Body {
    for (const { body } of this.bodies.values()) if (body.skeleton === clip.skeleton) return body;
    throw new InputError('missing-body', `The body of the clip ${clip.name} is not in the library.`);
  }
}
