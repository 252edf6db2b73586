import type { Clip, ClipFacts, LoopCandidate } from '@warper/core';
import { Memory, clipFacts, findLoops, legsOf, restHeight } from '@warper/core';
import type { Body } from './imported';

/** What is known of a clip without reading its file. */
export interface ListedClip {
  readonly id: string;
  /** Source that it is in. */
  readonly source: string;
  /** Name of the file that it came in. */
  readonly file: string;
  readonly name: string;
  readonly facts: ClipFacts;
  /** Parts that repeat, best first; missing for long clips, which are looked through when it is asked for. */
  readonly loops?: readonly LoopCandidate[];
}

/** Samples up to which a clip is looked through for loops as it comes in; that takes as long as all else together. */
const MOST_SAMPLES = 900;

/** Folders of a library that a file is in; they serve as tags. */
export const foldersOf = (file: string): string[] => file.split('/').slice(0, -1);

/** What is known of a body without reading its file. */
export interface ListedBody {
  readonly id: string;
  readonly source: string;
  readonly name: string;
  /** Tells its skeleton from others; missing where it was kept before skeletons were told apart. */
  readonly signature?: string;
  readonly joints: number;
  readonly skinned: boolean;
  /** How many legs it has; missing where it was kept before that was asked. */
  readonly legs?: number;
  readonly heightMetres: number;
}

/** Measures a clip for a list. */
export function listClip(clip: Clip, source: string, file: string): ListedClip {
  const memory = new Memory();
  return {
    id: clip.id,
    source,
    file,
    name: clip.name,
    facts: clipFacts(clip, memory),
    ...(clip.frames <= MOST_SAMPLES ? { loops: findLoops(clip, undefined, memory) } : {}),
  };
}

/** Describes a body for a list. */
export const listBody = (body: Body, source: string): ListedBody => ({
  id: body.id,
  source,
  name: body.name,
  signature: body.signature,
  joints: body.skeleton.names.length,
  skinned: body.skinned,
  legs: legsOf(body.skeleton).length,
  heightMetres: restHeight(body.skeleton),
});

/** How a library server stands. */
export interface ServerState {
  readonly clips: number;
  /** Files that wait to be read. */
  readonly waiting: number;
  /** The first of the files that could not be read, and why. */
  readonly problems: readonly { readonly file: string; readonly message: string }[];
  readonly problemCount: number;
}

/** A page of clips that a library server found. */
export interface ClipPage {
  readonly total: number;
  /** From 1. */
  readonly page: number;
  readonly per: number;
  readonly clips: readonly ListedClip[];
}
