import { describe, expect, it } from '@jest/globals';
import { handedSkeleton } from '../testing/staged';
import { palmOf } from './palm';
import { makeSkeleton } from './skeleton';

/** A left and a right hand in T-pose, palms down, index fingers to the front. */
const hands = makeSkeleton({
  names: ['hips', 'leftHand', 'lm', 'li', 'll', 'rightHand', 'rm', 'ri', 'rl'],
  parents: [-1, 0, 1, 1, 1, 0, 5, 5, 5],
  restTranslations: [
    ...[0, 1, 0],
    ...[0.7, 0.4, 0, 0.1, 0, 0, 0.1, 0, 0.03, 0.09, 0, -0.03],
    ...[-0.7, 0.4, 0, -0.1, 0, 0, -0.1, 0, 0.03, -0.09, 0, -0.03],
  ],
  roles: [
    'hips',
    ...(['left', 'right'] as const).flatMap(
      (s) => [`${s}Hand`, `${s}MiddleProximal`, `${s}IndexProximal`, `${s}LittleProximal`] as const,
    ),
  ],
});

describe('where a handle lies in a hand', () => {
  it.each([
    ['leftHand', 1],
    ['rightHand', -1],
  ])('is below the knuckles of a %s whose palm is down', (name, side) => {
    const [x, y, z] = palmOf(hands, hands.names.indexOf(name));
    expect(x * side).toBeCloseTo(0.095, 2);
    expect(y).toBeCloseTo(-0.03, 3);
    expect(z).toBeCloseTo(0, 2);
  });

  it('is beyond the wrist of a hand without fingers, and any other joint itself', () => {
    const skeleton = handedSkeleton();
    expect(palmOf(skeleton, skeleton.names.indexOf('rightHand'))).toEqual([expect.closeTo(-0.072, 6), 0, 0]);
    expect(palmOf(skeleton, 0)).toEqual([0, 0, 0]);
  });
});
