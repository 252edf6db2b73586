import { expect, it } from '@jest/globals';
import type { CharacterPlan, Edit, LayerLane } from '@warper/core';
import { PLAIN_LAYER } from '@warper/core';
import { sessionActions } from '../../../store/sessionSlice';
import type { RootState } from '../../../store/store';
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
  void command(dispatch as never, () => ({ session }) as RootState);
  return log;
}

const unkeyed = sessionActions.unkeyed.type;

it('a pose becomes a key by itself, or where there is a key already; else it waits', () => {
  const pose = keyPose(edit, layer, 1, plan);
  expect(dispatched(pose, { autoKey: true, unkeyed: null, frame: 40 })).toEqual(['thunk', unkeyed, 'thunk']);
  expect(dispatched(pose, { autoKey: false, unkeyed: null, frame: 12 })).toEqual(['thunk', unkeyed, 'thunk']);
  const waiting = dispatched(pose, { autoKey: false, unkeyed: null, frame: 40 });
  expect(waiting).toEqual([unkeyed, 'thunk', sessionActions.announced.type]);
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
