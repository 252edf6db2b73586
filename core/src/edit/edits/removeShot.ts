import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';

/** Removes a shot; the one before it goes on being seen. */
export interface RemoveShot {
  readonly type: 'remove shot';
  readonly shot: string;
}

export const removeShot = defineEdit<RemoveShot>({
  type: 'remove shot',
  schema: { shot: rule.id },
  apply: ({ scene }, { shot }) => {
    lookup(scene.shots, shot, 'shot');
    delete scene.shots[shot];
  },
  describe: ({ shot }, scene) => `removal of the shot ${scene.shots[shot]?.name ?? ''}`.trim(),
});
