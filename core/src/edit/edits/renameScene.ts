import { defineEdit, rule } from '../defineEdit';

/** Gives the scene a name. */
export interface RenameScene {
  readonly type: 'rename scene';
  readonly name: string;
}

export const renameScene = defineEdit<RenameScene>({
  type: 'rename scene',
  schema: { name: rule.name },
  apply: ({ scene }, { name }) => {
    scene.name = name.trim().slice(0, 200) || scene.name;
  },
  describe: () => 'name of the scene',
});
