import { createSelector } from '@reduxjs/toolkit';
import type { Scene } from '@warper/core';
import { emptyScene } from '@warper/core';
import { compileScene } from './plan';
import type { RootState } from './store';

const nothing = emptyScene('');

/** The scene as it is shown: with the drag in hand, if there is one. */
export const selectPreviewScene = (state: RootState): Scene =>
  state.scene.draft ?? state.scene.document ?? nothing;

/** The compiled scene as it is shown. */
export const selectPreviewPlan = createSelector(
  [selectPreviewScene, (state: RootState) => state.session.libraryVersion],
  (scene) => compileScene(scene),
);
