import { readFileSync } from 'node:fs';
import { beforeEach, describe, expect, it } from '@jest/globals';
import type { Scene } from '@warper/core';
import { assembleCues, parseCueSheet } from '@warper/formats';
import { library } from '../motion/pageLibrary';
import { db } from '../storage/db';
import { loadScene } from '../storage/scenes';
import { commit, preview, redo, undo } from './edits';
import { compileScene, seamOf } from './plan';
import { sceneActions } from './sceneSlice';
import { shownPlan, shownScene } from './selectors';
import type { AppStore } from './store';
import { makeStore } from './store';

const made = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../../demo/made/${name}`, import.meta.url)));
const { scene } = await assembleCues(
  parseCueSheet(JSON.parse(new TextDecoder().decode(made('lamp-round.cues.json')))),
  (name) => Promise.resolve(made(name)),
  library,
);
const third = scene.lanes.c1body!.segments[2]!;

let store: AppStore;
/** Waits until a condition about the stored scene holds. */
async function kept(
  condition: (stored: { document: Scene; past: readonly unknown[] }) => boolean,
): Promise<void> {
  for (let i = 0; i < 400; i++) {
    const stored = await db.scenes.get('x');
    if (stored && condition(stored)) return;
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
  throw new Error('it was not kept');
}

beforeEach(async () => {
  await db.scenes.clear();
  store = makeStore();
  store.dispatch(sceneActions.opened({ id: 'x', document: scene, past: [], future: [], updatedAt: 0 }));
});

describe('the open scene', () => {
  it('keeps every edit at once, with its history', async () => {
    store.dispatch(commit({ type: 'change', segment: third, values: { repeat: 5 } }));
    await kept((s) => s.document.segments[third]!.repeat === 5 && s.past.length === 1);
    expect(store.getState().scene.past[0]!.label).toBe('changing Walk');
    const again = await loadScene('x');
    const reloaded = makeStore();
    reloaded.dispatch(sceneActions.opened(again!));
    reloaded.dispatch(undo());
    expect(reloaded.getState().scene.document).toEqual(scene);
  });

  it('undoes and does again, and keeps both', async () => {
    store.dispatch(commit({ type: 'remove', segment: third, close: true }));
    store.dispatch(commit({ type: 'rename scene', name: 'Evening' }));
    store.dispatch(undo());
    store.dispatch(undo());
    expect(store.getState().scene.document).toEqual(scene);
    await kept((s) => s.document.name === scene.name && s.past.length === 0);
    store.dispatch(redo());
    store.dispatch(redo());
    expect(store.getState().scene.document!.name).toBe('Evening');
    store.dispatch(undo());
    store.dispatch(commit({ type: 'rename scene', name: 'Night' }));
    expect(store.getState().scene.future).toEqual([]);
  });

  it('shows a drag without keeping it', () => {
    const end = shownPlan(store.getState()).plan.characters[0]!.end;
    store.dispatch(preview({ type: 'change', segment: third, values: { repeat: 5 } }));
    expect(shownPlan(store.getState()).plan.characters[0]!.end).toBe(end + 60);
    expect(store.getState().scene.document).toBe(scene);
    store.dispatch(preview(null));
    expect(shownScene(store.getState())).toBe(scene);
    expect(store.getState().scene.past).toEqual([]);
  });

  it('takes a clip of another body, and refuses one that moves no such body', async () => {
    const fixture = async (name: string) => {
      const bytes = readFileSync(new URL(`../../../formats/fixtures/${name}`, import.meta.url));
      return (await library.add(new Uint8Array(bytes), name)).imported.clips[0]!;
    };
    const capture = await fixture('cmu-01-01-excerpt.bvh');
    const taken = {
      ...scene.segments[third]!,
      id: 'taken',
      clip: capture.id,
      loop: false,
      repeat: 1,
      out: 100,
    };
    expect(store.dispatch(commit({ type: 'place', lane: 'c1body', segment: taken, at: 'end' }))).toBe(true);
    store.dispatch(undo());
    const { clip, ...rest } = taken;
    expect(clip).not.toBe(scene.segments[third]!.clip);
    const plank = await fixture('khronos-simple-skin.gltf');
    const segment = { ...rest, id: 'new', clip: plank.id, out: plank.frames };
    expect(store.dispatch(commit({ type: 'place', lane: 'c1body', segment, at: 'end' }))).toBe(false);
    expect(store.getState().scene.document).toEqual(scene);
  });

  it('an edit that changes nothing is no step of undo', () => {
    expect(store.dispatch(commit({ type: 'rename scene', name: scene.name }))).toBe(false);
    expect(store.getState().scene.past).toEqual([]);
  });

  it('says when it could not be kept, and tries again', async () => {
    const put = db.scenes.put.bind(db.scenes);
    let tries = 0;
    db.scenes.put = (() => {
      if (tries++ === 0) return Promise.reject(new Error('storage is full'));
      return put(store.getState().scene as never).catch(() =>
        put({ id: 'x', document: store.getState().scene.document!, past: [], future: [], updatedAt: 1 }),
      );
    }) as unknown as typeof db.scenes.put;
    try {
      store.dispatch(commit({ type: 'rename scene', name: 'Full' }));
      for (let i = 0; i < 100 && store.getState().scene.save !== 'failed'; i++)
        await new Promise((r) => setTimeout(r, 5));
      expect(store.getState().scene.save).toBe('failed');
      for (let i = 0; i < 1000 && store.getState().scene.save !== 'saved'; i++)
        await new Promise((r) => setTimeout(r, 10));
      expect(store.getState().scene.save).toBe('saved');
    } finally {
      db.scenes.put = put;
    }
  });
});

describe('the compiled scene', () => {
  it('takes over what an edit did not touch, and measures a seam once', () => {
    const { plan } = compileScene(scene);
    const [keeper] = plan.characters;
    expect(seamOf(keeper!, 0, plan.rate)).toBe(seamOf(keeper!, 0, plan.rate));
    expect(compileScene({ ...scene, name: 'other' }).plan.characters[0]).toBe(keeper);
  });

  it('keeps the last plan and says what is wrong where a clip is missing', () => {
    const { plan } = compileScene(scene);
    const broken = {
      ...scene,
      segments: { ...scene.segments, [third]: { ...scene.segments[third]!, clip: 'gone#0' } },
    };
    const compiled = compileScene(broken);
    expect(compiled.error?.code).toBe('missing-clip');
    expect(compiled.plan).toBe(plan);
  });
});
