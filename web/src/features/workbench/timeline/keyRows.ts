import type { Dial, KeyList, RootCurve } from '@warper/core';
import { DIAL_LOOKS } from '../../../ui/dialLooks';

const ROOT_WORDS: Readonly<Record<RootCurve, string>> = {
  left: 'Root left',
  up: 'Root up',
  forward: 'Root forward',
  turn: 'Root turn',
};

/** What a list of keys is called: the joint that it turns, a direction of the root, or a dial. */
export function listWords({ table, name }: Pick<KeyList, 'table' | 'name'>): string {
  if (table === 'rootKeys') return ROOT_WORDS[name as RootCurve];
  return table === 'dialKeys' ? DIAL_LOOKS[name as Dial].label : name;
}
