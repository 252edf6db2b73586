import '../data/fakeStorage';
import { readFileSync } from 'node:fs';
import { beforeEach, describe, expect, it } from '@jest/globals';
import { alternatesOf } from '@warper/core';
import { assembleCues, parseCueSheet } from '@warper/formats';
import { library } from '../data/pageLibrary';
import { loadScene, saveScene } from '../data/scenes';
import { besidesNow, selectInHand, selectSheets, versionNow } from './alternates';
import { commit, preview, undo } from './edits';
import { sceneActions } from './sceneSlice';
import { sessionActions } from './sessionSlice';
import type { AppStore } from './store';
import { makeStore } from './store';

const made = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../../demo/made/${name}`, import.meta.url)));
const { scene } = await assembleCues(
  parseCueSheet(JSON.parse(new TextDecoder().decode(made('look-out.cues.json')))),
  (name) => Promise.resolve(made(name)),
  library,
);
const [eyes, rail] = alternatesOf(scene).map((a) => a.id) as [string, string];
const [idle, , walk, , beat, wave] = scene.lanes.c1body!.segments as string[];

let store: AppStore;
beforeEach(async () => {
  const stored = { id: 'look', document: scene, past: [], future: [], updatedAt: 0, changes: 0 };
  await saveScene(stored);
  store = makeStore();
  store.dispatch(sceneActions.opened(stored));
});

const other = (id = rail) => versionNow(store.getState(), id)!;

describe('an alternate of the open scene', () => {
  it('is compiled as it would be performed, and the one in hand is no other', () => {
    expect(other().plan.characters[0]!.segments.map((s) => s.name)[4]).toBe('Lean over the rail');
    expect(other().error).toBeNull();
    expect(versionNow(store.getState(), eyes)).toBeNull();
    expect(selectInHand(store.getState())?.name).toBe('Hand over the eyes');
    store.dispatch(sessionActions.besides([eyes, rail, 'gone']));
    expect(besidesNow(store.getState())).toEqual([other()]);
  });

  it('stays the very one through edits that it does not take part in, and keeps what others leave of it', () => {
    const before = other();
    store.dispatch(commit({ type: 'change', segment: beat!, values: { reverse: true } }));
    expect(other().plan).toBe(before.plan);
    expect(other().scene.segments[beat!]!.reverse).toBe(false);
    store.dispatch(commit({ type: 'change', segment: wave!, values: { mirror: true } }));
    expect(other().scene.segments[wave!]!.mirror).toBe(true);
    expect(other().scene.segments[idle!]).toBe(before.scene.segments[idle!]);
    expect(other().plan.characters[1]).toBe(before.plan.characters[1]);
    store.dispatch(undo());
    store.dispatch(undo());
    expect(other().scene).toEqual(before.scene);
  });

  it('is changed wherever the edit is, where that is asked for', () => {
    store.dispatch(sessionActions.inAllAlternates(true));
    store.dispatch(commit({ type: 'change', segment: beat!, values: { reverse: true } }));
    expect(other().scene.segments[beat!]!.reverse).toBe(true);
  });

  it('is left alone by what is only shown while a drag lasts', () => {
    const before = other();
    store.dispatch(preview({ type: 'change', segment: walk!, values: { repeat: 2 } }));
    expect(store.getState().scene.draft?.segments[walk!]!.repeat).toBe(2);
    expect(other()).toBe(before);
    store.dispatch(preview(null));
  });

  it('is kept as it is taken in hand, with no joins chosen anew, and its history', async () => {
    const wanted = other().scene;
    store.dispatch(commit({ type: 'swap alternate', alternate: rail }));
    expect(store.getState().session.choosing).toEqual([]);
    expect(store.getState().scene.past.map((p) => p.label)).toEqual(['swap to Over the rail']);
    expect(store.getState().scene.document!.segments).toEqual(wanted.segments);
    let stored = await loadScene('look');
    for (let i = 0; i < 400 && stored?.past.length !== 1; i++) {
      await new Promise((resolve) => setTimeout(resolve, 5));
      stored = await loadScene('look');
    }
    expect(stored?.document).toEqual(store.getState().scene.document);
    store.dispatch(undo());
    expect(store.getState().scene.document).toEqual(scene);
  });

  it('says where it is one’s own: what may differ, and what does', () => {
    const sheets = selectSheets(store.getState())!;
    expect(sheets.scope).toEqual(scene.alternates[eyes]!.scope);
    expect(sheets.spans.map((s) => s.character)).toEqual(['c1']);
    store.dispatch(commit({ type: 'keep alternate', alternate: eyes }));
    expect(selectSheets(store.getState())).toBeNull();
    expect(besidesNow(store.getState())).toEqual([]);
  });
});
