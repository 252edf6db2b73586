import type { PayloadAction } from '@reduxjs/toolkit';
import { createSlice } from '@reduxjs/toolkit';
import type { Scene } from '@warper/core';
import { castDraft } from 'immer';
import type { HistoryEntry, StoredScene } from '../storage/db';

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
  readonly save: SaveState;
  /** Why the last save failed, in words; null where it did not. */
  readonly trouble: string | null;
  /** Whether another tab changes this scene, and this one only follows. */
  readonly elsewhere: boolean;
}

/** Steps of undo that are kept. */
const HISTORY_LENGTH = 500;

const initialState = {
  id: null,
  document: null,
  draft: null,
  past: [],
  future: [],
  save: 'saved',
  trouble: null,
  elsewhere: false,
} as SceneState;

/** An edit that was carried out. */
export interface Done {
  readonly document: Scene;
  readonly entry: HistoryEntry;
}

/** A step along the history. */
export type Stepped = Pick<SceneState, 'past' | 'future'> & { readonly document: Scene };

// Documents are put in and taken out whole: the core makes them, and nothing here looks inside.
const slice = createSlice({
  name: 'scene',
  initialState,
  reducers: {
    opened: (_, { payload }: PayloadAction<StoredScene>) =>
      castDraft({
        ...initialState,
        id: payload.id,
        document: payload.document,
        past: payload.past,
        future: payload.future,
      }),
    closed: () => castDraft(initialState),
    drafted: (state, { payload }: PayloadAction<Scene | null>) => {
      state.draft = castDraft(payload);
    },
    edited: (state, { payload }: PayloadAction<Done>) => {
      state.document = castDraft(payload.document);
      state.draft = null;
      state.past.push(castDraft(payload.entry));
      state.past.splice(0, state.past.length - HISTORY_LENGTH);
      state.future = [];
      state.save = 'saving';
    },
    stepped: (state, { payload }: PayloadAction<Stepped>) => {
      state.document = castDraft(payload.document);
      state.draft = null;
      state.past = castDraft(payload.past) as typeof state.past;
      state.future = castDraft(payload.future) as typeof state.future;
      state.save = 'saving';
    },
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
      state.past = castDraft(payload.past) as typeof state.past;
      state.future = castDraft(payload.future) as typeof state.future;
    },
  },
});

export const sceneActions = slice.actions;
export const sceneReducer = slice.reducer;
