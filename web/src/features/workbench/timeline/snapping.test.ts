import { beforeEach, describe, expect, it } from '@jest/globals';
import { applyEdit, emptyScene } from '@warper/core';
import { library } from '../../../data/pageLibrary';
import { sceneActions } from '../../../store/sceneSlice';
import type { AppStore } from '../../../store/store';
import { makeStore } from '../../../store/store';
import { addSoundEdit } from '../sound/soundEdits';
import { compileScene } from '../../../store/plan';
import { footfallTargets, snapTargets } from './snapping';

const empty = emptyScene('Beats', 30);
const sounding = applyEdit(
  empty,
  addSoundEdit(empty, compileScene(empty).plan, { id: 'abc', name: 'shanty', seconds: 4 }, 30).edit,
  library,
);
const [sound] = Object.keys(sounding.sounds);
const beats = applyEdit(
  sounding,
  { type: 'change sound', sound: sound!, values: { beats: [0, 0.5, 1.01] } },
  library,
);
const scene = applyEdit(
  beats,
  { type: 'marker', marker: { id: 'm', name: 'stamp', frame: 77, end: null, impact: [] } },
  library,
);

let store: AppStore;
beforeEach(() => {
  store = makeStore();
  const stored = { id: 'b', document: scene, past: [], future: [], updatedAt: 0, changes: 0 };
  store.dispatch(sceneActions.opened(stored));
});

describe('what things on the timeline snap to', () => {
  it('is for feet of made steps the beats that are heard, in whole frames, and markers', () => {
    expect(footfallTargets(store.getState()).map((t) => t.frame)).toEqual([30, 45, 60, 77]);
  });

  it('is for all else also the ends of sounds, but not of the one that is moved', () => {
    const frames = (moving: readonly string[]): number[] =>
      snapTargets(store.getState(), new Set(moving), { from: 0, to: 0 }).map((t) => t.frame);
    expect(frames([])).toEqual(expect.arrayContaining([30, 45, 60, 77, 150]));
    expect(frames([sound!])).not.toContain(45);
    expect(frames([sound!])).not.toContain(150);
  });
});
