import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { parseScene } from '../../scene/schema';
import { versionOf, versionsOf, withoutAlternates } from '../../scene/versions';
import { alternated } from '../../testing/alternateExamples';
import { anyEdit, carryOut, library, two } from '../../testing/arranging';
import { PLAIN_HOLD } from '../../scene/tether';
import { applyEdit } from '../edit';
import { differingSpans, scopeOfSegments } from './differingSpans';
import { withVersions } from './withVersions';

const known = { ...two, ...alternated };

describe('a scene with other versions as its alternates', () => {
  it('gives each of them back, and can be read', () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 5 }), (edits) => {
        const versions = carryOut(edits).done.map(({ scene }, i) => ({
          id: `v${i}`,
          name: `${i}`,
          comment: '',
          scene,
        }));
        const others = versions.filter(({ scene }) => scene.rate === two.rate && scene.name === two.name);
        const scene = withVersions(two, { id: 'own', name: 'Own', comment: '' }, others, library);
        expect(parseScene(JSON.parse(JSON.stringify(scene)))).toEqual(scene);
        expect(versionsOf(scene)).toEqual([two, ...others.map((o) => o.scene)]);
      }),
      { numRuns: 100 },
    );
  });

  it('says where they differ: frames of those who do something else, not of what only comes later', () => {
    const slow = versionOf(known, known.alternates.slow!);
    expect(differingSpans(two, slow, library)).toEqual([{ character: 'c', from: 86, to: 118 }]);
    expect(differingSpans(slow, two, library)).toEqual([{ character: 'c', from: 86, to: 158 }]);
    expect(differingSpans(two, two, library)).toEqual([]);
    const more = applyEdit(slow, { type: 'change', segment: 'c', values: { mirror: true } }, library);
    expect(differingSpans(two, more, library)).toEqual([{ character: 'c', from: 86, to: 174 }]);
    const without = applyEdit(two, { type: 'remove', segment: 'e', close: false }, library);
    expect(differingSpans(without, two, library)).toEqual([{ character: 'd', from: 20, to: 60 }]);
    const held = { ...PLAIN_HOLD, id: 't', name: 't', child: 'd', parent: 'c', start: 10, end: 30 };
    const tethered = { ...two, tethers: { t: held } };
    expect(differingSpans(tethered, two, library)).toEqual([
      { character: 'c', from: 10, to: 30 },
      { character: 'd', from: 10, to: 30 },
    ]);
    const scene = withVersions(
      two,
      { id: 'o', name: 'o', comment: '' },
      [{ id: 'v', name: 'v', comment: 'w', scene: slow }],
      library,
    );
    expect([scene.alternates.o?.scope, scene.alternates.v?.scope]).toEqual([
      { from: 86, to: 118, characters: ['c'] },
      { from: 86, to: 158, characters: ['c'] },
    ]);
    expect(withoutAlternates(scene)).toEqual(two);
  });

  it('takes the frames of segments, with seams halved, as what may differ', () => {
    expect(scopeOfSegments(two, ['a', 'b'], library)).toEqual({ from: 0, to: 118, characters: ['c'] });
    expect(scopeOfSegments(two, ['b', 'e'], library)).toEqual({ from: 20, to: 118, characters: ['c', 'd'] });
    expect(scopeOfSegments(two, ['gone'], library)).toBeNull();
  });
});
