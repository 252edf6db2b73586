import type { ContinuityItem, Edit, Mend, MendableItem, RoleMap, Scene } from '@warper/core';
import type { BakeOrder, BakedFacts, Imported } from '@warper/formats';
import type { SeamStudy } from './studySeam';
import type { StoredBody, StoredClip, StoredEntry, StoredFile, StoredPreview } from './kept';

/** A file that was read and measured; `stored` is what the library keeps of it. */
export interface ReadResult {
  readonly imported: Imported;
  readonly file: StoredFile & {
    readonly bytes: Uint8Array;
    /** The same as a blob, of a large file: made in the worker, for the page would stand still while it is copied. */
    readonly blob?: Blob;
  };
  readonly clips: readonly StoredClip[];
  readonly previews: readonly StoredPreview[];
  readonly entries: readonly StoredEntry[];
  readonly bodies: readonly StoredBody[];
}

/** How a file is read. */
export interface ReadHow {
  /** Metres for one unit. */
  readonly scale?: number;
  /** Roles that it is read with as a source of its own. */
  readonly roles?: RoleMap;
  /** Files that lie beside a .gltf, by name; it is packed with them. */
  readonly beside?: Readonly<Record<string, Uint8Array>>;
  /** Whether it is only to be opened: facts, figures and bodies are known already, and are left out. */
  readonly known?: boolean;
  /** Roles on trial for a skeleton, in place of what is kept for it. */
  readonly trial?: { readonly signature: string; readonly roles: RoleMap };
}

/** What is to be baked. */
export interface BakeRequest {
  readonly scene: Scene;
  readonly order: BakeOrder;
}

/** The seam that is to be studied. */
export interface StudyRequest {
  readonly scene: Scene;
  /** The incoming segment. */
  readonly segment: string;
}

/** The joins that are to be chosen, in order. */
export interface ChoiceRequest {
  readonly scene: Scene;
  /** The incoming segments. */
  readonly segments: readonly string[];
}

/** Something that was measured and is to be mended. */
export interface MendRequest {
  readonly scene: Scene;
  readonly item: MendableItem;
  /** Files whose clips may be put between two that do not join. */
  readonly sources: readonly string[];
}

/** The segment that clips are to follow. */
export interface FollowRequest {
  readonly scene: Scene;
  readonly segment: string;
  /** Whether the best are compared exactly, which reads their files; else all are ranked by how they begin. */
  readonly exactly: boolean;
}

/** How well a clip follows: its id, and the distance of the best pair of frames; null where only its rank was looked at. */
export interface Following {
  readonly clip: string;
  readonly distanceCm: number | null;
}

/** A baked file and what it holds. */
export interface BakedFile {
  readonly name: string;
  /** What was written; the browser may keep a large one on the disk. */
  readonly file: Blob;
  readonly facts: BakedFacts;
}

/** Everything that a bake has made. */
export interface BakeResult {
  readonly files: readonly BakedFile[];
  /** All of them as one archive, where there are several. */
  readonly zip: Blob | null;
}

/** How far a bake is: which of its files is made, and the share of it that is finished. */
export type BakeShare = (file: number, share: number) => void;

/** An error that has crossed from a worker, with everything that its reader needs. */
export interface PlainError {
  readonly name: string;
  readonly code: string;
  readonly message: string;
  readonly place: Record<string, unknown>;
  readonly hint: string;
}

/** An answer from a worker: a value or an error; exceptions would lose code and place on the way. */
export type Answer<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: PlainError };

/** What the motion worker does. */
export interface MotionWorker {
  /** Reads and measures a file; a large one is given as a blob, and read by the worker alone. */
  read(content: Uint8Array | Blob, file: string, how: ReadHow): Promise<Answer<ReadResult>>;
  /** Bakes from the files kept in this browser. */
  bake(id: string, request: BakeRequest, progress: BakeShare): Promise<Answer<BakeResult>>;
  /** Compares the moments around the seam before a segment; `progress` gets the finished share. */
  study(id: string, request: StudyRequest, progress: (share: number) => void): Promise<Answer<SeamStudy>>;
  /** Chooses joins by what they measure: the edits that make them so, in order. */
  choose(
    id: string,
    request: ChoiceRequest,
    progress: (share: number) => void,
  ): Promise<Answer<readonly Edit[]>>;
  /** Everything that is measured in a scene, worst first. */
  continuity(scene: Scene): Promise<Answer<readonly ContinuityItem[]>>;
  /** Finds what makes something that was measured better; null where nothing does. */
  mend(id: string, request: MendRequest, progress: (share: number) => void): Promise<Answer<readonly Mend[]>>;
  /** Ranks clips by how well they follow a segment, best first. */
  follow(request: FollowRequest): Promise<Answer<readonly Following[]>>;
  /** Stops a bake, a comparison or a choice; its call then answers with the code `cancelled`. */
  cancel(id: string): void;
}
