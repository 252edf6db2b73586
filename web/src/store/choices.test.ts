import '../data/fakeStorage';
import { readFileSync } from 'node:fs';
import { beforeEach, describe, expect, it } from '@jest/globals';
import type { Edit } from '@warper/core';
import { chooseJoins, compile, defined, measureSeams } from '@warper/core';
import { assembleCues, parseCueSheet } from '@warper/formats';
import { library } from '../data/pageLibrary';
import { loadScene, saveScene } from '../data/scenes';
import type { ChooseJoins } from './choices';
import { makeAutomatic, makePlain, settleJoins } from './choices';
import { commit, redo, undo } from './edits';
import { sceneActions } from './sceneSlice';
import type { AppStore } from './store';
import { makeStore } from './store';

const made = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../../demo/made/${name}`, import.meta.url)));
const sheet = parseCueSheet(JSON.parse(new TextDecoder().decode(made('lamp-round.cues.json'))));
const { scene } = await assembleCues(sheet, (name) => Promise.resolve(made(name)), library);
const [, start, walk] = defined(scene.lanes.c1body).segments as [string, string, string];

/** Chooses as the worker does. */
const choose: ChooseJoins = (document, segments) =>
  Promise.resolve(chooseJoins(document, segments, library).edits);

let store: AppStore;
const state = () => store.getState();
const document = () => defined(state().scene.document);
const gradeOf = (segment: string): string => {
  const plan = compile(document(), library).characters[0]!;
  return measureSeams(plan, 30)[plan.segments.findIndex((s) => s.id === segment) - 1]!.grade;
};

beforeEach(async () => {
  const stored = { id: 'c', document: scene, past: [], future: [], updatedAt: 0, changes: 0 };
  await saveScene(stored);
  store = makeStore();
  store.dispatch(sceneActions.opened(stored));
});

/** Removes the start of the walk, so that the walk stands behind the idle, and has the joins chosen that this makes. */
async function removeStart(by: ChooseJoins = choose): Promise<void> {
  store.dispatch(commit({ type: 'seam', segment: walk, values: { auto: true } }));
  const before = document();
  store.dispatch(commit({ type: 'remove', segment: start, close: true }));
  await store.dispatch(settleJoins(before, by));
}

describe('joins that an edit has made', () => {
  it('are chosen as part of its step of undo', async () => {
    await removeStart();
    expect(document().segments[walk]!.seam.chosen?.why).toMatch(/^Frame \d+ onto \d+/);
    expect(gradeOf(walk)).toBe('good');
    expect(state().session.announcement).toMatch(/^Join chosen\. Frame/);
    expect(state().session.choosing).toEqual([]);
    const chosen = document();
    expect(state().scene.past).toHaveLength(2);
    store.dispatch(undo());
    expect(document().segments[start]).toEqual(scene.segments[start]);
    store.dispatch(redo());
    expect(document()).toEqual(chosen);
  });

  it('are kept with it, and come back with the scene', async () => {
    await removeStart();
    const chosen = document();
    for (let i = 0; i < 400; i++) {
      const stored = await loadScene('c');
      if (stored?.document.segments[walk]?.seam.chosen) {
        expect(stored.document).toEqual(chosen);
        expect(stored.past).toHaveLength(2);
        return;
      }
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
    throw new Error('the choice was not kept');
  });

  it('are left alone where the edit is taken back, or another one made, before the choice is there', async () => {
    let answer: (edits: readonly Edit[]) => void = () => undefined;
    const slow: ChooseJoins = () => new Promise((resolve) => (answer = resolve));
    const removing = removeStart(slow);
    await Promise.resolve();
    expect(state().session.choosing).toEqual([walk]);
    const edits = chooseJoins(document(), [walk], library).edits;
    store.dispatch(undo());
    answer(edits);
    await removing;
    expect(document().segments[walk]!.seam.chosen).toBeNull();
    expect(document().segments[start]).toBeDefined();
  });

  it('stay the user’s own where they were set by hand', async () => {
    const before = document();
    store.dispatch(commit({ type: 'remove', segment: start, close: true }));
    await store.dispatch(
      settleJoins(before, () => {
        throw new Error('nothing is to be chosen');
      }),
    );
    expect(document().segments[walk]!.seam).toEqual(scene.segments[walk]!.seam);
  });
});

describe('a join in hand', () => {
  it('is made automatic, and plain again, each in a step of its own', async () => {
    await store.dispatch(makeAutomatic([walk], choose));
    expect(document().segments[walk]!.seam).toMatchObject({
      auto: true,
      chosen: { kind: expect.any(String) },
    });
    expect(state().scene.past.at(-1)!.label).toBe('join before Walk');
    store.dispatch(makePlain([walk]));
    expect(document().segments[walk]!.seam).toMatchObject({ auto: false, chosen: null, kind: 'crossfade' });
    for (const id of [start, walk])
      expect([document().segments[id]!.in, document().segments[id]!.out]).toEqual([
        scene.segments[id]!.in,
        scene.segments[id]!.out,
      ]);
    expect(state().scene.past).toHaveLength(2);
  });

  it('says why it could not be chosen', async () => {
    await store.dispatch(makeAutomatic([walk], () => Promise.reject(new Error('the worker stopped'))));
    expect(state().session.announcement).toMatch(/not chosen: .*the worker stopped/);
    expect(state().session.choosing).toEqual([]);
    expect(document()).toBe(scene);
  });
});
