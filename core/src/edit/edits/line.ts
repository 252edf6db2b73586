import { castDraft } from 'immer';
import { schemaOf } from '../../scene/fields';
import type { Line } from '../../scene/line';
import { LINE_FIELDS } from '../../scene/line';
import { defineEdit, requireValid, rule } from '../defineEdit';

/** Adds a line of dialogue, or puts it in place of the one with its id. */
export interface SetLine {
  readonly type: 'line';
  readonly line: Line;
}

const schema = schemaOf(LINE_FIELDS);

export const line = defineEdit<SetLine>({
  type: 'line',
  schema: { line: rule.entity },
  apply: ({ scene }, { line }) => {
    requireValid(schema, line, `lines.${line.id}`);
    scene.lines[line.id] = castDraft(line);
  },
  describe: ({ line: { id, text, start, end } }, scene) => {
    const kept = scene.lines[id];
    const isMoved = kept !== undefined && (kept.start !== start || kept.end !== end);
    return `${kept ? (isMoved ? 'time of the ' : '') : 'new '}line “${short(text)}”`;
  },
});

/** Characters of a line that stand for all of it. */
const SHORT = 30;

/** The beginning of a line, for its name. */
export const short = (text: string): string => {
  const plain = text.replace(/\s+/g, ' ').trim();
  return plain.length > SHORT ? `${plain.slice(0, SHORT - 1).trimEnd()}…` : plain;
};
