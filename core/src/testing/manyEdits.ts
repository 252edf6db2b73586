import { expect } from '@jest/globals';
import fc from 'fast-check';
import type { Edit } from '../edit/edit';
import { applyDifferences, edit } from '../edit/edit';
import type { Scene } from '../scene/scene';
import { parseScene } from '../scene/schema';
import { library } from './arranging';

/** Carries out any edits one after the other: each can be taken back or is refused, and what comes of them can be read again. */
export function holdsThroughEdits(
  scene: Scene,
  anyEdit: fc.Arbitrary<Edit>,
  holds: (scene: Scene) => void,
): void {
  fc.assert(
    fc.property(fc.array(anyEdit, { maxLength: 8 }), (edits) => {
      let current = scene;
      for (const change of edits) {
        try {
          const next = edit(current, change, library);
          expect(applyDifferences(next.scene, next.inverse)).toEqual(current);
          current = next.scene;
        } catch (error) {
          expect(error).toMatchObject({ code: 'edit' });
        }
        expect(parseScene(JSON.parse(JSON.stringify(current)))).toEqual(current);
        holds(current);
      }
    }),
    { numRuns: 300 },
  );
}
