import type { PayloadAction } from '@reduxjs/toolkit';
import { createSlice } from '@reduxjs/toolkit';
import type { Scene } from '@warper/core';
import { applyDifferences } from '@warper/core';
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
} as SceneState;

/** An edit that was carried out. */
export interface Done {
  readonly document: Scene;
  readonly entry: HistoryEntry;
}

const slice = createSlice({
  name: 'scene',
  initialState,
  reducers: {
    opened: (_, { payload }: PayloadAction<StoredScene>): SceneState => ({
      ...initialState,
      id: payload.id,
      document: payload.document,
      past: payload.past,
      future: payload.future,
    }),
    closed: (): SceneState => initialState,
    drafted: (state, { payload }: PayloadAction<Scene | null>): SceneState => ({
      ...(state as SceneState),
      draft: payload,
    }),
    edited: (state, { payload }: PayloadAction<Done>): SceneState => ({
      ...(state as SceneState),
      document: payload.document,
      draft: null,
      past: [...(state.past as readonly HistoryEntry[]), payload.entry].slice(-HISTORY_LENGTH),
      future: [],
      save: 'saving',
    }),
    undone: (state): SceneState => {
      const s = state as SceneState;
      const entry = s.past.at(-1);
      if (!entry || !s.document) return s;
      return {
        ...s,
        document: applyDifferences(s.document, entry.inverse),
        draft: null,
        past: s.past.slice(0, -1),
        future: [entry, ...s.future],
        save: 'saving',
      };
    },
    redone: (state): SceneState => {
      const s = state as SceneState;
      const entry = s.future[0];
      if (!entry || !s.document) return s;
      return {
        ...s,
        document: applyDifferences(s.document, entry.patches),
        draft: null,
        past: [...s.past, entry],
        future: s.future.slice(1),
        save: 'saving',
      };
    },
    saved: (state, { payload }: PayloadAction<SaveState>): SceneState => ({
      ...(state as SceneState),
      save: payload,
    }),
  },
});

export const sceneActions = slice.actions;
export const sceneReducer = slice.reducer;
