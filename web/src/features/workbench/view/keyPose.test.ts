import { expect, it } from '@jest/globals';
import type { CharacterPlan, Edit, LayerLane, Scene } from '@warper/core';
import { PLAIN_LAYER, emptyScene } from '@warper/core';
import { sessionActions } from '../../../store/sessionSlice';
import { sceneActions } from '../../../store/sceneSlice';
import type { RootState } from '../../../store/store';
import { makeStore } from '../../../store/store';
import { dropUnkeyed, joined, keyPose, keyUnkeyed } from './keyPose';

const edit: Edit = { type: 'rename scene', name: 'posed' };
const key = { frame: 12, rotation: [0, 0, 0, 1], curve: 'smooth', tangent: null, into: null } as const;
const layer: LayerLane = { ...PLAIN_LAYER, id: 'y', character: 'c', name: 'n', keys: { head: [key] } };
const plan = { skeleton: { names: ['hips', 'head'], rootBone: 0 } } as unknown as CharacterPlan;

/** Carries out a command with a session, and gives what it dispatched: actions by their types, thunks as such. */
function dispatched(command: typeof keyUnkeyed, session: Partial<RootState['session']>): string[] {
  const log: string[] = [];
  const dispatch = (action: unknown): boolean => {
    log.push(typeof action === 'function' ? 'thunk' : (action as { type: string }).type);
    return true;
  };
  void command(
    dispatch as never,
    () => ({ session, scene: { document: { lanes: { y: layer } } } }) as unknown as RootState,
  );
  return log;
}

const unkeyed = sessionActions.unkeyed.type;

it('a pose becomes a key by itself, or where there is a key already; else it waits', () => {
  const pose = keyPose(edit, 'y', 1, plan);
  expect(dispatched(pose, { autoKey: true, unkeyed: null, frame: 40 })).toEqual(['thunk', unkeyed, 'thunk']);
  expect(dispatched(pose, { autoKey: false, unkeyed: null, frame: 12 })).toEqual(['thunk', unkeyed, 'thunk']);
  const waiting = dispatched(pose, { autoKey: false, unkeyed: null, frame: 40 });
  expect(waiting).toEqual([unkeyed, 'thunk', sessionActions.announced.type]);
});

it('a pose that is only shown while it is dragged is no key', () => {
  const document: Scene = { ...emptyScene('test'), lanes: { y: layer }, laneOrder: ['y'] };
  const shown = { ...layer, keys: { head: [key, { ...key, frame: 40 }] } };
  const store = makeStore();
  const stored = { id: 'c', document, past: [], future: [], updatedAt: 0, changes: 0 };
  store.dispatch(sceneActions.opened(stored));
  store.dispatch(sessionActions.autoKeyed(false));
  store.dispatch(sessionActions.went(40));
  store.dispatch(sceneActions.drafted({ ...document, lanes: { y: shown } }));
  store.dispatch(keyPose(edit, 'y', 1, plan));
  expect(store.getState().scene.document).toBe(document);
  expect(store.getState().session.unkeyed).toEqual(edit);
});

it('what waits is keyed, or let go', () => {
  expect(dispatched(keyUnkeyed, { unkeyed: edit })).toEqual(['thunk', unkeyed, 'thunk']);
  expect(dispatched(dropUnkeyed, { unkeyed: edit })).toEqual(['thunk', unkeyed]);
  expect(dispatched(dropUnkeyed, { unkeyed: null })).toEqual([]);
});

it('poses that wait together become one step of undo', () => {
  const both = joined(edit, { ...edit, name: 'more' });
  expect(both).toMatchObject({ type: 'several', edits: [edit, { name: 'more' }] });
  expect(joined(null, edit)).toBe(edit);
});
