import type { Alternate, AlternateScope, CharacterSpan, Compiler, Scene } from '@warper/core';
import { alternateInHand, alternatesOf, differingSpans, reconcile, versionOf } from '@warper/core';
import { createSelector } from '@reduxjs/toolkit';
import { besideCompiler, library } from '../data/pageLibrary';
import type { Compiled } from './plan';
import { compileScene } from './plan';
import type { RootState } from './store';

/** An alternate as it would be performed. */
export interface Version extends Compiled {
  readonly alternate: Alternate;
  readonly scene: Scene;
}

/** An alternate that was compiled, with what it was compiled from and by. */
interface Kept {
  readonly document: Scene;
  readonly libraryVersion: number;
  readonly compiler: Compiler;
  readonly version: Version;
}

/** What was compiled last of each alternate; made again where the document has changed, with whatever stayed of it. */
const kept = new Map<string, Kept>();

/** An alternate of the open scene other than the one in hand, compiled; null where there is none with that id. */
export function versionNow(state: RootState, id: string): Version | null {
  const { document } = state.scene;
  const { libraryVersion } = state.session;
  const alternate = document?.alternates[id];
  if (!document || !alternate?.differences) {
    kept.delete(id);
    return null;
  }
  const before = kept.get(id);
  if (before?.document === document && before.libraryVersion === libraryVersion) return before.version;
  const made = versionOf(document, alternate);
  const scene = before ? reconcile(before.version.scene, made) : made;
  const compiler = before?.compiler ?? besideCompiler();
  const same = before?.version.scene === scene && before.libraryVersion === libraryVersion;
  const compiled = same ? before.version : compileScene(scene, compiler);
  const version =
    same && before.version.alternate === alternate
      ? before.version
      : { alternate, scene, plan: compiled.plan, error: compiled.error };
  kept.set(id, { document, libraryVersion, compiler, version });
  return version;
}

const NONE: readonly never[] = [];

/** The alternates of the open scene in their order. */
export const selectAlternates = createSelector(
  [(state: RootState) => state.scene.document],
  (document): readonly Alternate[] => (document ? alternatesOf(document) : NONE),
);

/** The alternate that is the scene in hand. */
export const selectInHand = (state: RootState): Alternate | undefined =>
  state.scene.document ? alternateInHand(state.scene.document) : undefined;

/** The alternates that are seen beside the one in hand; to be compared entry by entry. */
export const besidesNow = (state: RootState): readonly Version[] =>
  state.session.besides.flatMap((id) => versionNow(state, id) ?? []);

/** Where the open scene may differ from its other alternates, or does. */
export interface Sheets {
  readonly scope: AlternateScope | null;
  readonly spans: readonly CharacterSpan[];
}

/** What of the open scene is the one in hand's own: where it may differ, and where it differs from any other. */
export const selectSheets = createSelector(
  [(state: RootState) => state.scene.document],
  (document): Sheets | null => {
    const inHand = document && alternateInHand(document);
    if (!document || !inHand) return null;
    const others = alternatesOf(document).filter((a) => a.differences);
    const here = versionOf(document, inHand);
    const spans = others.flatMap((a) => differingSpans(here, versionOf(document, a), library));
    return { scope: inHand.scope, spans };
  },
);
