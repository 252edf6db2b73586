import { createSelector } from '@reduxjs/toolkit';
import type { HeardSound } from '@warper/core';
import { framesPerSecond, heardSounds, heardSteps } from '@warper/core';
import { selectPreviewPlan, selectPreviewScene } from './selectors';
import type { RootState } from './store';

const SILENCE: readonly HeardSound[] = [];

let heard = SILENCE;

/** All that is heard of the scene, sounds and steps; a drag in hand is heard once it is over, since steps are looked for in the whole scene. */
export const selectHeard = (state: RootState): readonly HeardSound[] =>
  state.scene.draft ? heard : (heard = selectSounding(state));

const selectSounding = createSelector(
  [selectPreviewScene, selectPreviewPlan],
  (scene, { plan }): readonly HeardSound[] =>
    scene.soundLaneOrder.length === 0
      ? SILENCE
      : [...heardSounds(scene, framesPerSecond(plan.rate)), ...heardSteps(scene, plan)],
);
