import { describe, expect, it } from '@jest/globals';
import { InputError } from '../math/errors';
import { segmentOf } from '../testing/scenes';
import { library, spans, walk } from '../testing/arranging';
import type { Of } from '../testing/example';
import { EXAMPLES, known } from '../testing/editExamples';
import type { Edit } from './edit';
import { describeEdit, edit } from './edit';

describe('every kind of edit', () => {
  it.each(Object.entries(EXAMPLES))(
    '%s does what it says, has a name, and can be taken back',
    (type, example) => {
      const change = { type, ...example.edit } as Edit;
      const { scene } = edit(known, change, library);
      expect(example.does(scene)).toEqual(example.gives);
      expect(describeEdit(change, known)).toBe(example.name);
    },
  );

  it.each(Object.entries(EXAMPLES).filter(([type]) => type !== 'several'))(
    '%s refuses values that cannot be, says which, and changes nothing',
    (type, example) => {
      for (const key of Object.keys(example.edit)) {
        const change = { type, ...example.edit, [key]: Symbol.iterator } as unknown as Edit;
        let error: unknown;
        try {
          edit(known, change, library);
        } catch (thrown) {
          error = thrown;
        }
        expect(error).toBeInstanceOf(InputError);
        expect((error as InputError).place.path).toMatch(new RegExp(`^${key}`));
      }
      const unknown = { type, ...example.edit, mood: 'dark' } as unknown as Edit;
      expect(() => edit(known, unknown, library)).toThrow(/mood/);
    },
  );

  it.each<[string, Omit<Of<'place'>, 'type' | 'lane' | 'segment' | 'at'>, string]>([
    ['a gap of so many frames', { gap: 6 }, 'n[180,211)'],
    ['the plain overlap of cue sheets', { overlap: 'plain' }, 'n[166,197)'],
    ['a cut', { overlap: 0 }, 'n[174,205)'],
    ['all that there is room for', { overlap: 31 }, 'n[143,174)'],
  ])('puts a segment at the end of a lane with %s', (_, how, at) => {
    const segment = segmentOf(walk, { id: 'n' });
    const { scene } = edit(known, { type: 'place', lane: 'l', at: 'end', segment, ...how }, library);
    expect(spans(scene)).toBe(`a[0,90) b[82,122) c[114,174) ${at}`);
  });

  it('says which overlap would be possible at the end of a lane', () => {
    const segment = segmentOf(walk, { id: 'n' });
    const change: Edit = { type: 'place', lane: 'l', at: 'end', segment, overlap: 32 };
    expect(() => edit(known, change, library)).toThrow(
      expect.objectContaining({ code: 'overlap', hint: 'Choose 1 to 31.' }),
    );
  });

  it('says of several edits which one cannot be', () => {
    const edits: Edit[] = [
      { type: 'slip', segment: 'b', samples: 1 },
      { type: 'change', segment: 'b', values: { lift: 1e9 } },
    ];
    const fails = (): unknown => edit(known, { type: 'several', label: 'two', edits }, library);
    expect(fails).toThrow(expect.objectContaining({ place: { path: 'edits.1.segments.b.lift' } }));
    expect(() => edit(known, { type: 'dance' } as unknown as Edit, library)).toThrow(/no edit "dance"/);
  });
});
