import { describe, expect, it } from '@jest/globals';
import { defined, makeSkeleton } from '@warper/core';
import { maskPresets, maskWeights, maskWith } from './maskEdits';

/** Hips with a spine that carries a neck and two arms, and two legs. */
const NAMES = ['hips', 'spine', 'neck', 'head', 'leftUpperArm', 'leftHand', 'rightUpperArm', 'rightHand'];
const PARENTS = [-1, 0, 1, 2, 1, 4, 1, 6];
const skeleton = makeSkeleton({
  names: [...NAMES, 'leftUpperLeg', 'rightUpperLeg'],
  parents: [...PARENTS, 0, 0],
  restTranslations: Array.from({ length: 30 }, (_, i) => (i % 3 === 1 ? 0.3 : 0)),
});
type Mask = Parameters<typeof maskWith>[1];
const isIn = (mask: Mask): string[] =>
  skeleton.names.filter((_, j) => defined(maskWeights(skeleton, mask, 0)[j]) > 0);
const joint = (name: string): number => skeleton.names.indexOf(name);

describe('a mask that is marked on the body', () => {
  it('begins with the whole body, of which parts are taken out, with what hangs on them or alone', () => {
    const armless = maskWith(skeleton, [], joint('leftUpperArm'), true, false);
    expect(isIn(armless)).toEqual(skeleton.names.filter((n) => n !== 'leftUpperArm' && n !== 'leftHand'));
    const alone = maskWith(skeleton, [], joint('leftUpperArm'), false, false);
    expect(isIn(alone)).toEqual(skeleton.names.filter((n) => n !== 'leftUpperArm'));
  });

  it('counts what was said last, and keeps nothing that it says again', () => {
    let mask: Mask = [{ bone: 'spine*', weight: 1 }];
    mask = maskWith(skeleton, mask, joint('leftUpperArm'), true, false);
    mask = maskWith(skeleton, mask, joint('leftHand'), false, true);
    expect(isIn(mask)).toEqual(['spine', 'neck', 'head', 'leftHand', 'rightUpperArm', 'rightHand']);
    mask = maskWith(skeleton, mask, joint('leftUpperArm'), true, true);
    expect(mask).toEqual([
      { bone: 'spine*', weight: 1 },
      { bone: 'leftUpperArm*', weight: 1 },
    ]);
    expect(maskWith(skeleton, mask, joint('spine'), true, true)).toEqual([{ bone: 'spine*', weight: 1 }]);
  });

  it('is nothing once its last part is taken out, not the whole body', () => {
    const mask = maskWith(skeleton, [{ bone: 'neck*', weight: 1 }], joint('neck'), true, false);
    expect(isIn(mask)).toEqual([]);
  });

  it('has the parts by name that the body has', () => {
    const presets = maskPresets(skeleton);
    const named = (name: string): string[] => isIn(defined(presets.find((p) => p.name === name)).mask);
    expect(named('Whole body')).toEqual(skeleton.names);
    expect(named('Head and neck')).toEqual(['neck', 'head']);
    expect(named('Both hands')).toEqual(['leftHand', 'rightHand']);
    expect(named('All but the hips')).toEqual(skeleton.names.slice(1));
    const bare = makeSkeleton({ names: ['a', 'b'], parents: [-1, 0], restTranslations: [0, 0, 0, 0, 1, 0] });
    expect(maskPresets(bare).map((p) => p.name)).toEqual(['Whole body', 'All but the hips']);
  });
});
