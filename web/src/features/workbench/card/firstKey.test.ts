import { describe, expect, it } from '@jest/globals';
import type { Edit } from '@warper/core';
import { PLAIN_LAYER, PLAIN_LOOK } from '@warper/core';
import { withFirstSpan } from './firstKey';

const layer = { ...PLAIN_LAYER, id: 'y', character: 'c', name: 'pose' };
const edit: Edit = { type: 'remove keys', layer: 'y', frames: [1] };

describe('the first key of a layer', () => {
  it('gives it a span around the key, in the same step', () => {
    expect(withFirstSpan(layer, 60, 30, edit)).toEqual({
      type: 'several',
      label: 'key',
      edits: [
        {
          type: 'change layer',
          layer: 'y',
          values: { span: { start: 45, end: 105, fadeIn: 9, fadeOut: 9 } },
        },
        edit,
      ],
    });
  });

  it('leaves a layer that has a span, clips, keys or a look as it is', () => {
    const span = { start: 0, end: null, fadeIn: 0, fadeOut: 0 };
    const key = { frame: 3, value: 0.2, curve: 'flat', tangent: null, into: null } as const;
    const look = { ...PLAIN_LOOK, at: { point: [0, 1, 2] } } as const;
    for (const has of [{ span }, { segments: ['s'] }, { dialKeys: { lean: [key] } }, { look }])
      expect(withFirstSpan({ ...layer, ...has }, 60, 30, edit)).toBe(edit);
  });
});
