import { describe, expect, it } from '@jest/globals';
import { freeze } from 'immer';
import { InputError } from '../math/errors';
import type { Scene } from '../scene/scene';
import { library } from '../testing/arranging';
import { EXAMPLES, known } from '../testing/editExamples';
import type { Edit } from './edit';
import { edit } from './edit';

/** What comes of some work, or that it cannot be. */
function outcome(work: () => Scene): Scene | string {
  try {
    return work();
  } catch (error) {
    if (error instanceof InputError) return error.message;
    throw error;
  }
}

describe('an edit of several', () => {
  it.each(Object.keys(EXAMPLES) as Edit['type'][])(
    'is carried out together with what makes the thing that it edits as after it: %s',
    (type) => {
      const example = freeze({ type, ...EXAMPLES[type].edit } as Edit, true);
      const renamed = JSON.parse(JSON.stringify(example).replaceAll('"b"', '"n"')) as Edit;
      for (const first of freeze<Edit[]>(
        [
          { type: 'duplicate', segment: 'b', id: 'n' },
          { type: 'place', lane: 'l', at: 'end', segment: { ...known.segments.b!, id: 'n' } },
          { type: 'paste', lane: 'l', at: 400, rate: 30, segments: [{ ...known.segments.b!, id: 'n' }] },
        ],
        true,
      ))
        for (const second of [example, freeze(renamed, true)]) {
          const apart = outcome(() => edit(edit(known, first, library).scene, second, library).scene);
          const together = outcome(
            () => edit(known, { type: 'several', label: 'x', edits: [first, second] }, library).scene,
          );
          expect(together).toEqual(apart);
        }
    },
  );
});
