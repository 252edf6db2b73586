import '../data/fakeStorage';
import { readFileSync } from 'node:fs';
import { beforeEach, describe, expect, it } from '@jest/globals';
import type { Scene } from '@warper/core';
import { assembleCues, parseCueSheet } from '@warper/formats';
import { library } from '../data/pageLibrary';
import { db } from '../data/db';
import { loadScene, saveScene } from '../data/scenes';
import { commit, preview, redo, undo } from './edits';
import { compileScene, seamOf } from './plan';
import { sceneActions } from './sceneSlice';
import { selectPreviewPlan, selectPreviewScene } from './selectors';
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
/** Waits until something is so. */
async function until(condition: () => boolean | Promise<boolean>): Promise<void> {
  for (let i = 0; i < 1500; i++) {
    if (await condition()) return;
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
  throw new Error('it did not come about');
}

/** Waits until a condition about the stored scene holds. */
async function kept(
  condition: (stored: { document: Scene; past: readonly unknown[] }) => boolean,
): Promise<void> {
  for (let i = 0; i < 400; i++) {
    const stored = await loadScene('x');
    if (stored && condition(stored)) return;
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
  throw new Error('it was not kept');
}

beforeEach(async () => {
  const stored = { id: 'x', document: scene, past: [], future: [], updatedAt: 0, changes: 0 };
  await saveScene(stored);
  store = makeStore();
  store.dispatch(sceneActions.opened(stored));
});

describe('the open scene', () => {
  it('keeps every edit at once, with its history', async () => {
    store.dispatch(commit({ type: 'change', segment: third, values: { repeat: 5 } }));
    await kept((s) => s.document.segments[third]!.repeat === 5 && s.past.length === 1);
    expect(store.getState().scene.past[0]!.label).toBe('repeats of Walk');
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
    const end = selectPreviewPlan(store.getState()).plan.characters[0]!.end;
    store.dispatch(preview({ type: 'change', segment: third, values: { repeat: 5 } }));
    expect(selectPreviewPlan(store.getState()).plan.characters[0]!.end).toBe(end + 60);
    expect(store.getState().scene.document).toBe(scene);
    store.dispatch(preview(null));
    expect(selectPreviewScene(store.getState())).toBe(scene);
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

  it('says when it could not be kept, and tries again, in order', async () => {
    const backend = db.backendDB();
    const { transaction } = backend;
    let tries = 0;
    backend.transaction = ((...asked: Parameters<typeof transaction>) => {
      if (tries++ === 0) throw new DOMException('storage is full', 'QuotaExceededError');
      return transaction.apply(backend, asked);
    }) as typeof transaction;
    try {
      store.dispatch(commit({ type: 'rename scene', name: 'Full' }));
      await until(() => store.getState().scene.save === 'failed');
      expect(store.getState().scene.trouble).toMatch(/no room left/);
      store.dispatch(commit({ type: 'rename scene', name: 'Fuller' }));
      store.dispatch(undo());
      await until(() => store.getState().scene.save === 'saved');
    } finally {
      backend.transaction = transaction;
    }
    const again = (await loadScene('x'))!;
    expect(again).toMatchObject({ document: { name: 'Full' }, changes: 3 });
    expect(again.future.map((e) => e.label)).toEqual(['name of the scene']);
  });

  it('is the same after a reload as before, after any edits, steps back and forth', async () => {
    let seed = 7;
    const random = (n: number): number => (seed = (seed * 48271) % 2147483647) % n;
    for (let i = 0; i < 250; i++) {
      const what = random(5);
      if (what === 0) store.dispatch(undo());
      else if (what === 1) store.dispatch(redo());
      else if (what === 2) store.dispatch(commit({ type: 'rename scene', name: `Name ${random(9)}` }));
      else store.dispatch(commit({ type: 'change', segment: third, values: { repeat: 1 + random(6) } }));
    }
    await until(() => store.getState().scene.save === 'saved');
    const { document, past, future, changes } = store.getState().scene;
    // Kept whole now and then, and few changes are left to be done again.
    await until(async () => (await db.changes.count()) <= 150);
    expect(await loadScene('x')).toMatchObject({ document, past, future, changes });
    expect(changes).toBeGreaterThan(100);
  });

  it('keeps an edit as one small record', async () => {
    store.dispatch(commit({ type: 'change', segment: third, values: { repeat: 5 } }));
    await until(async () => (await db.changes.count()) === 1);
    const [change] = await db.changes.toArray();
    expect(JSON.stringify(change).length).toBeLessThan(5000);
    expect((await db.scenes.get('x'))!.document).toEqual(scene);
  });

  it('writes nothing in the place of what another tab has written', async () => {
    await db.changes.add({ kind: 'undo', scene: 'x', number: 1, at: 1 });
    store.dispatch(commit({ type: 'rename scene', name: 'Mine' }));
    await until(() => store.getState().scene.elsewhere);
    expect((await db.changes.toArray()).map((c) => c.kind)).toEqual(['undo']);
    // Taken over again, it goes on behind what the other one did.
    const entry = { label: 'theirs', patches: [], inverse: [] };
    await db.changes.put({ kind: 'edit', entry, scene: 'x', number: 1, at: 1 });
    store.dispatch(sceneActions.followed((await loadScene('x'))!));
    store.dispatch(sceneActions.heldElsewhere(false));
    store.dispatch(commit({ type: 'rename scene', name: 'Mine again' }));
    await until(() => store.getState().scene.save === 'saved');
    const again = (await loadScene('x'))!;
    expect(again).toMatchObject({ document: { name: 'Mine again' }, changes: 2 });
    expect(again.past.map((e) => e.label)).toEqual(['theirs', 'name of the scene']);
  });
});

describe('a scene that another tab changes', () => {
  it('is followed, and no other one', () => {
    const other = { ...scene, name: 'Elsewhere' };
    const stored = { document: other, past: [], future: [], updatedAt: 1, changes: 4 };
    store.dispatch(sceneActions.followed({ id: 'y', ...stored }));
    expect(store.getState().scene).toMatchObject({ document: { name: scene.name }, changes: 0 });
    store.dispatch(sceneActions.followed({ id: 'x', ...stored }));
    expect(store.getState().scene).toMatchObject({ document: { name: 'Elsewhere' }, changes: 4 });
  });
});

describe('what is damaged on the disk', () => {
  it('costs the changes from there on, and nothing before', async () => {
    for (const name of ['One', 'Two', 'Three']) store.dispatch(commit({ type: 'rename scene', name }));
    await until(() => store.getState().scene.save === 'saved');
    await db.changes.put({ ...(await db.changes.get(['x', 2]))!, entry: null } as never);
    expect(await loadScene('x')).toMatchObject({ document: { name: 'One' }, changes: 1 });
    await db.changes.delete(['x', 1]);
    expect(await loadScene('x')).toMatchObject({ document: { name: scene.name }, changes: 0 });
  });

  it('is an undo step without which the scene opens all the same', async () => {
    const odd = { past: [{ label: 3 }], future: 'no' };
    await db.scenes.put({ id: 'x', document: scene, updatedAt: 0, changes: 0, ...odd } as never);
    expect(await loadScene('x')).toMatchObject({ document: scene, past: [], future: [] });
  });
});

describe('the compiled scene', () => {
  it('takes over what an edit did not touch, and measures a seam once', () => {
    const { plan } = compileScene(scene);
    const [keeper] = plan.characters;
    expect(seamOf(keeper!, 0, plan.rate)).toBe(seamOf(keeper!, 0, plan.rate));
    expect(compileScene({ ...scene, name: 'other' }).plan.characters[0]).toBe(keeper);
  });

  it('has an empty plan and says what is wrong where a clip is missing', () => {
    const { plan } = compileScene(scene);
    const broken = {
      ...scene,
      segments: { ...scene.segments, [third]: { ...scene.segments[third]!, clip: 'gone#0' } },
    };
    const compiled = compileScene(broken);
    expect(compiled.error?.code).toBe('missing-clip');
    expect(compiled.plan.characters).toEqual([]);
    // What was compiled before is taken over again afterwards.
    expect(compileScene(scene).plan.characters[0]!.segments).toHaveLength(
      plan.characters[0]!.segments.length,
    );
  });
});
