import { defineEdit, rule } from '../defineEdit';
import { lookup } from '../lookup';
import { short } from './line';

/** Removes a line of dialogue. */
export interface RemoveLine {
  readonly type: 'remove line';
  readonly line: string;
}

export const removeLine = defineEdit<RemoveLine>({
  type: 'remove line',
  schema: { line: rule.id },
  apply: ({ scene }, { line }) => {
    lookup(scene.lines, line, 'line');
    delete scene.lines[line];
  },
  describe: ({ line }, scene) => `removal of the line “${short(scene.lines[line]?.text ?? '')}”`,
});
