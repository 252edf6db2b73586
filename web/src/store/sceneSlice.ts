import type { PayloadAction } from '@reduxjs/toolkit';
import { createSlice } from '@reduxjs/toolkit';
import type { Scene } from '@warper/core';
import type { Draft } from 'immer';
import { castDraft, original } from 'immer';
import type { WithHistory } from '../data/changes';
import { afterAmend, afterEdit, afterRedo, afterUndo } from '../data/changes';
import type { HistoryEntry, StoredScene } from '../data/db';

/** How far the open scene is kept. */
export type SaveState = 'saved' | 'saving' | 'failed';

/** The open document with its history. */
export interface SceneState {
  readonly id: string | null;
  readonly document: Scene | null;
  /** What the document would be if the drag in hand ended now; never kept. */
  readonly draft: Scene | null;
  readonly past: readonly HistoryEntry[];
  readonly future: readonly HistoryEntry[];
  /** Number of the last change of the document, from 1; 0 for a new scene. */
  readonly changes: number;
  readonly save: SaveState;
  /** Why the last save failed, in words; null where it did not. */
  readonly trouble: string | null;
  /** Whether another tab changes this scene, and this one only follows. */
  readonly elsewhere: boolean;
}

const initialState = {
  id: null,
  document: null,
  draft: null,
  past: [],
  future: [],
  changes: 0,
  save: 'saved',
  trouble: null,
  elsewhere: false,
} as SceneState;

/** An edit that was carried out. */
export interface Done {
  readonly document: Scene;
  readonly entry: HistoryEntry;
}

/** The state after a change of the document that has still to be kept. */
const changed = (state: SceneState, next: WithHistory): SceneState => ({
  ...state,
  ...next,
  draft: null,
  changes: state.changes + 1,
  save: 'saving',
});

/** The open document with its history; null where none is open. */
const withHistory = ({ document, past, future }: SceneState): WithHistory | null =>
  document && { document, past, future };

const plain = (state: Draft<SceneState>): SceneState => original<SceneState>(state) ?? state;

/** The state a step along the history; as it was where there is none. */
function stepped(state: SceneState, step: (scene: WithHistory) => WithHistory | null): Draft<SceneState> {
  const scene = withHistory(state);
  const next = scene && step(scene);
  return castDraft(next ? changed(state, next) : state);
}

// Documents are put in and taken out whole: the core makes them, and nothing here looks inside.
const slice = createSlice({
  name: 'scene',
  initialState,
  reducers: {
    opened: (_, { payload }: PayloadAction<StoredScene>) => {
      const { id, document, past, future, changes } = payload;
      return castDraft({ ...initialState, id, document, past, future, changes });
    },
    closed: () => castDraft(initialState),
    drafted: (state, { payload }: PayloadAction<Scene | null>) => {
      state.draft = castDraft(payload);
    },
    edited: (state, { payload }: PayloadAction<Done>) => {
      const scene = withHistory(plain(state));
      return castDraft(
        scene ? changed(plain(state), afterEdit(scene, payload.document, payload.entry)) : plain(state),
      );
    },
    /** What follows from the last edit, and is taken back with it. */
    amended: (state, { payload }: PayloadAction<Done>) => {
      const scene = withHistory(plain(state));
      const next = scene && afterAmend(scene, payload.document, payload.entry);
      return castDraft(next ? changed(plain(state), next) : plain(state));
    },
    undone: (state) => stepped(plain(state), afterUndo),
    redone: (state) => stepped(plain(state), afterRedo),
    saved: (state) => {
      state.save = 'saved';
      state.trouble = null;
    },
    saveFailed: (state, { payload }: PayloadAction<string>) => {
      state.save = 'failed';
      state.trouble = payload;
    },
    heldElsewhere: (state, { payload }: PayloadAction<boolean>) => {
      state.elsewhere = payload;
      state.draft = null;
    },
    /** The scene as another tab has changed it. */
    followed: (state, { payload }: PayloadAction<StoredScene>) => {
      if (payload.id !== state.id) return;
      state.document = castDraft(payload.document);
      state.past = castDraft(payload.past);
      state.future = castDraft(payload.future);
      state.changes = payload.changes;
    },
  },
});

export const sceneActions = slice.actions;
export const sceneReducer = slice.reducer;
